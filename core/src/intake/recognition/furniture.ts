/**
 * What the pages of an older file left in the text: heads, page numbers, notes at the foot, the words "The End". They are
 * taken out, and paragraphs that they cut in two are joined.
 */
import { countWords } from '../../base';
import { schema } from '../../book';
import {
  isText,
  Vocabulary,
  type RawBlock,
  type RawManuscript,
  type RawNote,
  type RawParagraph,
} from '../raw';
import { endLines } from './endlines';
import { gatheredNotes } from './gatherednotes';
import { nameHeads, pageNumbers, runningHeads } from './pageheads';
import { typedNotes } from './typednotes';

export interface Furniture {
  blocks: RawBlock[];
  /** Notes that had been typed at the foot of a page, with those of the file. */
  notes: RawNote[];
  /** What was set aside under which rule, and before which of the remaining blocks. */
  removed: { rule: string; text: string; before: number }[];
  /** Paragraphs that had been cut in two. */
  joined: number;
}

const isBlank = (b: RawBlock | undefined): boolean =>
  isText(b) && b.text.trim() === '' && b.pictures.length === 0;

export function withoutFurniture(m: Pick<RawManuscript, 'blocks' | 'notes' | 'author'>): Furniture {
  // Most manuscripts have nothing that would have to be counted.
  let counted: number[] | null = null;
  const words = (at: number): number => (counted ??= wordsBefore(m.blocks))[at] as number;
  const rules = new Map<number, string>();
  const numbers = new Set(pageNumbers(m.blocks, words));
  for (const at of numbers) rules.set(at, 'heads-and-page-numbers');
  for (const at of runningHeads(m.blocks, words, numbers)) rules.set(at, 'heads-and-page-numbers');
  for (const at of nameHeads(m.blocks, m.author)) rules.set(at, 'heads-and-page-numbers');
  for (const at of endLines(m.blocks)) if (!rules.has(at)) rules.set(at, 'end-lines');
  const gathered = gatheredNotes(m.blocks, m.notes, rules);
  const typed = typedNotes(gathered.blocks, m.notes, new Set([...rules.keys(), ...gathered.taken]));
  const taken = new Set([...gathered.taken, ...typed.taken]);
  if (rules.size === 0 && taken.size === 0)
    return { blocks: [...m.blocks], notes: m.notes, removed: [], joined: 0 };
  return {
    notes: [...m.notes, ...gathered.notes, ...typed.notes],
    ...without(typed.blocks, rules, taken, gathered.marks),
  };
}

function without(
  all: readonly RawBlock[],
  rules: ReadonlyMap<number, string>,
  taken: ReadonlySet<number>,
  marks: ReadonlyMap<number, string>,
): Pick<Furniture, 'blocks' | 'removed' | 'joined'> {
  const removed: Furniture['removed'] = [];
  const blocks: RawBlock[] = [];
  const vocabulary = new Vocabulary(() => all.filter(isText).map((b) => b.text));
  let joined = 0;
  let cut = false;
  all.forEach((b, i) => {
    const rule = rules.get(i);
    if (rule || taken.has(i)) {
      if (rule) removed.push({ rule, text: (b as RawParagraph).text, before: blocks.length });
      const mark = marks.get(i);
      if (mark !== undefined) removed.push({ rule: 'note-marks', text: mark, before: blocks.length });
      cut ||= rule !== 'end-lines';
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
      blocks.splice(last, blocks.length, together(before, b, vocabulary));
      joined++;
    } else {
      // So do those before text that begins a paragraph of its own.
      if (cut && isRunning(before) && isRunning(b)) blocks.length = last + 1;
      blocks.push(b);
    }
    cut = false;
  });
  return { blocks, removed, joined };
}

/** Text of a paragraph that heads nothing. */
const isRunning = (b: RawBlock | undefined): boolean =>
  isText(b) && b.outline === 0 && b.pictures.length === 0 && !b.breakBefore && countWords(b.text, 12) >= 12;

/** Words before each block, to tell how far apart two stand. */
function wordsBefore(blocks: readonly RawBlock[]): number[] {
  let n = 0;
  return blocks.map((b) => {
    const before = n;
    n += isText(b) ? countWords(b.text) : 20;
    return before;
  });
}

const goesOn = (a: RawParagraph, b: RawParagraph): boolean =>
  a.pictures.length + b.pictures.length === 0 &&
  !a.list &&
  !b.list &&
  a.outline + b.outline === 0 &&
  !/[.!?:\u2026]["'\u201d\u2019)\]]*\s*$/.test(a.text) &&
  // A name may stand at the head of the next page.
  (/^\s*["'\u201c\u2018(]?\p{Ll}/u.test(b.text) ||
    (/\p{Ll}\s*$/u.test(a.text) && countWords(a.text, 6) >= 6 && !b.bold && b.align === a.align));

function together(a: RawParagraph, b: RawParagraph, vocabulary: Vocabulary): RawParagraph {
  const head = a.text.trimEnd();
  const text = vocabulary.joined(head, b.text.trimStart());
  // Where the two halves of a word were put together, its hyphen is gone.
  const parted = text.length < head.length + b.text.trimStart().length;
  const inline = parted ? withoutLast(a.inline, a.text.length - head.length + 1) : a.inline;
  const space = text.charAt(head.length) === ' ' && !/\s$/.test(a.text) && !/^\s/.test(b.text);
  return {
    ...a,
    inline: [...inline, ...(space ? [schema.text(' ')] : []), ...b.inline],
    text,
    anchors: [...a.anchors, ...b.anchors],
  };
}

/** Inline content without its last letters. */
function withoutLast(inline: RawParagraph['inline'], length: number): RawParagraph['inline'] {
  const last = inline.at(-1);
  if (!last?.isText || (last.text as string).length < length) return inline;
  const text = (last.text as string).slice(0, -length);
  return [...inline.slice(0, -1), ...(text ? [schema.text(text, last.marks)] : [])];
}
