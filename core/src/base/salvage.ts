/**
 * Zip containers whose directory is lost or wrong, as when a download stopped: the files that are whole are found by their
 * own headers (PKWARE APPNOTE 6.3 §4.3.7), each proved by its checksum, and given a directory again.
 */
import crc32 from 'crc-32';
import { done, refused, type Outcome } from './outcome';
import { inflated, openZip, type Zip, type ZipLimits, ZIP_LIMITS } from './zip';

const u16 = (b: Uint8Array, i: number): number => (b[i] ?? 0) | ((b[i + 1] ?? 0) << 8);
const u32 = (b: Uint8Array, i: number): number => (u16(b, i) | (u16(b, i + 2) << 16)) >>> 0;
const [LOCAL_MARK, CENTRAL_MARK, DESCRIPTOR_MARK] = [0x04034b50, 0x02014b50, 0x08074b50];
/** Lengths of a local header and of a record of the directory, without what follows them. */
const [LOCAL, CENTRAL] = [30, 46];

interface Found {
  name: string;
  offset: number;
  /** Bytes of the name and of the data, and how long they are. */
  nameBytes: Uint8Array;
  compressed: number;
  size: number;
  crc: number;
}

/** As `openZip`; where the container isn’t complete, with what is whole. Errors: those of `openZip`. */
export function openSalvaged(bytes: Uint8Array, limits: ZipLimits = ZIP_LIMITS): Outcome<Zip> {
  const opened = openZip(bytes, limits);
  if (opened.ok || opened.refusal.code !== 'zip/broken') return opened;
  const { whole, lost, bomb } = walk(bytes, limits);
  if (bomb)
    return refused('zip/bomb', 'Unpacked, the file would be larger than any book: it was not opened.');
  if (whole.length === 0) return opened;
  const again = openZip(withDirectory(bytes, whole), limits);
  return again.ok ? done({ ...again.value, salvaged: { bytes, lost } }) : opened;
}

function walk(b: Uint8Array, limits: ZipLimits): { whole: Found[]; lost: string[]; bomb: boolean } {
  const whole = new Map<string, Found>();
  const lost = new Set<string>();
  const decoder = new TextDecoder();
  const marks = marksIn(b);
  let total = 0;
  let failed = 0;
  for (let at = next(b, 0); at >= 0 && whole.size < limits.entries && failed < MOST_LOST;) {
    const nameBytes = b.subarray(at + LOCAL, at + LOCAL + u16(b, at + 26));
    const name = decoder.decode(nameBytes);
    const start = at + LOCAL + u16(b, at + 26) + u16(b, at + 28);
    const sizes = sizesOf(b, at, start, marks);
    if (sizes) total += sizes.size;
    if (total > limits.total) return { whole: [], lost: [], bomb: true };
    if (sizes && isWhole(b, at, start, sizes)) {
      // Of two files of one name the later one counts, as in a directory.
      whole.set(name, { name, offset: at, nameBytes, ...sizes });
      lost.delete(name);
      at = next(b, start + sizes.compressed);
    } else {
      failed++;
      if (name && !whole.has(name)) lost.add(name);
      at = next(b, at + LOCAL);
    }
  }
  return { whole: [...whole.values()], lost: [...lost], bomb: false };
}

type Sizes = Pick<Found, 'compressed' | 'size' | 'crc'>;

/** What a header says of its data, or else the descriptor behind the data (§4.3.9). */
function sizesOf(b: Uint8Array, at: number, start: number, marks: readonly number[]): Sizes | null {
  if ((u16(b, at + 6) & 8) === 0)
    return { crc: u32(b, at + 14), compressed: u32(b, at + 18), size: u32(b, at + 22) };
  const first = sortedIndex(marks, start);
  for (const i of marks.slice(first, first + LOOKED_AT)) {
    const marked = u32(b, i) === DESCRIPTOR_MARK;
    // The mark is optional: without it the descriptor ends where the next header begins.
    const from = marked ? i + 4 : i - 12;
    const compressed = u32(b, from + 4);
    if (compressed === (marked ? i : from) - start)
      return { crc: u32(b, from), compressed, size: u32(b, from + 8) };
  }
  return null;
}

function isWhole(b: Uint8Array, at: number, start: number, { compressed, size, crc }: Sizes): boolean {
  const data = b.subarray(start, start + compressed);
  const method = u16(b, at + 8);
  const locked = (u16(b, at + 6) & 1) === 1;
  if (data.length < compressed || locked || (method !== 0 && method !== 8)) return false;
  try {
    const read = method === 0 ? data : inflated(data, size);
    return read.length === size && crc32.buf(read) >>> 0 === crc;
  } catch {
    return false;
  }
}

/** Marks that are looked at for the end of one file, and files that may be lost: more is no book. */
const LOOKED_AT = 1_000;
const MOST_LOST = 2_000;
/** Where descriptors and headers may begin, in order. */
function marksIn(b: Uint8Array): number[] {
  const marks: number[] = [];
  for (let i = b.indexOf(0x50); i >= 0; i = b.indexOf(0x50, i + 1)) {
    const mark = u32(b, i);
    if (mark === LOCAL_MARK || mark === CENTRAL_MARK || mark === DESCRIPTOR_MARK) marks.push(i);
  }
  return marks;
}
function sortedIndex(list: readonly number[], value: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((list[middle] as number) < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The next local header; -1 when there is none. */
function next(b: Uint8Array, from: number): number {
  for (let i = b.indexOf(0x50, from); i >= 0 && i + LOCAL < b.length; i = b.indexOf(0x50, i + 1))
    if (u32(b, i) === LOCAL_MARK) return i;
  return -1;
}

function withDirectory(b: Uint8Array, whole: readonly Found[]): Uint8Array {
  const length = whole.reduce((n, f) => n + CENTRAL + f.nameBytes.length, 0);
  const all = new Uint8Array(b.length + length + 22);
  const view = new DataView(all.buffer);
  all.set(b);
  let at = b.length;
  for (const f of whole) {
    view.setUint32(at, CENTRAL_MARK, true);
    view.setUint16(at + 4, 20, true);
    // Version, flags, method, time and date as in the local header.
    all.set(b.subarray(f.offset + 4, f.offset + 14), at + 6);
    view.setUint32(at + 16, f.crc, true);
    view.setUint32(at + 20, f.compressed, true);
    view.setUint32(at + 24, f.size, true);
    view.setUint16(at + 28, f.nameBytes.length, true);
    view.setUint32(at + 42, f.offset, true);
    all.set(f.nameBytes, at + CENTRAL);
    at += CENTRAL + f.nameBytes.length;
  }
  view.setUint32(at, 0x06054b50, true);
  view.setUint16(at + 8, whole.length, true);
  view.setUint16(at + 10, whole.length, true);
  view.setUint32(at + 12, length, true);
  view.setUint32(at + 16, b.length, true);
  return all;
}
