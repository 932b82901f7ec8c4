/**
 * An EPUB that is being emended: its parts as they are now, and changes to them. Parts that nobody touched stay in the
 * container that was opened, and are taken from there as they lie.
 */
import {
  done,
  joinZips,
  openSalvaged,
  openZip,
  refused,
  writeZip,
  type Outcome,
  type Zip,
  type ZipEntry,
} from '../base';

/**
 * What a part holds: an entry of the container that was opened; text that was changed here, `of` such an entry or of none;
 * or a file that was added.
 */
export type Content =
  | { original: string }
  | { text: string; of?: string; encoding?: 'utf-16le' | 'utf-16be'; bom?: true }
  | { sha256: string };
type TextContent = Extract<Content, { text: string }>;

export interface Emended {
  /** The container that was opened. */
  zip: Zip;
  /** By path, in the order of the container. */
  parts: ReadonlyMap<string, Content>;
  /** Files that were added, by checksum. */
  files: ReadonlyMap<string, Uint8Array>;
}

/** A change of one part. `at` counts UTF-16 units from the beginning of its text, `index` parts of the container. */
export type PartChange =
  | { op: 'edit'; path: string; at: number; removed: string; inserted: string }
  | { op: 'add'; path: string; index: number; content: Content }
  | { op: 'remove'; path: string; index: number; content: Content }
  | { op: 'rename'; path: string; to: string }
  | { op: 'replace'; path: string; was: Content; now: Content };
export type TextEdit = Extract<PartChange, { op: 'edit' }>;

/** Of a container that isn’t complete, the parts that are whole. Errors: those of `openZip`. */
export function openEmended(bytes: Uint8Array): Outcome<Emended> {
  // A host's own kind of bytes may share its memory with other things, and with what is cut out of it.
  const opened = openSalvaged(new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  if (!opened.ok) return opened;
  const zip = opened.value;
  const parts = new Map(zip.entries.map((e): [string, Content] => [e.name, { original: e.name }]));
  return done({ zip, parts, files: new Map() });
}

/** Throws on damaged data; null where there is no such part. */
export function bytesOf(e: Emended, path: string): Uint8Array | null {
  const content = e.parts.get(path);
  if (!content) return null;
  if ('original' in content) return e.zip.read(content.original);
  if ('sha256' in content) return e.files.get(content.sha256) ?? null;
  return encoded(content);
}

const decoded = new WeakMap<Content, TextContent | null>();

/** A part as text; null where there is none, or where it is neither UTF-8 nor UTF-16 (EPUB 3.3 §3.9). */
export function textPartOf(e: Emended, path: string): TextContent | null {
  const content = e.parts.get(path);
  if (!content) return null;
  if ('text' in content) return content;
  const known = decoded.get(content);
  if (known !== undefined) return known;
  let text: TextContent | null = null;
  try {
    const bytes = bytesOf(e, path);
    text = bytes && { ...decode(bytes), ...('original' in content ? { of: content.original } : {}) };
  } catch {
    // Damaged or not text: there is nothing to edit.
  }
  decoded.set(content, text);
  return text;
}
export const textOfPart = (e: Emended, path: string): string | null => textPartOf(e, path)?.text ?? null;

function decode(bytes: Uint8Array): TextContent {
  const of = (label: string): string =>
    new TextDecoder(label, { fatal: true, ignoreBOM: true }).decode(bytes);
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: of('utf-16le').slice(1), encoding: 'utf-16le', bom: true };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: of('utf-16be').slice(1), encoding: 'utf-16be', bom: true };
  const text = of('utf-8');
  if (text.includes('\0')) throw new Error('this is no text');
  return text.startsWith('\ufeff') ? { text: text.slice(1), bom: true } : { text };
}

function encoded({ text, encoding, bom }: TextContent): Uint8Array {
  const whole = (bom ? '\ufeff' : '') + text;
  if (!encoding) return new TextEncoder().encode(whole);
  const bytes = new Uint8Array(whole.length * 2);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < whole.length; i++) view.setUint16(i * 2, whole.charCodeAt(i), encoding === 'utf-16le');
  return bytes;
}

const gone = (path: string) => refused('emend/gone', `“${path}” is no longer in the ebook.`);

/** Errors: `emend/gone`, `emend/taken`, and `emend/elsewhere` where a text is not what the change stands on. */
export function applyChanges(e: Emended, changes: readonly PartChange[]): Outcome<Emended> {
  let parts = new Map(e.parts);
  for (const c of changes) {
    const is = parts.get(c.path);
    if (c.op === 'add') {
      if (is) return refused('emend/taken', `The ebook already has a “${c.path}”.`);
      parts = new Map(insertedAt([...parts], c.index, [c.path, c.content]));
      continue;
    }
    if (!is) return gone(c.path);
    if (c.op === 'remove') parts.delete(c.path);
    else if (c.op === 'replace') parts.set(c.path, c.now);
    else if (c.op === 'rename') {
      if (parts.has(c.to)) return refused('emend/taken', `The ebook already has a “${c.to}”.`);
      parts = new Map([...parts].map(([path, content]) => [path === c.path ? c.to : path, content]));
    } else {
      const was = textPartOf({ ...e, parts }, c.path);
      if (was?.text.slice(c.at, c.at + c.removed.length) !== c.removed || c.at > was.text.length)
        return refused('emend/elsewhere', `“${c.path}” is no longer as it was when this was changed.`);
      const text = was.text.slice(0, c.at) + c.inserted + was.text.slice(c.at + c.removed.length);
      parts.set(c.path, { ...was, text });
    }
  }
  return done({ ...e, parts });
}

