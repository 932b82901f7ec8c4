/**
 * What stands on a page, before it is drawn: lines of word numbers and spaces, rules, pictures, in one array of numbers.
 * A book of a thousand pages is some megabytes of these, which other threads take without copying field by field.
 *
 * Lengths are millipoints; x is from the left of the type area, y (a baseline for lines, a top edge for pictures) from
 * the head of the page.
 *
 *     LINE  x y block offset flags scale n  then n items: a word as its number and its offset in the block,
 *                                           a space as −1 − its width
 *     RULE  x y width thickness
 *     PICT  picture x y width height mask
 *     WINDOW  x y width height: what is seen of the next picture
 *     INK   colour as 0xrrggbb, for the words and rules that follow; black before the first
 */
import type { Mp } from '../../base';
import type { Style, Word } from '../../type';
import { Kind } from '../lines';
import type { Item, LineItem } from '../lines';
import { PART_MASK, PART_SHIFT } from '../lines';
import { lineSpace, shownWord } from '../lines';

export const LINE = 1;
export const RULE = 2;
export const PICT = 3;
export const WINDOW = 4;
export const INK = 5;
export const LINE_HEAD = 8;
export const RULE_LENGTH = 5;
export const PICT_LENGTH = 7;
export const WINDOW_LENGTH = 5;
export const INK_LENGTH = 2;

/** A word is divided at the line's end, and the last glyph is a hyphen that is not in the text. */
export const HYPHENATED = 1;
/** Not the author's text: heads, folios. */
export const FURNITURE = 2;
/** The line ends in a hyphen of either sort. */
export const ENDS_IN_HYPHEN = 8;
export const OVERFULL = 16;
/** The mean word space is over a third of the em. */
export const LOOSE = 32;
export const TIGHT = 64;
/** The last line of its paragraph. */
export const LAST = 128;
/** A justified line that cannot be filled decently. */
export const UNDERFULL = 1 << 16;
/** It ends within a word, or within words that belong together, that no line could hold: cut without a hyphen. */
export const CUT = 1 << 17;

export interface Sheet {
  ops: Int32Array;
  /** Ids of the blocks that lines point to; '' for words that no block holds. */
  blocks: readonly string[];
  /** Ids of pictures. */
  pictures: readonly string[];
}

export const EMPTY_SHEET: Sheet = { ops: new Int32Array(0), blocks: [], pictures: [] };

/** A line of a sheet as its readers want it. */
export interface SheetLine {
  x: Mp;
  y: Mp;
  block: string;
  /** Of the line's first character in its block. */
  offset: number;
  flags: number;
  /** Numbers of the words on it, null for spaces. */
  words: readonly (number | null)[];
}

/** The lines of a sheet in the order in which they were set. */
export function* sheetLines({ ops, blocks }: Sheet): Generator<SheetLine> {
  for (let at = 0; at < ops.length; at = nextOp(ops, at)) {
    if (ops[at] !== LINE) continue;
    const words: (number | null)[] = [];
    let k = at + LINE_HEAD;
    for (let n = ops[at + 7] as number; n > 0; n--) {
      const item = ops[k++] as number;
      if (item < 0) words.push(null);
      else {
        words.push(item);
        k++;
      }
    }
    yield {
      x: ops[at + 1] as number,
      y: ops[at + 2] as number,
      block: blocks[ops[at + 3] as number] ?? '',
      offset: ops[at + 4] as number,
      flags: ops[at + 5] as number,
      words,
    };
  }
}

/** The lines that hold the author's words, and not what the design adds to them. */
export function* textLines(sheet: Sheet): Generator<SheetLine> {
  for (const line of sheetLines(sheet)) if (line.block !== '' && (line.flags & PART_MASK) === 0) yield line;
}

