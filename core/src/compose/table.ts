/** A table: columns of one width, a block for every row, so that a long one goes over pages. */
import type { Node } from 'prosemirror-model';
import type { FlowBlock, Item } from './flow';
import { solid } from './opening';
import type { ParagraphForm, Setter } from './setter';

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
  const gutter = s.interior.text.size;
  const width = Math.floor((s.measure - gutter * (columns - 1)) / columns);
  const blocks: FlowBlock[] = [];
  table.forEach((row, _offset, index) => {
    const items: Item[] = [];
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
        const lines = s.items(p, s.break(p, form), form);
        items.push(...lines.map((l) => l.atRow(l.row + at)));
        at += lines.length;
      });
      rows = Math.max(rows, at);
    });
    const place = { section, block: row.attrs.id as string };
    blocks.push(solid(section, rows, items, { place, before: index === 0 ? 1 : 0 }));
  });
  return blocks;
}
