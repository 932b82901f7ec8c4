/**
 * Words of the source that a book does not have. Both are lists of words in order; the book may have moved some (notes
 * to the end of their section, a title to the title page), so a word is looked for by its neighbours first, and by the
 * number of times it occurs after that.
 *
 * A word is compared by its letters and figures alone, in small letters and without accents, as a number made of them:
 * a novel has two hundred thousand words, and nearly always all of them are there.
 */

import { FNV_PRIME } from '../../base';

export interface Words {
  text: string;
  count: number;
  /** A number for each word's letters and figures. */
  keys: Float64Array;
  /** Where each begins and ends in the text. */
  from: Int32Array;
  to: Int32Array;
  /** A sum over the words, in whatever order: equal lists have equal sums. */
  sum: number;
}

/** What a character stands for when words are compared: 0 nothing, -1 the end of a word, else a letter's code. */
const KINDS = new Int32Array(65_536).fill(-2);
function kindOf(unit: number): number {
  let kind = KINDS[unit] as number;
  if (kind !== -2) return kind;
  const c = String.fromCharCode(unit);
  if (/\s/.test(c)) kind = -1;
  else {
    const base = c.normalize('NFD').charAt(0).toLowerCase();
    kind = /[\p{L}\p{N}]/u.test(base) ? base.charCodeAt(0) : 0;
  }
  KINDS[unit] = kind;
  return kind;
}

export function wordsIn(text: string): Words {
  const most = (text.length >> 1) + 1;
  const keys = new Float64Array(most);
  const from = new Int32Array(most);
  const to = new Int32Array(most);
  let count = 0;
  let begun = -1;
  let low = 0;
  let high = 0;
  let sum = 0;
  const end = (at: number): void => {
    if (begun >= 0 && (low | high) !== 0) {
      // Two hashes make 53 bits, as many as a number holds exactly.
      keys[count] = (high >>> 0) * 0x200000 + (low & 0x1fffff);
      from[count] = begun;
      to[count] = at;
      // Squared, so that it is not the letters alone that add up.
      sum = (sum + Math.imul(low, low ^ high)) | 0;
      count++;
    }
    begun = -1;
    low = high = 0;
  };
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    let kind = kindOf(unit);
    if (kind === -1) {
      end(i);
      continue;
    }
    if (begun < 0) begun = i;
    if (unit >= 0xd800 && unit < 0xdc00) {
      // A sign of two units counts by what both make.
      const sign = String.fromCodePoint(text.codePointAt(i) as number);
      kind = /[\p{L}\p{N}]/u.test(sign) ? (text.codePointAt(i) as number) : 0;
      i += sign.length - 1;
    }
    if (kind === 0) continue;
    // FNV-1a (Fowler, Noll, Vo) and a second one with another prime.
    low = Math.imul(low ^ kind, FNV_PRIME) + 1;
    high = Math.imul(high ^ kind, 2_654_435_761) + 1;
  }
  end(text.length);
  return { text, count, keys, from, to, sum };
}

/** A formula counts as one word: where spaces stand in it differs from format to format. */
export const formulaWord = (signs: string): string => ` ${signs.replace(/\s+/g, '')} `;

export interface MissingRun {
  /** The words as they are written in the source. */
  text: string;
  words: number;
  /** Index in the book's words near which they stood; -1 before all. */
  after: number;
}

/** Words beside each other that must agree for a place to count as found. */
const NEIGHBOURS = 3;

export interface Missing {
  runs: MissingRun[];
  /** Words that a line's end parts in the source ("drai-", "nage") and that are whole in the book. */
  joined: number;
}

/** Words of the source between the halves of one at most: a page number and a head may stand there. */
const APART = 16;

export function missingRuns(source: Words, book: Words): Missing {
  if (source.count === book.count && source.sum === book.sum) return { runs: [], joined: 0 };
  const owed = new Map<number, number>();
  for (let i = 0; i < source.count; i++) {
    const key = source.keys[i] as number;
    owed.set(key, (owed.get(key) ?? 0) + 1);
  }
  for (let i = 0; i < book.count; i++) {
    const key = book.keys[i] as number;
    owed.set(key, (owed.get(key) ?? 0) - 1);
  }
  const joined = joinHalves(source, owed);
  dropMarks(source, owed);
  for (const [w, n] of owed) if (n <= 0) owed.delete(w);
  if (owed.size === 0) return { runs: [], joined };
  const inBook = shared(source, book, (w) => owed.has(w));
  const taken = new Set<number>();
  // First what has no neighbours in the book, then, for what is still owed, wherever the word stands.
  for (const strict of [true, false])
    for (let i = 0; i < source.count; i++) {
      const left = owed.get(source.keys[i] as number);
      if (left === undefined || taken.has(i) || (strict && inBook.has(i))) continue;
      taken.add(i);
      if (left > 1) owed.set(source.keys[i] as number, left - 1);
      else owed.delete(source.keys[i] as number);
    }
  const starts = [...taken].filter((i) => !taken.has(i - 1)).sort((a, b) => a - b);
  const before = placesOf(
    starts.map((i) => triple(source, i - NEIGHBOURS)),
    book,
  );
  const runs = starts.map((first, n) => {
    let last = first;
    while (taken.has(last + 1)) last++;
    const written: string[] = [];
    for (let i = first; i <= last; i++) written.push(source.text.slice(source.from[i], source.to[i]));
    return { text: written.join(' '), words: written.length, after: before[n] ?? -1 };
  });
  return { runs, joined };
}

