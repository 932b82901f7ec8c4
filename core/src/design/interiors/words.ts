/** Short words in which the interiors of the house are written down: a line, its cut, its letters, its place. */
import { inches, pt } from '../../base';
import type { Design, LineStyle } from '../design';

export const line = (size: number, more: Partial<LineStyle> = {}): LineStyle => ({
  face: 'text',
  size: pt(size),
  cut: 'roman',
  letters: 'typed',
  spacing: 0,
  align: 'centre',
  ...more,
});
export const small = { letters: 'small-capitals' } as const;
export const italic = { cut: 'italic' } as const;
export const capitals = { letters: 'capitals' } as const;
export const sans = { face: 'display' } as const;
export const left = { align: 'left' } as const;
export const plainLevel = { indent: 0, cut: 'roman', letters: 'typed' } as const;
export const UNSET_MARGINS = { inside: null, outside: null, top: null, bottom: null } as const;
/** Word spaces: measured on the open novel, docs/typesetting.md. */
const SPACES = { wordSpace: null, stretch: 167, shrink: 80, glyphScaling: 10 } as const;

export const text = (family: string, size: number, leading: number, more: Partial<Design['text']> = {}) => ({
  family,
  display: family,
  size: pt(size),
  leading: pt(leading),
  paragraphs: 'indent' as const,
  indent: inches(0.25),
  set: 'justified' as const,
  hyphens: true,
  figures: 'old-style' as const,
  ...SPACES,
  ...more,
});
