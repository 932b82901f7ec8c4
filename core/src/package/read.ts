/** Reads an EPUB's container, package document and navigation, keeping lines and columns for whoever has to mend it. */
import {
  descendants,
  done,
  firstOf,
  openZip,
  parseXml,
  refused,
  textOf,
  type Outcome,
  type XmlElement,
  type XmlFault,
  type Zip,
} from '../base';

export interface ManifestItem {
  id: string;
  /** Path in the container, resolved. */
  path: string;
  href: string;
  type: string;
  properties: string[];
  /** Id of the item shown instead where this one can’t be, '' when none. */
  fallback: string;
  line: number;
  column: number;
}
export interface NavEntry {
  label: string;
  /** Path in the container and fragment, '' where the entry is no link. */
  path: string;
  fragment: string;
  depth: number;
  line: number;
}
export interface EpubPackage {
  zip: Zip;
  /** Path of the package document, '' when the container names none. */
  path: string;
  version: string;
  root: XmlElement | null;
  manifest: ManifestItem[];
  spine: { idref: string; linear: boolean; line: number }[];
  uniqueIdentifier: string;
  metadata: { name: string; value: string; attrs: Record<string, string>; line: number }[];
  toc: NavEntry[];
  faults: { file: string; fault: XmlFault }[];
}

const decoder = new TextDecoder();
export const textPart = (zip: Zip, name: string): string | null => {
  const bytes = zip.read(name);
  return bytes ? decoder.decode(bytes).replace(/^\ufeff/, '') : null;
};

/** A reference seen from a file of the container, as path and fragment; null for one that leaves the container. */
export function resolve(from: string, href: string): { path: string; fragment: string } | null {
  if (/^[a-z][a-z0-9+.-]*:/i.test(href) || href.startsWith('//')) return null;
  const [pathPart = '', fragment = ''] = href.split('#');
  let decoded = pathPart;
  try {
    decoded = decodeURIComponent(pathPart);
  } catch {
    // A stray percent sign: the reference is taken as written.
  }
  if (decoded === '') return { path: from, fragment };
  const parts = decoded.startsWith('/') ? [] : from.split('/').slice(0, -1);
  for (const p of decoded.split('/')) {
    if (p === '..') parts.pop();
    else if (p !== '.' && p !== '') parts.push(p);
  }
  return { path: parts.join('/'), fragment };
}

/** Errors: `epub/not-zip` and what `openZip` refuses. A broken package document is no error here but a fault. */
export function readPackage(bytes: Uint8Array): Outcome<EpubPackage> {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b)
    return refused('epub/not-zip', 'This is not an EPUB: an EPUB is a zip container.');
  const opened = openZip(bytes);
  if (!opened.ok) return opened;
  const zip = opened.value;
  const p: EpubPackage = {
    zip,
    path: '',
    version: '',
    root: null,
    manifest: [],
    spine: [],
    uniqueIdentifier: '',
    metadata: [],
    toc: [],
    faults: [],
  };
  const xml = (name: string): XmlElement | null => {
    const text = textPart(zip, name);
    if (text === null) return null;
    const r = parseXml(text);
    if (r.fault) p.faults.push({ file: name, fault: r.fault });
    return r.root;
  };
  const container = xml('META-INF/container.xml');
  p.path = (container && firstOf(container, 'rootfile')?.attrs['full-path']) ?? '';
  const root = p.path ? xml(p.path) : null;
  if (!root) return done(p);
  p.root = root;
  p.version = root.attrs.version ?? '';
  for (const item of descendants(root, 'item')) {
    const href = item.attrs.href ?? '';
    p.manifest.push({
      id: item.attrs.id ?? '',
      href,
      path: resolve(p.path, href)?.path ?? '',
      type: item.attrs['media-type'] ?? '',
      properties: (item.attrs.properties ?? '').split(/\s+/).filter(Boolean),
      fallback: item.attrs.fallback ?? '',
      line: item.line,
      column: item.column,
    });
  }
  for (const ref of descendants(root, 'itemref'))
    p.spine.push({ idref: ref.attrs.idref ?? '', linear: ref.attrs.linear !== 'no', line: ref.line });
  const meta = firstOf(root, 'metadata');
  for (const m of meta?.children ?? []) {
    if (typeof m === 'string') continue;
    p.metadata.push({
      name: m.name === 'meta' ? (m.attrs.property ?? m.attrs.name ?? 'meta') : m.name,
      value: textOf(m).trim() || (m.attrs.content ?? ''),
      attrs: m.attrs,
      line: m.line,
    });
  }
  p.uniqueIdentifier = p.metadata.find((m) => m.attrs.id === root.attrs['unique-identifier'])?.value ?? '';
  const nav = p.manifest.find((i) => i.properties.includes('nav'));
  if (nav) p.toc = tocEntries(nav.path, xml(nav.path));
  return done(p);
}

function tocEntries(file: string, nav: XmlElement | null): NavEntry[] {
  const toc =
    nav && descendants(nav, 'nav').find((n) => (n.attrs['epub:type'] ?? '').split(/\s+/).includes('toc'));
  const entries: NavEntry[] = [];
  const walk = (el: XmlElement, depth: number): void => {
    for (const c of el.children) {
      if (typeof c === 'string') continue;
      if (c.name === 'a' || c.name === 'span') {
        const to = c.attrs.href === undefined ? null : resolve(file, c.attrs.href);
        entries.push({
          label: textOf(c).replace(/\s+/g, ' ').trim(),
          path: to?.path ?? '',
          fragment: to?.fragment ?? '',
          depth,
          line: c.line,
        });
      } else walk(c, c.name === 'ol' ? depth + 1 : depth);
    }
  };
  if (toc) walk(toc, -1);
  return entries;
}
