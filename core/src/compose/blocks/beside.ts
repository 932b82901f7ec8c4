/**
 * A picture with text beside it. The lines of the paragraphs that follow are narrowed until they have passed it; they and
 * the picture are one block, whose first rows stand on one page.
 */
import type { Node } from 'prosemirror-model';
import type { Mp, Place } from '../../base';
import { besideText, type Picture } from '../../book';
import type { FlowBlock, Item, Variant, MadeWords } from '../lines';
import type { LineWidths } from '../lines';
import { maskNumber } from './mask';
import { captionOf } from './caption';
import type { Setter } from './setter';

/** Ems that a line beside a picture has at least. */
const LEAST = 10;
/** From the head of a row to the top of its capitals, as a share of the leading (the baseline lies at 0.76). */
const CAPITALS = 0.3;

export class Beside {
  private readonly items: Item[];
  private readonly hyphenAt = new Set<number>();
  private readonly notes: Map<number, readonly string[]>;
  /** Rows of text so far. */
  private taken = 0;

  constructor(
    private readonly place: Place,
    items: readonly Item[],
    /** Rows that picture and caption take. */
    private readonly rows: number,
    /** Notes that the caption calls, by row. */
    notes: ReadonlyMap<number, readonly string[]>,
    private readonly narrow: { width: Mp; shift: Mp },
  ) {
    this.items = [...items];
    this.notes = new Map(notes);
  }

  get passed(): boolean {
    return this.taken >= this.rows;
  }

  /** Widths for a paragraph that begins now, below so many blank rows. */
  widths(measure: Mp, before: number): LineWidths {
    const left = Math.max(0, this.rows - this.taken - this.above(before));
    return { measure, first: Array.from({ length: left }, () => this.narrow) };
  }

  add(v: Variant, before: number): void {
    const down = this.taken + this.above(before);
    for (const item of v.items)
      this.items.push('atRow' in item ? item.atRow(item.row + down) : { ...item, row: item.row + down });
    for (const row of v.hyphenAt) this.hyphenAt.add(row + down);
    for (const [row, ids] of v.notes)
      this.notes.set(row + down, [...(this.notes.get(row + down) ?? []), ...ids]);
    this.taken = down + v.rows;
  }

  block(before: number): FlowBlock {
    const rows = Math.max(this.rows, this.taken);
    return {
      place: this.place,
      kind: 'text',
      before,
      keep: 0,
      best: {
        rows,
        cost: 0,
        items: this.items,
        hyphenAt: this.hyphenAt,
        notes: this.notes,
        hold: this.rows,
      },
      others: null,
      atEdge: null,
      heading: false,
    };
  }

  /** The first paragraph stands level with the picture's head. */
  private above(before: number): number {
    return this.taken === 0 ? 0 : before;
  }
}

/** Null where the picture is to stand alone: it is not asked for, or too wide. */
export function besideOf(
  s: Setter,
  place: Place,
  node: Node,
  picture: Picture | undefined,
  made: MadeWords,
): Beside | null {
  const side = besideText(node);
  const { leading, size } = s.interior.text;
  const share = Number(node.attrs.width);
  if (!picture || side === null) return null;
  const width = Math.round((s.measure * share) / 100);
  const narrow = s.measure - width - size;
  const height = Math.round((width * picture.height) / picture.width);
  if (narrow < LEAST * size || height > (s.interior.trim.height * 2) / 3) return null;
  const x = side === 'right' ? s.measure - width : 0;
  const down = Math.round(leading * CAPITALS);
  const items: Item[] = [
    {
      kind: 'picture',
      picture: picture.id,
      alt: node.attrs.alt as string,
      mask: maskNumber(node.attrs.mask as string),
      x,
      row: 0,
      dy: down,
      width,
      height,
    },
  ];
  let rows = Math.ceil((down + height + leading / 4) / leading);
  const caption = captionOf(s, node, made, { width, x });
  const notes = new Map<number, readonly string[]>();
  if (caption) {
    for (const [row, ids] of caption.notes) notes.set(rows + row, ids);
    for (const item of caption.items) if ('atRow' in item) items.push(item.atRow(rows + item.row));
    rows += caption.rows;
  }
  return new Beside(place, items, rows, notes, { width: narrow, shift: side === 'right' ? 0 : width + size });
}
