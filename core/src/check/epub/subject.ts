/** An EPUB read once for all its rules: the package, and every document and style sheet with the places of what it holds. */
import * as csstree from 'css-tree';
import {
  done,
  lineStarts,
  openSalvaged,
  placeAt,
  readXml,
  type Outcome,
  type XmlElement,
  type XmlReading,
  type Zip,
} from '../../base';
import { textIn } from './encoding';
import { openEpub, packageIn, resolve, type EpubPackage, type ManifestItem } from '../../package';

export const XHTML = 'application/xhtml+xml';
export const XHTML_NS = 'http://www.w3.org/1999/xhtml';
export const SVG_NS = 'http://www.w3.org/2000/svg';
export const MATHML_NS = 'http://www.w3.org/1998/Math/MathML';
export const OPS_NS = 'http://www.idpf.org/2007/ops';
export const NCX = 'application/x-dtbncx+xml';
export const SMIL = 'application/smil+xml';

/** A part of the container that is XML, read with its faults. */
export interface XmlPart {
  path: string;
  text: string;
  reading: XmlReading;
  /** What could be read of it; null where that is nothing. */
  root: XmlElement | null;
  /** In document order. */
  elements: XmlElement[];
  parents: Map<XmlElement, XmlElement>;
  /** Elements by id, by their local name, and by the attributes that they have, each in document order. */
  ids: Map<string, XmlElement[]>;
  byName: Map<string, XmlElement[]>;
  byAttribute: Map<string, XmlElement[]>;
  /** Whether its elements are where their author put them: no fault is one of their tags. */
  sound: boolean;
}
/** An XHTML or SVG document. */
export interface EpubDocument extends XmlPart {
  item: ManifestItem;
  /** Addresses that its elements hold, in document order. */
  references: DocumentReference[];
}
export interface DocumentReference {
  element: XmlElement;
  attribute: string;
  href: string;
  /** Where it leads in the container; null where it leads out of it. */
  to: { path: string; fragment: string } | null;
  /** Whether a reader fetches it to show the document, or goes there. */
  sort: 'shown' | 'link' | 'cited';
}
export interface EpubSheet {
  path: string;
  /** Offset of the CSS in the text of its part: 0 in a sheet of its own. */
  offset: number;
  text: string;
  css: string;
  tree: csstree.CssNode;
  /** Whether it is the value of a `style` attribute. */
  inline: boolean;
  faults: { message: string; at: number }[];
}

export interface EpubSubject extends EpubPackage {
  bytes: Uint8Array;
  /** Paths that the container holds. */
  names: Set<string>;
  items: Map<string, ManifestItem>;
  byId: Map<string, ManifestItem>;
  /** The package document; null where it cannot be read at all. */
  packageFile: XmlPart | null;
  documents: EpubDocument[];
  documentAt: Map<string, EpubDocument>;
  sheets: EpubSheet[];
  /** An XML part of any sort, read once. */
  xml(path: string): XmlPart | null;
  /** Bytes of a part; null where there is none or it is damaged. */
  part(path: string): Uint8Array | null;
  /** Parts of text that are too large to be read, as `xml` and `sheets` came upon them. */
  unread: { path: string; size: number }[];
}

/** Errors: those of `openEpub`. */
export function epubSubject(bytes: Uint8Array): Outcome<EpubSubject> {
  const opened = openEpub(bytes, openSalvaged);
  return opened.ok ? done(subjectOf(opened.value)) : opened;
}

/** Bytes of the largest part that is kept unpacked. */
const KEPT = 4_000_000;
/**
 * Bytes of the largest XML part and style sheet that are read, and tags in all of them together: a book of a million words
 * has a fifth of them, and whoever reads more runs out of memory.
 */
const READ = { part: 6_000_000, sheet: 1_500_000, tags: 1_000_000 };

