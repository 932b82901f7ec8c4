/**
 * Heads and page numbers in the text. A page number goes up by one every page or so, alone or beside a head; a head says
 * the same again and again, mostly beside a number; the head of a submission names its author and title.
 */
import { countWords, labelOf } from '../../base';
import { isBreakText, isEmpty, isText, type RawBlock, type RawParagraph } from '../raw';

/** Fewer than so many are no habit. */
const OFTEN = 4;
/** Words between two page numbers: more, and they number something else. */
const PAGE = 900;

const ALONE =
  /^[\s[(\u2013\u2014-]*(?:page|p\.|seite|s\.|página|pagina|pág\.)?\s*(\d{1,4})(?:\s*(?:\/|of|von|de|sur|di|van)\s*\d{1,4})?[\s\])\u2013\u2014-]*$/i;
/** A number before or behind a head, with a gap between. */
const BESIDE =
  /^\s*(\d{1,4})(?:\s{2,}|\t|\s*[|\u00b7\u2022\u2014\u2013]\s*)(\S.{0,70})$|^\s*(\S.{0,70}?)(?:\s{2,}|\t|\s*[|\u00b7\u2022\u2014\u2013]\s*)(\d{1,4})\s*$/u;

function numberIn(text: string): number | null {
  const alone = ALONE.exec(text);
  if (alone) return Number(alone[1]);
  const m = BESIDE.exec(text);
  if (!m) return null;
  // Leaders before the number: a line of a contents list.
  if (/(?:\s?[.\u2026_]){3,}\s*\d+\s*$/.test(text)) return null;
  return Number(m[1] ?? m[4]);
}

export function* pageNumbers(blocks: readonly RawBlock[], at: (block: number) => number): Generator<number> {
  let run: { index: number; number: number }[] = [];
  const runs = [run];
  blocks.forEach((b, index) => {
    // A number with looks of its own is a heading.
    if (!isText(b) || b.bold || b.outline > 0 || b.list || b.pictures.length > 0 || b.text.length > 90)
      return;
    const number = numberIn(b.text);
    if (number === null || (b.breakBefore && ALONE.test(b.text))) return;
    const last = run.at(-1);
    if (last && (number <= last.number || number > last.number + 3)) {
      run = [];
      runs.push(run);
    }
    run.push({ index, number });
  });
  for (const r of runs) {
    const first = r[0];
    const last = r.at(-1);
    if (r.length < OFTEN || !first || !last) continue;
    const each = (at(last.index) - at(first.index)) / (r.length - 1);
    if (r.filter(({ index }) => opens(blocks, index)).length > r.length * 0.6) continue;
    // Pages end anywhere; chapters end where paragraphs do.
    const cut = r.some(({ index }) => cuts(blocks, index));
    if (
      first.number === 1 &&
      !cut &&
      r.every(({ index }) => ALONE.test((blocks[index] as RawParagraph).text))
    )
      continue;
    if (each > 20 && each < PAGE) for (const { index } of r) yield index;
  }
}

/** A number alone at the head of a page, or with blank lines above it, and text that begins below: a chapter’s. */
function opens(blocks: readonly RawBlock[], at: number): boolean {
  const own = blocks[at];
  if (!isText(own) || !ALONE.test(own.text)) return false;
  let blanks = 0;
  let page = own.breakBefore;
  for (let i = at - 1; i >= 0 && isEmpty(blocks[i]); i--) {
    blanks++;
    page ||= (blocks[i] as RawParagraph).breakBefore;
  }
  const below = blocks.slice(at + 1, at + 8).find((b) => !isEmpty(b));
  const begins = !isText(below) || /^[^\p{Ll}]/u.test(below.text.trim());
  return begins && (page ? blanks > 0 : blanks >= 2);
}

