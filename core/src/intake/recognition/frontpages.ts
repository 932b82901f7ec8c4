/** The pages before the first heading: title page, copyright page, dedication, epigraph and the like. */
import { countWords } from '../../base';
import type { SectionKind } from '../../book';
import {
  COPYRIGHT_WORDS,
  isBreakText,
  isEmpty,
  isText,
  kindByWords,
  type RawBlock,
  type RawParagraph,
} from '../raw';
import { isContactLine, titleBlock, type TitleBlock, type TitleLine } from './titleblock';

export interface FrontPage {
  /** From this block up to but not with that one. */
  from: number;
  to: number;
  kind: SectionKind;
  reason: string;
  title: TitleBlock | null;
}

/** Blank lines that somebody typed for a new page. */
const BLANKS_FOR_A_PAGE = 5;
/** Words of the longest title page. */
const TITLE_WORDS = 80;

/** `first`: whether these are the first pages of the book, where its title page stands. */
export function frontPages(
  blocks: readonly RawBlock[],
  from: number,
  to: number,
  first: boolean,
  author: string,
): FrontPage[] {
  const pages = split(blocks, from, to);
  const out: FrontPage[] = [];
  let awaited = first;
  for (const [i, page] of pages.entries()) {
    const texts = textsOf(blocks, page.from, page.to);
    const words = countWords(texts.map((b) => b.text).join('\n'));
    const next = pages[i + 1];
    if (awaited && words <= TITLE_WORDS && texts.length > 0 && !isCopyright(texts)) {
      // A half title says the title alone, and the title page says it once more.
      const again = next && texts.length === 1 ? textsOf(blocks, next.from, next.to) : [];
      if (again.some((b) => same(b.text, (texts[0] as RawParagraph).text)) && again.length > 1) {
        out.push({
          ...page,
          kind: 'half-title',
          reason: 'the title alone, before the title page',
          title: null,
        });
        continue;
      }
      out.push({
        ...page,
        kind: 'title-page',
        reason: 'a few lines on the first page',
        title: titleBlock(linesOf(blocks, page.from, page.to), author),
      });
      awaited = false;
      continue;
    }
    awaited = false;
    const { kind, reason } = pageKind(texts, blocks.slice(page.from, page.to).every(isWords));
    out.push({ ...page, kind, reason, title: null });
  }
  return out;
}

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
const textsOf = (blocks: readonly RawBlock[], from: number, to: number): RawParagraph[] =>
  blocks.slice(from, to).filter((b): b is RawParagraph => isText(b) && b.text.trim() !== '');

function linesOf(blocks: readonly RawBlock[], from: number, to: number): TitleLine[] {
  const out: TitleLine[] = [];
  let blanks = 0;
  for (let at = from; at < to; at++) {
    const p = blocks[at];
    if (!isText(p) || p.text.trim() === '') {
      blanks++;
      continue;
    }
    if (!isBreakText(p.text)) out.push({ at, p, text: p.text.replace(/\s+/g, ' ').trim(), blanks });
    blanks = 0;
  }
  return out;
}

/** Pages end at page breaks, and at so many blank lines that they stand for one. */
function split(blocks: readonly RawBlock[], from: number, to: number): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  let start = from;
  let blanks = 0;
  const holds = (a: number, b: number): boolean => blocks.slice(a, b).some((x) => !isEmpty(x));
  for (let at = from; at < to; at++) {
    const b = blocks[at];
    const breaks = isText(b) && b.breakBefore;
    const spaced = blanks >= BLANKS_FOR_A_PAGE && !isEmpty(b) && !isAddress(blocks, start, at);
    if ((breaks || spaced) && holds(start, at)) {
      out.push({ from: start, to: at });
      start = at;
    }
    blanks = isEmpty(b) ? blanks + 1 : 0;
  }
  if (holds(start, to)) out.push({ from: start, to });
  return out;
}

/** The block of an author’s address at the head of a submission, with nothing below it yet: the title stands on the same page. */
function isAddress(blocks: readonly RawBlock[], from: number, to: number): boolean {
  const last = blocks.slice(from, to).findLastIndex((b) => isText(b) && isContactLine(b.text));
  if (last < 0) return false;
  let blanks = 0;
  for (const b of blocks.slice(from + last + 1, to)) {
    if (blanks >= BLANKS_FOR_A_PAGE && !isEmpty(b)) return false;
    blanks = isEmpty(b) ? blanks + 1 : 0;
  }
  return true;
}

const isCopyright = (texts: readonly RawParagraph[]): boolean =>
  COPYRIGHT_WORDS.test(texts.map((b) => b.text).join('\n')) &&
  texts.filter((b) => COPYRIGHT_WORDS.test(b.text)).length >= Math.min(2, texts.length / 3);

const isWords = (b: RawBlock): boolean => isText(b) && b.pictures.length === 0;

/** `wordsOnly`: no picture and no table, which a contents list that is set aside would take with it. */
function pageKind(texts: readonly RawParagraph[], wordsOnly: boolean): { kind: SectionKind; reason: string } {
  const all = texts.map((b) => b.text).join('\n');
  const words = countWords(all);
  const listed = texts.filter((b) => /^toc\b/i.test(b.style) || /[.\u2026\t]\s*\d+$/.test(b.text.trim()));
  if (wordsOnly && texts.length > 2 && listed.length > texts.length / 2)
    return { kind: 'contents', reason: 'lines that end in page numbers' };
  if (COPYRIGHT_WORDS.test(all)) return { kind: 'copyright-page', reason: 'the words of a copyright page' };
  const said = texts[0] && kindByWords(texts[0].text.replace(/\s+/g, ' '));
  if (said) return { kind: said, reason: `the words “${texts[0]?.text.trim()}”` };
  if (
    words <= 40 &&
    /^(?:for|to|in (?:loving )?memory of|dedicated to|à|pour|für|meine[rnm]? |in erinnerung an|para|per|a mi|alla|al|voor)\b/i.test(
      all.trim(),
    )
  )
    return { kind: 'dedication', reason: 'a short page that begins like a dedication' };
  if (words <= 120 && texts.length > 1 && isEpigraph(texts))
    return { kind: 'epigraph', reason: 'a quotation with its source' };
  if (words <= 25 && texts.every((b) => b.align === 'centre' || b.italic))
    return { kind: 'dedication', reason: 'a few centred words on a page of their own' };
  return { kind: 'plain', reason: 'a page before the first heading' };
}

/** The last line begins with a dash, or is short and unlike the quoted words above it. */
function isEpigraph(texts: readonly RawParagraph[]): boolean {
  const last = texts.at(-1) as RawParagraph;
  const first = texts[0] as RawParagraph;
  if (texts.some((b) => /^\s*[\u2014\u2013-]\s*\S/.test(b.text)) && !/^\s*[\u2014\u2013-]/.test(first.text))
    return true;
  const quoted = /^["\u201c\u201e\u00ab\u2018]/.test(first.text.trim()) || (first.italic && !last.italic);
  return quoted && countWords(last.text, 12) <= 12;
}
