/** The manuscript as recognition sees it: each block's line of text, what stands above and below, and its looks. */
import { countWords } from '../../base';
import { isBreakText, isEmpty, isText, type RawBlock, type RawParagraph } from '../raw';
import { emptyBefore, looks, MAX_WORDS, signature, surroundings, type Surroundings } from './looks';

export interface Line {
  at: number;
  p: RawParagraph;
  /** Its text with single spaces. */
  text: string;
  words: number;
  /** How much it looks like a heading, and by what. */
  look: number;
  reasons: string[];
  /** What a reader sees of its type. */
  key: string;
  /** Blank lines above, and whether a page begins with it or with one of them. */
  blanks: number;
  page: boolean;
}

/** Characters: no heading that a style does not name is longer. */
const LONG = 400;

export class Page {
  readonly s: Surroundings;
  /** Words before each block. */
  readonly before: Float64Array;
  private readonly lines = new Map<number, Line | null>();

  constructor(readonly blocks: readonly RawBlock[]) {
    this.s = surroundings(blocks);
    this.before = new Float64Array(blocks.length + 1);
    blocks.forEach((b, i) => {
      this.before[i + 1] = (this.before[i] as number) + (isText(b) ? countWords(b.text) : 40);
    });
  }

  /** The block as a line that may head something; null for tables, pictures, lists, long and empty paragraphs. */
  line(at: number): Line | null {
    const known = this.lines.get(at);
    if (known !== undefined) return known;
    const made = this.make(at);
    this.lines.set(at, made);
    return made;
  }

  private make(at: number): Line | null {
    const p = this.blocks[at];
    if (!isText(p) || p.pictures.length > 0 || (p.list && p.outline === 0)) return null;
    if (p.outline === 0 && p.text.length > LONG && !/title/i.test(p.style)) return null;
    const text = p.text.replace(/\s+/g, ' ').trim();
    if (text === '' || isBreakText(text) || /^toc\b/i.test(p.style)) return null;
    // What a style names as quoted, told in a letter or in verse heads nothing.
    if (p.outline === 0 && /verse|poem|quot|letter\b/i.test(p.style)) return null;
    const words = countWords(text);
    const { score, reasons } = looks(this.blocks, at, this.s);
    const above = emptyBefore(this.blocks, at);
    return {
      at,
      p,
      text,
      words,
      look: score,
      reasons,
      key: signature(p),
      blanks: above.lines,
      page: p.breakBefore || above.breaks || at === 0,
    };
  }

  /** Words between two blocks, without those of the first. */
  between(from: number, to: number): number {
    return Math.max(0, (this.before[to] as number) - (this.before[from + 1] as number));
  }

  /** The next block with text, from `at` on; -1 where a table, a picture or a new page comes first. */
  next(at: number): number {
    for (let i = at; i < this.blocks.length; i++) {
      const b = this.blocks[i];
      if (!isText(b) || b.pictures.length > 0) return -1;
      if (b.breakBefore && i > at - 1 && b.text.trim() !== '') return -1;
      if (!isEmpty(b)) return i;
      if (b.breakBefore) return -1;
    }
    return -1;
  }
}

/** Whether a line ends as sentences do: not an abbreviation, a number or a single word with a full stop. */
export const endsLikeSentence = (text: string): boolean =>
  /[.,;!?\u2026]["\u201d\u2019\u00bb)]*$/.test(text) && countWords(text, 3) > 3;

export { MAX_WORDS };
