/**
 * Lists by which readers find their way, in the navigation document (EPUB 3.3 §7.4) and the NCX (OPF 2.0.1 §2.4.1). What
 * an entry is written with stays: a list is written anew only where its order or depth changes.
 */
import { escapeXml } from '../base';
import { reference, resolve } from '../package';
import { indentOf, type Draft } from './draft';
import {
  attributeOf,
  childNamed,
  elementsNamed,
  localName,
  textWithin,
  valueOf,
  within,
  type Located,
} from './located';
import { openTag, type Replacement } from './markup';
import { attributeEdit } from './opf';

export type ListName = 'contents' | 'landmarks' | 'pages';
export const LIST_NAMES: Record<ListName, string> = {
  contents: 'the contents',
  landmarks: 'the landmarks',
  pages: 'the page list',
};

/** An entry as it is to be; `from`: its number in the list as it was, null for a new one. */
export interface WantedEntry {
  from: number | null;
  label: string;
  path: string;
  fragment: string;
  depth: number;
}

interface SourceEntry {
  /** `li`, `navPoint` or `pageTarget`. */
  item: Located;
  /** What holds its words. */
  label: Located | undefined;
  /** What leads to its target. */
  link: Located | undefined;
  address: 'href' | 'src';
  depth: number;
  words: string;
  path: string;
  fragment: string;
}
interface SourceList {
  path: string;
  text: string;
  /** The outermost `ol`, `navMap` or `pageList`. */
  holder: Located;
  entries: SourceEntry[];
  older: boolean;
}

const TYPES: Record<ListName, string> = { contents: 'toc', landmarks: 'landmarks', pages: 'page-list' };

const isNavOf = (nav: Located, list: ListName): boolean =>
  (valueOf(nav, 'epub:type') ?? '').split(/\s+/).includes(TYPES[list]);

function newerList(d: Draft, list: ListName): SourceList | null {
  const path = d.package.manifest.find((i) => i.properties.includes('nav'))?.path;
  if (path === undefined) return null;
  const text = d.text(path);
  const nav = elementsNamed(d.elements(path), 'nav').find((n) => isNavOf(n, list));
  const holder = nav && within(d.elements(path), nav).find((e) => localName(e.name) === 'ol');
  if (!holder) return null;
  const entries: SourceEntry[] = [];
  const walk = (e: Located, depth: number, item: Located | null): void => {
    for (const c of e.children) {
      const name = localName(c.name);
      if (item && (name === 'a' || name === 'span')) {
        const to = resolve(path, valueOf(c, 'href') ?? ':');
        const where = { path: to?.path ?? '', fragment: to?.fragment ?? '' };
        entries.push({
          item,
          label: c,
          link: c,
          address: 'href',
          depth,
          words: textWithin(text, c),
          ...where,
        });
      } else walk(c, name === 'ol' ? depth + 1 : depth, name === 'li' ? c : item);
    }
  };
  walk(holder, 0, null);
  return { path, text, holder, entries, older: false };
}

function olderList(d: Draft, list: ListName): SourceList | null {
  const path = d.package.manifest.find((i) => i.type === 'application/x-dtbncx+xml')?.path;
  if (path === undefined || list === 'landmarks') return null;
  const text = d.text(path);
  const holder = elementsNamed(d.elements(path), list === 'contents' ? 'navMap' : 'pageList')[0];
  if (!holder) return null;
  const point = list === 'contents' ? 'navPoint' : 'pageTarget';
  const entries: SourceEntry[] = [];
  const walk = (e: Located, depth: number): void => {
    for (const item of e.children) {
      if (localName(item.name) !== point) continue;
      const label = childNamed(childNamed(item, 'navLabel'), 'text');
      const link = childNamed(item, 'content');
      const to = resolve(path, (link && valueOf(link, 'src')) ?? ':');
      const where = { path: to?.path ?? '', fragment: to?.fragment ?? '' };
      entries.push({
        item,
        label,
        link,
        address: 'src',
        depth,
        words: label ? textWithin(text, label) : '',
        ...where,
      });
      walk(item, depth + 1);
    }
  };
  walk(holder, 0);
  return { path, text, holder, entries, older: true };
}

const sameList = (a: readonly SourceEntry[], b: readonly SourceEntry[]): boolean =>
  a.length === b.length && a.every((e, i) => e.path === b[i]?.path && e.fragment === b[i].fragment);

