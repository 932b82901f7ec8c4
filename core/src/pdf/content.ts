/**
 * Content streams: a page's display list as PDF operators (ISO 32000-1 §8 and §9), written as bytes.
 *
 * Glyphs are two-byte codes of an Identity-H font, so a glyph's code is its number in the face. A `TJ` array corrects
 * the pen wherever a glyph's advance on the page (kerning, justified spaces) differs from its width in the font by more
 * than half a thousandth of an em; what is left over is carried along, so a line's end is exact.
 */
import { ptString, type Mp } from '../base';
import {
  FURNITURE,
  GLYPH,
  HYPHENATED,
  INK,
  INK_LENGTH,
  isDecoration,
  LINE_START,
  maskCurves,
  partOf,
  PICT,
  PICT_LENGTH,
  RULE,
  RULE_LENGTH,
  TEXT,
  TEXT_HEAD,
  WINDOW,
  WINDOW_LENGTH,
  type DisplayList,
} from '../compose';
import type { FontUse } from './font';
import type { Run } from './screen';

export class Bytes {
  private buffer = new Uint8Array(1 << 16);
  length = 0;

  /** The bytes themselves, with room for so many more after `length`. */
  room(n: number): Uint8Array {
    if (this.length + n > this.buffer.length) {
      const bigger = new Uint8Array(Math.max(this.buffer.length * 2, this.length + n));
      bigger.set(this.buffer.subarray(0, this.length));
      this.buffer = bigger;
    }
    return this.buffer;
  }
  ascii(s: string): this {
    this.room(s.length);
    for (let i = 0; i < s.length; i++) this.buffer[this.length++] = s.charCodeAt(i);
    return this;
  }
  /** A two-byte code inside a literal string. */
  code(glyph: number): void {
    this.length = putCode(this.room(4), this.length, glyph);
  }
  bytes(b: Uint8Array): this {
    this.room(b.length);
    this.buffer.set(b, this.length);
    this.length += b.length;
    return this;
  }
  clear(): void {
    this.length = 0;
  }
  done(): Uint8Array {
    return this.buffer.slice(0, this.length);
  }
}

const utf16 = (text: string): string =>
  [...Array(text.length).keys()].map((i) => text.charCodeAt(i).toString(16).padStart(4, '0')).join('');
const actualText = (text: string): string => `/Span<</ActualText<feff${utf16(text)}>>>BDC\n`;
const SOFT_HYPHEN = '\u00ad';

/** Marks what is drawn as stretches of the structure (§14.6), each with its number on the page; furniture is an artifact. */
class Marking {
  readonly runs: Run[] = [];
  private now = '';
  /** The last run ended in a hyphen that is not in the text. */
  private divided = false;
  /** Offset in its block at which the last run ended. */
  private until = 0;
  constructor(
    private readonly list: DisplayList,
    private readonly pictures: readonly string[],
    private readonly out: Bytes,
  ) {}

  /**
   * Words of a block or of a part of the design, inside a text object. Answers whether a line of the same words goes
   * on: between them stands a space that no line shows.
   */
  text(at: number): boolean {
    const flags = this.list.ops[at + 8] as number;
    const part = partOf(flags);
    const furniture = (flags & FURNITURE) !== 0 || isDecoration(part);
    const block = this.list.blocks[this.list.ops[at + 6] as number] ?? '';
    const key = furniture ? '/' : `${part} ${block}`;
    const { ops } = this.list;
    const offset = ops[at + 7] as number;
    // Words that follow without a gap, after a drop capital or a dash, are not parted.
    const apart = (flags & LINE_START) !== 0 && !this.divided && offset > this.until;
    this.divided = (flags & HYPHENATED) !== 0;
    this.until = offset;
    for (let g = ops[at + 5] as number; g > 0; g--)
      this.until += ops[at + TEXT_HEAD + (g - 1) * GLYPH + 4] as number;
    if (key === this.now) return key !== '/' && apart;
    this.end();
    this.now = key;
    if (furniture || (part === '' && block === '')) this.out.ascii('/Artifact BMC\n');
    else this.begin('Span', { block, part, picture: '' });
    return false;
  }
  figure(picture: number): void {
    this.end();
    this.now = 'picture';
    this.begin('Figure', { block: '', part: '', picture: this.pictures[picture] ?? '' });
  }
  rule(): void {
    this.end();
    this.now = '/';
    this.out.ascii('/Artifact BMC\n');
  }
  end(): void {
    if (this.now !== '') this.out.ascii('EMC\n');
    this.now = '';
  }
  private begin(tag: string, run: Omit<Run, 'mcid'>): void {
    const mcid = this.runs.push({ mcid: this.runs.length, ...run }) - 1;
    this.out.ascii(`/${tag}<</MCID ${mcid}>>BDC\n`);
  }
}