/** Whether the paragraph above goes on below. */
function cuts(blocks: readonly RawBlock[], at: number): boolean {
  const above = blocks.slice(Math.max(0, at - 8), at).findLast((b) => !isEmpty(b));
  const below = blocks.slice(at + 1, at + 8).find((b) => !isEmpty(b));
  if (!isText(above) || !isText(below)) return false;
  return !/[.!?:\u2026*#~]["'\u201d\u2019)\]]*\s*$/.test(above.text) || /^\s*\p{Ll}/u.test(below.text);
}

/** Whether a line stands right below the number or the title of a section. */
function belowHeading(blocks: readonly RawBlock[], at: number): boolean {
  const above = blocks.slice(Math.max(0, at - 4), at).findLast((b) => !isEmpty(b));
  return isText(above) && (above.outline > 0 || (above.text.length < 80 && labelOf(above.text) !== null));
}

/** A head without its page number, which stands at either end; "2.1 Sluices" keeps its own. */
const shape = (text: string): string =>
  text
    .replace(/^\s*\d{1,4}(?![\d.])|(?<![\d.])\d{1,4}\s*$/g, '#')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase();

export function* runningHeads(
  blocks: readonly RawBlock[],
  at: (block: number) => number,
  numbers: ReadonlySet<number>,
): Generator<number> {
  const by = new Map<string, number[]>();
  blocks.forEach((b, i) => {
    if (!isText(b) || numbers.has(i) || b.outline > 0 || b.list || b.breakBefore) return;
    const text = b.text.trim();
    // Nearly all of a text ends like a sentence: the rest is asked of few.
    if (
      text === '' ||
      /[.!?,;]["\u201d\u2019]?$/.test(text) ||
      countWords(text, 10) > 10 ||
      isBreakText(text)
    )
      return;
    // Only what looks alike is a habit: the title itself stands larger.
    const key = `${b.size} ${b.bold}\n${shape(text)}`;
    const places = by.get(key);
    if (places) places.push(i);
    else by.set(key, [i]);
  });
  for (const [key, places] of by) {
    const first = places[0] as number;
    const last = places.at(-1) as number;
    if (places.length < OFTEN) continue;
    const each = (at(last) - at(first)) / (places.length - 1);
    if (each < 20 || each > PAGE * 2) continue;
    const beside = places.filter((i) => [i - 2, i - 1, i + 1, i + 2].some((k) => numbers.has(k))).length;
    const said = key.slice(key.indexOf('\n'));
    // "Chapter 1", "Chapter 2": each said once, they are what the heads of pages are called after.
    const texts = new Set(places.map((i) => (blocks[i] as RawParagraph).text.trim()));
    const headings = texts.size === places.length && labelOf([...texts][0] as string)?.level != null;
    const numbered =
      /#/.test(said) &&
      /\p{L}/u.test(said) &&
      !headings &&
      places.filter((i) => belowHeading(blocks, i)).length < places.length / 2;
    if (beside >= places.length * 0.6 || (numbered && each > 120)) yield* places;
  }
}

/** Lines of the first page that name the book and its author are looked for among so many blocks. */
const FIRST_PAGE = 40;
const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/** "Marsh / SALTINGS / 31": the author’s name or the title’s words with a number, as submissions have at their head. */
export function* nameHeads(blocks: readonly RawBlock[], author: string): Generator<number> {
  const names = new Set(wordsOf(author).filter((w) => w.length > 2));
  const first: string[] = [];
  for (const b of blocks.slice(0, FIRST_PAGE)) {
    if (!isText(b) || b.outline > 0) break;
    if (countWords(b.text, 14) > 14) break;
    first.push(b.text);
  }
  const known = new Set(
    [...names, ...first.flatMap(wordsOf)].filter((w) => w.length > 2 && !/^\d+$/.test(w)),
  );
  if (known.size === 0) return;
  for (const [at, b] of blocks.entries()) {
    if (at < first.length || !isText(b) || b.outline > 0 || b.bold || b.list || b.text.length > 80) continue;
    const m =
      /^(.*\S)\s*[/|\u2013\u2014-]\s*(?:(?:page|p\.)\s*)?\d{1,4}\s*$|^\s*\d{1,4}\s*[/|\u2013\u2014-]\s*(\S.*)$/iu.exec(
        b.text,
      );
    const words = m ? wordsOf(m[1] ?? m[2] ?? '') : [];
    if (words.length > 0 && words.length <= 10 && words.every((w) => known.has(w) || w.length <= 3)) yield at;
  }
}
