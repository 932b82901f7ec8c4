/** What the rules of the book look at: the book, and its sections read. */
import type { Book, Section } from '../../book';
import { readingOf, type Block, type Reading } from './reading';
import type { Breach } from '../rules';

export interface BookSubject {
  book: Book;
  readings: readonly Reading[];
}

export const bookSubject = (book: Book): BookSubject => ({
  book,
  readings: book.sections.map((s) => readingOf(s, book.record.language)),
});

/** A breach at a section, at a block, or at a character of a block. */
export const atSection = (s: Pick<Section, 'id'>, message: string, more: Partial<Breach> = {}): Breach => ({
  message,
  place: { section: s.id },
  ...more,
});
export const atBlock = (
  s: Pick<Section, 'id'>,
  b: Pick<Block, 'id'>,
  message: string,
  offset?: number,
  more: Partial<Breach> = {},
): Breach => ({
  message,
  place: { section: s.id, block: b.id, ...(offset === undefined ? {} : { offset }) },
  ...more,
});

/** "once", "twice", "3 times". */
export const times = (n: number): string => (n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`);
/** "1 place", "3 places". */
export const places = (n: number): string => (n === 1 ? '1 place' : `${n} places`);