/** Settles words with the mark of a note behind them ("supper.1", "said.[1]") against the same words without. */
function dropMarks(source: Words, owed: Map<number, number>): void {
  for (let i = 0; i < source.count; i++) {
    const key = source.keys[i] as number;
    if ((owed.get(key) ?? 0) <= 0) continue;
    const m = /^(.*\p{L}[^\p{L}\p{N}]*?)\[?\d{1,3}\]?[^\p{L}\p{N}]*$/su.exec(
      source.text.slice(source.from[i], source.to[i]),
    );
    const bare = m ? (wordsIn(m[1] as string).keys[0] as number) : NaN;
    if ((owed.get(bare) ?? 0) >= 0) continue;
    owed.set(key, (owed.get(key) ?? 0) - 1);
    owed.set(bare, (owed.get(bare) ?? 0) + 1);
  }
}

/** Settles halves of words against whole ones that the book has too many of; gives how many there were. */
function joinHalves(source: Words, owed: Map<number, number>): number {
  let joined = 0;
  const written = (i: number): string => source.text.slice(source.from[i], source.to[i]);
  const owes = (i: number): boolean => (owed.get(source.keys[i] as number) ?? 0) > 0;
  const less = (key: number, by: number): void => void owed.set(key, (owed.get(key) ?? 0) - by);
  for (let i = 0; i < source.count; i++) {
    const head = written(i);
    if (!/\p{Ll}[-\u00ad\u2010]$/u.test(head)) continue;
    for (let k = i + 1; k <= Math.min(source.count - 1, i + APART); k++) {
      if (!/^\p{Ll}/u.test(written(k))) continue;
      const whole = wordsIn(`${head.slice(0, -1)}${written(k)}`).keys[0] as number;
      const kept = wordsIn(`${head}${written(k)}`).keys[0] as number;
      const one = [whole, kept].find((key) => (owed.get(key) ?? 0) < 0);
      if (one === undefined || !(owes(i) || owes(k))) continue;
      less(one, -1);
      less(source.keys[i] as number, 1);
      less(source.keys[k] as number, 1);
      joined++;
      break;
    }
  }
  return joined;
}

/** A word and the two after it, as one string; '' where there are not three. */
const triple = (w: Words, i: number): string =>
  i < 0 || i + NEIGHBOURS > w.count ? '' : `${w.keys[i]} ${w.keys[i + 1]} ${w.keys[i + 2]}`;

/** Indexes of the words of interest that stand in the book with the same neighbours. */
function shared(source: Words, book: Words, isWanted: (w: number) => boolean): Set<number> {
  /** Windows of three that hold a word of interest; only those are compared. */
  const windows = function* (w: Words): Generator<number> {
    let last = -1;
    for (let i = 0; i < w.count; i++) {
      if (!isWanted(w.keys[i] as number)) continue;
      for (let from = Math.max(last + 1, i - NEIGHBOURS + 1, 0); from <= i; from++) yield (last = from);
    }
  };
  const known = new Set<string>();
  for (const i of windows(book)) known.add(triple(book, i));
  known.delete('');
  const found = new Set<number>();
  for (const i of windows(source))
    if (known.has(triple(source, i))) for (let k = 0; k < NEIGHBOURS; k++) found.add(i + k);
  return found;
}

/** Where each of the windows ends in the book; undefined where it is not there. */
function placesOf(wanted: readonly string[], book: Words): (number | undefined)[] {
  const places = new Map<string, number>();
  const firsts = new Set(wanted.filter((w) => w !== '').map((w) => Number(w.slice(0, w.indexOf(' ')))));
  for (let i = 0; i < book.count; i++)
    if (firsts.has(book.keys[i] as number)) places.set(triple(book, i), i + NEIGHBOURS - 1);
  return wanted.map((w) => places.get(w));
}
