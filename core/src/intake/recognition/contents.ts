/**
 * A contents list that was typed into the manuscript. It never makes sections: what it says (titles, levels, numbers)
 * is evidence for the headings that follow, and its lines are set aside, since the book makes its own list.
 */
import { countWords, labelOf } from '../../base';
import { isEmpty, isText, kindByWords, type RawBlock, type RawParagraph } from '../raw';

export interface TypedContents {
  /** The line that says "Contents", or the first entry where there is none; and the block after the last entry. */
  from: number;
  to: number;
  /** Index of the line that says "Contents"; -1 for none. */
  heading: number;
  entries: Entry[];
}
interface Entry {
  /** Letters and figures of its words, small, without the page number. */
  text: string;
}

const LEADERS = /(?:\s?[.\u2026\u00b7_]\s?){2,}\s*|\t+\s*|\s{3,}/u;
const PAGE = /^(?:p\.?\s*)?(?:\d{1,4}|[ivxlc]{1,6})\.?$/i;
/** "CHAPTER … PAGE" over the columns. */
const COLUMNS = /^(chapter|kapitel|chapitre|part)?\s*(page|seite|p\.)$/i;
const LONG = 160;

/** Letters and figures alone, small: how lines of the contents and headings are compared. */
export const plainText = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** The text of an entry, whether a page number may end it, and whether leaders say that it does. */
function entryOf(line: string): { text: string; paged: boolean; leaders: boolean } {
  const t = line.trim();
  const m = /^(.*\S)\s+(\S+)$/su.exec(t);
  if (m && PAGE.test(m[2] as string)) {
    const body = (m[1] as string).replace(/(?:\s?[.\u2026\u00b7_]){2,}\s*$/u, '');
    const leaders = LEADERS.test(t.slice(body.trimEnd().length));
    // "CHAPTER 1" ends in its own number.
    const own = labelOf(t)?.title === '';
    return { text: body.trim(), paged: leaders || (/\d$/.test(m[2] as string) && !own), leaders };
  }
  const stuck = /^(.*?\S)(?:\.{3,}|\u2026{1,}|\t)\s*(\d{1,4}|[ivxlc]{1,6})$/su.exec(t);
  return stuck
    ? { text: (stuck[1] as string).trim(), paged: true, leaders: true }
    : { text: t, paged: false, leaders: false };
}

const isTocStyle = (p: RawParagraph): boolean => /^toc\b/i.test(p.style);

/** The typed contents list, if there is one: under a line that says so, or a run of lines that end in page numbers. */
export function typedContents(blocks: readonly RawBlock[]): TypedContents | null {
  const heading = blocks.findIndex(
    (b) => isText(b) && b.text.length < 60 && kindByWords(b.text.replace(/\s+/g, ' ')) === 'contents',
  );
  const first = heading >= 0 ? heading + 1 : firstPaged(blocks);
  if (first < 0) return null;
  const later = linesAfter(blocks, first);
  const entries: Entry[] = [];
  /** Something says that these are entries, beyond figures at the end of a line: "Chapter 1: Summer 1914". */
  let said = false;
  let to = first;
  let unsure = 0;
  for (let at = first; at < blocks.length; at++) {
    const b = blocks[at];
    if (!isText(b)) break;
    if (isEmpty(b)) continue;
    const text = b.text.trim();
    if (b.pictures.length > 0 || text.length > LONG) break;
    const { text: title, paged, leaders } = entryOf(text);
    const bare = labelOf(title)?.title ?? '';
    const known = [title, bare].some((t) => t !== '' && (later.get(plainText(t)) ?? -1) > at);
    const marked = leaders || isTocStyle(b) || COLUMNS.test(text.replace(/\s+/g, ' '));
    const sure = marked || (paged && b.outline === 0);
    if (b.outline > 0 && !sure) break;
    if (!sure && !known) {
      // A line or two between entries: a part’s name, a title that was changed since.
      if (countWords(text, 12) > 12 || ++unsure > 2 || entries.length === 0) break;
      continue;
    }
    // A heading that begins its page, and is not told of later, is where the book begins.
    if (!sure && b.breakBefore && entries.length > 0) break;
    unsure = 0;
    said ||= marked || known;
    to = at + 1;
    if (!COLUMNS.test(text.replace(/\s+/g, ' '))) entries.push({ text: plainText(title) });
  }
  if (entries.length < (heading < 0 ? 4 : said ? 1 : 2)) return null;
  return { from: heading >= 0 ? heading : first, to, heading, entries };
}

/** Where each short line stands last, by its words. */
function linesAfter(blocks: readonly RawBlock[], from: number): Map<string, number> {
  const out = new Map<string, number>();
  for (let at = from; at < blocks.length; at++) {
    const b = blocks[at];
    if (!isText(b) || b.text.length > LONG || b.text.trim() === '') continue;
    out.set(plainText(b.text), at);
    // "THE FERRY" below "CHAPTER II" is told of as "II. The Ferry".
    const next = blocks.slice(at + 1, at + 4).find((x) => !isEmpty(x));
    if (isText(next) && next.text.length < LONG) out.set(plainText(`${b.text} ${next.text}`), at);
  }
  return out;
}

/** The first of four or more lines in a row that end in page numbers after leaders. */
function firstPaged(blocks: readonly RawBlock[]): number {
  let run = 0;
  let first = -1;
  for (let at = 0; at < blocks.length; at++) {
    const b = blocks[at];
    if (isEmpty(b)) continue;
    const leads = isText(b) && b.text.length < LONG && entryOf(b.text).paged && LEADERS.test(b.text);
    if (!leads && !(isText(b) && isTocStyle(b))) run = 0;
    else if (run++ === 0) first = at;
    if (run >= 4) return first;
  }
  return -1;
}

/** Whether a line of the contents names this heading. */
export class Evidence {
  private readonly entries: ReadonlySet<string>;
  constructor(contents: TypedContents | null) {
    const all = new Set<string>();
    for (const { text } of contents?.entries ?? []) {
      all.add(text);
      const bare = text.replace(/^(?:\d{1,3}|[ivxlc]{1,7})\s+/, '');
      if (bare.length > 2) all.add(bare);
    }
    this.entries = all;
  }
  get isThere(): boolean {
    return this.entries.size > 0;
  }
  names(text: string): boolean {
    if (this.entries.size === 0) return false;
    const t = plainText(text);
    return (
      t !== '' && (this.entries.has(t) || this.entries.has(t.replace(/^(?:\d{1,3}|[ivxlc]{1,7})\s+/, '')))
    );
  }
}
