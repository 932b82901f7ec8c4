/** Finds words on composed pages, over the ends of lines and through divided words, as a reader of the print would. */
import { HYPHENATED, sheetLines, type Composition } from '@pagina/core/compose';
import type { FoundOnPage } from './messages';

/** More places than this are not listed. */
const MOST = 500;
const AROUND = 28;

/** Letters in which print and typing may differ are one: quotation marks, dashes, kinds of spaces. */
const plain = (t: string): string =>
  t
    .toLowerCase()
    .replace(/[\u2018\u2019]/g, "'")
    .replace(/[\u201c\u201d]/g, '"')
    .replace(/[\u2013\u2014]/g, '-')
    .replace(/\s/g, ' ');

export function foundOnPages({ pages, words: book }: Composition, wanted: string): FoundOnPage[] {
  const sought = plain(wanted.trim().replace(/\s+/g, ' '));
  const found: FoundOnPage[] = [];
  if (sought === '') return found;
  for (const page of pages) {
    let text = '';
    /** Where each line begins in the text. */
    const starts: number[] = [];
    for (const line of sheetLines(page.body)) {
      starts.push(text.length);
      const t = line.words.map((w) => (w === null ? ' ' : (book.texts[w] ?? ''))).join('');
      text += line.flags & HYPHENATED ? t.slice(0, -1) : `${t} `;
    }
    const search = plain(text);
    for (let at = search.indexOf(sought); at >= 0; at = search.indexOf(sought, at + sought.length)) {
      const end = at + sought.length;
      const lines = starts.flatMap((s, i) => (s < end && (starts[i + 1] ?? text.length) > at ? [i] : []));
      found.push({
        page: page.index,
        lines,
        before: text.slice(Math.max(0, at - AROUND), at),
        shown: text.slice(at, end),
        after: text.slice(end, end + AROUND),
      });
      if (found.length === MOST) return found;
    }
  }
  return found;
}
