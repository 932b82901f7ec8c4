/** Headings that carry their number: "Chapter Seven: The Boat", "Erstes Kapitel". */
import { CHAPTER_WORDS, PART_WORDS } from './language';
import { fromOrdinal, fromRoman, fromWords } from './numbers';

export interface NumberedHeading {
  kind: 'chapter' | 'part';
  number: number;
  /** What stands after the number: "The Boat" in "Chapter One: The Boat". */
  rest: string;
}

/** "7", "VII", "Seven"; null for anything else. */
export const numberValue = (text: string): number | null =>
  /^\d{1,4}$/.test(text) ? Number(text) : (fromRoman(text) ?? fromWords(text));
const SEPARATOR = /^\s*[:.\u2013\u2014-]+\s*|^\s+/;

const labelled = (word: string): NumberedHeading['kind'] | null =>
  CHAPTER_WORDS.includes(word.toLowerCase())
    ? 'chapter'
    : PART_WORDS.includes(word.toLowerCase())
      ? 'part'
      : null;

/**
 * "CHAPTER 3", "Chapter Seven: The Boat", "PART II", "Chapitre premier", "Erstes Kapitel", "Première partie : La mer".
 * Null for anything else, also for "Chapter and verse".
 */
export function numberedHeading(text: string): NumberedHeading | null {
  const t = text.trim();
  const m = /^([\p{L}]+)\s+(.+)$/u.exec(t);
  const kind = m && labelled(m[1] as string);
  if (!kind) return numberFirst(t);
  // The longest number at the start wins, so that "Twenty One" is not read as "Twenty".
  const tokens = (m[2] as string).split(/(?=[\s:.\u2013\u2014])|(?<=[\s:.\u2013\u2014])/u);
  for (let n = Math.min(tokens.length, 7); n > 0; n--) {
    const head = tokens.slice(0, n).join('').trim();
    const number = numberValue(head) ?? fromOrdinal(head);
    if (number === null) continue;
    const tail = tokens.slice(n).join('');
    if (tail !== '' && !SEPARATOR.test(tail)) continue;
    return { kind, number, rest: tail.replace(SEPARATOR, '').trim() };
  }
  return null;
}

/** "The First Part", "Erstes Kapitel", "1. Kapitel: Die Fähre". */
function numberFirst(t: string): NumberedHeading | null {
  const m = /^((?:the\s+)?[\p{L}]+|\d{1,3}\.)\s+([\p{L}]+)(.*)$/iu.exec(t);
  const kind = m && labelled(m[2] as string);
  if (!kind) return null;
  const number = fromOrdinal(m[1] as string) ?? (Number.parseInt(m[1] as string, 10) || null);
  const tail = m[3] as string;
  if (!number || (tail.trim() !== '' && !/^\s*[:.\u2013\u2014-]/.test(tail))) return null;
  return { kind, number, rest: tail.replace(SEPARATOR, '').trim() };
}
