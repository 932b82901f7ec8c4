/**
 * A table: columns by their widths or by what stands in them, rules above and below its heads and at its foot. Rows that
 * a merged cell holds together are one block; all others are blocks of their own, so that a long table goes over pages.
 */
import type { Node } from 'prosemirror-model';
import type { Mp } from '../../base';
import { gridOf, headRows, type Picture, type PlacedCell } from '../../book';
import { rowsOf } from '../../design';
import { addInline, type FlowBlock, type Item, type LineItem, type MadeWords, type RuleItem } from '../lines';
import { labelled } from './caption';
import { itemParagraph, itemParts } from './list';
import { solid } from './opening';
import type { Manner, ParagraphForm, Setter } from './setter';

/** A row of more than this share of a page may be divided: kept whole it would leave a hole before it. */
const TALL = 0.4;
/** Heads of more rows than this are not repeated on the next page. */
const MOST_HEADS = 6;
const RULE: Mp = 400;
/** Of a row’s height, how far a rule stands below the top of the row that follows it. */
const RULE_DROP = 0.15;

export function tableBlocks(
  s: Setter,
  table: Node,
  section: string,
  pictures: ReadonlyMap<string, Picture>,
  made: MadeWords,
): FlowBlock[] {
  return new TableSetter(s, table, pictures, made).blocks(section);
}

const lowered = (item: Item, rows: number): Item =>
  'atRow' in item ? item.atRow(item.row + rows) : { ...item, row: item.row + rows };

/**
 * Heads with more rows of them below, to be shown again. Shown again they are nobody's words: the author's stand where
 * they were first, which is what page lists and indexes ask.
 */
function below(heads: FlowBlock['again'], rows: number, items: readonly Item[]): FlowBlock['again'] {
  const above = heads?.rows ?? 0;
  const more = items.map((i) => lowered('ofBlock' in i ? i.ofBlock('') : i, above));
  return { rows: above + rows, items: [...(heads?.items ?? []), ...more] };
}

interface SetCell {
  items: Item[];
  rows: number;
  notes: ReadonlyMap<number, readonly string[]>;
}

class TableSetter {
  private readonly manner: Manner;
  private readonly gutter: Mp;
  private readonly grid;
  private readonly widths: readonly Mp[];

  constructor(
    private readonly s: Setter,
    private readonly table: Node,
    private readonly pictures: ReadonlyMap<string, Picture>,
    private readonly made: MadeWords,
  ) {
    this.manner = { size: s.interior.notes.size, lining: true };
    this.grid = gridOf(table);
    const { columns } = this.grid;
    this.gutter = Math.min(s.interior.text.size, Math.floor(s.measure / columns / 4));
    this.widths = this.columnWidths();
  }

  blocks(section: string): FlowBlock[] {
    const heads = headRows(this.table);
    const blocks: FlowBlock[] = [];
    let repeated: FlowBlock['again'];
    for (const [from, to] of this.groups()) {
      const { rows, items, notes } = this.rows(from, to);
      if (from === 0) items.push(this.rule(0));
      if (heads > from && heads <= to) items.push(this.rule(this.top(from, to, heads)));
      if (to === this.table.childCount) items.push(this.rule(rows));
      const tall = rows > rowsOf(this.s.interior) * TALL;
      const block = solid(section, rows, items, {
        kind: tall ? 'text' : 'solid',
        place: { section, block: this.table.child(from).attrs.id as string },
        before: from === 0 ? 1 : 0,
        // A head stands with what it heads, and neither the first row nor the last alone.
        keep: to <= heads ? 2 : from === heads || to === this.table.childCount - 1 ? 1 : 0,
      });
      // On a page that it begins, a row stands below the heads again.
      const again =
        repeated && repeated.rows <= MOST_HEADS && from >= heads && !tall ? { again: repeated } : {};
      blocks.push({ ...block, best: { ...block.best, notes }, ...again });
      if (to <= heads) repeated = below(repeated, rows, items);
    }
    return blocks;
  }

