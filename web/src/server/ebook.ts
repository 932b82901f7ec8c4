/** Ebooks opened for reading: the last few stay open, so that each of their parts comes at once. */
import { readPackage, type EpubPackage } from '@pagina/core/package';
import { readStored, storedSize } from '@pagina/data';
import { Unanswerable } from './answer';
import { store } from './store';

/** Bytes of an ebook at most: above that a reader on a telephone would refuse it as well. */
const MOST_BYTES = 300_000_000;
/** Bytes of the ebooks that stay open. */
const KEPT_BYTES = 200_000_000;

interface Open {
  size: number;
  book: Promise<EpubPackage>;
}
/** By checksum, the last read at the end. */
const open = new Map<string, Open>();

export async function openEbook(sha: string): Promise<EpubPackage> {
  const known = open.get(sha);
  if (known) {
    open.delete(sha);
    open.set(sha, known);
    return known.book;
  }
  const s = await store();
  const size = await storedSize(s, sha);
  if (size === null) throw new Unanswerable('That file no longer exists.', 404);
  if (size > MOST_BYTES) throw new Unanswerable('That file is too large to be read here.', 413);
  const book = readStored(s, sha).then((bytes) => {
    const read = readPackage(bytes);
    if (!read.ok) throw new Unanswerable(read.refusal.message, 422);
    return read.value;
  });
  open.set(sha, { size, book });
  book.catch(() => open.delete(sha));
  let kept = [...open.values()].reduce((n, o) => n + o.size, 0);
  for (const [oldest, o] of open) {
    if (kept <= KEPT_BYTES || oldest === sha) break;
    open.delete(oldest);
    kept -= o.size;
  }
  return book;
}
