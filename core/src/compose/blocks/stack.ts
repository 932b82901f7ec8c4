/** Lines of headings under one another on the grid: how openings, part pages and title pages are built. */
import { pt, type Mp } from '../../base';
import type { LineStyle } from '../../design';
import type { Item, LineItem, RuleItem } from '../lines';
import type { LinePart } from '../lines';
import type { Broken } from '../lines';
import type { Paragraph } from '../lines';
import type { Manner, ParagraphForm, Setter } from './setter';

const LARGE: Mp = 16_000;

export const mannerOf = (line: LineStyle): Manner => ({
  size: line.size,
  italic: line.cut === 'italic' || line.cut === 'bold-italic',
  bold: line.cut === 'bold' || line.cut === 'bold-italic',
  smallCaps: line.letters === 'small-capitals',
  capitals: line.letters === 'capitals',
  tracking: Math.round((line.size * line.spacing) / 1000),
  display: line.face === 'display',
  // Old-style figures are letters among letters; alone and large they look too small.
  lining: line.size >= LARGE,
});

/** Grid rows that a line of letters of a size takes. */
export const rowsEach = (s: Setter, size: Mp): number =>
  Math.max(1, Math.ceil((size * 1.1) / s.interior.text.leading));

/** Lines of a text on the grid, the first in `row`; a size above the leading takes as many rows as it needs. */
export function displayed(
  s: Setter,
  text: string,
  manner: Manner,
  row: number,
  align: LineItem['align'] = 'centre',
  part: LinePart = '',
): { items: LineItem[]; rows: number } {
  const { p, form, broken } = unruptured(s, text, manner, align, part);
  const each = rowsEach(s, form.manner.size);
  // Very large letters stand low in their rows, so that they keep off what is above them.
  const down = Math.max(0, each - 2);
  const items = s.items(p, broken, form).map((item, i) => item.atRow(row + down + i * each));
  return { items, rows: items.length * each };
}

/** Displayed letters are made smaller in such steps, and not below such a share of their size. */
const STEP = 0.95;
const SMALLEST = 0.5;

/**
 * A heading's lines, in smaller letters where a word of it is wider than the measure: a word that is torn apart in large
 * letters is the worst that a page can show. Where even the smallest do not help, the word is hyphenated.
 */
function unruptured(
  s: Setter,
  text: string,
  manner: Manner,
  align: LineItem['align'],
  part: LinePart,
): { p: Paragraph; form: ParagraphForm; broken: Broken } {
  let tried = { ...manner };
  for (let share = 1; ; share *= STEP) {
    tried = { ...manner, size: Math.round(manner.size * share) };
    if (manner.tracking) tried.tracking = Math.round(manner.tracking * share);
    const form = { ...s.alone(tried, align), hyphenate: share < SMALLEST };
    const p = s.plain(text, form, '', part);
    const broken = balanced(s, p, form);
    if (share < SMALLEST || broken.lines.every((l) => l.toCut === 0)) return { p, form, broken };
  }
}

/** What is stacked on a page that must hold it: rows of white above it, and its letters as a share of their sizes. */
export interface Squeeze {
  sink: number;
  share: number;
}

/** How far the letters of a page that is too full are made smaller, and the size that they keep at least. */
const LEAST_SHARE = 0.2;
const LEAST_SIZE: Mp = pt(6);

/**
 * Stacks with ever less white above, then in ever smaller letters, until all fits into `most` rows. `stack` answers the
 * rows that it took.
 */
export function squeezed<T extends { rows: number }>(
  sink: number,
  most: number,
  stack: (squeeze: Squeeze) => T,
): T {
  let made = stack({ sink, share: 1 });
  const over = made.rows - most;
  if (over > 0) made = stack({ sink: Math.max(0, sink - over), share: 1 });
  for (let share = STEP; made.rows > most && share > LEAST_SHARE; share *= STEP)
    made = stack({ sink: 0, share });
  return made;
}

/** A line style in letters of a share of their size. */
export const smaller = (line: LineStyle, share: number): LineStyle =>
  share === 1
    ? line
    : { ...line, size: Math.max(Math.round(line.size * share), Math.min(line.size, LEAST_SIZE)) };

/** Lines of a heading about as long as one another: the narrowest measure that needs no further line. */
export function balanced(s: Setter, p: Paragraph, form: ParagraphForm): Broken {
  const plain = s.break(p, form);
  if (plain.lines.length < 2) return plain;
  let [least, most] = [Math.round(form.measure / plain.lines.length), form.measure];
  let best = plain;
  while (most - least > s.interior.text.size / 4) {
    const middle = (least + most) >> 1;
    const tried = s.break(p, { ...form, measure: middle });
    if (tried.lines.length > plain.lines.length || tried.lines.some((l) => l.toCut > 0)) least = middle;
    else {
      most = middle;
      best = tried;
    }
  }
  return best;
}

const HAIRLINE: Mp = 500;

export class Stack {
  readonly items: Item[] = [];

  constructor(
    private readonly s: Setter,
    /** Next free row. */
    public row: number,
  ) {}

  /** A text in a line style; small capitals of numbers are set from small letters, so that all are of one height. */
  line(text: string, style: LineStyle, part: LinePart, small = false): this {
    if (!text) return this;
    const shown = small && style.letters === 'small-capitals' ? text.toLowerCase() : text;
    const set = displayed(this.s, shown, mannerOf(style), this.row, style.align, part);
    this.items.push(...set.items);
    this.row += set.rows;
    return this;
  }

  /** An ornament in the text's own face, ranged as a line of the heading is. */
  ornament(sign: string, align: LineStyle['align'], part: LinePart): this {
    if (!sign) return this;
    const size = Math.round(this.s.interior.text.size * 1.3);
    const set = displayed(this.s, sign, { size }, this.row, align, part);
    this.items.push(...set.items);
    this.row += set.rows;
    return this;
  }

  /** A rule in the middle of the next row; `share` is its part of the measure. */
  rule(share: number, align: LineStyle['align']): this {
    const { s } = this;
    const width = Math.round(s.measure * share);
    const x = align === 'left' ? 0 : align === 'right' ? s.measure - width : (s.measure - width) >> 1;
    const rule: RuleItem = {
      kind: 'rule',
      x,
      row: this.row,
      dy: -Math.round(s.interior.text.leading * 0.3),
      width,
      thickness: HAIRLINE,
    };
    this.items.push(rule);
    this.row++;
    return this;
  }

  skip(rows: number): this {
    this.row += rows;
    return this;
  }
}
