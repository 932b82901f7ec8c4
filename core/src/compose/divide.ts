/** Where words may be divided, with both halves shaped: worked out once a word, however often it meets a line's end. */
import type { Hyphenator, Word } from '../type';

export interface Division {
  /** Characters that stay on the line. */
  cut: number;
  /** What is shown before the break, with its hyphen if it has one, and after it. */
  head: Word;
  rest: Word;
}

const NONE: readonly Division[] = [];
const CORE = /[\p{L}\u2019']+/u;
const FIGURES = /\p{N}/u;
const LETTERS_OR_FIGURES = /[\p{L}\p{N}]/u;
const MIN_CORE = 5;

export class Divider {
  private readonly known = new Map<Word, readonly Division[]>();
  constructor(private readonly hyphenate: Hyphenator) {}

  of(word: Word): readonly Division[] {
    let divisions = this.known.get(word);
    if (!divisions) {
      const { text, style } = word;
      divisions = this.points(text).map((cut) => ({
        cut,
        head: style.word(`${text.slice(0, cut)}-`),
        rest: style.word(text.slice(cut)),
      }));
      if (divisions.length === 0) divisions = NONE;
      this.known.set(word, divisions);
    }
    return divisions;
  }

  /** Hyphenation points of a word with its punctuation: only the letters are looked at. */
  private points(text: string): readonly number[] {
    if (text.length < MIN_CORE) return [];
    const m = CORE.exec(text);
    if (!m || m[0].length < MIN_CORE) return [];
    // A compound's parts end at their own dash; anything with two stretches of letters or with figures stays whole.
    if (LETTERS_OR_FIGURES.test(text.slice(m.index + m[0].length)) || FIGURES.test(text)) return [];
    const points = this.hyphenate(m[0].replace(/\u2019/g, "'"));
    return m.index === 0 ? points : points.map((p) => p + m.index);
  }
}

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });
/** A word that is wider than the narrowest line may be broken at any grapheme, without a hyphen. */
export const ruptures = ({ text, style }: Word): readonly Division[] =>
  [...segmenter.segment(text)].slice(1).map(({ index: cut }) => ({
    cut,
    head: style.word(text.slice(0, cut)),
    rest: style.word(text.slice(cut)),
  }));
