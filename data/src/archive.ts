/** Kept files as one zip archive, a piece at a time: however large they are, little of it is in memory. */
import { Readable } from 'node:stream';
import { Zip, ZipPassThrough } from 'fflate';
import { streamStored } from './files';
import type { Store } from './open';

/** A file of the archive: bytes, or a kept file by its checksum. */
export type Archived = { name: string } & ({ bytes: Uint8Array } | { sha256: string });

/** What is in them is compressed already: they are only put together. The stream fails if a file can't be read. */
export const archiveOf = (store: Store, files: readonly Archived[]): Readable =>
  Readable.from(pieces(store, files), { objectMode: false });

async function* pieces(store: Store, files: readonly Archived[]): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, piece) => {
    if (error) throw error;
    ready.push(piece);
  });
  for (const file of files) {
    const entry = new ZipPassThrough(file.name);
    entry.mtime = '1980-01-01T00:00:00';
    zip.add(entry);
    const source = 'bytes' in file ? [file.bytes] : streamStored(store, file.sha256);
    for await (const chunk of source) {
      entry.push(chunk as Uint8Array);
      yield* ready.splice(0);
    }
    entry.push(new Uint8Array(0), true);
    yield* ready.splice(0);
  }
  zip.end();
  yield* ready;
}