function subjectOf(zip: Zip): EpubSubject {
  const kept = new Map<string, Uint8Array | null>();
  const part = (path: string): Uint8Array | null => {
    const known = kept.get(path);
    if (known !== undefined) return known;
    let bytes: Uint8Array | null = null;
    try {
      bytes = zip.read(path);
    } catch {
      // Damaged: a rule of the container says so.
    }
    // Many rules look at one part; a large picture is unpacked anew rather than kept.
    if (!bytes || bytes.length < KEPT) kept.set(path, bytes);
    return bytes;
  };
  const unread: EpubSubject['unread'] = [];
  const sizes = new Map(zip.entries.map((e) => [e.name, e.size]));
  const isReadable = (path: string, most: number): boolean => {
    const size = sizes.get(path) ?? 0;
    if (size > most) unread.push({ path, size });
    return size <= most;
  };
  let tags = 0;
  const readable = (path: string): string | null => {
    const bytes = isReadable(path, READ.part) ? part(path) : null;
    if (!bytes) return null;
    for (let i = bytes.indexOf(0x3c); i >= 0; i = bytes.indexOf(0x3c, i + 1)) tags++;
    if (tags > READ.tags) unread.push({ path, size: bytes.length });
    return tags > READ.tags ? null : textIn(bytes);
  };
  const parts = new Map<string, XmlPart | null>();
  const xml = (path: string): XmlPart | null => {
    const known = parts.get(path);
    if (known !== undefined) return known;
    const text = readable(path);
    const made = text === null ? null : xmlPart(path, text);
    parts.set(path, made);
    return made;
  };
  const p = packageIn(zip, (path) => xml(path)?.root ?? null);
  const documents = p.manifest
    .filter((i) => i.path && (i.type === XHTML || i.type === 'image/svg+xml'))
    .flatMap((item): EpubDocument[] => {
      const read = xml(item.path);
      return read ? [{ ...read, item, references: referencesOf(read) }] : [];
    });
  const subject: EpubSubject = {
    ...p,
    bytes: zip.bytes,
    names: new Set(zip.entries.map((e) => e.name)),
    items: new Map(p.manifest.map((i) => [i.path, i])),
    byId: new Map([...p.manifest].reverse().map((i) => [i.id, i])),
    packageFile: p.path ? xml(p.path) : null,
    // A document that is listed twice is looked at once.
    documents: [...new Map(documents.map((d) => [d.path, d])).values()],
    documentAt: new Map(documents.map((d) => [d.path, d])),
    sheets: [],
    xml,
    part,
    unread,
  };
  subject.sheets = sheetsOf(subject, (path) => isReadable(path, READ.sheet));
  return subject;
}

/** Faults of tags, after which elements may stand elsewhere than their author meant. */
const OF_TAGS = new Set([
  'unclosed',
  'crossed',
  'stray-end',
  'cut-short',
  'tag',
  'comment',
  'cdata',
  'depth',
  'after-root',
]);

function xmlPart(path: string, text: string): XmlPart {
  const reading = readXml(text);
  const elements: XmlElement[] = [];
  const parents = new Map<XmlElement, XmlElement>();
  const ids = new Map<string, XmlElement[]>();
  const byName = new Map<string, XmlElement[]>();
  const byAttribute = new Map<string, XmlElement[]>();
  const put = (to: Map<string, XmlElement[]>, key: string, e: XmlElement): void => {
    const same = to.get(key);
    if (same) same.push(e);
    else to.set(key, [e]);
  };
  const walk = (e: XmlElement): void => {
    elements.push(e);
    put(byName, e.name, e);
    for (const name of Object.keys(e.attrs)) put(byAttribute, name, e);
    if (e.attrs.id !== undefined) put(ids, e.attrs.id, e);
    for (const c of e.children)
      if (typeof c !== 'string') {
        parents.set(c, e);
        walk(c);
      }
  };
  if (reading.root) walk(reading.root);
  const sound = !reading.faults.some((f) => OF_TAGS.has(f.kind));
  return { path, text, reading, root: reading.root, elements, parents, ids, byName, byAttribute, sound };
}

/** Attributes that hold one address each, and what a reader does with it (HTML, SVG 1.1). */
const ADDRESSES: [attribute: string, sort: DocumentReference['sort']][] = [
  ['href', 'link'],
  ['xlink:href', 'link'],
  ['src', 'shown'],
  ['poster', 'shown'],
  ['data', 'shown'],
  ['altimg', 'shown'],
  ['cite', 'cited'],
  ['longdesc', 'cited'],
  ['action', 'link'],
];
/** Elements whose `href` is fetched, not followed. */
const FETCHED = new Set([
  'link',
  'image',
  'use',
  'feImage',
  'script',
  'textPath',
  'linearGradient',
  'radialGradient',
  'pattern',
  'filter',
  'mpath',
  'tref',
  'animate',
]);

