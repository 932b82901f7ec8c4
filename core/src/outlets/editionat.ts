/** Which edition goes to an outlet. */
import { placingAt, type Book, type Edition } from '../book';
import type { Outlet } from './outlet';

/** Editions that an outlet sells. One that takes a word-processor file makes an ebook of its own. */
export const editionsFor = (outlet: Pick<Outlet, 'sells'>, book: Pick<Book, 'editions'>): Edition[] =>
  book.editions.filter((e) => outlet.sells.some((s) => (s === 'word' ? e.form === 'reflow' : e.form === s)));

/** The edition that is meant for an outlet; null where it sells none of them. */
export function editionAt(
  outlet: Pick<Outlet, 'id' | 'sells'>,
  book: Pick<Book, 'editions' | 'placing'>,
): Edition | null {
  const sold = editionsFor(outlet, book);
  return sold.find((e) => e.id === placingAt(book, outlet.id).edition) ?? sold[0] ?? null;
}
