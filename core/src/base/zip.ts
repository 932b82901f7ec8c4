/**
 * Zip containers, bounded when read and deterministic when written (PKWARE APPNOTE 6.3.3).
 *
 * Reading goes by the central directory first, so that a bomb is refused before a byte of it is inflated;
 * the inflater then gets no more room than the declared size, so a lying directory fails as well.
 */
import { inflateSync, zipSync, type Zippable } from 'fflate';
import { done, refused, type Outcome } from './outcome';

/** Raw deflate data to at most `size` bytes. Throws on damaged data and where there is more. */
export type Inflater = (data: Uint8Array, size: number) => Uint8Array;
let inflater: Inflater = (data, size) => inflateSync(data, { out: new Uint8Array(size) });
/** Where the host has an inflater of its own, containers are read with that one. */
export const useInflater = (hosts: Inflater): void => void (inflater = hosts);
export const inflated: Inflater = (data, size) => inflater(data, size);

export interface ZipLimits {
  entries: number;
  /** Bytes of all entries together once inflated. */
  total: number;
}
export const ZIP_LIMITS: ZipLimits = { entries: 20_000, total: 600_000_000 };

export interface ZipEntry {
  name: string;
  method: number;
  encrypted: boolean;
  compressed: number;
  size: number;
  /** Bytes from the file's start to the local header. */
  offset: number;
  /** Length of the local header's extra field. */
  localExtra: number;
  /** Bytes from the file's start to its record in the directory. */
  record: number;
}

export interface Zip {
  /** The whole container. */
  bytes: Uint8Array;
  entries: ZipEntry[];
  /** Inflates an entry; null when there is none of that name. Throws on damaged data. */
  read(name: string): Uint8Array | null;
  /** Where the container was not complete: the file as it was given, and the names of those in it that are not whole. */
  salvaged?: { bytes: Uint8Array; lost: readonly string[] };
}

const u16 = (b: Uint8Array, i: number): number => (b[i] ?? 0) | ((b[i + 1] ?? 0) << 8);
const u32 = (b: Uint8Array, i: number): number => (u16(b, i) | (u16(b, i + 2) << 16)) >>> 0;

function endOfDirectory(b: Uint8Array): number {
  for (let i = b.length - 22; i >= 0 && i > b.length - 22 - 65_536; i--) {
    if (u32(b, i) === 0x06054b50) return i;
  }
  return -1;
}

export function openZip(bytes: Uint8Array, limits: ZipLimits = ZIP_LIMITS): Outcome<Zip> {
  const broken = refused('zip/broken', 'The file is damaged: it is not a complete zip container.');
  const end = endOfDirectory(bytes);
  if (end < 0) return broken;
  const count = u16(bytes, end + 10);
  if (count > limits.entries)
    return refused('zip/too-many', `The file holds ${count} parts, more than ${limits.entries}.`);
  const entries: ZipEntry[] = [];
  const decoder = new TextDecoder();
  let at = u32(bytes, end + 16);
  let total = 0;
  for (let n = 0; n < count; n++) {
    if (u32(bytes, at) !== 0x02014b50) return broken;
    const nameLength = u16(bytes, at + 28);
    const offset = u32(bytes, at + 42);
    if (u32(bytes, offset) !== 0x04034b50) return broken;
    const entry: ZipEntry = {
      name: decoder.decode(bytes.subarray(at + 46, at + 46 + nameLength)),
      method: u16(bytes, at + 10),
      encrypted: (u16(bytes, at + 8) & 1) === 1,
      compressed: u32(bytes, at + 20),
      size: u32(bytes, at + 24),
      offset,
      localExtra: u16(bytes, offset + 28),
      record: at,
    };
    total += entry.size;
    if (total > limits.total)
      return refused('zip/bomb', 'Unpacked, the file would be larger than any book: it was not opened.');
    entries.push(entry);
    at += 46 + nameLength + u16(bytes, at + 30) + u16(bytes, at + 32);
  }
  const byName = new Map(entries.map((e) => [e.name, e]));
  return done({
    bytes,
    entries,
    read(name) {
      const e = byName.get(name);
      if (!e) return null;
      const start = e.offset + 30 + u16(bytes, e.offset + 26) + u16(bytes, e.offset + 28);
      const data = bytes.subarray(start, start + e.compressed);
      if (data.length < e.compressed) throw new Error(`${name} is cut short`);
      return e.method === 0 ? data : inflater(data, e.size);
    },
  });
}

