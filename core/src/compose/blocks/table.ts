/** A table: columns of one width, a block for every row, so that a long one goes over pages. */
import type { Node } from 'prosemirror-model';
import { rowsOf } from '../../design';
import type { FlowBlock, Item } from '../lines';
import { solid } from './opening';
import type { ParagraphForm, Setter } from './setter';

/** A row of more than this share of a page may be divided: kept whole it would leave a hole before it. */
const TALL = 0.4;

export function tableBlocks(
  s: Setter,
  table: Node,
  section: string,
  markOf: (ref: string) => string,
): FlowBlock[] {
  let columns = 1;
  table.forEach((row) => {
    columns = Math.max(columns, row.childCount);
  });
  const gutter = Math.min(s.interior.text.size, Math.floor(s.measure / columns / 4));
  const width = Math.floor((s.measure - gutter * (columns - 1)) / columns);
  const blocks: FlowBlock[] = [];
  table.forEach((row, _offset, index) => {
    const items: Item[] = [];
    const notes = new Map<number, readonly string[]>();
    let rows = 1;
    row.forEach((cell, _at, c) => {
      let at = 0;
      cell.forEach((para) => {
        const form: ParagraphForm = {
          manner: { size: s.interior.notes.size, bold: Boolean(cell.attrs.head) },
          indent: 0,
          x: c * (width + gutter),
          measure: width,
          align: 'left',
          hyphenate: true,
        };
        const p = s.paragraph(para, form, markOf);
        if (p.pieces.length === 0) return;
        const set = s.variant(p, s.break(p, form), form);
        for (const l of set.items) if ('atRow' in l) items.push(l.atRow(l.row + at));
        for (const [r, ids] of set.notes) notes.set(r + at, [...(notes.get(r + at) ?? []), ...ids]);
        at += set.rows;
      });
      rows = Math.max(rows, at);
    });
    const place = { section, block: row.attrs.id as string };
    const kind = rows > rowsOf(s.interior) * TALL ? 'text' : 'solid';
    const block = solid(section, rows, items, { kind, place, before: index === 0 ? 1 : 0 });
    blocks.push({ ...block, best: { ...block.best, notes } });
  });
  return blocks;
}
