/**
 * What a line says of its own number: "Chapter One: The Boat", "XI", "4 - The Well", "2.1 Sluices". A word or a number
 * that a scanner or a typist got wrong ("CHAPTEE III.", "Chapter Sevn") still labels, with a doubt.
 */
import { CHAPTER_WORDS } from './language';
import { numberedHeading, numberValue } from './numbered';
import { fromOrdinal, fromRoman } from './numbers';

export interface Label {
  /** What the label's word says; null for a number without a word. */
  level: 'chapter' | 'part' | null;
  /** Null where a word labels a number that can’t be read. */
  number: number | null;
  /** The label as it is typed; set aside, since the book numbers by itself. */
  typed: string;
  /** What follows the number. */
  title: string;
  /** 0 for what stands there plainly; each thing that had to be guessed adds to it. */
  doubt: number;
}

/** No book has more chapters: larger numbers are years and sums. */
const MOST = 400;
const SEPARATED = /^(.{1,24}?)\s*(?:[.:)\u2013\u2014]|\s-)+\s+(\S.*)$/u;

const MONTH =
  /^(?:january|february|march|april|may|june|july|august|september|october|november|december|januar|februar|märz|mai|juni|juli|oktober|dezember|janvier|février|mars|avril|juin|juillet|août|septembre|octobre|novembre|décembre|enero|febrero|marzo|abril|mayo|junio|julio|agosto|septiembre|octubre|noviembre|diciembre|gennaio|febbraio|aprile|maggio|giugno|luglio|settembre|ottobre|dicembre)\b/iu;

const APPENDIX =
  /^((?:appendix|appendices|anhang|annexe|apéndice|appendice|bijlage|bilaga|anexo)\s+([A-Z]|\d{1,2}|[IVX]{1,5}))(?:\s*[.:)\u2013\u2014-]+\s*|\s+(?=\p{Lu})|$)(.*)$/iu;

/** "Appendix B: Tides": the label of an appendix, its place in the row, and its title; null for other lines. */
export function appendixLabel(line: string): { typed: string; number: number; title: string } | null {
  const m = APPENDIX.exec(line.replace(/\s+/g, ' ').trim());
  if (!m) return null;
  const mark = (m[2] as string).toUpperCase();
  const number = /^\d/.test(mark)
    ? Number(mark)
    : mark.length === 1 && mark !== 'I'
      ? mark.charCodeAt(0) - 64
      : (fromRoman(mark) ?? 0);
  return number > 0 ? { typed: m[1] as string, number, title: (m[3] as string).trim() } : null;
}

/** Letters that scanners take for those of roman numerals. */
const repaired = (t: string): string =>
  t
    .replace(/[l1|!]/g, 'I')
    .replace(/0/g, 'O')
    .replace(/\u2160/g, 'I');

