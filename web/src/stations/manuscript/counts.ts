'use client';
/** Words of the book, of a section and of what is chosen, and how long they take to read. */
import type { Node } from 'prosemirror-model';
import { countWords } from '@pagina/core/base';
import type { Book } from '@pagina/core/book';

/** Words that are read in a minute: common practice says 200 to 250. */
const WORDS_A_MINUTE = 230;

const known = new WeakMap<Node, number>();
export function wordsOf(content: Node): number {
  let n = known.get(content);
  if (n === undefined) {
    n = countWords(content.textBetween(0, content.content.size, ' ', ' '));
    known.set(content, n);
  }
  return n;
}
export const wordsIn = (book: Book): number => book.sections.reduce((n, s) => n + wordsOf(s.content), 0);

/** "48 min", "6 h 20 min". */
export function readingTime(words: number): string {
  const minutes = Math.max(1, Math.round(words / WORDS_A_MINUTE));
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}
