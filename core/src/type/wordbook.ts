/**
 * Every word a typesetter has shaped, its glyphs in one growing array of numbers. A line of text is then a list of word
 * numbers, small enough to keep for a whole book, and what other threads need to draw it is handed over in parts.
 *
 * A word's record, from `starts[word]` on:
 *
 *     runs  then per run: face size rise form count  then per glyph: id | chars << 16, advance [, dx, dy]
 *
 * `form` is `PLAIN` where no glyph is moved off its place, and such a run leaves dx and dy out. Lengths are millipoints;
 * `chars` is the number of UTF-16 units that a glyph stands for.
 */
import type { Mp } from '../base';
import type { Face } from './face';

export const MOVED = 0;
export const PLAIN = 1;

/** What drawing needs to know of words and faces; can be sent to another thread. */
export interface WordGlyphs {
  starts: ArrayLike<number>;
  data: Int32Array;
  /** The characters of each word that have glyphs: what a reader of the page can copy. */
  texts: readonly string[];
  /** Glyph of the word space, by face. */
  spaces: readonly number[];
}

export class WordBook implements WordGlyphs {
  starts = new Int32Array(1 << 12);
  data = new Int32Array(1 << 16);
  readonly texts: string[] = [];
  readonly faces: Face[] = [];
  readonly spaces: number[] = [];
  length = 0;
  private readonly numbers = new Map<Face, number>();

  faceNumber(face: Face): number {
    let n = this.numbers.get(face);
    if (n === undefined) {
      n = this.faces.push(face) - 1;
      this.spaces.push(face.glyphOf(32));
      this.numbers.set(face, n);
    }
    return n;
  }

  /** Makes room for so many numbers more, which are then put with `data[length++]`. */
  room(n: number): void {
    if (this.length + n <= this.data.length) return;
    const bigger = new Int32Array(Math.max(this.data.length * 2, this.length + n));
    bigger.set(this.data);
    this.data = bigger;
  }

  /** Begins a record at the end; `end` gives it its number once it is whole. */
  begin(runs: number): number {
    this.room(1);
    this.data[this.length] = runs;
    return this.length++;
  }
  end(start: number, text: string): number {
    const word = this.texts.push(text) - 1;
    if (word >= this.starts.length) {
      const bigger = new Int32Array(this.starts.length * 2);
      bigger.set(this.starts);
      this.starts = bigger;
    }
    this.starts[word] = start;
    return word;
  }

  /** Puts the head of a run; answers where its glyphs begin. */
  run(face: number, size: Mp, rise: Mp, form: number, count: number): number {
    this.room(5 + count * 4);
    const d = this.data;
    d[this.length++] = face;
    d[this.length++] = size;
    d[this.length++] = rise;
    d[this.length++] = form;
    d[this.length++] = count;
    return this.length;
  }
}

/** What was added to a word book since a part of it was taken. */
export interface WordsPart {
  starts: Int32Array;
  data: Int32Array;
  texts: string[];
  spaces: number[];
}

/** Hands a word book over in parts, each of what is new since the one before. */
export class WordParts {
  private words = 0;
  private length = 0;
  private faces = 0;
  constructor(private readonly book: WordBook) {}

  next(): WordsPart {
    const { book } = this;
    const part: WordsPart = {
      starts: book.starts.slice(this.words, book.texts.length),
      data: book.data.slice(this.length, book.length),
      texts: book.texts.slice(this.words),
      spaces: book.spaces.slice(this.faces),
    };
    this.words = book.texts.length;
    this.length = book.length;
    this.faces = book.spaces.length;
    return part;
  }
}

/** The other end of `WordParts`. */
export class WordCopy implements WordGlyphs {
  readonly starts: number[] = [];
  data = new Int32Array(1 << 18);
  readonly texts: string[] = [];
  readonly spaces: number[] = [];
  private length = 0;

  add(part: WordsPart): void {
    if (this.length + part.data.length > this.data.length) {
      const bigger = new Int32Array(Math.max(this.data.length * 2, this.length + part.data.length));
      bigger.set(this.data.subarray(0, this.length));
      this.data = bigger;
    }
    this.data.set(part.data, this.length);
    this.length += part.data.length;
    for (const s of part.starts) this.starts.push(s);
    for (const t of part.texts) this.texts.push(t);
    for (const s of part.spaces) this.spaces.push(s);
  }
}