export interface ZipPart {
  name: string;
  bytes: Uint8Array;
  /** Kept without compression, as `mimetype` must be (EPUB OCF 3.3 §4.2.2). */
  stored?: boolean;
}

/** Writes parts in the order given, every date 1 January 1980, so that equal parts give equal bytes. */
export function writeZip(parts: readonly ZipPart[]): Uint8Array {
  const files: Zippable = {};
  for (const p of parts)
    files[p.name] = [p.bytes, { level: p.stored ? 0 : 6, mtime: '1980-01-01T00:00:00', os: 0 }];
  return zipSync(files);
}

/** An entry of a container, taken into another as it lies there, by the same name or another. */
export interface TakenPart {
  name: string;
  from: Zip;
  entry: ZipEntry;
}

/** Lengths of a local header and of a record of the directory, without what follows them (§4.3.7, §4.3.12). */
const LOCAL = 30;
const CENTRAL = 46;

/**
 * Puts parts of containers together, each with its data, method, date and fields as they are; only sizes move from a
 * descriptor behind the data (§4.3.9) to where every reader looks for them.
 */
export function joinZips(parts: readonly TakenPart[]): Uint8Array {
  const chunks: Uint8Array[] = [];
  const directory: Uint8Array[] = [];
  let at = 0;
  let size = 0;
  const put = (chunk: Uint8Array): void => {
    chunks.push(chunk);
    at += chunk.length;
  };
  for (const { name, from, entry } of parts) {
    const { bytes } = from;
    const { record } = entry;
    const nameBytes = new TextEncoder().encode(name);
    const localName = u16(bytes, entry.offset + 26);
    const extra = entry.offset + LOCAL + localName;
    const data = extra + entry.localExtra;
    const header = bytes.slice(entry.offset, entry.offset + LOCAL);
    const central = bytes.slice(record, record + CENTRAL);
    // Bit 3: sizes follow the data. Bit 11: the name is UTF-8.
    const flags = (u16(central, 8) & ~8) | (/[^ -~]/.test(name) ? 1 << 11 : 0);
    const view = new DataView(header.buffer);
    view.setUint16(6, flags, true);
    header.set(central.subarray(16, 28), 14);
    view.setUint16(26, nameBytes.length, true);
    const centralView = new DataView(central.buffer);
    centralView.setUint16(8, flags, true);
    centralView.setUint16(28, nameBytes.length, true);
    centralView.setUint32(42, at, true);
    const tail = record + CENTRAL + u16(bytes, record + 28);
    directory.push(central, nameBytes, bytes.subarray(tail, tail + u16(central, 30) + u16(central, 32)));
    put(header);
    put(nameBytes);
    put(bytes.subarray(extra, data + entry.compressed));
  }
  for (const chunk of directory) size += chunk.length;
  const end = new Uint8Array(22);
  const view = new DataView(end.buffer);
  view.setUint32(0, 0x06054b50, true);
  view.setUint16(8, parts.length, true);
  view.setUint16(10, parts.length, true);
  view.setUint32(12, size, true);
  view.setUint32(16, at, true);
  return concatenated([...chunks, ...directory, end]);
}

function concatenated(chunks: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(chunks.reduce((n, c) => n + c.length, 0));
  let at = 0;
  for (const c of chunks) {
    all.set(c, at);
    at += c.length;
  }
  return all;
}
