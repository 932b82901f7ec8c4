/**
 * What readers navigate by: the navigation document (EPUB 3.3 §7), the NCX (OPF 2.0.1 §2.4.1), and the guide of the older
 * form (OPF 2.0.1 §2.6).
 */
import { descendants, firstOf, textOf, type XmlElement } from '../base';
import { resolve } from './addresses';

export interface NavEntry {
  label: string;
  /** Path in the container and fragment, '' where the entry is no link. */
  path: string;
  fragment: string;
  depth: number;
  line: number;
}
export interface Navigation {
  contents: NavEntry[];
  landmarks: NavEntry[];
  /** Pages of a printed edition. */
  pages: NavEntry[];
}
/** A document of the container that was read. */
export interface ReadDocument {
  path: string;
  root: XmlElement;
}

export const NO_NAVIGATION: Navigation = { contents: [], landmarks: [], pages: [] };

export const readNav = (nav: ReadDocument): Navigation => ({
  contents: navEntries(nav, 'toc'),
  landmarks: navEntries(nav, 'landmarks'),
  pages: navEntries(nav, 'page-list'),
});
/** The NCX, where there is one, and the guide of the package document. */
export const readOlder = (ncx: ReadDocument | null, packageFile: ReadDocument): Navigation => ({
  contents: ncx ? ncxEntries(ncx, 'navMap', 'navPoint') : [],
  landmarks: guideEntries(packageFile),
  pages: ncx ? ncxEntries(ncx, 'pageList', 'pageTarget') : [],
});

function entry(file: string, label: string, href: string | undefined, depth: number, line: number): NavEntry {
  const to = href === undefined ? null : resolve(file, href);
  return {
    label: label.replace(/\s+/g, ' ').trim(),
    path: to?.path ?? '',
    fragment: to?.fragment ?? '',
    depth,
    line,
  };
}

/** Entries of the `nav` of that type, in document order. */
function navEntries({ path, root }: ReadDocument, type: string): NavEntry[] {
  const nav = descendants(root, 'nav').find((n) => (n.attrs['epub:type'] ?? '').split(/\s+/).includes(type));
  const entries: NavEntry[] = [];
  const walk = (el: XmlElement, depth: number): void => {
    for (const c of el.children) {
      if (typeof c === 'string') continue;
      // A heading is no entry, whatever stands in it.
      if (depth >= 0 && (c.name === 'a' || c.name === 'span'))
        entries.push(entry(path, textOf(c), c.attrs.href, depth, c.line));
      else walk(c, c.name === 'ol' ? depth + 1 : depth);
    }
  };
  if (nav) walk(nav, -1);
  return entries;
}

function ncxEntries({ path, root }: ReadDocument, list: string, point: string): NavEntry[] {
  const entries: NavEntry[] = [];
  const walk = (e: XmlElement, depth: number): void => {
    for (const c of e.children) {
      if (typeof c === 'string') continue;
      if (c.name !== point) {
        walk(c, depth);
        continue;
      }
      const label = c.children.find((x): x is XmlElement => typeof x !== 'string' && x.name === 'navLabel');
      entries.push(
        entry(path, label ? textOf(label) : '', firstOf(c, 'content')?.attrs.src ?? '', depth, c.line),
      );
      walk(c, depth + 1);
    }
  };
  for (const map of descendants(root, list)) walk(map, 0);
  return entries;
}

const guideEntries = ({ path, root }: ReadDocument): NavEntry[] =>
  descendants(root, 'reference').map((r) =>
    entry(path, r.attrs.title || (r.attrs.type ?? ''), r.attrs.href, 0, r.line),
  );
