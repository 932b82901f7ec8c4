/** Files by their SHA-256: written to a temporary name, synced, renamed; equal files are kept once. */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { files } from './schema';
import type { Store } from './open';

export class TooLarge extends Error {}
export class DiskFull extends Error {}

export const filePath = (store: Store, sha256: string): string =>
  join(store.folder, 'files', sha256.slice(0, 2), sha256);

/** Streams bytes in. Throws `TooLarge` past `most` bytes and `DiskFull` when there is no room; nothing is left behind then. */
export async function keepFile(
  store: Store,
  chunks: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  most = Infinity,
): Promise<{ sha256: string; size: number }> {
  const temporary = join(store.folder, 'files', `incoming-${randomUUID()}`);
  const hash = createHash('sha256');
  let size = 0;
  const handle = await open(temporary, 'wx');
  try {
    for await (const chunk of chunks) {
      size += chunk.length;
      if (size > most) throw new TooLarge();
      hash.update(chunk);
      await handle.write(chunk);
    }
    await handle.sync();
  } catch (e) {
    await handle.close();
    await rm(temporary, { force: true });
    throw (e as NodeJS.ErrnoException).code === 'ENOSPC' ? new DiskFull() : e;
  }
  await handle.close();
  const sha256 = hash.digest('hex');
  const path = filePath(store, sha256);
  await mkdir(dirname(path), { recursive: true });
  await rename(temporary, path);
  await store.write((tx) =>
    tx.insert(files).values({ sha256, size, createdAt: Date.now() }).onConflictDoNothing(),
  );
  return { sha256, size };
}

export const keepBytes = (store: Store, bytes: Uint8Array): Promise<{ sha256: string; size: number }> =>
  keepFile(store, [bytes]);
export const readStored = async (store: Store, sha256: string): Promise<Uint8Array> =>
  new Uint8Array(await readFile(filePath(store, sha256)));
export const streamStored = (store: Store, sha256: string): NodeJS.ReadableStream =>
  createReadStream(filePath(store, sha256));
export async function storedSize(store: Store, sha256: string): Promise<number | null> {
  if (!/^[0-9a-f]{64}$/.test(sha256)) return null;
  try {
    return (await stat(filePath(store, sha256))).size;
  } catch {
    return null;
  }
}