  /** Rows from one to before another that merged cells hold together. */
  private groups(): [from: number, to: number][] {
    const groups: [number, number][] = [];
    for (let from = 0; from < this.table.childCount;) {
      let to = from + 1;
      for (let r = from; r < to; r++)
        for (const c of this.grid.cells) if (c.row === r) to = Math.max(to, r + c.rowspan);
      groups.push([from, to]);
      from = to;
    }
    return groups;
  }

  private readonly heights = new Map<number, number>();

  private rows(
    from: number,
    to: number,
  ): { rows: number; items: Item[]; notes: Map<number, readonly string[]> } {
    const cells = this.grid.cells
      .filter((c) => c.row >= from && c.row < to)
      .map((c) => ({ cell: c, set: this.cell(c) }));
    for (let r = from; r < to; r++) {
      const own = cells.filter((c) => c.cell.row === r && c.cell.rowspan === 1).map((c) => c.set.rows);
      this.heights.set(r, Math.max(1, ...own));
    }
    for (const { cell, set } of cells) {
      const last = cell.row + cell.rowspan - 1;
      const room = this.height(cell.row, last + 1);
      // What a merged cell needs besides goes into its last row.
      if (set.rows > room) this.heights.set(last, (this.heights.get(last) ?? 1) + set.rows - room);
    }
    const items: Item[] = [];
    const notes = new Map<number, readonly string[]>();
    for (const { cell, set } of cells) {
      const down = this.height(from, cell.row);
      for (const i of set.items) items.push(lowered(i, down));
      for (const [r, ids] of set.notes) notes.set(r + down, [...(notes.get(r + down) ?? []), ...ids]);
    }
    return { rows: this.height(from, to), items, notes };
  }

  private height(from: number, to: number): number {
    let rows = 0;
    for (let r = from; r < to; r++) rows += this.heights.get(r) ?? 0;
    return rows;
  }
  private top(from: number, to: number, row: number): number {
    return this.height(from, Math.min(row, to));
  }

  private rule(row: number): RuleItem {
    const { leading } = this.s.interior.text;
    const width = this.widths.reduce((a, w) => a + w, 0) + this.gutter * (this.widths.length - 1);
    const dy = Math.round(leading * RULE_DROP);
    return { kind: 'rule', x: 0, row, dy, width, thickness: RULE, fromHead: true };
  }

  private x(column: number): Mp {
    return this.widths.slice(0, column).reduce((a, w) => a + w + this.gutter, 0);
  }
  private width({ column, colspan }: PlacedCell): Mp {
    return (
      this.widths.slice(column, column + colspan).reduce((a, w) => a + w, 0) + this.gutter * (colspan - 1)
    );
  }

  private cell(c: PlacedCell): SetCell {
    const set: { items: Item[]; rows: number; notes: Map<number, readonly string[]> } = {
      items: [],
      rows: 0,
      notes: new Map(),
    };
    const form: ParagraphForm = {
      manner: { ...this.manner, bold: Boolean(c.node.attrs.head) },
      indent: 0,
      x: this.x(c.column),
      measure: this.width(c),
      align: c.node.attrs.align as LineItem['align'],
      hyphenate: true,
    };
    c.node.forEach((n) => {
      if (n.type.name === 'figure') this.figure(n, form, set);
      else if (n.type.name === 'list') this.list(n, form, set);
      else this.paragraph(this.s.paragraph(n, form, this.made), form, set);
    });
    return set;
  }

  private paragraph(
    p: ReturnType<Setter['paragraph']>,
    form: ParagraphForm,
    set: { items: Item[]; rows: number; notes: Map<number, readonly string[]> },
  ): void {
    if (p.pieces.length === 0) return;
    const v = this.s.variant(p, this.s.break(p, form), form);
    for (const l of v.items) if ('atRow' in l) set.items.push(l.atRow(l.row + set.rows));
    for (const [r, ids] of v.notes) {
      const row = r + set.rows;
      set.notes.set(row, [...(set.notes.get(row) ?? []), ...ids]);
    }
    set.rows += v.rows;
  }

