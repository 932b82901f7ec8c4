/**
 * Files by their SHA-256. A file is written under a temporary name, synced, read back in size, and only then renamed, so
 * that what lies under a checksum is always the whole file. Equal files are kept once.
 */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat, type FileHandle } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { and, eq, lt } from 'drizzle-orm';
import { files } from './schema';
import type { Store } from './open';

export class TooLarge extends Error {}
export class DiskFull extends Error {
  constructor() {
    super('There is no room left on the disk. Free some space and try again; nothing was changed.');
  }
}
/** Fewer or more bytes arrived than were announced. */
export class CutShort extends Error {}

const SHA256 = /^[0-9a-f]{64}$/;
const isSha256 = (s: string): boolean => SHA256.test(s);

/** Where a file lies. Throws RangeError on anything but a checksum: no other string may become part of a path. */
export function filePath(store: Store, sha256: string): string {
  if (!isSha256(sha256)) throw new RangeError('this is not a checksum');
  return join(store.folder, 'files', sha256.slice(0, 2), sha256);
}

/** Codes by which a disk or a quota says that it is full. */
const FULL = new Set(['ENOSPC', 'EDQUOT', 'EFBIG']);
/** Whether an error says that the disk or the database has no room left. */
export function isFull(e: unknown): boolean {
  for (let at = e; at instanceof Error; at = at.cause) {
    const { code } = at as NodeJS.ErrnoException;
    if (at instanceof DiskFull || (code && (FULL.has(code) || code.startsWith('SQLITE_FULL')))) return true;
    if (/database or disk is full/.test(at.message)) return true;
  }
  return false;
}

/** Writes all of a chunk: a single write may take only a part of it. */
async function writeAll(handle: FileHandle, chunk: Uint8Array): Promise<void> {
  for (let at = 0; at < chunk.length;) {
    const { bytesWritten } = await handle.write(chunk, at, chunk.length - at);
    if (bytesWritten === 0) throw new DiskFull();
    at += bytesWritten;
  }
}

export interface Bounds {
  /** Bytes at most. */
  most?: number;
  /** Bytes that were announced. */
  expected?: number;
}

/**
 * Streams bytes in. Throws `TooLarge` past `most` bytes, `CutShort` where not exactly `expected` bytes came, and `DiskFull`
 * when there is no room; nothing is left behind then.
 */
export async function keepFile(
  store: Store,
  chunks: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  { most = Infinity, expected }: Bounds = {},
): Promise<{ sha256: string; size: number }> {
  const temporary = join(store.folder, 'files', `${INCOMING}${randomUUID()}`);
  const hash = createHash('sha256');
  let size = 0;
  try {
    const handle = await open(temporary, 'wx');
    try {
      for await (const chunk of chunks) {
        size += chunk.length;
        if (size > most) throw new TooLarge();
        hash.update(chunk);
        await writeAll(handle, chunk);
      }
      await handle.sync();
      if ((await handle.stat()).size !== size) throw new DiskFull();
    } finally {
      await handle.close();
    }
    if (expected !== undefined && size !== expected) throw new CutShort();
    const sha256 = hash.digest('hex');
    const path = filePath(store, sha256);
    await mkdir(dirname(path), { recursive: true });
    // The row comes first: a file without a row would never be collected, a row without a file is written again.
    const createdAt = Date.now();
    await store.write((tx) =>
      tx
        .insert(files)
        .values({ sha256, size, createdAt })
        .onConflictDoUpdate({ target: files.sha256, set: { createdAt } }),
    );
    await rename(temporary, path);
    return { sha256, size };
  } catch (e) {
    await rm(temporary, { force: true });
    throw isFull(e) ? new DiskFull() : e;
  }
}
const INCOMING = 'incoming-';

export const keepBytes = (store: Store, bytes: Uint8Array): Promise<{ sha256: string; size: number }> =>
  keepFile(store, [bytes]);
export const readStored = async (store: Store, sha256: string): Promise<Uint8Array> =>
  new Uint8Array(await readFile(filePath(store, sha256)));
/** `from` is the byte at which it begins. */
export const streamStored = (store: Store, sha256: string, from = 0): NodeJS.ReadableStream =>
  createReadStream(filePath(store, sha256), { start: from });
/** Bytes of a kept file; null where there is none. */
export async function storedSize(store: Store, sha256: string): Promise<number | null> {
  if (!isSha256(sha256)) return null;
  try {
    return (await stat(filePath(store, sha256))).size;
  } catch {
    return null;
  }
}

/** How long a file that nothing refers to is kept, in milliseconds: an upload's change may still be on its way. */
const GRACE = 7 * 24 * 3_600_000;
/** A file that has been arriving for longer than this belongs to a process that died. */
const ARRIVING = 6 * 3_600_000;
/** Columns that may name a file. The log counts, so that undo and older versions find their pictures. */
const NAMING = [
  'SELECT meta AS text FROM titles',
  'SELECT value AS text FROM imprint',
  'SELECT arrival AS text FROM arrivals',
  "SELECT change || inverse AS text FROM changes WHERE change LIKE '%sha256%' OR inverse LIKE '%sha256%'",
  "SELECT payload || coalesce(result, '') AS text FROM jobs",
  "SELECT sha256 || ' ' || impression AS text FROM products",
  'SELECT sha256 || parts AS text FROM ebooks',
  "SELECT changes AS text FROM ebook_changes WHERE changes LIKE '%sha256%'",
];

/**
 * Deletes files that nothing refers to, and what uploads that never ended left behind. `now` is for tests.
 * Answers how many files went.
 */
export async function collectFiles(store: Store, now = Date.now()): Promise<number> {
  const folder = join(store.folder, 'files');
  for (const name of await readdir(folder)) {
    if (!name.startsWith(INCOMING)) continue;
    const path = join(folder, name);
    const at = await stat(path).catch(() => null);
    if (at && now - at.mtimeMs > ARRIVING) await rm(path, { force: true });
  }
  const old = await store.db
    .select({ sha256: files.sha256 })
    .from(files)
    .where(lt(files.createdAt, now - GRACE));
  if (old.length === 0) return 0;
  const unnamed = new Set(old.map((f) => f.sha256));
  for (const sql of NAMING)
    for (const row of (await store.client.execute(sql)).rows)
      for (const [sha256] of String(row.text).matchAll(/[0-9a-f]{64}/g)) unnamed.delete(sha256);
  let gone = 0;
  for (const sha256 of unnamed)
    // An upload of the same file writes the row before it puts the file there: it waits for this transaction.
    await store.write(async (tx) => {
      const stale = and(eq(files.sha256, sha256), lt(files.createdAt, now - GRACE));
      if ((await tx.delete(files).where(stale)).rowsAffected === 0) return;
      await rm(filePath(store, sha256), { force: true });
      gone++;
    });
  return gone;
}
