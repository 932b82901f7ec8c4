/**
 * A page as a display list: the one description that PDF, screen and fixed pages are drawn from.
 *
 * Numbers in one typed array, so that a page goes to and from a worker without being copied field by field.
 * All lengths are millipoints from the page's top left corner; y is a baseline for glyphs.
 *
 *     TEXT  face size x y n  blockIndex offset flags scale  then n × (glyph, advance, dx, dy, chars)
 *     RULE  x y width thickness
 *     PICT  picture x y width height mask
 *     WINDOW  x y width height
 *     INK   colour
 *
 * A WINDOW is what is seen of the next picture; an INK, 0xrrggbb, is the colour of the words and rules that follow, and
 * black until there is one.
 *
 * `face` and `picture` are numbers of the index; `scale` is the width of the letters in hundred-thousandths of their
 * own, and advances have it in them already. `text` holds the characters of all TEXT commands one after the other;
 * `chars` says how many belong to a glyph.
 */
import type { Mp } from '../../base';
import { PLAIN, type WordGlyphs } from '../../type';
import type { Composition, Page } from './composition';
import { PART_MASK } from '../lines';
import {
  FURNITURE,
  HYPHENATED,
  INK,
  LINE,
  LINE_HEAD,
  LOOSE,
  nextOp,
  OVERFULL,
  PICT,
  type Sheet,
} from './sheet';

export const TEXT = 1;
export const TEXT_HEAD = 10;
export const GLYPH = 5;
/** Flag of a TEXT command that begins a line, beside those of the line. */
export const LINE_START = 4;

export interface DisplayList {
  ops: Int32Array;
  text: string;
  /** Block ids that TEXT commands point to. */
  blocks: string[];
  width: Mp;
  height: Mp;
}

/** Numbers faces and pictures in the order in which a file first shows them. */
export class DisplayIndex {
  /** Numbers of the word book. */
  readonly faces: number[] = [];
  readonly pictures: string[] = [];

  face(inBook: number): number {
    const known = this.faces.indexOf(inBook);
    return known >= 0 ? known : this.faces.push(inBook) - 1;
  }
  picture(id: string): number {
    const known = this.pictures.indexOf(id);
    return known >= 0 ? known : this.pictures.push(id) - 1;
  }
}

/** What of a page is drawn; can be sent to another thread. */
export interface DrawnPage {
  body: Sheet;
  furniture: Sheet;
  /** Left edge of the type area. */
  left: Mp;
  width: Mp;
  height: Mp;
}

export function drawnPage({ interior }: Pick<Composition, 'interior'>, page: Page): DrawnPage {
  const { margins, trim } = interior;
  const left = page.side === 'recto' ? margins.inside : margins.outside;
  return { body: page.body, furniture: page.furniture, left, width: trim.width, height: trim.height };
}

/** Room for one page at a time, used again and again. */
let buffer = new Int32Array(1 << 15);

export function displayList(page: DrawnPage, words: WordGlyphs, index: DisplayIndex): DisplayList {
  const out = new Writer(words, index, page.left);
  out.sheet(page.furniture);
  out.sheet(page.body);
  return {
    ops: out.ops,
    text: out.text.join(''),
    blocks: out.blocks,
    width: page.width,
    height: page.height,
  };
}

class Writer {
  private length = 0;
  readonly text: string[] = [];
  readonly blocks: string[] = [];
  constructor(
    private readonly words: WordGlyphs,
    private readonly index: DisplayIndex,
    private readonly left: Mp,
  ) {}

  get ops(): Int32Array {
    return buffer.slice(0, this.length);
  }

  private room(n: number): void {
    if (this.length + n <= buffer.length) return;
    const bigger = new Int32Array(Math.max(buffer.length * 2, this.length + n));
    bigger.set(buffer);
    buffer = bigger;
  }