/** Pictures of a sheet, with the width at which they are drawn. */
export function* sheetPictures({ ops, pictures }: Sheet): Generator<{ picture: string; width: Mp }> {
  for (let at = 0; at < ops.length; at = nextOp(ops, at))
    if (ops[at] === PICT)
      yield { picture: pictures[ops[at + 1] as number] ?? '', width: ops[at + 4] as number };
}

/** Where the command after the one at `at` begins. */
export function nextOp(ops: Int32Array, at: number): number {
  if (ops[at] === RULE) return at + RULE_LENGTH;
  if (ops[at] === PICT) return at + PICT_LENGTH;
  if (ops[at] === WINDOW) return at + WINDOW_LENGTH;
  if (ops[at] === INK) return at + INK_LENGTH;
  let k = at + LINE_HEAD;
  for (let n = ops[at + 7] as number; n > 0; n--) k += (ops[k] as number) < 0 ? 1 : 2;
  return k;
}

/** Room for one sheet at a time, used again and again. */
let room = new Int32Array(1 << 13);

export class SheetWriter {
  private length = 0;
  private readonly blocks: string[] = [];
  private readonly pictures: string[] = [];
  /** Characters that no face has. */
  readonly missing: { char: string; block: string }[] = [];

  done(): Sheet {
    return { ops: room.slice(0, this.length), blocks: this.blocks, pictures: this.pictures };
  }

  private need(n: number): void {
    if (this.length + n <= room.length) return;
    const bigger = new Int32Array(Math.max(room.length * 2, this.length + n));
    bigger.set(room);
    room = bigger;
  }

  private head(a: number, b: number, c: number, d: number, e: number): void {
    this.need(LINE_HEAD);
    room[this.length++] = a;
    room[this.length++] = b;
    room[this.length++] = c;
    room[this.length++] = d;
    room[this.length++] = e;
  }

  item(item: Item, y: Mp, flags = 0): void {
    if (item.kind === 'rule') this.head(RULE, item.x, y, item.width, item.thickness);
    else if (item.kind === 'picture') {
      this.head(PICT, this.pictures.push(item.picture) - 1, item.x, y, item.width);
      room[this.length++] = item.height;
      room[this.length++] = item.mask;
    } else this.line(item, y, flags);
  }

  /** Shows no more of the next picture than lies in there. */
  window({ x, y, width, height }: { x: Mp; y: Mp; width: Mp; height: Mp }): void {
    this.head(WINDOW, x, y, width, height);
  }

  /** The colour, as 0xrrggbb, of the words and rules that follow. */
  ink(colour: number): void {
    this.need(INK_LENGTH);
    room[this.length++] = INK;
    room[this.length++] = colour;
  }

  private block(id: string): number {
    const last = this.blocks.length - 1;
    return this.blocks[last] === id ? last : this.blocks.push(id) - 1;
  }

