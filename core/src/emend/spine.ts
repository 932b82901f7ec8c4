/** Documents of the reading order by their paths, and how one enters it. */
import { refused } from '../base';
import { readingOrder, reference, type EpubPackage, type ManifestItem } from '../package';
import type { Draft } from './draft';
import { valueOf } from './located';
import { addItem, addItemref, attributeEdit, packageSource, seenProperties, setProperties } from './opf';
import { freePath } from './renaming';

const XHTML = 'application/xhtml+xml';

export const notInOrder = refused('emend/gone', 'That document is no longer in the reading order.');

/** Paths in the order of the spine; '' for a reference that the manifest doesn’t know. */
export const pathsOf = (p: EpubPackage): string[] =>
  p.spine.map((s) => p.manifest.find((i) => i.id === s.idref)?.path ?? '');
export const itemAt = (p: EpubPackage, path: string): ManifestItem | undefined =>
  p.manifest.find((i) => i.path === path);
/** Whether it is the navigation, by which readers find their way. */
export const isNavigation = (p: EpubPackage, path: string): boolean =>
  itemAt(p, path)?.properties.includes('nav') ?? false;
/** Whether its page has a size of its own. */
export const isFixed = (p: EpubPackage, path: string): boolean =>
  readingOrder(p).documents.find((d) => d.path === path)?.fixed ?? false;

/** Adds a document to container, manifest and spine behind another, under a name that nothing has; answers its path. */
export function enter(d: Draft, name: string, text: string, behind: string): string {
  const p = d.package;
  const path = freePath(d.now, behind.slice(0, behind.lastIndexOf('/') + 1) + name);
  d.add(path, { text }, behind);
  const item = packageSource(d).items.get(behind);
  const seen = Object.entries(seenProperties(d.elements(path))).flatMap(([name, has]) => (has ? [name] : []));
  const id = addItem(
    d,
    {
      href: reference(p.path, { path }),
      type: XHTML,
      properties: p.version.startsWith('2') ? '' : seen.join(' '),
      wanted: (path.split('/').at(-1) ?? '').replace(/\.[^.]*$/, ''),
    },
    item,
  );
  addItemref(d, id, itemAt(p, behind)?.id);
  return path;
}

/** Says again what of the package’s properties can be seen in a document. */
export function restate(d: Draft, path: string): void {
  if (!d.package.version.startsWith('2')) setProperties(d, path, seenProperties(d.elements(path)));
}

/** At least one document is come to by turning pages (EPUB 3.3 §5.7.2): the first, where none is left. */
export function keepInLine(d: Draft): void {
  const s = packageSource(d);
  const [first] = s.itemrefs;
  if (first && s.itemrefs.every((r) => valueOf(r, 'linear') === 'no'))
    d.edit(s.path, attributeEdit(s.text, first, 'linear', null));
}
