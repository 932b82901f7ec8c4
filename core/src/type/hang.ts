/** Margin kerning: how far a glyph may stand outside the measure, as a share of its own width (common practice). */
const RIGHT: Record<string, number> = {
  '-': 0.5,
  '\u2010': 0.5,
  '.': 0.6,
  ',': 0.6,
  ';': 0.3,
  ':': 0.3,
  '\u2019': 0.5,
  '\u201d': 0.4,
  '\u2013': 0.25,
  '\u2014': 0.15,
  '!': 0.15,
  '?': 0.1,
};
const LEFT: Record<string, number> = { '\u2018': 0.5, '\u201c': 0.4, '(': 0.1, '\u2014': 0.15 };

export const hangRight = (char: string): number => RIGHT[char] ?? 0;
export const hangLeft = (char: string): number => LEFT[char] ?? 0;
