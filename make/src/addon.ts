/**
 * The five digits beside an EAN-13 (ISO/IEC 15420, from memory): a guard 1011, then digits of two bars, 01 between them. Which
 * of its two patterns each digit has makes a check figure. The decoder of the main symbol doesn't give them.
 */

/** Widths of space, bar, space, bar of a digit in modules; those of its second pattern are the same from the end. */
const WIDTHS = '3211 2221 2122 1411 1132 1231 1114 1312 1213 3112'.split(' ');
/** Which digits have the second pattern, by check figure. */
const SECOND = '11000 10100 10010 10001 01100 00110 00011 01010 01001 00101'.split(' ');

interface Point {
  x: number;
  y: number;
}
/** In modules: how far beyond the symbol it begins at most, and how far from the row in which that was read. */
const GAP = 14;
const REACH = 60;
const ROWS = 3;
/** Samples a module. */
const FINE = 8;
/** Bars and spaces of the guard, five digits, and what is between them. */
const RUNS = 3 + 5 * 4 + 4 * 2;

/**
 * The digits beyond a symbol that ends at `end`, read along `way`, a vector of length 1; '' where there are none. Its bars
 * are shorter than the symbol's, so rows above and below are read too.
 */
export function addOnBeyond(
  dark: (x: number, y: number) => boolean,
  end: Point,
  way: Point,
  module: number,
): string {
  for (let row = 0; row <= REACH; row += ROWS)
    for (const away of row === 0 ? [0] : [row, -row]) {
      const from = { x: end.x - way.y * away * module, y: end.y + way.x * away * module };
      const digits = digitsOf(runsFrom(dark, from, way, module));
      if (digits) return digits;
    }
  return '';
}

/** Widths in modules of bars and spaces in turn, from the first bar beyond the gap. */
function runsFrom(
  dark: (x: number, y: number) => boolean,
  from: Point,
  way: Point,
  module: number,
): number[] {
  const runs: number[] = [];
  let last = false;
  let width = 0;
  for (let d = 1; runs.length < RUNS; d += 1 / FINE) {
    const now = dark(from.x + way.x * d * module, from.y + way.y * d * module);
    if (now === last) {
      width += 1 / FINE;
      if (width > GAP) return [];
      continue;
    }
    // What comes before the first bar is the gap.
    if (last || runs.length > 0) runs.push(width);
    [last, width] = [now, 1 / FINE];
  }
  return runs;
}

/** Share of a digit's seven modules by which one of its widths may be off. */
const OFF = 0.1;

function digitsOf(runs: readonly number[]): string {
  if (runs.length < RUNS) return '';
  let digits = '';
  let seconds = '';
  for (let i = 0; i < 5; i++) {
    const four = runs.slice(3 + i * 6, 7 + i * 6);
    const sum = four.reduce((a, b) => a + b, 0);
    const like = (pattern: string): boolean =>
      four.every((w, k) => Math.abs(w / sum - Number(pattern[k]) / 7) < OFF);
    const first = WIDTHS.findIndex(like);
    const second = first >= 0 ? -1 : WIDTHS.findIndex((p) => like([...p].reverse().join('')));
    if (first < 0 && second < 0) return '';
    digits += String(first >= 0 ? first : second);
    seconds += first >= 0 ? '0' : '1';
  }
  const check = [...digits].reduce((n, d, i) => n + Number(d) * (i % 2 === 0 ? 3 : 9), 0) % 10;
  return SECOND[check] === seconds ? digits : '';
}