const insertedAt = <T>(list: T[], index: number, item: T): T[] => [
  ...list.slice(0, index),
  item,
  ...list.slice(index),
];

/** What brings the parts back to where they were. */
export const inverseOf = (changes: readonly PartChange[]): PartChange[] =>
  [...changes].reverse().map((c): PartChange => {
    switch (c.op) {
      case 'edit':
        return { ...c, removed: c.inserted, inserted: c.removed };
      case 'add':
        return { ...c, op: 'remove' };
      case 'remove':
        return { ...c, op: 'add' };
      case 'rename':
        return { op: 'rename', path: c.to, to: c.path };
      case 'replace':
        return { ...c, was: c.now, now: c.was };
    }
  });

/** The entry of the container that was opened which a part is still the same as, to the byte; null where it is other. */
function sameAs(e: Emended, content: Content): string | null {
  if ('original' in content) return content.original;
  if (!('text' in content) || content.of === undefined) return null;
  // Typing may have been undone.
  const was = textPartOf({ ...e, parts: new Map([[content.of, { original: content.of }]]) }, content.of);
  return was?.text === content.text ? content.of : null;
}

/** The EPUB as it is now. Where nothing was changed it is the one that was opened, to the byte. */
export function copyOf(e: Emended): Uint8Array {
  const entries = new Map(e.zip.entries.map((x) => [x.name, x]));
  const parts = [...e.parts].map(([path, c]): [string, Content] => {
    const original = sameAs(e, c);
    return [path, original === null ? c : { original }];
  });
  const asItWas =
    parts.length === e.zip.entries.length &&
    e.zip.entries.every(({ name }, i) => {
      const [path, c] = parts[i] ?? ['', { text: '' }];
      return path === name && 'original' in c && c.original === name;
    });
  if (asItWas) return e.zip.salvaged?.bytes ?? e.zip.bytes;
  const made = parts.flatMap(([path, c], i) =>
    'original' in c
      ? []
      : // The container is known by its first part, which is not compressed (EPUB 3.3 §4.3.3).
        [{ path, name: `${i}`, bytes: bytesOf(e, path) ?? new Uint8Array(), stored: path === 'mimetype' }],
  );
  const opened = openZip(writeZip(made));
  if (!opened.ok) throw new Error(opened.refusal.message);
  const fresh = opened.value;
  const freshEntries = new Map(made.map(({ path }, i) => [path, fresh.entries[i] as ZipEntry]));
  return joinZips(
    parts.flatMap(([name, c]) => {
      const entry = 'original' in c ? entries.get(c.original) : freshEntries.get(name);
      return entry ? [{ name, from: 'original' in c ? e.zip : fresh, entry }] : [];
    }),
  );
}

/** The parts as a container to be read; of its entries only the names are those of a file. */
export function zipOf(e: Emended): Zip {
  const entries = new Map(e.zip.entries.map((x) => [x.name, x]));
  return {
    bytes: e.zip.bytes,
    entries: [...e.parts].map(([name, c]) => {
      const was = 'original' in c ? entries.get(c.original) : undefined;
      if (was) return { ...was, name };
      const size = bytesOf(e, name)?.length ?? 0;
      return {
        name,
        method: 8,
        encrypted: false,
        compressed: size,
        size,
        offset: 0,
        localExtra: 0,
        record: 0,
      };
    }),
    read: (name) => bytesOf(e, name),
  };
}

export interface Differences {
  changed: string[];
  added: string[];
  removed: string[];
  /** Perhaps changed as well. */
  renamed: { from: string; to: string }[];
  /** Parts that are the same to the byte, under the same name. */
  untouched: number;
}
/** What is different from the container that was opened. */
export function differencesOf(e: Emended): Differences {
  const d: Differences = { changed: [], added: [], removed: [], renamed: [], untouched: 0 };
  const kept = new Set<string>();
  for (const [path, c] of e.parts) {
    // A file in place of another keeps its name, and is a change of it.
    const there = e.zip.entries.some((x) => x.name === path);
    const of = 'original' in c ? c.original : 'text' in c ? c.of : there ? path : undefined;
    if (of === undefined) {
      d.added.push(path);
      continue;
    }
    kept.add(of);
    if (of !== path) d.renamed.push({ from: of, to: path });
    else if (sameAs(e, c) === path) d.untouched++;
    else d.changed.push(path);
  }
  d.removed = e.zip.entries.map((x) => x.name).filter((name) => !kept.has(name));
  return d;
}
