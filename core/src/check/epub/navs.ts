/** The lists of the navigation document, and their links. */
import { textOf, type XmlElement } from '../../base';
import { resolve } from '../../package';
import { elementsIn, isHtml, tokens, type EpubDocument, type EpubSubject } from './subject';

export const LISTS = ['toc', 'page-list', 'landmarks'];

export interface Nav {
  d: EpubDocument;
  /** Each `nav` with a type. */
  navs: { nav: XmlElement; types: string[] }[];
}

export function navOf(s: EpubSubject): Nav | null {
  const item = s.manifest.find((i) => i.properties.includes('nav'));
  const d = item && s.documentAt.get(item.path);
  if (!d?.root) return null;
  const navs = d.elements
    .filter((e) => isHtml(e) && e.name === 'nav')
    .map((nav) => ({ nav, types: tokens(nav.attrs['epub:type']) }));
  return { d, navs };
}

export const words = (e: XmlElement): string => {
  const pictures = (x: XmlElement): string =>
    (x.name === 'img' ? (x.attrs.alt ?? '') : '') + elementsIn(x).map(pictures).join('');
  return (textOf(e) + pictures(e) + (e.attrs['aria-label'] ?? '') + (e.attrs.title ?? ''))
    .replace(/\s+/g, ' ')
    .trim();
};

/** Links of a list, in their order. */
export function* linksIn(
  s: EpubSubject,
  list: string | null,
): Generator<{
  d: EpubDocument;
  a: XmlElement;
  nav: XmlElement;
  to: { path: string; fragment: string } | null;
}> {
  const n = navOf(s);
  for (const { nav, types } of n?.navs ?? []) {
    if (!n || (list !== null && !types.includes(list)) || (list === null && types.length === 0)) continue;
    const walk = function* (e: XmlElement): Generator<XmlElement> {
      for (const c of elementsIn(e)) {
        if (c.name === 'a') yield c;
        yield* walk(c);
      }
    };
    for (const a of walk(nav))
      yield {
        d: n.d,
        a,
        nav,
        to: a.attrs.href === undefined ? null : resolve(n.d.path, a.attrs.href.trim()),
      };
  }
}
