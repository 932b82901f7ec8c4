/** What an outlet has to be told again after a change, and what that costs in time. */
import type { Book, Edition } from '../book';
import { listedAs, listedDifferently, type ListedAs, type ListedField } from '../trade';
import type { Outlet } from './outlet';

/** Details that stand in an ebook too: a file made before they changed no longer agrees with them. */
const IN_FILE: readonly ListedField[] = [
  'title',
  'subtitle',
  'authors',
  'isbn',
  'editionStatement',
  'language',
];

export interface ChangesAt {
  /** The outlet has this very file. */
  has: boolean;
  /** Details that it lists differently. */
  details: ListedField[];
  /** Those of them that stand in the file. */
  inFile: ListedField[];
  /** Whether it looks at the book again. */
  reviewed: boolean;
}

/** `file` is the checksum of the file that it is to have. */
export function changesAt(
  outlet: Outlet,
  book: Pick<Book, 'record' | 'placing'>,
  edition: Edition,
  at: { delivered: string; listed: ListedAs | null },
  file: string | null,
): ChangesAt {
  const has = at.delivered !== '' && at.delivered === file;
  const details = at.listed ? listedDifferently(at.listed, listedAs(book, edition, outlet)) : [];
  return {
    has,
    details,
    inFile: details.filter((f) => IN_FILE.includes(f)),
    reviewed: !has || details.some((f) => outlet.review.after.includes(f)),
  };
}