function valueOf(text: string): { number: number; doubt: number } | null {
  const t = text.trim().replace(/^[\s[(\u2013\u2014\u00a7#-]+|[\s\]).:\u2013\u2014-]+$/gu, '');
  if (t === '' || t.length > 24) return null;
  // A small l amid capitals is an I that was misread, and so is one by itself.
  const misread = t === 'l' || (/^[IVXLCl1|!]*[l1|!][IVXLCl1|!]*$/.test(t) && /[IVXLC|!]|ll/.test(t));
  const roman = misread ? fromRoman(repaired(t)) : null;
  if (roman !== null) return { number: roman, doubt: 0.5 };
  const plain = numberValue(t);
  if (plain !== null) return plain > 0 && plain <= MOST ? { number: plain, doubt: 0 } : null;
  // "Second" may be a title.
  const ordinal = fromOrdinal(t);
  if (ordinal !== null) return { number: ordinal, doubt: 2 };
  return null;
}

/** "CHAPTER l.", "CHAPTER lV.": a small l where the others are capitals, or alone. */
const MISREAD = /^\p{L}+\s+(?:l|(?=[IVXLCl1]*[IVXLC])[IVXLC1]*l[IVXLCl1]*)[.:]?(?:\s|$)/u;

/** The label at the head of a line; null where there is none. */
export function labelOf(line: string): Label | null {
  const text = line.replace(/\s+/g, ' ').trim();
  if (text === '' || text.length > 160) return null;
  const misread = MISREAD.test(text) ? misspelt(text) : null;
  if (misread) return misread;
  const known = numberedHeading(text);
  if (known && known.number > 0 && known.number <= MOST)
    return {
      level: known.kind,
      number: known.number,
      typed: before(text, known.rest),
      title: known.rest,
      doubt: 0,
    };
  return shortened(text) ?? misspelt(text) ?? unlabelled(text);
}

/** "Chap. IV", "Ch. 3: The Boat", "Kap. 2". */
function shortened(text: string): Label | null {
  const m = /^(?:chap|ch|kap|cap)\.\s*(\S.*)$/i.exec(text);
  const rest = m && unlabelled(m[1] as string);
  return rest ? { ...rest, level: 'chapter', typed: before(text, rest.title) } : null;
}

function unlabelled(text: string): Label | null {
  const alone = valueOf(text);
  if (alone) return { level: null, ...alone, typed: text, title: '' };
  const m = SEPARATED.exec(text);
  const first = m && valueOf(m[1] as string);
  if (m && first && !MONTH.test(m[2] as string))
    return { level: null, ...first, typed: before(text, m[2] as string), title: m[2] as string };
  // "7 The Drowned Bell": a figure and a title with nothing between.
  const bare = /^(\d{1,3}|[IVXLC]{2,7})\s+(\p{Lu}\S*(?:\s.*)?)$/u.exec(text);
  // "3 March" is a day.
  const number = bare && !MONTH.test(bare[2] as string) ? valueOf(bare[1] as string) : null;
  if (bare && number)
    return {
      level: null,
      number: number.number,
      typed: bare[1] as string,
      title: bare[2] as string,
      doubt: 1,
    };
  return null;
}

/** "CHAPTEE III.", "Chapter Sevn: The Drowned Bell", "CHAPTER VIl." */
function misspelt(text: string): Label | null {
  const m = /^([\p{L}0|!]{5,12})[\s.]+(\S.*)$/u.exec(text);
  if (!m) return null;
  const word = (m[1] as string).toLowerCase();
  const wrong = Math.min(...CHAPTER_WORDS.map((w) => distance(word, w)));
  if (wrong > 1) return null;
  const rest = m[2] as string;
  const split = SEPARATED.exec(rest);
  for (const [head, title] of [
    [rest, ''],
    [split?.[1] ?? '', split?.[2] ?? ''],
  ] as const) {
    const value = valueOf(head);
    if (value)
      return {
        level: 'chapter',
        number: value.number,
        typed: before(text, title),
        title,
        doubt: value.doubt + wrong,
      };
  }
  // A number that can’t be read stands alone or before a colon; "Chapter houses of the north" is a title.
  const head = (split?.[1] ?? rest).replace(/[.:]$/, '');
  if (wrong > 0 || /\s/.test(head) || head.length > 12 || !nearNumber(head)) return null;
  const title = split?.[2] ?? '';
  return { level: 'chapter', number: null, typed: before(text, title), title, doubt: 1.5 };
}

const NUMBER_WORDS =
  'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen twenty eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf deux trois quatre cinq sept huit neuf onze douze'.split(
    ' ',
  );
const nearNumber = (t: string): boolean =>
  /^[IVXLCl1|!.]+$/.test(t) ||
  /^\p{L}?\d{1,3}\p{L}?$/u.test(t) ||
  NUMBER_WORDS.some(
    (w) => distance(t.toLowerCase(), w) <= (w.length > 3 || sameLetters(t.toLowerCase(), w) ? 1 : 0),
  );

const sameLetters = (a: string, b: string): boolean => [...a].sort().join() === [...b].sort().join();

/** Everything of a line before its title, without the signs between. */
const before = (text: string, title: string): string =>
  text.slice(0, text.length - title.length).replace(/[\s\u2013\u2014-]+$/u, '');

/** Letters to change, add, drop or swap (optimal string alignment); 3 where it is more than 2. */
function distance(a: string, b: string): number {
  if (Math.abs(a.length - b.length) > 2) return 3;
  const d = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (_x, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let best = Math.min(d[i - 1]![j]! + 1, d[i]![j - 1]! + 1, d[i - 1]![j - 1]! + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        best = Math.min(best, d[i - 2]![j - 2]! + 1);
      d[i]![j] = best;
    }
  return Math.min(3, d[a.length]![b.length]!);
}

/** "2.1 When the Gates Were Drawn": how deep a number of several figures counts, 2 for "2.1"; 0 for what is none. */
export function decimalDepth(text: string): { depth: number; numbers: number[] } | null {
  const m = /^(\d{1,3}(?:\.\d{1,3}){1,3})\.?\s+\S/.exec(text.trim());
  if (!m) return null;
  const numbers = (m[1] as string).split('.').map(Number);
  return { depth: numbers.length, numbers };
}
