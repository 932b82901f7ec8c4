/** Finds words on composed pages, over the ends of lines and pages and through divided words, as a reader of the print would. */
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
  let text = '';
  /** Where each line begins in the text: its page, and which line of the page it is. */
  const lines: { start: number; page: number; line: number }[] = [];
  let until = { block: '', offset: 0 };
  for (const page of pages) {
    let n = 0;
    for (const line of sheetLines(page.body)) {
      // Between lines stands a space that none shows; not within a divided word, nor after a drop capital.
      const joined = line.block !== '' && line.block === until.block && line.offset === until.offset;
      if (text !== '' && !joined) text += ' ';
      lines.push({ start: text.length, page: page.index, line: n++ });
      const t = line.words.map((w) => (w === null ? ' ' : (book.texts[w] ?? ''))).join('');
      const shown = line.flags & HYPHENATED ? t.slice(0, -1) : t;
      text += shown;
      until = { block: line.block, offset: line.offset + shown.length };
    }
  }
  const search = plain(text);
  let first = 0;
  for (let at = search.indexOf(sought); at >= 0; at = search.indexOf(sought, at + sought.length)) {
    const end = at + sought.length;
    while ((lines[first + 1]?.start ?? Infinity) <= at) first++;
    const { page } = lines[first] as (typeof lines)[number];
    const on: number[] = [];
    // Words that run over the page's end are shown where they begin.
    for (let k = first; k < lines.length; k++) {
      const l = lines[k] as (typeof lines)[number];
      if (l.start >= end || l.page !== page) break;
      on.push(l.line);
    }
    found.push({
      page,
      lines: on,
      before: text.slice(Math.max(0, at - AROUND), at),
      shown: text.slice(at, end),
      after: text.slice(end, end + AROUND),
    });
    if (found.length === MOST) return found;
  }
  return found;
}
