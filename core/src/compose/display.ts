/**
 * A page as a display list: the one description that PDF, screen and fixed pages are drawn from.
 *
 * Numbers in one typed array, so that a page goes to and from a worker without being copied field by field.
 * All lengths are millipoints from the page's top left corner; y is a baseline for glyphs.
 *
 *     TEXT  face size x y n  blockIndex offset flags scale  then n × (glyph, advance, dx, dy, chars)
 *     RULE  x y width thickness
 *     PICT  picture x y width height
 *
 * `scale` is the width of the letters in hundred-thousandths of their own; advances have it in them already.
 * `text` holds the characters of all TEXT commands one after the other; `chars` says how many belong to a glyph.
 */
import type { Mp } from '../base';
import type { Face, Style, Word } from '../type';
import type { Composition, Page, Placed } from './composition';
import type { LineItem } from './flow';
import { Kind } from './breakpoints';
import type { Piece } from './paragraph';
import { lineSpace, shownWord } from './setline';

export const TEXT = 1;
export const RULE = 2;
export const PICT = 3;
export const TEXT_HEAD = 10;
export const GLYPH = 5;
/** Flags of a TEXT command. */
export const HYPHENATED = 1;
export const FURNITURE = 2;
export const LINE_START = 4;

export interface DisplayList {
  ops: Int32Array;
  text: string;
  /** Block ids that TEXT commands point to. */
  blocks: string[];
  width: Mp;
  height: Mp;
}

/** Names faces and pictures by number, the same through a file. */
export interface DisplayIndex {
  face(face: Face): number;
  picture(id: string): number;
}

export function indexOfFile(): DisplayIndex & { faces: Face[]; pictures: string[] } {
  const faces: Face[] = [];
  const pictures: string[] = [];
  const numbers = new Map<Face, number>();
  return {
    faces,
    pictures,
    face(f) {
      let n = numbers.get(f);
      if (n === undefined) {
        n = faces.push(f) - 1;
        numbers.set(f, n);
      }
      return n;
    },
    picture(id) {
      const known = pictures.indexOf(id);
      return known >= 0 ? known : pictures.push(id) - 1;
    },
  };
}

export function displayList(c: Composition, page: Page, index: DisplayIndex): DisplayList {
  const { interior } = c;
  const left = page.side === 'recto' ? interior.margins.inside : interior.margins.outside;
  const out = new Writer(index);
  for (const p of page.furniture) out.placed(p, left, FURNITURE);
  for (const p of page.body) out.placed(p, left, 0);
  return {
    ops: out.ops,
    text: out.text.join(''),
    blocks: out.blocks,
    width: interior.page.width,
    height: interior.page.height,
  };
}

class Writer {
  private buffer = new Int32Array(1 << 14);
  private length = 0;
  readonly text: string[] = [];
  readonly blocks: string[] = [];
  constructor(private readonly index: DisplayIndex) {}

  get ops(): Int32Array {
    return this.buffer.slice(0, this.length);
  }

  private room(n: number): void {
    if (this.length + n <= this.buffer.length) return;
    const bigger = new Int32Array(this.buffer.length * 2);
    bigger.set(this.buffer);
    this.buffer = bigger;
  }

  private put(...values: number[]): void {
    this.room(values.length);
    for (const v of values) this.buffer[this.length++] = v;
  }

  private glyph(id: number, advance: Mp, dx: Mp, dy: Mp, chars: number): void {
    this.room(GLYPH);
    const b = this.buffer;
    b[this.length++] = id;
    b[this.length++] = advance;
    b[this.length++] = dx;
    b[this.length++] = dy;
    b[this.length++] = chars;
  }

  placed({ item, y }: Placed, left: Mp, flags: number): void {
    if (item.kind === 'rule') this.put(RULE, left + item.x, y, item.width, item.thickness);
    else if (item.kind === 'picture')
      this.put(PICT, this.index.picture(item.picture), left + item.x, y, item.width, item.height);
    else this.line(item, y, left, flags);
  }

  private block(id: string): number {
    const last = this.blocks.length - 1;
    return this.blocks[last] === id ? last : this.blocks.push(id) - 1;
  }

  private line(item: LineItem, y: Mp, left: Mp, flags: number): void {
    const space = lineSpace(item);
    const { line, paragraph } = item;
    const { spread, scale } = space;
    const starts = line.from === 0 && line.fromCut === 0;
    let x = left + item.x + (starts ? paragraph.indent : 0);
    if (!starts && item.align === 'justify') x -= shownWord(item, line.from)?.hangLeft ?? 0;
    if (item.align === 'centre') x += (space.target - space.natural) >> 1;
    else if (item.align === 'right') x += space.target - space.natural;
    const block = this.block(paragraph.block);
    let seen = 0;
    let given = 0;
    // One TEXT command for each stretch of one face and size; spaces belong to the stretch before them.
    let head = -1;
    let face: Face | null = null;
    let style: Style | null = null;
    let end = x;
    for (let i = line.from; i <= line.to; i++) {
      const piece = paragraph.pieces[i] as Piece;
      if (piece.kind === 'word') {
        const word = i === line.from || i === line.to ? (shownWord(item, i) as Word) : piece;
        for (const run of word.runs) {
          if (head < 0 || face !== run.face || style !== word.style) {
            face = run.face;
            style = word.style;
            head = this.length;
            const offset = (paragraph.offsets[i] as number) + (i === line.from ? line.fromCut : 0);
            this.put(
              TEXT,
              this.index.face(face),
              style.spec.size,
              end,
              y - style.spec.rise,
              0,
              block,
              offset,
              flags | (end === x ? LINE_START : 0),
              scale,
            );
          }
          const { ids, advances, dx, dy, chars, plain } = run;
          for (let g = 0; g < ids.length; g++) {
            const advance =
              scale === 100_000
                ? (advances[g] as number)
                : Math.round(((advances[g] as number) * scale) / 100_000);
            this.glyph(
              ids[g] as number,
              advance,
              plain ? 0 : Math.round(((dx[g] as number) * scale) / 100_000),
              plain ? 0 : (dy[g] as number),
              chars[g] as number,
            );
            end += advance;
          }
          this.buffer[head + 5] = (this.buffer[head + 5] as number) + ids.length;
        }
        if (i === line.to && line.toCut > 0 && line.kind === Kind.hyphen && head >= 0)
          this.buffer[head + 8] = (this.buffer[head + 8] as number) | HYPHENATED;
        this.text.push(word.shown);
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
      if (head >= 0 && face) {
        this.glyph(face.glyphOf(32), width, 0, 0, 1);
        this.buffer[head + 5] = (this.buffer[head + 5] as number) + 1;
        this.text.push(' ');
      }
      end += width;
    }
  }
}
