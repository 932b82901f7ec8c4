/**
 * A text style at a size, with its cache of shaped words. Words repeat: a novel of 200,000 words has some 30,000
 * different ones, each shaped once. Advances here are millipoints, rounded once a glyph, so that sums always agree.
 */
import type { Mp } from '../base';
import type { Face } from './face';
import { hangLeft, hangRight } from './hang';

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
}

/** A shaped word: one or more stretches, each in one face. Shared by every place the word stands in. */
export interface Word {
  kind: 'word';
  style: Style;
  text: string;
  /** The characters that have glyphs: what a reader of the page can copy. */
  shown: string;
  width: Mp;
  runs: readonly GlyphRun[];
  /** How far the first and the last glyph may stand outside the measure. */
  hangLeft: Mp;
  hangRight: Mp;
  /** Characters that no face of the chain has. */
  missing: string;
}
export interface GlyphRun {
  face: Face;
  ids: readonly number[];
  advances: readonly Mp[];
  dx: readonly Mp[];
  dy: readonly Mp[];
  chars: readonly number[];
  plain: boolean;
}

/** Signs without a shape: soft hyphen, zero-width signs, variation selectors. */
const IGNORABLE = /\u00ad|[\u200b-\u200f]|[\u2060-\u2064]|\ufeff|[\ufe00-\ufe0f]/u;

const STOPS = ',.;:!?';
const LETTER = /\p{L}/u;

export class Style {
  readonly face: Face;
  /** Natural width of the word space. */
  readonly space: Mp;
  private readonly words = new Map<string, Word>();
  private readonly fragments = new Map<string, readonly Mp[]>();

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
    let w = this.words.get(text);
    if (!w) {
      w = this.punctuated(text) ?? this.shape(text);
      this.words.set(text, w);
    }
    return w;
  }

  /**
   * Widths around the possible divisions of a word: for each point, the width up to it with a hyphen, and of what
   * follows it; flat pairs.
   */
  divisions(text: string, points: readonly number[]): readonly Mp[] {
    const key = `${points.join()}|${text}`;
    let widths = this.fragments.get(key);
    if (!widths) {
      widths = points.flatMap((p) => [
        this.word(`${text.slice(0, p)}-`).width,
        this.word(text.slice(p)).width,
      ]);
      this.fragments.set(key, widths);
    }
    return widths;
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
    const [a, b, c] = [core.runs[0], stop.runs[0], seam.runs[0]];
    if (
      !a ||
      !b ||
      !c ||
      core.runs.length + stop.runs.length + seam.runs.length !== 3 ||
      !a.plain ||
      !c.plain
    )
      return null;
    if (c.ids.length !== 2 || c.ids[0] !== a.ids.at(-1) || c.ids[1] !== b.ids[0] || b.ids.length !== 1)
      return null;
    const advances = [...a.advances, c.advances[1] as Mp];
    advances[a.ids.length - 1] = c.advances[0] as Mp;
    const last = advances.at(-1) as Mp;
    return {
      ...core,
      text,
      shown: text,
      width: core.width - (a.advances.at(-1) as Mp) + (c.advances[0] as Mp) + last,
      runs: [
        {
          face: a.face,
          ids: [...a.ids, c.ids[1] as number],
          advances,
          dx: [...a.dx, 0],
          dy: [...a.dy, 0],
          chars: [...a.chars, 1],
          plain: true,
        },
      ],
      hangRight: Math.round(last * hangRight(text.charAt(n - 1))),
    };
  }

  private shape(text: string): Word {
    const runs: GlyphRun[] = [];
    let width = 0;
    let missing = '';
    let shown = '';
    for (const part of this.byFace(text)) {
      if (!part.face) {
        missing += part.text;
        continue;
      }
      const face = part.face;
      shown += part.text;
      const g = face.shape(part.text, this.spec.features, this.spec.language);
      const scale = (u: number): Mp => (u === 0 ? 0 : this.scale(face, u));
      const advances = g.advances.map((a) => scale(a) + this.spec.tracking);
      for (const a of advances) width += a;
      const dx = g.dx.map(scale);
      const dy = g.dy.map(scale);
      runs.push({
        face,
        ids: g.ids,
        advances,
        dx,
        dy,
        chars: g.chars,
        plain: dx.every((v) => v === 0) && dy.every((v) => v === 0),
      });
    }
    const first = runs[0]?.advances[0] ?? 0;
    const last = runs.at(-1)?.advances.at(-1) ?? 0;
    return {
      kind: 'word',
      style: this,
      text,
      shown,
      width,
      runs,
      hangLeft: Math.round(first * hangLeft(text.charAt(0))),
      hangRight: Math.round(last * hangRight(text.charAt(text.length - 1))),
      missing,
    };
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
