/** What a chapter is to the page optimiser: blocks of rows on the grid, in order. */
import type { Mp, Place } from '../../base';
import type { Paragraph } from './paragraph';
import type { SetLine } from './lines';

/** Things drawn, placed from the block's first row: `row` counts grid rows down, `dy` moves off the grid. */
export class LineItem {
  readonly kind = 'line';
  readonly dy: Mp = 0;
  /** From the left of the type area. */
  readonly x: Mp;
  readonly measure: Mp;
  readonly align: 'justify' | 'left' | 'centre' | 'right';

  constructor(
    readonly paragraph: Paragraph,
    readonly line: SetLine,
    readonly row: number,
    private readonly form: { x: Mp; measure: Mp; align: LineItem['align'] },
  ) {
    this.x = form.x + line.shift;
    this.measure = form.measure - line.narrower;
    this.align = form.align;
  }

  /** The same line in another row. */
  atRow(row: number): LineItem {
    return new LineItem(this.paragraph, this.line, row, this.form);
  }
  /** The same line as words of that block. */
  ofBlock(block: string): LineItem {
    return new LineItem({ ...this.paragraph, block }, this.line, this.row, this.form);
  }
}
export interface PictureItem {
  kind: 'picture';
  picture: string;
  alt: string;
  /** Number of the outline it is cut to. */
  mask: number;
  x: Mp;
  row: number;
  dy: Mp;
  width: Mp;
  height: Mp;
  /** Lies over the whole page or spread and over its edges: where, only the page knows. */
  over?: 'page' | 'spread';
}
export interface RuleItem {
  kind: 'rule';
  x: Mp;
  row: number;
  dy: Mp;
  width: Mp;
  thickness: Mp;
  /** Counted from the head of its row, as pictures are, and not from the baseline. */
  fromHead?: boolean;
}
export type Item = LineItem | PictureItem | RuleItem;

/** One length a block can have. */
export interface Variant {
  rows: number;
  /** What it costs to take this one rather than the block's best. */
  cost: number;
  /** One a row for text; any for a solid block. */
  items: readonly Item[];
  /** Rows that end with a hyphen. */
  hyphenAt: ReadonlySet<number>;
  /** Ids of notes called in each row, where there are any. */
  notes: ReadonlyMap<number, readonly string[]>;
  /** Rows at its head that stand on one page: a picture with text beside it. */
  hold?: number;
}

export interface FlowBlock {
  place: Place;
  /**
   * `float` is a picture that stands elsewhere than the text names it, by `stands`; at `flush` all that still wait are
   * given pages.
   */
  kind: 'text' | 'solid' | 'break' | 'new-page' | 'float' | 'flush';
  stands?: 'head' | 'foot' | 'page' | 'edges' | 'spread';
  /** Blank rows above, dropped at the head of a page. */
  before: number;
  /** Rows of what follows that must stand on the same page. */
  keep: number;
  best: Variant;
  /** Other lengths, worked out when the plain pages have a fault. */
  others: (() => readonly Variant[]) | null;
  /** For a break: what it shows at the head or foot of a page, where a blank line would not be seen. */
  atEdge: readonly Item[] | null;
  heading: boolean;
  /** What stands above it again where it begins a page: the heads of its table. For solid blocks alone. */
  again?: { rows: number; items: readonly Item[] };
}

/** A note set for the foot of a page. */
export interface SetNote {
  id: string;
  items: readonly LineItem[];
}

export interface Flow {
  section: string;
  blocks: readonly FlowBlock[];
  notes: ReadonlyMap<string, SetNote>;
  /** Ids of the notes that its text calls. */
  called: ReadonlySet<string>;
}

/** What stands around a block of lines: rows above it, rows that must follow, a drop capital and the rows it takes. */
export interface Around {
  before?: number;
  keep?: number;
  minRows?: number;
  extra?: LineItem;
}
