/**
 * Words put together from pairs. In a book face a letter is a glyph, and what its neighbours do to it is kerning: the
 * engine is asked once for every pair of letters, and a word of pairs that kern and do no more is their sum. Shaping
 * each word by itself took a third of the time of composing a book.
 *
 * A pair joins where the engine answers the two letters' own glyphs, both in their place and the second as wide as it is
 * alone. Ligatures, alternates, marks and letters beyond the table do not join; such words the engine shapes whole. That
 * no shipped face looks at three letters in a row without looking at two of them is held by a test of all faces
 * (`core/test/pairs.test.ts`).
 */
import type { Mp } from '../base';
import type { Face, ShapedGlyphs } from './face';

const ROOM = 256;
/** Signs of running text that stand beyond Latin-1; they take the places of control characters. */
const SIGNS = '\u2013\u2014\u2018\u2019\u201c\u201d\u2026';
const FIRST_SIGN = 0x80;

/** Left to the engine: a face may make it a capital where it stands among capitals. */
const SHARP_S = 0xdf;

/** Place of a UTF-16 unit in the tables; −1 for one that has none: figures, spaces, signs of other kinds. */
function placeOf(unit: number): number {
  if (unit < 127) return unit > 32 && !(unit >= 48 && unit <= 57) ? unit : -1;
  if (unit < ROOM) return unit >= 0xc0 && unit !== 0xd7 && unit !== 0xf7 && unit !== SHARP_S ? unit : -1;
  if (unit < 0x2013 || unit > 0x2026) return -1;
  const sign = SIGNS.indexOf(String.fromCharCode(unit));
  return sign < 0 ? -1 : FIRST_SIGN + sign;
}
const letterAt = (place: number): string =>
  String.fromCharCode(
    place >= FIRST_SIGN && place < FIRST_SIGN + SIGNS.length ? SIGNS.charCodeAt(place - FIRST_SIGN) : place,
  );

const UNKNOWN = 0;
const APART = -1;

/** Glyphs and advances (millipoints) of letters and their pairs in one style. */
export class Pairs {
  /** By letter: its glyph, and its advance at a word's end plus one. */
  private readonly glyphs = new Int32Array(ROOM);
  private readonly own = new Int32Array(ROOM);
  /** By first and second letter: the first one's advance plus one. */
  private readonly rows: (Int32Array | undefined)[] = Array.from({ length: ROOM });

  constructor(
    private readonly face: Face,
    private readonly features: string,
    private readonly language: string,
    private readonly scale: (units: number) => Mp,
  ) {}

  /**
   * Writes glyph (with the one UTF-16 unit that it stands for in its upper half) and advance of every letter of a word to
   * `data` from `at` on. Answers the width; −1 where the letters do not join, and then `data` holds no word.
   */
  write(text: string, data: Int32Array, at: number): Mp {
    let width = 0;
    let here = placeOf(text.charCodeAt(0));
    if (here < 0) return APART;
    for (let i = 1; i <= text.length; i++) {
      const next = i < text.length ? placeOf(text.charCodeAt(i)) : -1;
      if (next < 0 && i < text.length) return APART;
      const advance = next < 0 ? this.alone(here) : this.before(here, next);
      if (advance < 0) return APART;
      data[at++] = (this.glyphs[here] as number) | (1 << 16);
      data[at++] = advance;
      width += advance;
      here = next;
    }
    return width;
  }

  /** Advance of a letter at a word's end; −1 where it has no glyph of its own. */
  private alone(place: number): Mp {
    if (this.own[place] === UNKNOWN) this.own[place] = this.single(place);
    return known(this.own[place] as number);
  }

  private single(place: number): number {
    const letter = letterAt(place);
    if (!this.face.has(letter.charCodeAt(0))) return APART;
    const g = this.face.shape(letter, this.features, this.language);
    if (g.count !== 1 || !inPlace(g, 0)) return APART;
    this.glyphs[place] = g.ids[0] as number;
    return this.scale(g.advances[0] as number) + 1;
  }

  /** Advance of a letter before another; −1 where the two do not join. */
  private before(first: number, second: number): Mp {
    const row = (this.rows[first] ??= new Int32Array(ROOM));
    if (row[second] === UNKNOWN) row[second] = this.pair(first, second);
    return known(row[second] as number);
  }

  private pair(first: number, second: number): number {
    const last = this.alone(second);
    if (this.alone(first) < 0 || last < 0) return APART;
    const g = this.face.shape(letterAt(first) + letterAt(second), this.features, this.language);
    const joins =
      g.count === 2 &&
      g.ids[0] === this.glyphs[first] &&
      g.ids[1] === this.glyphs[second] &&
      inPlace(g, 0) &&
      inPlace(g, 1) &&
      this.scale(g.advances[1] as number) === last;
    return joins ? this.scale(g.advances[0] as number) + 1 : APART;
  }
}

const known = (entry: number): Mp => (entry === APART ? APART : entry - 1);
const inPlace = (g: ShapedGlyphs, i: number): boolean =>
  g.dx[i] === 0 && g.dy[i] === 0 && (g.advances[i] as number) >= 0;
