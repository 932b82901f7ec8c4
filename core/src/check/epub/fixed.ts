/** Rules of pages of a fixed size (EPUB 3.3 §8.2). */
import { descendants, textOf, type XmlElement } from '../../base';
import type { Breach, Rule } from '../rules';
import { at, atAttribute, isHtml, SVG_NS, XHTML, type EpubDocument, type EpubSubject } from './subject';

/** Documents that are shown as pages of a fixed size. */
function* fixedPages(s: EpubSubject): Generator<EpubDocument> {
  for (const { idref, properties } of s.spine) {
    const d = s.documentAt.get(s.byId.get(idref)?.path ?? '');
    const says = (value: string): boolean => properties.includes(`rendition:layout-${value}`);
    if (d?.root && (says('pre-paginated') || (s.fixed && !says('reflowable')))) yield d;
  }
}

const viewports = (d: EpubDocument): XmlElement[] =>
  d.elements.filter((e) => isHtml(e) && e.name === 'meta' && e.attrs.name === 'viewport');

/** Width and height by the grammar of EPUB 3.3 §8.2.2.6.1. */
function sizeIn(content: string): { width: string | undefined; height: string | undefined } {
  const pairs = new Map(
    content.split(/[,;]/).map((p) => p.split('=').map((x) => x.trim().toLowerCase()) as [string, string]),
  );
  return { width: pairs.get('width'), height: pairs.get('height') };
}

const isSize = (v: string | undefined, device: string): boolean =>
  v !== undefined && (v === device || (/^\d*\.?\d+(px)?$/.test(v) && parseFloat(v) > 0));

const page = (
  of: Omit<Rule<EpubSubject>, 'look' | 'profiles'>,
  look: (d: EpubDocument, s: EpubSubject) => Iterable<Breach>,
): Rule<EpubSubject> => ({
  ...of,
  profiles: ['EPUB 3.3'],
  *look(s) {
    for (const d of fixedPages(s)) yield* look(d, s);
  },
});

const SIZE = 'Without it reading systems don’t know how large the page is.';

