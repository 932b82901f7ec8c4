/** All that decides what an outlet is told, gathered from the title and what was made of it. */
import { pagesOf, placingAt, type Book, type Edition } from '../book';
import { NEW_IMPRINT, type Imprint } from './imprint';
import { fileFor, type Account } from './links';
import type { Outlet } from './outlet';
import type { Facts, MadeFile } from './told';
import type { ListedAs } from '../trade';

/** A file that was made of the title, newest first in a list. */
export interface KnownFile extends MadeFile {
  /** What it is made of (`productKeyOf`). */
  edition: string;
  pages: number;
  size: number;
  signedOffAt: number | null;
}

export function factsOf({
  outlet,
  book,
  edition,
  revision,
  files,
  account = null,
  imprint = NEW_IMPRINT,
  live = null,
}: {
  outlet: Outlet;
  book: Book;
  edition: Edition;
  revision: number;
  files: readonly KnownFile[];
  account?: Account | null;
  imprint?: Imprint;
  live?: ListedAs | null;
}): Facts {
  const made: Record<string, MadeFile> = {};
  for (const f of files) made[f.edition] ??= { ...f, signedOff: f.signedOffAt !== null };
  const print = pagesOf(book, edition.id);
  return {
    book,
    edition,
    placing: placingAt(book, outlet.id),
    revision,
    made,
    pages: (print && files.find((f) => f.edition === print.id)?.pages) || null,
    size: files.find((f) => f.edition === fileFor(book, edition.id, outlet.id))?.size ?? 0,
    account,
    live,
    currencies: imprint.currencies,
    taxes: imprint.taxes,
  };
}