/** Writes a list of the navigation anew. Answers what is wrong with the entries, or null. */
export function writeList(d: Draft, list: ListName, wanted: readonly WantedEntry[]): string | null {
  if (list === 'contents') openContents(d);
  const newer = newerList(d, list);
  const older = olderList(d, list);
  if (!newer && !older) return `The ebook has no place for ${LIST_NAMES[list]}.`;
  if (wanted.some((w) => w.label.trim() === '')) return 'An entry has no words.';
  if (wanted.some((w, i) => w.depth < 0 || w.depth > (wanted[i - 1]?.depth ?? -1) + 1))
    return 'An entry is more than one step deeper than the one above it.';
  const agreed = !newer || !older || sameList(newer.entries, older.entries);
  if (newer) writeOne(d, newer, wanted);
  if (older && agreed) {
    writeOne(d, older, wanted);
    renumber(d);
  } else if (older) d.notes.push('The NCX lists something else, and was left as it is.');
  return null;
}

/** A navigation document without contents gets a place for them, at the beginning of its body. */
function openContents(d: Draft): void {
  const path = d.package.manifest.find((i) => i.properties.includes('nav'))?.path;
  if (path === undefined || newerList(d, 'contents')) return;
  const elements = d.elements(path);
  const nav = elementsNamed(elements, 'nav').find((n) => isNavOf(n, 'contents'));
  const place = nav ?? elementsNamed(elements, 'body')[0];
  if (!place || place.inner.from === place.to) return;
  const list = nav ? '<ol></ol>' : '<nav epub:type="toc"><ol></ol></nav>';
  const root = elements[0];
  d.edit(path, [
    { from: place.inner.from, to: place.inner.from, with: `\n${list}` },
    ...(root && !nav && valueOf(root, 'xmlns:epub') === undefined
      ? attributeEdit(d.text(path), root, 'xmlns:epub', 'http://www.idpf.org/2007/ops')
      : []),
  ]);
}

function writeOne(d: Draft, s: SourceList, wanted: readonly WantedEntry[]): void {
  const inPlace =
    wanted.length === s.entries.length &&
    wanted.every((w, i) => w.from === i && w.depth === s.entries[i]?.depth);
  if (inPlace)
    return d.edit(
      s.path,
      wanted.flatMap((w, i) => entryEdits(s, s.entries[i] as SourceEntry, w)),
    );
  if (wanted.length === 0) return removeList(d, s);
  d.edit(s.path, [{ ...s.holder.inner, with: written(s, wanted) }]);
}
/** A list without entries is no list (EPUB 3.3 §7.4.2: `ol` holds at least one `li`). */
function removeList(d: Draft, s: SourceList): void {
  const whole = s.older ? s.holder : (s.holder.parent ?? s.holder);
  d.edit(s.path, [{ from: whole.from, to: whole.to, with: '' }]);
}

function entryEdits(s: SourceList, e: SourceEntry, w: WantedEntry): Replacement[] {
  const edits: Replacement[] = [];
  if (e.label && w.label.trim() !== e.words)
    edits.push({ ...e.label.inner, with: escapeXml(w.label.trim()) });
  if (e.link && (w.path !== e.path || w.fragment !== e.fragment))
    edits.push(...attributeEdit(s.text, e.link, e.address, w.path ? reference(s.path, w) : null));
  return edits;
}

/** A piece of the source with edits within it. */
function withEdits(
  text: string,
  { from, to }: { from: number; to: number },
  edits: readonly Replacement[],
): string {
  let piece = text.slice(from, to);
  for (const r of [...edits].sort((a, b) => b.from - a.from))
    piece = piece.slice(0, r.from - from) + r.with + piece.slice(r.to - from);
  return piece;
}

