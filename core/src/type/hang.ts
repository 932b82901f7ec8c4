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

/** By the character's code, which is sooner looked up than its text. */
const byCode = (shares: Record<string, number>): Float64Array => {
  const table = new Float64Array(0x2020);
  for (const [char, share] of Object.entries(shares)) table[char.charCodeAt(0)] = share;
  return table;
};
const right = byCode(RIGHT);
const left = byCode(LEFT);

/** Of a UTF-16 unit: that of the first or last character, wherever one of them hangs. */
export const hangRight = (code: number): number => (code < right.length ? (right[code] as number) : 0);
export const hangLeft = (code: number): number => (code < left.length ? (left[code] as number) : 0);
