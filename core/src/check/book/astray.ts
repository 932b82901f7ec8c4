/** Words by which a book is to be found, and whether it has anything to do with them. */
import type { Reading } from './reading';

/** Words of a section, each once, as one text. */
const known = new WeakMap<object, string>();
const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
const wordsIn = (text: string): string[] => plain(text).match(/[\p{L}\p{N}]+/gu) ?? [];
const once = (words: readonly string[]): string => ` ${[...new Set(words)].join(' ')} `;

function wordsOf({ section, blocks }: Reading): string {
  const before = known.get(section.content);
  if (before !== undefined) return before;
  const words = once(blocks.flatMap((b) => wordsIn(b.text)));
  known.set(section.content, words);
  return words;
}

/** Shorter words carry too little: "of", "and", "der". Where a phrase has no others, they count. */
const CARRIES = 4;
/** Share of a word's letters that stands for all its forms: "beekee" of "beekeepers". */
const STEM = 0.6;
const stemOf = (word: string): string => word.slice(0, Math.max(CARRIES, Math.ceil(word.length * STEM)));

/** Whether none of a phrase's words, in any of its forms, is found in what is read or said of the book. */
export function isAstray(phrase: string, readings: readonly Reading[], said: readonly string[]): boolean {
  const words = wordsIn(phrase);
  const carrying = words.filter((w) => w.length >= CARRIES);
  const stems = (carrying.length > 0 ? carrying : words).map((w) => ` ${stemOf(w)}`);
  if (stems.length === 0) return false;
  const texts = [once(said.flatMap(wordsIn)), ...readings.map(wordsOf)];
  return !texts.some((text) => stems.some((stem) => text.includes(stem)));
}
