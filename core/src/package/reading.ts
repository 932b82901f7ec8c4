/** An EPUB as a reader goes through it: documents in their order, and what leads to them. */
import { navigationOf, type EpubPackage } from './read';
import type { Navigation } from './navigation';

export interface ReadingDocument {
  /** Path in the container. */
  path: string;
  /** Whether one comes to it by turning pages; others are reached by links alone (EPUB 3.3 §5.7.4). */
  linear: boolean;
  /** A page of a fixed size, instead of text that fills the screen. */
  fixed: boolean;
  /** Where it stands in a spread (EPUB 3.3 §8.2.2.5); null where the reader decides. */
  side: 'left' | 'right' | 'centre' | null;
}
export interface ReadingOrder extends Navigation {
  title: string;
  /** BCP 47, '' where the file names none. */
  language: string;
  version: string;
  direction: 'ltr' | 'rtl';
  documents: ReadingDocument[];
}

const SIDES: [ReadingDocument['side'], string][] = [
  ['left', 'page-spread-left'],
  ['right', 'page-spread-right'],
  ['centre', 'page-spread-center'],
];

export function readingOrder(p: EpubPackage): ReadingOrder {
  const of = (name: string): string => p.metadata.find((m) => m.name === name)?.value ?? '';
  const items = new Map(p.manifest.map((i) => [i.id, i]));
  return {
    title: of('title'),
    language: of('language'),
    version: p.version,
    direction: p.direction,
    documents: p.spine.flatMap(({ idref, linear, properties }) => {
      const item = items.get(idref);
      if (!item || item.path === '') return [];
      const says = (value: string): boolean =>
        properties.some((x) => x === value || x === `rendition:${value}`);
      const fixed = says('layout-pre-paginated') || (p.fixed && !says('layout-reflowable'));
      return [{ path: item.path, linear, fixed, side: SIDES.find(([, x]) => says(x))?.[0] ?? null }];
    }),
    ...navigationOf(p),
  };
}