/** A page's stream with the stretches of its structure. */
export function taggedContent(
  list: DisplayList,
  fonts: readonly FontUse[],
  pictures: readonly string[],
  spaces: readonly number[],
  out: Bytes,
  inks?: ContentOptions['inks'],
): { content: Uint8Array; runs: Run[] } {
  const marking = new Marking(list, pictures, out);
  const content = pageContent(list, fonts, out, { marking, spaces, inks });
  return { content, runs: marking.runs };
}

export interface ContentOptions {
  /** Operator that sets the ink of words and rules; black where it is left out. */
  ink?: string;
  /** Operator that sets a colour, 0xrrggbb, of pages that are drawn in several. */
  inks?: (colour: number) => string;
  marking?: Marking;
  /** Glyph of the word space by face, for what is read aloud. */
  spaces?: readonly number[];
}

/** Draws a page. `fonts[i]` collects the glyphs used of face i. Lengths of the list are from the top; PDF's are from the foot. */
export function pageContent(
  list: DisplayList,
  fonts: readonly FontUse[],
  out: Bytes,
  { ink = '0 g', inks = () => ink, marking, spaces = [] }: ContentOptions = {},
): Uint8Array {
  out.clear();
  const { ops, text, height } = list;
  const y = (v: Mp): string => ptString(height - v);
  let at = 0;
  let char = 0;
  let inText = false;
  let font = -1;
  let size = 0;
  let scale = 100_000;
  let seen = '';
  const begin = (): void => {
    if (inText) return;
    out.ascii('BT\n');
    inText = true;
    font = -1;
    scale = 100_000;
  };
  const end = (): void => {
    if (inText) {
      marking?.end();
      out.ascii('ET\n');
    }
    inText = false;
  };
  out.ascii(`${ink}\n`);
  while (at < ops.length) {
    const op = ops[at] as number;
    if (op === RULE) {
      end();
      const [x, ry, w, t] = [ops[at + 1], ops[at + 2], ops[at + 3], ops[at + 4]] as [
        number,
        number,
        number,
        number,
      ];
      marking?.rule();
      out.ascii(`${ptString(x)} ${y(ry + t)} ${ptString(w)} ${ptString(t)} re f\n`);
      marking?.end();
      at += RULE_LENGTH;
    } else if (op === PICT) {
      end();
      const [n, x, py, w, h, mask] = ops.subarray(at + 1, at + PICT_LENGTH) as unknown as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      marking?.figure(n);
      out.ascii(
        `q ${seen}${clip(mask, x, py, w, h, y)}${ptString(w)} 0 0 ${ptString(h)} ${ptString(x)} ${y(py + h)} cm /P${n} Do Q\n`,
      );
      marking?.end();
      seen = '';
      at += PICT_LENGTH;
    } else if (op === WINDOW) {
      const [x, wy, w, h] = [1, 2, 3, 4].map((k) => ops[at + k] as number) as [
        number,
        number,
        number,
        number,
      ];
      seen = `${ptString(x)} ${y(wy + h)} ${ptString(w)} ${ptString(h)} re W n `;
      at += WINDOW_LENGTH;
    } else if (op === INK) {
      end();
      out.ascii(`${inks(ops[at + 1] as number)}\n`);
      at += INK_LENGTH;
    } else if (op === TEXT) {
      begin();
      const goesOn = marking?.text(at) ?? false;
      const face = ops[at + 1] as number;
      const runSize = ops[at + 2] as number;
      const count = ops[at + 5] as number;
      const flags = ops[at + 8] as number;
      const runScale = ops[at + 9] as number;
      if (goesOn && font >= 0) {
        const space = spaces[font] as number;
        const use = fonts[font] as FontUse;
        use.spells(space, ' ', 0, 1);
        out.ascii('[(');
        out.code(space);
        out.ascii(')]TJ\n');
      }
      if (face !== font || runSize !== size) {
        out.ascii(`/F${face} ${ptString(runSize)} Tf\n`);
        font = face;
        size = runSize;
      }
      if (runScale !== scale) {
        out.ascii(`${ptString(runScale)} Tz\n`);
        scale = runScale;
      }
      out.ascii(`1 0 0 1 ${ptString(ops[at + 3] as number)} ${y(ops[at + 4] as number)} Tm\n`);
      char = glyphs(
        ops,
        at + TEXT_HEAD,
        count,
        text,
        char,
        fonts[face] as FontUse,
        size * (scale / 100_000),
        (flags & HYPHENATED) !== 0,
        out,
      );
      at += TEXT_HEAD + count * GLYPH;
    } else throw new Error(`the display list has an unknown command ${op}`);
  }
  end();
  return out.done();
}