function referencesOf(part: XmlPart): DocumentReference[] {
  const found: DocumentReference[] = [];
  // What `base` says is one more address that every other is seen from (HTML §4.2.3).
  for (const [attribute, sort] of ADDRESSES)
    for (const element of part.byAttribute.get(attribute) ?? []) {
      const href = element.attrs[attribute] ?? '';
      if (element.name === 'base') continue;
      if (attribute === 'data' && element.name !== 'object') continue;
      const fetched = sort === 'link' && FETCHED.has(element.name) && !isPointer(element);
      found.push({
        element,
        attribute,
        href,
        to: resolve(part.path, href.trim()),
        sort: fetched ? 'shown' : sort,
      });
    }
  for (const element of part.byAttribute.get('srcset') ?? [])
    for (const candidate of (element.attrs.srcset ?? '').split(',')) {
      const href = candidate.trim().split(/\s+/)[0] ?? '';
      if (href)
        found.push({ element, attribute: 'srcset', href, to: resolve(part.path, href), sort: 'shown' });
    }
  return found;
}
/** A `link` that only says where something is. */
const isPointer = (e: XmlElement): boolean =>
  e.name === 'link' && !/\b(stylesheet|icon|preload)\b/i.test(e.attrs.rel ?? '');

function sheetsOf(s: EpubSubject, isReadable: (path: string) => boolean): EpubSheet[] {
  const sheets: EpubSheet[] = [];
  const put = (path: string, text: string, css: string, offset: number, inline: boolean): void =>
    void sheets.push({ path, text, css, offset, inline, ...parsed(css, inline) });
  for (const i of s.manifest) {
    if (i.type !== 'text/css' || !i.path || sheets.some((x) => x.path === i.path)) continue;
    const bytes = isReadable(i.path) ? s.part(i.path) : null;
    const text = bytes && textIn(bytes);
    if (text !== null) put(i.path, text, text, 0, false);
  }
  for (const d of s.documents)
    for (const e of d.elements) {
      if (e.name === 'style') {
        const css = e.children.filter((c) => typeof c === 'string').join('');
        const offset = d.text.indexOf('>', e.at) + 1;
        put(d.path, d.text, css, offset, false);
      }
      if (e.attrs.style !== undefined && e.attrs.style !== '')
        put(d.path, d.text, e.attrs.style, attributeAt(d, e, 'style'), true);
    }
  return sheets;
}
function parsed(css: string, inline: boolean): Pick<EpubSheet, 'tree' | 'faults'> {
  const faults: EpubSheet['faults'] = [];
  const tree = csstree.parse(css, {
    context: inline ? 'declarationList' : 'stylesheet',
    positions: true,
    parseCustomProperty: false,
    onParseError: (e) => faults.push({ message: e.message, at: e.offset }),
  });
  return { tree, faults };
}

/** Elements of a part by their local names. */
export const named = (d: XmlPart, ...names: string[]): XmlElement[] =>
  names.flatMap((n) => d.byName.get(n) ?? []);
/** Elements of a part that have an attribute of such a name, each once. */
export function having(d: XmlPart, is: (attribute: string) => boolean): Iterable<XmlElement> {
  const lists = [...d.byAttribute].filter(([name]) => is(name)).map(([, all]) => all);
  return lists.length === 1 ? (lists[0] as XmlElement[]) : new Set(lists.flat());
}

/** Where an element begins. */
export const at = (d: { path: string }, e: XmlElement): { file: string; line: number; column: number } => ({
  file: d.path,
  line: e.line,
  column: e.column,
});

/** Offset of an attribute within the text of its part; of the element where it is not found. */
export function attributeAt(d: XmlPart, e: XmlElement, name: string): number {
  const escaped = name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const tag =
    /^<[^>"']*(?:"[^"]*"[^>"']*|'[^']*'[^>"']*)*/.exec(d.text.slice(e.at, e.at + 20_000))?.[0] ?? '';
  const found = new RegExp(`\\s(${escaped})\\s*=`).exec(tag);
  return found ? e.at + found.index + found[0].indexOf(name) : e.at;
}
/** Where an attribute of an element begins. */
export const atAttribute = (
  d: XmlPart,
  e: XmlElement,
  name: string,
): { file: string; line: number; column: number } => ({
  file: d.path,
  ...lineAt(d.text, attributeAt(d, e, name)),
});

/** Where the lines of the text that was asked for last begin: findings of one file come together. */
let last: { text: string; starts: readonly number[] } = { text: '', starts: [0] };
/** Line and column of an offset, both counted from 1. */
export function lineAt(text: string, offset: number): { line: number; column: number } {
  if (last.text !== text) last = { text, starts: lineStarts(text) };
  return placeAt(last.starts, offset);
}

export const isOlder = ({ version }: EpubPackage): boolean => version.startsWith('2');
/** Whether the element is one of HTML. */
export const isHtml = (e: XmlElement): boolean => e.ns === XHTML_NS;
export const elementsIn = (e: XmlElement): XmlElement[] =>
  e.children.filter((c): c is XmlElement => typeof c !== 'string');
/** Tokens of a value that white space divides. */
export const tokens = (value: string | undefined): string[] =>
  (value ?? '').split(/[ \t\r\n\f]+/).filter(Boolean);