  private line(item: LineItem, y: Mp, flags: number): void {
    const space = lineSpace(item);
    const { line, paragraph: p } = item;
    const { spread, scale } = space;
    const starts = line.from === 0 && line.fromCut === 0;
    let x = item.x + (starts ? p.indent : 0);
    if (!starts && item.align === 'justify') x -= shownWord(item, line.from)?.hangLeft ?? 0;
    if (item.align === 'centre') x += (space.target - space.natural) >> 1;
    else if (item.align === 'right') x += space.target - space.natural;
    const at = this.length;
    this.head(LINE, x, y, this.block(p.block), (p.offsets[line.from] ?? 0) + line.fromCut);
    room[this.length++] = flags | factsOf(item, space) | (p.part << PART_SHIFT);
    room[this.length++] = scale;
    this.length++;
    this.need((line.to - line.from + 1) * 2);
    let seen = 0;
    let given = 0;
    let n = 0;
    /** Stretches that are struck through and underlined, while they last. */
    const open: Record<'struck' | 'underlined', LineDrawn | null> = { struck: null, underlined: null };
    const rules: LineDrawn[] = [];
    let drawn = false;
    let pen = x;
    for (let i = line.from; i <= line.to; i++) {
      const piece = p.pieces[i];
      if (!piece) continue;
      n++;
      if (piece.kind === 'word') {
        const word = i === line.from || i === line.to ? (shownWord(item, i) as Word) : piece;
        if (word.missing !== '') for (const char of word.missing) this.missing.push({ char, block: p.block });
        room[this.length++] = word.number;
        room[this.length++] = (p.offsets[i] as number) + (i === line.from ? line.fromCut : 0);
        const width = scale === 100_000 ? word.width : Math.round((word.width * scale) / 100_000);
        const { struck, underlined } = word.style.spec;
        // Next to no word has a line drawn through it or under it.
        if (drawn || struck || underlined) {
          for (const how of LINES_DRAWN) {
            const now = open[how];
            if (!word.style.spec[how] || width <= 0) open[how] = null;
            else if (now) now.to = pen + width;
            else rules.push((open[how] = { from: pen, to: pen + width, style: word.style, how }));
          }
          drawn = rules.length > 0;
        }
        pen += width;
        continue;
      }
      let width = piece.width;
      if (piece.stretch > 0 && space.count > 0) {
        // Rounded on the running sum, so that the line's end is exact to the millipoint.
        seen++;
        const due = Math.round((spread * seen) / space.count);
        width += due - given;
        given = due;
      }
      room[this.length++] = -1 - Math.max(0, width);
      pen += Math.max(0, width);
      if (drawn) for (const how of LINES_DRAWN) if (!piece.style.spec[how]) open[how] = null;
    }
    room[at + 7] = n;
    for (const { from, to, style, how } of rules) {
      const { size, rise } = style.spec;
      const height = how === 'struck' ? (style.face.xHeight / style.face.upem) * size * 0.5 : -size * 0.12;
      this.head(RULE, from, Math.round(y - rise - height), to - from, Math.max(300, Math.round(size / 22)));
    }
  }
}

/** A line drawn through letters or under them. */
interface LineDrawn {
  from: Mp;
  to: Mp;
  style: Style;
  how: 'struck' | 'underlined';
}
const LINES_DRAWN = ['struck', 'underlined'] as const;

/** What the report counts of a line. */
function factsOf(item: LineItem, space: ReturnType<typeof lineSpace>): number {
  const { line } = item;
  const divided = line.kind === Kind.hyphen;
  let facts = divided && line.toCut > 0 ? HYPHENATED : 0;
  if (divided || (line.kind === Kind.dash && endsInHyphen(item))) facts |= ENDS_IN_HYPHEN;
  if (space.overfull) facts |= OVERFULL;
  const size = sizeOf(item);
  if (item.align === 'justify' && space.count > 0 && space.mean > size / 3) facts |= LOOSE;
  if (item.align === 'justify' && !line.last && line.kind !== Kind.forced && isUnderfull(space, size))
    facts |= UNDERFULL;
  if (line.kind === Kind.rupture) facts |= CUT;
  if (line.ratio < -0.9) facts |= TIGHT;
  if (line.last) facts |= LAST;
  return facts;
}

function endsInHyphen({ paragraph, line }: LineItem): boolean {
  const piece = paragraph.pieces[line.to];
  return piece?.kind === 'word' && /[-\u2010]$/.test(piece.text);
}

/** The size of a line's letters: the largest, since a note's mark or a power doesn’t count. */
function sizeOf({ paragraph, line }: LineItem): Mp {
  let size = 1;
  for (let i = line.from; i <= line.to; i++) {
    const piece = paragraph.pieces[i];
    if (piece?.kind === 'word') size = Math.max(size, piece.style.spec.size);
  }
  return size;
}

/** A justified line that does not reach the measure, or only with holes between its words. */
const isUnderfull = (space: ReturnType<typeof lineSpace>, size: Mp): boolean =>
  space.count === 0 ? space.spread > 1_000 : space.mean > size * 0.7;
