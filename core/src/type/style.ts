/**
 * A text style at a size, with its cache of shaped words. Words repeat: a novel of 200,000 words has some 30,000
 * different ones, each shaped once. Advances here are millipoints, rounded once a glyph, so that sums always agree.
 */
import { hasUnsetScript, type Mp } from '../base';
import type { Face } from './face';
import { hangLeft, hangRight } from './hang';
import { Pairs } from './pairs';
import { MOVED, PLAIN, type WordBook } from './wordbook';
import { hashOf, WordTable } from './wordtable';

export interface StyleSpec {
  /** Faces in the order in which they are asked for a glyph; the first sets the metrics. */
  chain: readonly Face[];
  size: Mp;
  /** OpenType features such as "smcp", comma-separated. */
  features: string;
  language: string;
  /** Raised (positive) or lowered baseline. */
  rise: Mp;
  /** Added after every glyph. */
  tracking: Mp;
  /** A line is drawn through it. */
  struck?: boolean;
  /** A line is drawn under it. */
  underlined?: boolean;
  /** All its glyphs are of one width, the word space too. */
  fixed?: boolean;
  /** Where its words' glyphs are kept. */
  words: WordBook;
}

/** What a word takes of a line; lengths are millipoints. */
export interface Extent {
  readonly width: Mp;
  /** How far the first and the last glyph may stand outside the measure. */
  readonly hangLeft: Mp;
  readonly hangRight: Mp;
}

/** A shaped word. Shared by every place the word stands in; its glyphs are in the word book under its number. */
export class Word implements Extent {
  readonly kind = 'word';
  constructor(
    readonly style: Style,
    readonly text: string,
    readonly number: number,
    readonly width: Mp,
    readonly hangLeft: Mp,
    readonly hangRight: Mp,
    /** Characters that no face of the chain has. */
    readonly missing: string,
  ) {}
}

/** Every face's glyph for what it does not have (OpenType 1.9, "glyf"): a box, so that nobody overlooks it. */
const BOX = 0;

/** Signs without a shape: soft hyphen, zero-width signs, variation selectors. */
const IGNORABLE = /\u00ad|[\u200b-\u200f]|[\u2060-\u2064]|\ufeff|[\ufe00-\ufe0f]/u;

/** Room to measure a word in that is not made. */
const scratch = new Int32Array(256);

/** How far a text may hang over, its first or its last glyph as wide as that; a text of no characters nowhere. */
const overLeft = (text: string, first: Mp): Mp =>
  text === '' ? 0 : Math.round(first * hangLeft(text.charCodeAt(0)));
const overRight = (text: string, last: Mp): Mp =>
  text === '' ? 0 : Math.round(last * hangRight(text.charCodeAt(text.length - 1)));

export class Style {
  readonly face: Face;
  /** Natural width of the word space. */
  readonly space: Mp;
  private readonly words = new WordTable<Word>();
  private readonly pairs: Pairs;

  constructor(readonly spec: StyleSpec) {
    const face = spec.chain[0];
    if (!face) throw new Error('a style needs a face');
    this.face = face;
    this.pairs = new Pairs(face, spec.features, spec.language, (u) => this.scale(face, u) + spec.tracking);
    this.space = this.scale(face, face.advanceOf(32)) + spec.tracking;
  }

  scale(face: Face, units: number): Mp {
    return Math.round((units * this.spec.size) / face.upem);
  }

  word(text: string): Word {
    return this.wordIn(text, 0, text.length);
  }

  /**
   * The word from `from` to `to` of a longer text; nothing is cut out where it is known already. Whoever reads the letters
   * anyway brings their hash.
   */
  wordIn(text: string, from: number, to: number, hash = hashOf(text, from, to)): Word {
    const { words } = this;
    const known = words.find(text, from, to, hash);
    if (known) return known;
    const own = text.slice(from, to);
    const made = this.joined(own) ?? this.shape(own);
    words.add(made, hash);
    return made;
  }

  /** What a word would take of a line; none is made where its letters join. */
  extent(text: string): Extent {
    const known = this.words.find(text, 0, text.length, hashOf(text));
    if (known) return known;
    const n = text.length * 2;
    const width = n <= scratch.length ? this.pairs.write(text, scratch, 0) : -1;
    if (width < 0) return this.word(text);
    const hangLeft = overLeft(text, scratch[1] as number);
    return { width, hangLeft, hangRight: overRight(text, scratch[n - 1] as number) };
  }

  /** A word whose letters do no more to one another than kern; null for any other. */
  private joined(text: string): Word | null {
    const { words: book, size, rise } = this.spec;
    const n = text.length;
    const start = book.begin(1);
    const at = book.run(book.faceNumber(this.face), size, rise, PLAIN, n);
    const width = this.pairs.write(text, book.data, at);
    if (width < 0) {
      book.length = start;
      return null;
    }
    book.length = at + n * 2;
    const first = book.data[at + 1] as number;
    const last = book.data[book.length - 1] as number;
    return this.made(text, text, start, width, first, last, '');
  }