/** Puts a byte of a literal string, escaped where it must be (§7.3.4.2); answers where the next one goes. */
function putByte(to: Uint8Array, at: number, byte: number): number {
  if (byte === 0x28 || byte === 0x29 || byte === 0x5c) to[at++] = 0x5c;
  else if (byte === 0x0d) {
    to[at++] = 0x5c;
    byte = 0x72;
  }
  to[at++] = byte;
  return at;
}
const putCode = (to: Uint8Array, at: number, glyph: number): number =>
  putByte(to, putByte(to, at, glyph >> 8), glyph & 255);

/** Puts a whole number in decimal figures. */
function putNumber(to: Uint8Array, at: number, n: number): number {
  if (n < 0) {
    to[at++] = 0x2d;
    n = -n;
  }
  let unit = 1;
  while (unit * 10 <= n) unit *= 10;
  for (; unit >= 1; unit /= 10) to[at++] = 48 + (Math.floor(n / unit) % 10);
  return at;
}

/** A glyph with what may stand before it: two codes of four bytes, a correction and its brackets. */
const GLYPH_ROOM = 48;

/**
 * Shows a run of glyphs; answers the index of the next character. `em` is the size as drawn, in mp. The bytes are put
 * one by one here: a book has a million glyphs, and calls would cost more than they do.
 */
function glyphs(
  ops: Int32Array,
  from: number,
  count: number,
  text: string,
  char: number,
  use: FontUse,
  em: number,
  hyphenated: boolean,
  out: Bytes,
): number {
  const thousandth = em / 1000;
  const half = thousandth / 2;
  let error = 0;
  let open = false;
  let to = out.room(count * GLYPH_ROOM);
  let at = out.length;
  for (let g = 0; g < count; g++) {
    const k = from + g * GLYPH;
    const id = ops[k] as number;
    const dx = ops[k + 2] as number;
    const dy = ops[k + 3] as number;
    const chars = ops[k + 4] as number;
    const last = hyphenated && g === count - 1;
    let spelled = '';
    if (chars > 0 && !(chars === 1 && use.spellsUnit(id, text.charCodeAt(char))))
      if (!use.spells(id, text, char, chars)) spelled = text.slice(char, char + chars);
    // A mark over a letter stands for no character of its own, and is drawn all the same.
    if (chars === 0) use.add(id);
    if (last) {
      spelled = SOFT_HYPHEN;
      use.add(id);
    }
    char += chars;
    error += dx;
    if (error > half || error < -half) {
      const n = Math.round(error / thousandth);
      if (n !== 0) {
        to[at++] = open ? RIGHT_PAREN : LEFT_BRACKET;
        at = putNumber(to, at, -n);
        if (open) to[at++] = LEFT_PAREN;
        else for (let i = 0; i < SHOWN.length; i++) to[at++] = SHOWN.charCodeAt(i);
        error -= n * thousandth;
      }
    }
    const apart = spelled !== '' || dy !== 0;
    if (apart) {
      out.length = at;
      if (open) out.ascii(`)${SHOWN}`);
      if (spelled !== '') out.ascii(actualText(spelled));
      if (dy !== 0) out.ascii(`${ptString(dy)} Ts\n`);
      open = false;
      to = out.room((count - g) * GLYPH_ROOM);
      at = out.length;
    }
    if (!open) {
      to[at++] = LEFT_BRACKET;
      to[at++] = LEFT_PAREN;
      open = true;
    }
    at = putCode(to, at, id);
    if (apart) {
      out.length = at;
      out.ascii(`)${SHOWN}`);
      open = false;
      if (dy !== 0) out.ascii('0 Ts\n');
      if (spelled !== '') out.ascii('EMC\n');
      to = out.room((count - g) * GLYPH_ROOM);
      at = out.length;
    }
    error += (ops[k + 1] as number) - use.width(id) * thousandth - dx;
  }
  out.length = at;
  if (open) out.ascii(`)${SHOWN}`);
  return char;
}
const LEFT_PAREN = 0x28;
const RIGHT_PAREN = 0x29;
const LEFT_BRACKET = 0x5b;
const SHOWN = ']TJ\n';

/** The path to which a picture is clipped (PDF 1.4 §4.4.3), '' for a whole one. `y` turns heights about. */
function clip(mask: number, x: Mp, top: Mp, width: Mp, height: Mp, y: (mp: Mp) => string): string {
  const at = (px: number, py: number): string => `${ptString(Math.round(x + px))} ${y(Math.round(top + py))}`;
  const path = maskCurves(mask, width, height)?.map((c) =>
    c.to === 'curve'
      ? `${at(c.x1, c.y1)} ${at(c.x2, c.y2)} ${at(c.x, c.y)} c`
      : `${at(c.x, c.y)} ${c.to === 'move' ? 'm' : 'l'}`,
  );
  return path ? `${path.join(' ')} h W n ` : '';
}