  private list(list: Node, form: ParagraphForm, set: Parameters<TableSetter['paragraph']>[2]): void {
    const room = Math.round(this.manner.size * 1.3);
    for (const { node, x, marker } of itemParts(list, room)) {
      const indent = marker === null ? 0 : -room;
      const own = { ...form, x: form.x + x, measure: form.measure - x, indent };
      const paragraph =
        marker === null
          ? this.s.paragraph(node, own, this.made)
          : itemParagraph(this.s, node, marker, room, own, this.made);
      this.paragraph(paragraph, own, set);
    }
  }

  /** A picture as wide as its cell, or as its own share of it; its caption below. */
  private figure(node: Node, form: ParagraphForm, set: Parameters<TableSetter['paragraph']>[2]): void {
    const picture = this.pictures.get(node.attrs.picture as string);
    const { leading } = this.s.interior.text;
    if (picture) {
      const most = Math.floor(rowsOf(this.s.interior) / 2) * leading;
      let width = Math.round((form.measure * Number(node.attrs.width)) / 100);
      let height = Math.round((width * picture.height) / picture.width);
      if (height > most) {
        width = Math.max(1000, Math.round((width * most) / height));
        height = most;
      }
      set.items.push({
        kind: 'picture',
        picture: picture.id,
        alt: node.attrs.alt as string,
        mask: 0,
        x: form.x,
        row: set.rows,
        dy: Math.round(leading * RULE_DROP * 2),
        width,
        height: Math.max(1000, height),
      });
      set.rows += Math.ceil((height + leading / 4) / leading);
    }
    if (node.content.size > 0) {
      const own = { ...form, manner: { ...form.manner, italic: true } };
      const builder = this.s.builder(node.attrs.id as string, own);
      labelled(this.s, builder, this.made.captionLabel(node.attrs.id as string), own.manner);
      addInline(builder, node, this.s.inline(own.manner, this.made));
      this.paragraph(builder.done(), own, set);
    }
  }

  /** Widths that were set, else as much as each column needs: its widest word at least, then by the length of its text. */
  private columnWidths(): Mp[] {
    const { columns, widths } = this.grid;
    const room = this.s.measure - this.gutter * (columns - 1);
    if (widths) return widths.map((w) => Math.floor((w * room) / 1000));
    const need = Array.from({ length: columns }, () => ({ least: 0, most: 0 }));
    for (const c of this.grid.cells) {
      const { least, most } = this.extent(c);
      for (let k = c.column; k < c.column + c.colspan; k++) {
        const n = need[k] as { least: Mp; most: Mp };
        n.least = Math.max(n.least, Math.round(least / c.colspan));
        n.most = Math.max(n.most, Math.round(most / c.colspan));
      }
    }
    const total = (of: 'least' | 'most'): Mp => need.reduce((a, n) => a + n[of], 0);
    const [least, most] = [total('least'), total('most')];
    if (least >= room || most === 0) return need.map(() => Math.floor(room / columns));
    // What is left over its needs goes to each by what it has; what lacks is taken from the long ones.
    if (most <= room)
      return need.map(
        (n) => n.most + Math.floor(((room - most) * (n.most + this.gutter)) / (most + this.gutter * columns)),
      );
    return need.map((n) => n.least + Math.floor(((room - least) * (n.most - n.least)) / (most - least)));
  }

  /** The width of a cell’s widest word, and that of its longest paragraph in one line. */
  private extent(c: PlacedCell): { least: Mp; most: Mp } {
    const form: ParagraphForm = {
      ...this.s.alone({ ...this.manner, bold: Boolean(c.node.attrs.head) }, 'left'),
    };
    let [least, most] = [0, 0];
    c.node.descendants((n) => {
      if (!n.isTextblock) return true;
      let all = n.type.name === 'figure' ? this.s.measure >> 2 : 0;
      for (const piece of this.s.paragraph(n, form, this.made).pieces) {
        if (!piece) continue;
        all += piece.width;
        if (piece.kind === 'word') least = Math.max(least, piece.width);
      }
      most = Math.max(most, all + 60);
      return false;
    });
    return { least: least + 60, most };
  }
}
