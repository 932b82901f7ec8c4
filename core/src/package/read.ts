/** Reads an EPUB's container, package document and navigation, keeping lines and columns for whoever has to mend it. */
import {
  descendants,
  done,
  firstOf,
  openZip,
  readXml,
  refused,
  textOf,
  type Outcome,
  type XmlElement,
  type Zip,
} from '../base';
import { resolve } from './addresses';
import {
  NO_NAVIGATION,
  readNav,
  readOlder,
  type NavEntry,
  type Navigation,
  type ReadDocument,
} from './navigation';

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
export interface EpubPackage {
  zip: Zip;
  /** Path of the package document, '' when the container names none. */
  path: string;
  version: string;
  root: XmlElement | null;
  manifest: ManifestItem[];
  spine: { idref: string; linear: boolean; properties: string[]; line: number }[];
  uniqueIdentifier: string;
  metadata: { name: string; value: string; attrs: Record<string, string>; line: number }[];
  /** Of the navigation document, and of the NCX and the guide. */
  nav: Navigation;
  older: Navigation;
  /** Pages of a fixed size, unless a document says otherwise (EPUB 3.3 §8.2.2.1). */
  fixed: boolean;
  /** Which way its pages are turned (EPUB 3.3 §5.6.1). */
  direction: 'ltr' | 'rtl';
}

const NCX = 'application/x-dtbncx+xml';
const decoder = new TextDecoder();
export const textPart = (zip: Zip, name: string): string | null => {
  const bytes = zip.read(name);
  return bytes ? decoder.decode(bytes).replace(/^\ufeff/, '') : null;
};

/** Errors: `epub/not-zip` and what `openZip` refuses. */
export function openEpub(
  bytes: Uint8Array,
  open: (bytes: Uint8Array) => Outcome<Zip> = openZip,
): Outcome<Zip> {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b)
    return refused('epub/not-zip', 'This is not an EPUB: an EPUB is a zip container.');
  return open(bytes);
}

/** Errors: those of `openEpub`. A broken package document is none: what can be read of it is read. */
export function readPackage(bytes: Uint8Array): Outcome<EpubPackage> {
  const opened = openEpub(bytes);
  return opened.ok ? done(packageIn(opened.value)) : opened;
}

/** The first element of a part; null where there is none, or its data is damaged. What can be read of a broken file is read. */
function rootIn(zip: Zip, path: string): XmlElement | null {
  try {
    const text = textPart(zip, path);
    return text === null ? null : readXml(text).root;
  } catch {
    return null;
  }
}

/** The package of a container that is open. `xml`: reads a part, where somebody keeps what was read. */
export function packageIn(
  zip: Zip,
  xml: (path: string) => XmlElement | null = (path) => rootIn(zip, path),
): EpubPackage {
  const p: EpubPackage = {
    zip,
    path: '',
    version: '',
    root: null,
    manifest: [],
    spine: [],
    uniqueIdentifier: '',
    metadata: [],
    nav: NO_NAVIGATION,
    older: NO_NAVIGATION,
    fixed: false,
    direction: 'ltr',
  };
  const container = xml('META-INF/container.xml');
  p.path = (container && firstOf(container, 'rootfile')?.attrs['full-path']) ?? '';
  const root = p.path ? xml(p.path) : null;
  if (!root) return p;
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
    p.spine.push({
      idref: ref.attrs.idref ?? '',
      linear: ref.attrs.linear !== 'no',
      properties: (ref.attrs.properties ?? '').split(/\s+/).filter(Boolean),
      line: ref.line,
    });
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
  p.fixed = p.metadata.some((m) => m.name === 'rendition:layout' && m.value === 'pre-paginated');
  const spine = firstOf(root, 'spine');
  if (spine?.attrs['page-progression-direction'] === 'rtl') p.direction = 'rtl';
  const document = (item: ManifestItem | undefined): ReadDocument | null => {
    const read = item ? xml(item.path) : null;
    return item && read ? { path: item.path, root: read } : null;
  };
  const ncx =
    p.manifest.find((i) => i.id === spine?.attrs.toc && i.type === NCX) ??
    p.manifest.find((i) => i.type === NCX);
  const nav = document(p.manifest.find((i) => i.properties.includes('nav')));
  if (nav) p.nav = readNav(nav);
  p.older = readOlder(document(ncx), { path: p.path, root });
  return p;
}

/** What a reader navigates by: a list that the newer form lacks is taken from the older one. */
export function navigationOf({ nav, older }: EpubPackage): Navigation {
  const either = (list: keyof Navigation): NavEntry[] => (nav[list].length > 0 ? nav[list] : older[list]);
  return { contents: either('contents'), landmarks: either('landmarks'), pages: either('pages') };
}