  sheet({ ops, blocks, pictures }: Sheet): void {
    for (let at = 0; at < ops.length;) {
      const op = ops[at];
      if (op === LINE) {
        at = this.line(ops, at, blocks);
        continue;
      }
      const length = nextOp(ops, at) - at;
      this.room(length);
      for (let k = 0; k < length; k++) buffer[this.length + k] = ops[at + k] as number;
      if (op === PICT) buffer[this.length + 1] = this.index.picture(pictures[ops[at + 1] as number] ?? '');
      const x = this.length + (op === PICT ? 2 : 1);
      if (op !== INK) buffer[x] = (buffer[x] as number) + this.left;
      this.length += length;
      at += length;
    }
  }

  private block(id: string): number {
    const last = this.blocks.length - 1;
    return this.blocks[last] === id ? last : this.blocks.push(id) - 1;
  }

  /** One TEXT command for each stretch of one face, size and rise; spaces belong to the stretch before them. */
  private line(ops: Int32Array, from: number, blocks: readonly string[]): number {
    const { starts, data, texts, spaces } = this.words;
    let x = this.left + (ops[from + 1] as number);
    const y = ops[from + 2] as number;
    const block = this.block(blocks[ops[from + 3] as number] ?? '');
    const flags = ops[from + 5] as number;
    const own = flags & (FURNITURE | LOOSE | OVERFULL | PART_MASK);
    const scale = ops[from + 6] as number;
    let head = -1;
    let face = -1;
    let size = 0;
    let rise = 0;
    let first = LINE_START;
    let at = from + LINE_HEAD;
    for (let n = ops[from + 7] as number; n > 0; n--) {
      const item = ops[at++] as number;
      if (item < 0) {
        const width = -1 - item;
        if (head >= 0) {
          this.room(GLYPH);
          buffer[this.length++] = spaces[face] as number;
          buffer[this.length++] = width;
          buffer[this.length++] = 0;
          buffer[this.length++] = 0;
          buffer[this.length++] = 1;
          buffer[head + 5] = (buffer[head + 5] as number) + 1;
          this.text.push(' ');
        }
        x += width;
        continue;
      }
      const offset = ops[at++] as number;
      let w = starts[item] as number;
      for (let runs = data[w++] as number; runs > 0; runs--) {
        const count = data[w + 4] as number;
        const plain = data[w + 3] === PLAIN;
        if (head < 0 || face !== data[w] || size !== data[w + 1] || rise !== data[w + 2]) {
          face = data[w] as number;
          size = data[w + 1] as number;
          rise = data[w + 2] as number;
          this.room(TEXT_HEAD);
          head = this.length;
          buffer[head] = TEXT;
          buffer[head + 1] = this.index.face(face);
          buffer[head + 2] = size;
          buffer[head + 3] = x;
          buffer[head + 4] = y - rise;
          buffer[head + 5] = 0;
          buffer[head + 6] = block;
          buffer[head + 7] = offset;
          buffer[head + 8] = own | first;
          buffer[head + 9] = scale;
          first = 0;
          this.length += TEXT_HEAD;
        }
        w += 5;
        this.room(count * GLYPH);
        let to = this.length;
        for (let g = 0; g < count; g++) {
          const id = data[w++] as number;
          let advance = data[w++] as number;
          let dx = 0;
          let dy = 0;
          if (!plain) {
            dx = data[w++] as number;
            dy = data[w++] as number;
          }
          if (scale !== 100_000) {
            advance = Math.round((advance * scale) / 100_000);
            dx = Math.round((dx * scale) / 100_000);
          }
          buffer[to++] = id & 0xffff;
          buffer[to++] = advance;
          buffer[to++] = dx;
          buffer[to++] = dy;
          buffer[to++] = id >> 16;
          x += advance;
        }
        this.length = to;
        buffer[head + 5] = (buffer[head + 5] as number) + count;
      }
      this.text.push(texts[item] as string);
    }
    if (flags & HYPHENATED && head >= 0) buffer[head + 8] = (buffer[head + 8] as number) | HYPHENATED;
    return at;
  }
}
