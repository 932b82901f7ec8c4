/** The least that breaks each rule of the container as a zip file. Bytes are changed by hand, by APPNOTE 6.3 §4.3. */
import { strToU8, zipSync, type Zippable } from 'fflate';
import { MINIMAL, zipped, type Parts } from './minimal';

export interface ZipCase {
  rule: string;
  bad: () => Uint8Array;
  good: () => Uint8Array;
}
const good = (): Uint8Array => zipped(MINIMAL);
const z = (rule: string, bad: () => Uint8Array): ZipCase => ({ rule, bad, good });
const withFile = (name: string, part: string | Uint8Array = 'x'): Uint8Array =>
  zipped({ ...MINIMAL, [name]: part });
const options = (
  of: Record<string, { level?: 0 | 6; extra?: Record<number, Uint8Array> }>,
  parts: Parts = MINIMAL,
): Uint8Array => {
  const files: Zippable = {};
  for (const [name, part] of Object.entries(parts))
    files[name] = [
      typeof part === 'string' ? strToU8(part) : part,
      { level: name === 'mimetype' ? 0 : 6, mtime: '2026-01-01T00:00:00', ...of[name] },
    ];
  return zipSync(files);
};

const u16 = (b: Uint8Array, i: number): number => (b[i] ?? 0) | ((b[i + 1] ?? 0) << 8);
const u32 = (b: Uint8Array, i: number): number => (u16(b, i) | (u16(b, i + 2) << 16)) >>> 0;
/** Where the record of an entry in the directory begins, and its local header. */
function entry(b: Uint8Array, name: string): { record: number; local: number } {
  let at = u32(b, b.length - 22 + 16);
  while (u32(b, at) === 0x02014b50) {
    const length = u16(b, at + 28);
    if (new TextDecoder().decode(b.subarray(at + 46, at + 46 + length)) === name)
      return { record: at, local: u32(b, at + 42) };
    at += 46 + length + u16(b, at + 30) + u16(b, at + 32);
  }
  throw new Error(`no ${name}`);
}
const changed = (b: Uint8Array, change: (b: Uint8Array) => void): Uint8Array => {
  const copy = b.slice();
  change(copy);
  return copy;
};
const renamed = (b: Uint8Array, name: string, to: Uint8Array, local = true): Uint8Array =>
  changed(b, (x) => {
    const e = entry(x, name);
    x.set(to, e.record + 46);
    if (local) x.set(to, e.local + 30);
  });
const rest: Parts = Object.fromEntries(Object.entries(MINIMAL).filter(([name]) => name !== 'mimetype'));

export const ZIP_TABLE: ZipCase[] = [
  z('zip/mimetype-missing', () => zipped(rest)),
  z('zip/mimetype-first', () => zipped({ ...rest, mimetype: 'application/epub+zip' })),
  // A stub before the container: all offsets count from the beginning of the file.
  z('zip/mimetype-at-start', () => {
    const b = good();
    const out = new Uint8Array(b.length + 2);
    out.set([0x50, 0x4b]);
    out.set(b, 2);
    const view = new DataView(out.buffer);
    const directory = u32(b, b.length - 22 + 16);
    view.setUint32(out.length - 22 + 16, directory + 2, true);
    let at = directory + 2;
    while (u32(out, at) === 0x02014b50) {
      view.setUint32(at + 42, u32(out, at + 42) + 2, true);
      at += 46 + u16(out, at + 28) + u16(out, at + 30) + u16(out, at + 32);
    }
    return out;
  }),
  z('zip/mimetype-compressed', () => options({ mimetype: { level: 6 } })),
  z('zip/mimetype-extra-field', () => options({ mimetype: { extra: { 0x7777: new Uint8Array(4) } } })),
  z('zip/mimetype-words', () => zipped({ ...MINIMAL, mimetype: 'application/epub+zip\n' })),
  // Without its last 22 bytes: the end of the directory is gone, every file is whole.
  z('zip/incomplete-container', () => good().subarray(0, good().length - 22)),
  z('zip/encrypted-entry', () => changed(good(), (b) => (b[entry(b, 'a.xhtml').record + 8]! |= 1))),
  z('zip/method', () => changed(good(), (b) => (b[entry(b, 'a.xhtml').record + 10] = 12))),
  z('zip/split', () => changed(good(), (b) => (b[entry(b, 'a.xhtml').record + 34] = 1))),
  z('zip/same-name-twice', () => renamed(good(), 'b.xhtml', strToU8('a.xhtml'))),
  z('zip/names-alike', () => withFile('A.xhtml')),
  z('zip/name-characters', () => withFile('what?.txt')),
  z('zip/name-end', () => withFile('notes.')),
  z('zip/name-length', () => withFile(`${'n'.repeat(256)}.txt`)),
  z('zip/name-encoding', () =>
    renamed(withFile('cafe.txt'), 'cafe.txt', new Uint8Array([0x63, 0x61, 0x66, 0xe9])),
  ),
  z('zip/path', () => withFile('../notes.txt')),
  z('zip/name-differs', () => changed(good(), (b) => (b[entry(b, 'a.xhtml').local + 30] = 0x78))),
  z('zip/damaged', () => changed(good(), (b) => (b[entry(b, 'pic.png').record + 16]! ^= 1))),
  z('zip/empty-file', () => zipped({ ...MINIMAL, 'style.css': '' })),
  z('zip/plain-names', () => withFile('café.txt')),
];
