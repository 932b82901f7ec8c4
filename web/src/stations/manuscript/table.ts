'use client';
/** Tables without joined cells: rows and columns come and go, the first row may be heads. */
import type { Node } from 'prosemirror-model';
import { TextSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { schema } from '@pagina/core/book';

const n = schema.nodes;
const cell = (head: boolean): Node => n.cell!.create({ id: '', head }, n.paragraph!.create({ id: '' }));
const row = (cells: readonly Node[]): Node => n.row!.create({ id: '' }, cells);

export function newTable(rows: number, columns: number): Node {
  return n.table!.create(
    { id: '' },
    Array.from({ length: rows }, (_, r) => row(Array.from({ length: columns }, () => cell(r === 0)))),
  );
}

export interface InTable {
  table: Node;
  /** Position before the table. */
  pos: number;
  row: number;
  column: number;
}
export function tableAt(state: EditorState): InTable | null {
  const { $from } = state.selection;
  for (let d = $from.depth; d > 0; d--)
    if ($from.node(d).type === n.table)
      return { table: $from.node(d), pos: $from.before(d), row: $from.index(d), column: $from.index(d + 1) };
  return null;
}

export type TableDeed =
  | 'row-above'
  | 'row-below'
  | 'column-left'
  | 'column-right'
  | 'delete-row'
  | 'delete-column'
  | 'heads'
  | 'delete-table';

/** The table after the deed; null when nothing of it is left. */
function changed({ table, row: r, column: c }: InTable, deed: TableDeed): Node | null {
  const rows: Node[][] = [];
  table.forEach((x) => {
    const cells: Node[] = [];
    x.forEach((y) => void cells.push(y));
    rows.push(cells);
  });
  const columns = Math.max(...rows.map((x) => x.length));
  const insertColumn = (at: number): void => {
    for (const x of rows) x.splice(Math.min(at, x.length), 0, cell(Boolean(x[0]?.attrs.head)));
  };
  switch (deed) {
    case 'row-above':
    case 'row-below':
      rows.splice(
        deed === 'row-above' ? r : r + 1,
        0,
        Array.from({ length: columns }, () => cell(false)),
      );
      break;
    case 'column-left':
      insertColumn(c);
      break;
    case 'column-right':
      insertColumn(c + 1);
      break;
    case 'delete-row':
      rows.splice(r, 1);
      break;
    case 'delete-column':
      for (const x of rows) x.splice(c, 1);
      break;
    case 'heads': {
      const on = !rows[0]?.every((x) => x.attrs.head);
      rows[0] = (rows[0] ?? []).map((x) => x.type.create({ ...x.attrs, head: on }, x.content));
      break;
    }
    case 'delete-table':
      return null;
  }
  const left = rows.filter((x) => x.length > 0);
  return left.length > 0 ? table.copy(n.table!.create(null, left.map(row)).content) : null;
}

export function changeTable(state: EditorState, deed: TableDeed): Transaction | null {
  const at = tableAt(state);
  if (!at) return null;
  const next = changed(at, deed);
  const tr = state.tr;
  if (next) tr.replaceWith(at.pos, at.pos + at.table.nodeSize, next);
  else if (state.doc.childCount === 1)
    tr.replaceWith(at.pos, at.pos + at.table.nodeSize, n.paragraph!.create({ id: '' }));
  else tr.delete(at.pos, at.pos + at.table.nodeSize);
  return tr.setSelection(TextSelection.near(tr.doc.resolve(Math.min(at.pos + 1, tr.doc.content.size))));
}