function written(s: SourceList, wanted: readonly WantedEntry[]): string {
  const base = indentOf(s.text, s.holder) || '\n';
  const line = (depth: number): string => base + '  '.repeat(depth);
  const nested = s.entries.find((e) => e.depth > 0)?.item.parent;
  const ol = nested && localName(nested.name) === 'ol' ? openTag(s.text, nested, (n) => n === 'id') : '<ol>';
  let out = '';
  let at = 0;
  // How deep lists of the newer form are indented: twice as deep as their entries.
  const step = s.older ? 1 : 2;
  const write = (depth: number): void => {
    for (let w = wanted[at]; w && w.depth >= depth; w = wanted[at]) {
      at++;
      const was = w.from === null ? undefined : s.entries[w.from];
      const indent = depth * step + 1;
      out += line(indent) + head(s, was, w, line(indent + 1));
      const below = wanted[at];
      if (below && below.depth > depth) {
        if (!s.older) out += line(indent + 1) + ol;
        write(depth + 1);
        if (!s.older) out += `${line(indent + 1)}</ol>`;
        out += line(indent);
      } else if (s.older) out += line(indent);
      out += s.older ? `</${pointName(s)}>` : '</li>';
    }
  };
  write(0);
  return out + base;
}
const pointName = (s: SourceList): string =>
  s.entries[0]?.item.name ?? (localName(s.holder.name) === 'navMap' ? 'navPoint' : 'pageTarget');

/** An entry without what stands below it. */
function head(s: SourceList, was: SourceEntry | undefined, w: WantedEntry, line: string): string {
  const edits = was ? entryEdits(s, was, w) : [];
  const address = escapeXml(reference(s.path, w));
  if (!s.older) {
    const li = was ? openTag(s.text, was.item, () => false) : '<li>';
    const anchor = was?.label
      ? withEdits(s.text, was.label, edits)
      : w.path
        ? `<a href="${address}">${escapeXml(w.label.trim())}</a>`
        : `<span>${escapeXml(w.label.trim())}</span>`;
    return li + anchor;
  }
  const label = was && childNamed(was.item, 'navLabel');
  const content = was?.link;
  const open = was
    ? openTag(s.text, was.item, () => false)
    : `<${pointName(s)} id="${freshPoint(s, w)}"${localName(s.holder.name) === 'pageList' ? ' type="normal"' : ''} playOrder="0">`;
  return (
    open +
    line +
    (label
      ? withEdits(
          s.text,
          label,
          edits.filter((e) => e.from >= label.from && e.to <= label.to),
        )
      : `<navLabel><text>${escapeXml(w.label.trim())}</text></navLabel>`) +
    line +
    (content
      ? withEdits(
          s.text,
          content,
          edits.filter((e) => e.from >= content.from && e.to <= content.to),
        )
      : `<content src="${address}"/>`)
  );
}
/** An id that no point has: what it leads to tells one from another. */
function freshPoint(s: SourceList, w: WantedEntry): string {
  const plain = `to-${`${w.path}-${w.fragment}`.replace(/[^A-Za-z0-9]+/g, '-')}`;
  let id = plain;
  for (let n = 2; s.text.includes(`id="${id}"`); n++) id = `${plain}-${n}`;
  return id;
}

/** Numbers the points of the NCX as one comes to their targets (DAISY 3 §8.4.2); equal targets have equal numbers. */
function renumber(d: Draft): void {
  const { manifest, spine } = d.package;
  const path = manifest.find((i) => i.type === 'application/x-dtbncx+xml')?.path;
  if (path === undefined) return;
  const order = new Map(spine.map((s, i) => [manifest.find((m) => m.id === s.idref)?.path ?? '', i]));
  const points = d.elements(path).flatMap((e) => {
    const number = attributeOf(e, 'playOrder');
    const src = valueOf(childNamed(e, 'content') ?? e, 'src');
    const to = src === undefined ? null : resolve(path, src);
    return number && to
      ? [{ number, to, at: offsetOf(d, to), document: order.get(to.path) ?? Infinity }]
      : [];
  });
  const sorted = [...points].sort((a, b) => a.document - b.document || a.at - b.at);
  let n = 0;
  let last = '';
  d.edit(
    path,
    sorted.map(({ number, to }) => {
      const target = `${to.path}#${to.fragment}`;
      if (target !== last) n++;
      last = target;
      return { ...number.inner, with: String(n) };
    }),
  );
}
const offsetOf = (d: Draft, { path, fragment }: { path: string; fragment: string }): number =>
  fragment === '' ? -1 : (d.elements(path).find((e) => valueOf(e, 'id') === fragment)?.from ?? Infinity);

/** The entries of a list as they are, to be changed. */
export function entriesOf(d: Draft, list: ListName): WantedEntry[] {
  const s = newerList(d, list) ?? olderList(d, list);
  return (s?.entries ?? []).map((e, from) => ({
    from,
    label: e.words,
    path: e.path,
    fragment: e.fragment,
    depth: e.depth,
  }));
}
