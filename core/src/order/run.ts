/** Lines of the text in which a count goes on: "V" after "IV", "Chapter Six" after "Chapter Five", however they look. */
import type { Node } from 'prosemirror-model';
import { countWords, labelOf } from '../base';
import type { Book } from '../book';
import type { PlaceToDivide } from './inturn';

/** Numbers that may be missing between two members of a run: the sections between them may be in order already. */
const GAP = 3;
/** Words that stand at least between two headings of a run. */
const APART = 40;
const LONGEST = 14;

interface Line extends PlaceToDivide {
  number: number;
  /** Whether a word such as "Chapter" stands before the number. */
  labelled: boolean;
  /** Words of the body above it. */
  words: number;
}

/** The number that heads a line; null for a line that no number heads. */
export function numberAt(book: Book, at: PlaceToDivide): { number: number; labelled: boolean } | null {
  let found: ReturnType<typeof numberIn> = null;
  book.sections
    .find((s) => s.id === at.section)
    ?.content.descendants((n) => {
      if (n.attrs.id === at.block) found = numberIn(n);
    });
  return found;
}

/**
 * Where a run goes on that has this number in this section: upwards after it, downwards before it. From the last place
 * of the book to its first, as dividing wants them.
 */
export function placesInRun(
  book: Book,
  section: string,
  { number, labelled }: { number: number; labelled: boolean },
): PlaceToDivide[] {
  const lines = linesOf(book).filter((l) => l.labelled === labelled);
  const start = lines.findIndex((l) => l.section === section && l.number === number);
  const from = start >= 0 ? start : lines.findIndex((l) => isAfter(book, l.section, section));
  const places: PlaceToDivide[] = [];
  let last = number;
  let words = start >= 0 ? (lines[start] as Line).words : -APART;
  for (const l of from < 0 ? [] : lines.slice(start >= 0 ? start + 1 : from)) {
    if (l.number <= last || l.number > last + GAP || l.words - words < APART) continue;
    places.unshift(l);
    [last, words] = [l.number, l.words];
  }
  last = number;
  words = start >= 0 ? (lines[start] as Line).words : Infinity;
  const before = start >= 0 ? lines.slice(0, start) : lines.filter((l) => !isAfter(book, l.section, section));
  for (const l of before.reverse()) {
    if (l.number >= last || l.number < last - GAP || words - l.words < APART) continue;
    places.push(l);
    [last, words] = [l.number, l.words];
  }
  return places.map(({ section: s, block }) => ({ section: s, block }));
}

const isAfter = (book: Book, a: string, b: string): boolean =>
  book.sections.findIndex((s) => s.id === a) > book.sections.findIndex((s) => s.id === b);

/** Lines of the body that a number heads and that have text above them in their section. */
function linesOf(book: Book): Line[] {
  const out: Line[] = [];
  let words = 0;
  for (const s of book.sections) {
    if (s.matter !== 'body') continue;
    s.content.forEach((n, _offset, i) => {
      const here = i > 0 ? numberIn(n) : null;
      if (here) out.push({ section: s.id, block: n.attrs.id as string, ...here, words });
      if (n.type.name !== 'noteBody') words += countWords(n.textBetween(0, n.content.size, ' ', ' '));
    });
  }
  return out;
}

function numberIn(n: Node): { number: number; labelled: boolean } | null {
  if (!/^(?:subhead|paragraph)$/.test(n.type.name) || n.content.size > 160) return null;
  const label = labelOf(n.textBetween(0, n.content.size, ' ', ' '));
  if (!label || label.number === null || label.doubt > 0.5 || countWords(label.title) > LONGEST) return null;
  // "Three men came in." is text; "3. The Well" is not.
  if (label.level === null && /[.,;:!?\u2026]["\u201d\u2019]?$/.test(label.title)) return null;
  return { number: label.number, labelled: label.level !== null };
}
