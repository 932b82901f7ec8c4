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
import type { Face } from '../type';
import type { Composition, Page, Placed } from './composition';
import type { LineItem } from './flow';
import { contentOf, lineSpace } from './setline';

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
    ops: Int32Array.from(out.ops),
    text: out.text.join(''),
    blocks: out.blocks,
    width: interior.page.width,
    height: interior.page.height,
  };
}

class Writer {
  readonly ops: number[] = [];
  readonly text: string[] = [];
  readonly blocks: string[] = [];
  constructor(private readonly index: DisplayIndex) {}

  placed({ item, y }: Placed, left: Mp, flags: number): void {
    if (item.kind === 'rule') this.ops.push(RULE, left + item.x, y, item.width, item.thickness);
    else if (item.kind === 'picture')
      this.ops.push(PICT, this.index.picture(item.picture), left + item.x, y, item.width, item.height);
    else this.line(item, y, left, flags);
  }

  private block(id: string): number {
    const last = this.blocks.length - 1;
    return this.blocks[last] === id ? last : this.blocks.push(id) - 1;
  }

  private line(item: LineItem, y: Mp, left: Mp, flags: number): void {
    const content = contentOf(item);
    const space = lineSpace(item);
    const { line, paragraph } = item;
    const starts = line.from === 0 && line.fromCut === 0;
    const first = content[0];
    let x = left + item.x + (starts ? paragraph.indent : 0);
    if (!starts && item.align === 'justify' && first && 'word' in first) x -= first.word.hangLeft;
    const { spread, scale } = space;
    const scaled = (v: number): number => (scale === 100_000 ? v : Math.round((v * scale) / 100_000));
    if (item.align === 'centre') x += (space.target - space.natural) >> 1;
    else if (item.align === 'right') x += space.target - space.natural;
    const block = this.block(paragraph.block);
    let seen = 0;
    let given = 0;
    // One TEXT command for each stretch of one face and size; spaces belong to the stretch before them.
    let head = -1;
    let face: Face | null = null;
    let size = 0;
    let rise = 0;
    let end = x;
    for (const c of content) {
      if ('word' in c) {
        const { spec } = c.word.style;
        c.word.runs.forEach((run, r) => {
          if (head < 0 || face !== run.face || size !== spec.size || rise !== spec.rise) {
            face = run.face;
            size = spec.size;
            rise = spec.rise;
            head =
              this.ops.push(
                TEXT,
                this.index.face(run.face),
                size,
                end,
                y - rise,
                0,
                block,
                c.offset,
                flags | (x === end && r === 0 ? LINE_START : 0),
                scale,
              ) - TEXT_HEAD;
          }
          for (let i = 0; i < run.ids.length; i++)
            this.ops.push(
              run.ids[i] as number,
              scaled(run.advances[i] as number),
              scaled(run.dx[i] as number),
              run.dy[i] as number,
              run.chars[i] as number,
            );
          this.ops[head + 5] = (this.ops[head + 5] as number) + run.ids.length;
          for (const a of run.advances) end += scaled(a);
        });
        if (c.hyphenated && head >= 0) this.ops[head + 8] = (this.ops[head + 8] as number) | HYPHENATED;
        this.text.push(c.word.shown);
        continue;
      }
      let width = c.width;
      if (c.stretch > 0 && space.count > 0) {
        // Rounded on the running sum, so that the line's end is exact to the millipoint.
        seen++;
        const due = Math.round((spread * seen) / space.count);
        width += due - given;
        given = due;
      }
      if (head >= 0 && face) {
        this.ops.push((face as Face).glyphOf(32), width, 0, 0, 1);
        this.ops[head + 5] = (this.ops[head + 5] as number) + 1;
        this.text.push(' ');
      }
      end += width;
    }
  }
}
