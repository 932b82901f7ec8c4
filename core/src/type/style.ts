/**
 * A text style at a size, with its cache of shaped words. Words repeat: a novel of 200,000 words has some 30,000
 * different ones, each shaped once. Advances here are millipoints, rounded once a glyph, so that sums always agree.
 */
import type { Mp } from '../base';
import type { Face } from './face';
import { hangLeft, hangRight } from './hang';
import { MOVED, PLAIN, type WordBook } from './wordbook';
import { WordTable } from './wordtable';

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
  /** Where its words' glyphs are kept. */
  words: WordBook;
}

/** A shaped word. Shared by every place the word stands in; its glyphs are in the word book under its number. */
export class Word {
  readonly kind = 'word';
  constructor(
    readonly style: Style,
    readonly text: string,
    readonly number: number,
    readonly width: Mp,
    /** How far the first and the last glyph may stand outside the measure. */
    readonly hangLeft: Mp,
    readonly hangRight: Mp,
    /** Characters that no face of the chain has. */
    readonly missing: string,
  ) {}
}

/** Signs without a shape: soft hyphen, zero-width signs, variation selectors. */
const IGNORABLE = /\u00ad|[\u200b-\u200f]|[\u2060-\u2064]|\ufeff|[\ufe00-\ufe0f]/u;

const STOPS = ',.;:!?';
const LETTER = /\p{L}/u;

export class Style {
  readonly face: Face;
  /** Natural width of the word space. */
  readonly space: Mp;
  private readonly words = new WordTable();

  constructor(readonly spec: StyleSpec) {
    const face = spec.chain[0];
    if (!face) throw new Error('a style needs a face');
    this.face = face;
    this.space = this.scale(face, face.advanceOf(32)) + spec.tracking;
  }

  scale(face: Face, units: number): Mp {
    return Math.round((units * this.spec.size) / face.upem);
  }

  word(text: string): Word {
    return this.wordIn(text, 0, text.length);
  }

  /** The word from `from` to `to` of a longer text; nothing is cut out where it is known already. */
  wordIn(text: string, from: number, to: number): Word {
    const { words } = this;
    const known = words.find(text, from, to);
    if (known) return known;
    const own = text.slice(from, to);
    const made = this.punctuated(own) ?? this.shape(own);
    words.add(made);
    return made;
  }

  /**
   * A word with one stop after it is the word, the stop, and the kerning of the two letters where they meet: half of all
   * shaping is saved. Only where all three are single stretches of the first face without a ligature at the seam.
   */
  private punctuated(text: string): Word | null {
    const n = text.length;
    if (
      n < 4 ||
      !STOPS.includes(text.charAt(n - 1)) ||
      !LETTER.test(text.charAt(n - 2)) ||
      this.spec.tracking !== 0
    )
      return null;
    const core = this.word(text.slice(0, n - 1));
    const stop = this.word(text.charAt(n - 1));
    const seam = this.word(text.slice(n - 2));
    const book = this.spec.words;
    const [a, b, c] = [core, stop, seam].map((w) => plainRun(book, w.number)) as [
      PlainRun,
      PlainRun,
      PlainRun,
    ];
    if (core.missing || a.count < 1 || b.count !== 1 || c.count !== 2) return null;
    const last = a.at + (a.count - 1) * 2;
    const id = (at: number): number => (book.data[at] as number) & 0xffff;
    if (id(last) !== id(c.at) || id(b.at) !== id(c.at + 2)) return null;
    const start = book.begin(1);
    const at = book.run(book.data[a.at - 5] as number, this.spec.size, this.spec.rise, PLAIN, a.count + 1);
    const { data } = book;
    data.copyWithin(at, a.at, a.at + a.count * 2);
    const end = at + a.count * 2;
    const kerned = data[c.at + 1] as number;
    const stopWidth = data[c.at + 3] as number;
    const width = core.width - (data[last + 1] as number) + kerned + stopWidth;
    data[end - 1] = kerned;
    data[end] = id(b.at) | (1 << 16);
    data[end + 1] = stopWidth;
    book.length = end + 2;
    const hang = Math.round(stopWidth * hangRight(text.charAt(n - 1)));
    return new Word(this, text, book.end(start, text), width, core.hangLeft, hang, '');
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
        continue;
      }
      shown += part.text;
      const g = face.shape(part.text, features, language);
      let form = PLAIN;
      for (let i = 0; i < g.count && form === PLAIN; i++) if (g.dx[i] !== 0 || g.dy[i] !== 0) form = MOVED;
      book.run(book.faceNumber(face), size, rise, form, g.count);
      const { data } = book;
      let at = book.length;
      for (let i = 0; i < g.count; i++) {
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
    return new Word(
      this,
      text,
      book.end(start, shown),
      width,
      Math.round(first * hangLeft(text.charAt(0))),
      Math.round(last * hangRight(text.charAt(text.length - 1))),
      missing,
    );
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
    if (plain) return [{ face: first, text }];
    const parts: { face: Face | null; text: string }[] = [];
    for (const ch of text) {
      if (IGNORABLE.test(ch)) continue;
      const cp = ch.codePointAt(0) as number;
      const face = chain.find((f) => f.has(cp)) ?? null;
      const last = parts.at(-1);
      // A combining mark stays with its base where that face has it.
      if (last && (last.face === face || (/\p{M}/u.test(ch) && last.face?.has(cp)))) last.text += ch;
      else parts.push({ face, text: ch });
    }
    return parts;
  }
}

/** Where the glyphs of a word begin that is one run with every glyph at its place; none of any other. */
interface PlainRun {
  at: number;
  count: number;
}
function plainRun({ starts, data }: WordBook, word: number): PlainRun {
  const at = starts[word] as number;
  return data[at] === 1 && data[at + 4] === PLAIN
    ? { at: at + 6, count: data[at + 5] as number }
    : { at, count: 0 };
}