  private shape(text: string): Word {
    const { words: book, size, rise, tracking, features, language } = this.spec;
    const parts = this.byFace(text);
    let runs = 0;
    let width = 0;
    let missing = '';
    let shown = '';
    let first = 0;
    let last = 0;
    const start = book.begin(0);
    for (const part of parts) {
      const { face } = part;
      if (!face) {
        missing += part.text;
        shown += part.text;
        const boxes = [...part.text];
        book.run(book.faceNumber(this.face), size, rise, PLAIN, boxes.length);
        const advance = this.scale(this.face, this.face.advanceOfGlyph(BOX)) + tracking;
        for (const sign of boxes) {
          if (runs === 0 && sign === boxes[0]) first = advance;
          last = advance;
          width += advance;
          book.data[book.length++] = BOX | (sign.length << 16);
          book.data[book.length++] = advance;
        }
        runs++;
        continue;
      }
      shown += part.text;
      const g = face.shape(part.text, features, language);
      let form = PLAIN;
      for (let i = 0; i < g.count && form === PLAIN; i++) if (g.dx[i] !== 0 || g.dy[i] !== 0) form = MOVED;
      book.run(book.faceNumber(face), size, rise, form, g.count);
      const { data } = book;
      let at = book.length;
      let offset = 0;
      for (let i = 0; i < g.count; i++) {
        if (g.ids[i] === BOX) missing += part.text.slice(offset, offset + Math.max(1, g.chars[i] as number));
        offset += g.chars[i] as number;
        const advance = this.scale(face, g.advances[i] as number) + tracking;
        if (runs === 0 && i === 0) first = advance;
        last = advance;
        width += advance;
        data[at++] = (g.ids[i] as number) | ((g.chars[i] as number) << 16);
        data[at++] = advance;
        if (form === MOVED) {
          data[at++] = this.scale(face, g.dx[i] as number);
          data[at++] = this.scale(face, g.dy[i] as number);
        }
      }
      book.length = at;
      runs++;
    }
    book.data[start] = runs;
    return this.made(text, shown, start, width, first, last, missing);
  }

  /** Closes the record that begins at `start`; `first` and `last` are the advances of its first and last glyph. */
  private made(
    text: string,
    shown: string,
    start: number,
    width: Mp,
    first: Mp,
    last: Mp,
    missing: string,
  ): Word {
    const number = this.spec.words.end(start, shown);
    return new Word(this, text, number, width, overLeft(text, first), overRight(text, last), missing);
  }

  /** First glyph of a word, and its face; null for a word without glyphs. */
  firstGlyph(word: Word): { face: Face; glyph: number } | null {
    const { words: book } = this.spec;
    const at = book.starts[word.number] as number;
    if (book.data[at] === 0 || book.data[at + 5] === 0) return null;
    const face = book.faces[book.data[at + 1] as number] as Face;
    return { face, glyph: (book.data[at + 6] as number) & 0xffff };
  }

  /** Splits a word into stretches by the first face of the chain that has each character. */
  private byFace(text: string): { face: Face | null; text: string }[] {
    const { chain } = this.spec;
    const first = this.face;
    let plain = true;
    for (let i = 0; i < text.length && plain; i++) plain = first.has(text.charCodeAt(i));
    plain &&= !hasUnsetScript(text);
    if (plain) return [{ face: first, text }];
    const parts: { face: Face | null; text: string }[] = [];
    // A letter and the marks on it come from one face.
    for (const [cluster] of text.matchAll(/\P{M}\p{M}*|\p{M}+/gsu)) {
      const signs = [...cluster].filter((c) => !IGNORABLE.test(c)).join('');
      if (signs === '') continue;
      const face = hasUnsetScript(signs) ? null : faceFor(chain, signs);
      const last = parts.at(-1);
      if (last && last.face === face) last.text += signs;
      else parts.push({ face, text: signs });
    }
    return parts;
  }
}

const hasAll = (face: Face, text: string): boolean =>
  [...text].every((c) => face.has(c.codePointAt(0) as number));

/** The first face that has a letter with its marks, apart or as one; failing that one that has the letter. */
function faceFor(chain: readonly Face[], cluster: string): Face | null {
  const composed = cluster.normalize('NFC');
  const letter = cluster.codePointAt(0) as number;
  return (
    chain.find((f) => hasAll(f, cluster) || hasAll(f, composed)) ??
    // A mark that no face has is missing, not the letter under it.
    chain.find((f) => cluster.length > 1 && [...composed].length > 1 && f.has(letter)) ??
    null
  );
}