export const FIXED_RULES: Rule<EpubSubject>[] = [
  page(
    {
      name: 'fixed/no-size',
      severity: 'blocker',
      source: 'EPUB 3.3 §8.2.2.6.1: a viewport in the head of each page',
      why: SIZE,
      remedy: 'Write <meta name="viewport" content="width=…, height=…"/>.',
      mend: 'viewport',
    },
    function* (d, s) {
      if (d.item.type === XHTML && viewports(d).length === 0)
        yield {
          message: 'The page doesn’t say how large it is.',
          // It takes the size of the others, where they have one.
          ...(s.documents.some((x) => viewports(x).length > 0) ? {} : { mend: false as const }),
          ...at(d, descendants(d.root as XmlElement, 'head')[0] ?? (d.root as XmlElement)),
        };
    },
  ),
  page(
    {
      name: 'fixed/size-incomplete',
      severity: 'blocker',
      source: 'EPUB 3.3 §8.2.2.6.1: width and height',
      why: SIZE,
      remedy: 'Write width=… and height=….',
    },
    function* (d) {
      const [v] = viewports(d);
      const size = v && sizeIn(v.attrs.content ?? '');
      if (v && size && (size.width === undefined || size.height === undefined))
        yield { message: 'The page doesn’t give its width and its height.', ...at(d, v) };
    },
  ),
  page(
    {
      name: 'fixed/size-form',
      severity: 'blocker',
      source: 'EPUB 3.3 §8.2.2.6.1: numbers of CSS pixels, without a unit',
      why: SIZE,
      remedy: 'Write just the numbers.',
      mend: 'viewport',
    },
    function* (d) {
      const [v] = viewports(d);
      const size = v && sizeIn(v.attrs.content ?? '');
      if (
        v &&
        size?.width !== undefined &&
        size.height !== undefined &&
        (!isSize(size.width, 'device-width') || !isSize(size.height, 'device-height'))
      )
        yield {
          message: `The page measures “${size.width}” by “${size.height}”.`,
          ...atAttribute(d, v, 'content'),
        };
    },
  ),
  page(
    {
      name: 'fixed/size-of-screen',
      severity: 'caution',
      source: 'EPUB 3.3 §8.2.2.6.1: device-width and device-height are discouraged',
      why: 'The page looks different on each device.',
      remedy: 'Write its own width and height.',
    },
    function* (d) {
      const [v] = viewports(d);
      if (v && /device-(width|height)/.test(v.attrs.content ?? ''))
        yield { message: 'The page takes its size from the screen.', ...atAttribute(d, v, 'content') };
    },
  ),
  page(
    {
      name: 'fixed/size-twice',
      severity: 'caution',
      source: 'EPUB 3.3 §8.2.2.6.1: the first viewport counts',
      remedy: 'Keep one of them.',
    },
    function* (d) {
      const [, second] = viewports(d);
      if (second) yield { message: 'The page gives its size twice.', ...at(d, second) };
    },
  ),
  page(
    {
      name: 'fixed/drawing-size',
      severity: 'blocker',
      source: 'EPUB 3.3 §8.2.2.6.2: a viewBox on the drawing',
      why: SIZE,
      remedy: 'Write viewBox="0 0 width height".',
    },
    function* (d) {
      const root = d.root as XmlElement;
      if (root.ns === SVG_NS && !/^\s*-?[\d.]+([\s,]+-?[\d.]+){3}\s*$/.test(root.attrs.viewBox ?? ''))
        yield { message: 'The drawing doesn’t say how large it is.', ...at(d, root) };
    },
  ),
  {
    name: 'fixed/sizes-differ',
    severity: 'note',
    profiles: ['EPUB 3.3'],
    source: 'common practice: pages of one book have one size',
    why: 'Spreads jump in height as they are turned.',
    remedy: 'Give all pages the same size unless they are meant to differ.',
    *look(s) {
      const seen = new Map<string, number>();
      const all = [...fixedPages(s)].flatMap((d) => {
        const [v] = viewports(d);
        const size = v && sizeIn(v.attrs.content ?? '');
        return v && size?.width && size.height
          ? [{ d, v, key: `${parseFloat(size.width)} × ${parseFloat(size.height)}` }]
          : [];
      });
      for (const { key } of all) seen.set(key, (seen.get(key) ?? 0) + 1);
      const [usual] = [...seen].sort((a, b) => b[1] - a[1]);
      const odd = all.find((x) => usual && x.key !== usual[0]);
      if (odd && usual)
        yield { message: `The page measures ${odd.key}, most measure ${usual[0]}.`, ...at(odd.d, odd.v) };
    },
  },
  page(
    {
      name: 'fixed/words-as-picture',
      severity: 'caution',
      source: 'WCAG 2.2, 1.1.1 and 1.4.5; EPUB Accessibility 1.1 §3',
      why: 'Readers who can’t see it get nothing, and nobody can search it.',
      remedy: 'Put the words on the page, or describe the picture.',
    },
    function* (d) {
      const body = descendants(d.root as XmlElement, 'body')[0];
      if (!body || textOf(body).trim() !== '') return;
      const pictures = d.elements.filter((e) => e.name === 'img' || e.name === 'image');
      const described =
        pictures.some((e) => (e.attrs.alt ?? e.attrs['aria-label'] ?? '').trim() !== '') ||
        d.elements.some((e) => e.ns === SVG_NS && e.name === 'title');
      if (
        pictures.length > 0 &&
        !described &&
        !pictures.every(
          (e) => /^(presentation|none)$/.test(e.attrs.role ?? '') || e.attrs['aria-hidden'] === 'true',
        )
      )
        yield {
          message: 'The page is only a picture, with no text.',
          ...at(d, pictures[0] as XmlElement),
        };
    },
  ),
  {
    name: 'fixed/side-twice',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §8.2.2.5: left and right pages of a spread',
    why: 'One of the two is shown beside an empty page.',
    remedy: 'Alternate left and right.',
    *look(s) {
      const side = (p: string[]): string =>
        p.some((x) => /page-spread-left$/.test(x))
          ? 'left'
          : p.some((x) => /page-spread-right$/.test(x))
            ? 'right'
            : '';
      for (const [i, r] of s.spine.entries()) {
        const before = s.spine[i - 1];
        if (before && side(r.properties) !== '' && side(r.properties) === side(before.properties))
          yield {
            message: `Two consecutive pages are both on the ${side(r.properties)}.`,
            file: s.path,
            line: r.line,
          };
      }
    },
  },
];
