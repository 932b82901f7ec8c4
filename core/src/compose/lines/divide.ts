/** Where words may be divided, with both halves measured: worked out once a word, however often it meets a line's end. */
import type { Mp } from '../../base';
import type { Extent, Hyphenator, Word } from '../../type';

export interface Division {
  /** Characters that stay on the line. */
  cut: number;
  /** From the word's left edge to the end of a line that it closes, and to the start of one that it opens. */
  end: Mp;
  start: Mp;
}

/** What hangs outside the measure is not part of a line. */
const division = (word: Word, cut: number, head: Extent, rest: Extent): Division => ({
  cut,
  end: head.width - head.hangRight,
  start: word.width - rest.width + rest.hangLeft,
});

const CORE = /[\p{L}\u2019']+/u;
const FIGURES = /\p{N}/u;
const LETTERS_OR_FIGURES = /[\p{L}\p{N}]/u;
const MIN_CORE = 5;
/** Letters of the Latin alphabet without accents, and apostrophes: the whole of most words. */
const isPlain = (c: number): boolean =>
  (c >= 97 && c <= 122) || (c >= 65 && c <= 90) || c === 0x27 || c === 0x2019;
/** Signs that are neither letters nor figures: those of ASCII, dashes, quotation marks, the ellipsis. */
const isSign = (c: number): boolean =>
  (c > 32 && c < 127 && !(c >= 48 && c <= 57)) || (c >= 0x2013 && c <= 0x201d) || c === 0x2026;

/** Where a word's stretch of plain letters begins and ends, with nothing but signs around it; null for any other word. */
export function plainCore(text: string): [from: number, to: number] | null {
  const n = text.length;
  let from = 0;
  while (from < n && !isPlain(text.charCodeAt(from)) && isSign(text.charCodeAt(from))) from++;
  let to = from;
  while (to < n && isPlain(text.charCodeAt(to))) to++;
  for (let i = to; i < n; i++) {
    const c = text.charCodeAt(i);
    // An undivided word has no second stretch of letters.
    if (isPlain(c) || !isSign(c)) return null;
  }
  return to > from ? [from, to] : null;
}

/**
 * The same of any letters. A compound's parts end at their own dash; anything with two stretches of letters or with figures
 * stays whole.
 */
export function coreByPattern(text: string): [from: number, to: number] | null {
  const m = CORE.exec(text);
  if (!m) return null;
  const to = m.index + m[0].length;
  return LETTERS_OR_FIGURES.test(text.slice(to)) || FIGURES.test(text) ? null : [m.index, to];
}

export class Divider {
  /** By the word's number: all words that a setter divides are of one word book. */
  private readonly known: (readonly Division[] | null)[] = [];
  constructor(private readonly hyphenate: Hyphenator) {}

  of(word: Word): readonly Division[] {
    const { number, text, style } = word;
    const known = number < this.known.length ? this.known[number] : null;
    if (known) return known;
    const divisions: Division[] = [];
    const points = this.points(text);
    for (let i = 0; i < points.length; i++) {
      const cut = points[i] as number;
      divisions.push(
        division(word, cut, style.extent(`${text.slice(0, cut)}-`), style.extent(text.slice(cut))),
      );
    }
    while (this.known.length <= number) this.known.push(null);
    this.known[number] = divisions;
    return divisions;
  }

  /** Hyphenation points of a word with its punctuation: only the letters are looked at. */
  private points(text: string): readonly number[] {
    if (text.length < MIN_CORE) return [];
    const core = plainCore(text) ?? coreByPattern(text);
    if (!core || core[1] - core[0] < MIN_CORE) return [];
    const [from, to] = core;
    const points = this.hyphenate(text.slice(from, to).replace(/\u2019/g, "'"));
    return from === 0 ? points : points.map((p) => p + from);
  }
}

/** Made when it is first wanted: its tables take longer to load than a chapter to set. */
let segmenter: Intl.Segmenter | null = null;
/** A word that is wider than the narrowest line may be broken at any grapheme, without a hyphen. */
export function ruptures(word: Word): readonly Division[] {
  const { text, style } = word;
  segmenter ??= new Intl.Segmenter('en', { granularity: 'grapheme' });
  return [...segmenter.segment(text)]
    .slice(1)
    .map(({ index: cut }) =>
      division(word, cut, style.extent(text.slice(0, cut)), style.extent(text.slice(cut))),
    );
}
