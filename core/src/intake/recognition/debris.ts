/**
 * Heads, feet and page numbers that were typed or copied into the text. A page number stands alone, in plain type, and
 * goes up by one every page or so; a head says the same again and again, mostly beside one. Paragraphs that they cut in
 * two are joined.
 */
import { countWords } from '../../base';
import { schema } from '../../book';
import { isText, type RawBlock, type RawManuscript, type RawParagraph } from '../raw';
import { isBreakText } from '../raw';

/** Fewer than so many are no habit. */
const OFTEN = 4;
/** Words between two page numbers: more, and they number something else. */
const PAGE = 900;

const isBlank = (b: RawBlock): boolean => isText(b) && b.text.trim() === '' && b.pictures.length === 0;
const PAGE_NUMBER =
  /^[\s[(\u2013\u2014-]*(?:page|p\.|seite|s\.|página|pagina|pág\.)?\s*(\d{1,4})(?:\s*(?:\/|of|von|de|sur|di|van)\s*\d{1,4})?[\s\])\u2013\u2014-]*$/i;

export interface Debris {
  blocks: RawBlock[];
  /** What was set aside, and before which of the remaining blocks. */
  removed: { text: string; before: number }[];
  /** Paragraphs that had been cut in two. */
  joined: number;
}

export function withoutFurniture(m: Pick<RawManuscript, 'blocks'>): Debris {
  // Most manuscripts have nothing that would have to be counted.
  let counted: number[] | null = null;
  const words = (at: number): number => (counted ??= wordsBefore(m.blocks))[at] as number;
  const out = new Set<number>([...pageNumbers(m.blocks, words)]);
  for (const at of runningHeads(m.blocks, words, out)) out.add(at);
  if (out.size === 0) return { blocks: [...m.blocks], removed: [], joined: 0 };
  const removed: Debris['removed'] = [];
  const blocks: RawBlock[] = [];
  let joined = 0;
  let cut = false;
  m.blocks.forEach((b, i) => {
    if (out.has(i)) {
      removed.push({ text: (b as RawParagraph).text, before: blocks.length });
      cut = true;
      return;
    }
    if (cut && isBlank(b)) {
      blocks.push(b);
      return;
    }
    // Blank lines around a head belong to it.
    const last = blocks.findLastIndex((x) => !isBlank(x));
    const before = blocks[last];
    if (cut && isText(b) && isText(before) && goesOn(before, b)) {
      blocks.splice(last, blocks.length, together(before, b));
      joined++;
    } else blocks.push(b);
    cut = false;
  });
  return { blocks, removed, joined };
}

/** Words before each block, to tell how far apart two stand. */
function wordsBefore(blocks: readonly RawBlock[]): number[] {
  let n = 0;
  return blocks.map((b) => {
    const before = n;
    n += isText(b) ? countWords(b.text) : 20;
    return before;
  });
}

function* pageNumbers(blocks: readonly RawBlock[], at: (block: number) => number): Generator<number> {
  let run: { index: number; number: number }[] = [];
  const runs = [run];
  blocks.forEach((b, index) => {
    // A number with looks of its own is a heading.
    if (!isText(b) || b.bold || b.outline > 0 || b.breakBefore || b.list || b.pictures.length > 0) return;
    const m = PAGE_NUMBER.exec(b.text);
    if (!m) return;
    const number = Number(m[1]);
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
    if (each > 20 && each < PAGE) for (const { index } of r) yield index;
  }
}

const shape = (text: string): string => text.replace(/\d+/g, '#').replace(/\s+/g, ' ').trim().toLowerCase();

function* runningHeads(
  blocks: readonly RawBlock[],
  at: (block: number) => number,
  numbers: ReadonlySet<number>,
): Generator<number> {
  const by = new Map<string, number[]>();
  blocks.forEach((b, i) => {
    if (!isText(b) || numbers.has(i) || b.outline > 0 || b.list || b.breakBefore) return;
    const text = b.text.trim();
    // Nearly all of a text ends like a sentence: the rest is asked of few.
    if (text === '' || /[.!?,;]["\u201d\u2019]?$/.test(text) || countWords(text) > 10 || isBreakText(text))
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
    const numbered = /#/.test(said) && /\p{L}/u.test(said);
    if (beside >= places.length * 0.6 || (numbered && each > 120)) yield* places;
  }
}

const goesOn = (a: RawParagraph, b: RawParagraph): boolean =>
  a.pictures.length + b.pictures.length === 0 &&
  !a.list &&
  !b.list &&
  a.outline + b.outline === 0 &&
  !/[.!?:\u2026]["'\u201d\u2019)\]]*\s*$/.test(a.text) &&
  /^\s*["'\u201c\u2018(]?\p{Ll}/u.test(b.text);

function together(a: RawParagraph, b: RawParagraph): RawParagraph {
  const space = /\s$/.test(a.text) || /^\s/.test(b.text) ? [] : [schema.text(' ')];
  return {
    ...a,
    inline: [...a.inline, ...space, ...b.inline],
    text: `${a.text}${space.length ? ' ' : ''}${b.text}`,
  };
}
