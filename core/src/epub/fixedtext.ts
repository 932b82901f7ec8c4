/**
 * Words of a composed page as words that a browser sets the same: by the same typeface, size, features and space between
 * letters. Nothing is taken on trust: a word is shaped once more, and only where its glyphs come out as those of the page
 * is it written as plain text. Any other has each of its letters put in place, or its outlines drawn.
 */
import type { Mp } from '../base';
import { GLYPH } from '../compose';
import type { Face } from '../type';

/** Features that the pages are set with, by their likelihood. */
const FEATURES = ['onum', 'lnum', '', 'smcp,onum', 'smcp,lnum', 'smcp'];
/** Millipoints by which rounding may part two advances. */
const NEAR = 6;

/** How a word is told to a browser. */
export interface WordForm {
  features: string;
  /** Between letters. */
  tracking: Mp;
  /** `letters`: each at a place of its own; `outlines`: drawn, with the text for who reads it otherwise. */
  as: 'text' | 'letters' | 'outlines';
}

/** A stretch of glyphs without a space: `from` is its first number in `ops`. */
export interface WordGlyphsAt {
  ops: Int32Array;
  from: number;
  count: number;
  text: string;
  size: Mp;
  /** Width of the letters in hundred-thousandths of their own. */
  scale: number;
}

export class WordForms {
  private readonly known = new Map<string, WordForm>();
  constructor(private readonly language: string) {}

  of(face: Face, w: WordGlyphsAt): WordForm {
    let key = `${face.name}/${w.size}/${w.scale}/${w.text}`;
    for (let g = 0; g < w.count; g++) key += ` ${w.ops[w.from + g * GLYPH]},${w.ops[w.from + g * GLYPH + 1]}`;
    let form = this.known.get(key);
    if (!form) this.known.set(key, (form = this.find(face, w)));
    return form;
  }

  private find(face: Face, w: WordGlyphsAt): WordForm {
    for (const features of FEATURES) {
      const same = this.sameGlyphs(face, w, features);
      if (same === null) continue;
      // Letters that stand apart are not joined by a browser, and no more are they moved.
      const plain = same.tracking !== null && (same.tracking === 0 || !same.joined) && !same.moved;
      return plain
        ? { features, tracking: same.tracking ?? 0, as: 'text' }
        : { features, tracking: 0, as: same.joined || same.moved ? 'outlines' : 'letters' };
    }
    return { features: '', tracking: 0, as: 'outlines' };
  }

  /** What the space between letters is where they are the same glyphs; null where they are not. */
  private sameGlyphs(
    face: Face,
    { ops, from, count, text, size, scale }: WordGlyphsAt,
    features: string,
  ): { tracking: Mp | null; joined: boolean; moved: boolean } | null {
    const shaped = face.shape(text, features, this.language);
    if (shaped.count !== count) return null;
    let tracking: Mp | null = null;
    let joined = false;
    let moved = false;
    for (let g = 0; g < count; g++) {
      const k = from + g * GLYPH;
      if (shaped.ids[g] !== ops[k]) return null;
      joined ||= shaped.chars[g] !== 1;
      const at = (units: number): number => (units * size * scale) / (face.upem * 100_000);
      moved ||=
        Math.abs((ops[k + 2] as number) - at(shaped.dx[g] as number)) > NEAR ||
        Math.abs((ops[k + 3] as number) - at(shaped.dy[g] as number)) > NEAR;
      const over = ((ops[k + 1] as number) - at(shaped.advances[g] as number)) * (100_000 / scale);
      if (g === 0) tracking = Math.abs(over) <= NEAR ? 0 : Math.round(over);
      else if (tracking !== null && Math.abs(over - tracking) > NEAR) tracking = null;
    }
    return { tracking, joined, moved };
  }
}

/** Styles of the book's words, each with a class of its own. */
export class WordStyles {
  private readonly classes = new Map<string, { name: string; css: string }>();
  /** Characters set in each face, by its name. */
  readonly used = new Map<string, Set<string>>();

  /** Class of a style. Lengths are points, which a page of a fixed size counts in. */
  of(face: string, size: Mp, { features, tracking }: WordForm, text: string): string {
    let signs = this.used.get(face);
    if (!signs) this.used.set(face, (signs = new Set()));
    for (const sign of text) signs.add(sign);
    const key = `${face}/${size}/${features}/${tracking}`;
    let found = this.classes.get(key);
    if (!found) {
      const css = [`font-family: "${face}"`, `font-size: ${size / 1000}px`];
      if (features)
        css.push(
          `font-feature-settings: ${features
            .split(',')
            .map((f) => `"${f}"`)
            .join(', ')}`,
        );
      if (tracking) css.push(`letter-spacing: ${tracking / 1000}px`);
      found = { name: `t${this.classes.size + 1}`, css: css.join('; ') };
      this.classes.set(key, found);
    }
    return found.name;
  }
  css(): string {
    return [...this.classes.values()].map(({ name, css }) => `.${name} { ${css}; }\n`).join('');
  }
}
