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

export interface ZipLimits {
  entries: number;
  /** Bytes of all entries together once inflated. */
  total: number;
}
const ZIP_LIMITS: ZipLimits = { entries: 20_000, total: 600_000_000 };

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
}

export interface Zip {
  entries: ZipEntry[];
  /** Inflates an entry; null when there is none of that name. Throws on damaged data. */
  read(name: string): Uint8Array | null;
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
    };
    total += entry.size;
    if (total > limits.total)
      return refused('zip/bomb', 'Unpacked, the file would be larger than any book: it was not opened.');
    entries.push(entry);
    at += 46 + nameLength + u16(bytes, at + 30) + u16(bytes, at + 32);
  }
  const byName = new Map(entries.map((e) => [e.name, e]));
  return done({
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
