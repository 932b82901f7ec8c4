'use client';
/** Tables in the manuscript: rows, columns, merged cells, heads, alignment and captions, by the table library. */
import { chainCommands } from 'prosemirror-commands';
import type { Node } from 'prosemirror-model';
import { TextSelection, type Command, type EditorState, type Transaction } from 'prosemirror-state';
import {
  addColumnAfter,
  addColumnBefore,
  addRowAfter,
  addRowBefore,
  CellSelection,
  deleteColumn,
  deleteRow,
  isInTable,
  mergeCells,
  moveTableColumn,
  moveTableRow,
  selectedRect,
  splitCell,
} from 'prosemirror-tables';
import { schema } from '@pagina/core/book';

const n = schema.nodes;
const cell = (head: boolean): Node => n.cell!.create({ id: '', head }, n.paragraph!.create({ id: '' }));

export function newTable(rows: number, columns: number): Node {
  return n.table!.create(
    { id: '' },
    Array.from({ length: rows }, (_, r) =>
      n.row!.create(
        { id: '' },
        Array.from({ length: columns }, () => cell(r === 0)),
      ),
    ),
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
  if (!isInTable(state)) return null;
  const { table, tableStart, top, left } = selectedRect(state);
  return { table, pos: tableStart - 1, row: top, column: left };
}

/** Moves the row or the column of the cursor by one. */
const moved =
  (what: 'row' | 'column', by: 1 | -1): Command =>
  (state, dispatch) => {
    const at = tableAt(state);
    if (!at) return false;
    const from = what === 'row' ? at.row : at.column;
    const to = from + by;
    const length = what === 'row' ? at.table.childCount : selectedRect(state).map.width;
    if (to < 0 || to >= length) return false;
    return (what === 'row' ? moveTableRow : moveTableColumn)({ from, to, select: true, pos: at.pos + 2 })(
      state,
      dispatch,
    );
  };

/** A column put in has its heads where the others have theirs. */
const withHeads =
  (insert: Command): Command =>
  (state, dispatch) => {
    const at = tableAt(state);
    if (!at || !dispatch) return insert(state);
    return insert(state, (tr) => {
      const table = tr.doc.nodeAt(at.pos);
      table?.forEach((row, offset) => {
        const fresh: number[] = [];
        let heads = 0;
        row.forEach((c, inner) => {
          if (c.attrs.head) heads++;
          else fresh.push(at.pos + offset + inner + 2);
        });
        if (heads > 0 && fresh.length === 1) tr.setNodeAttribute(fresh[0] as number, 'head', true);
      });
      dispatch(tr);
    });
  };

/** Sets an attribute of every cell that is chosen, or of those of the row or column of the cursor. */
function setOf(
  state: EditorState,
  of: 'cells' | 'row' | 'column',
  attr: string,
  value: unknown,
): Transaction {
  const rect = selectedRect(state);
  const { map, tableStart } = rect;
  const area =
    of === 'row'
      ? { ...rect, left: 0, right: map.width }
      : of === 'column'
        ? { ...rect, top: 0, bottom: map.height }
        : rect;
  const tr = state.tr;
  for (const pos of map.cellsInRect(area)) tr.setNodeAttribute(tableStart + pos, attr, value);
  return tr;
}

const heads: Command = (state, dispatch) => {
  if (!isInTable(state)) return false;
  const { table } = selectedRect(state);
  let on = false;
  table.firstChild?.forEach((c) => {
    on ||= !c.attrs.head;
  });
  const first = selectedRect(state);
  if (dispatch) {
    const tr = state.tr;
    for (const pos of first.map.cellsInRect({ left: 0, right: first.map.width, top: 0, bottom: 1 }))
      tr.setNodeAttribute(first.tableStart + pos, 'head', on);
    dispatch(tr);
  }
  return true;
};

/** Ranges the cells that are chosen; with a cursor only, the whole column. */
const ranged =
  (align: 'left' | 'centre' | 'right'): Command =>
  (state, dispatch) => {
    if (!isInTable(state)) return false;
    const of = state.selection instanceof CellSelection ? 'cells' : 'column';
    dispatch?.(setOf(state, of, 'align', align));
    return true;
  };

const caption: Command = (state, dispatch) => {
  const at = tableAt(state);
  if (!at) return false;
  const before = state.doc.resolve(at.pos).nodeBefore;
  const has = before?.type === n.tableCaption;
  if (!dispatch) return true;
  const tr = has ? state.tr : state.tr.insert(at.pos, n.tableCaption!.create({ id: '' }));
  const inside = has ? at.pos - 1 : at.pos + 1;
  dispatch(tr.setSelection(TextSelection.near(tr.doc.resolve(inside), has ? -1 : 1)).scrollIntoView());
  return true;
};

const removed: Command = (state, dispatch) => {
  const at = tableAt(state);
  if (!at) return false;
  if (!dispatch) return true;
  const { doc } = state;
  const to = at.pos + at.table.nodeSize;
  const before = doc.resolve(at.pos).nodeBefore;
  const from = before && before.type === n.tableCaption ? at.pos - before.nodeSize : at.pos;
  const tr = state.tr;
  const alone = doc.content.size === to - from || doc.child(0).type === n.noteBody;
  if (alone) tr.replaceWith(from, to, n.paragraph!.create({ id: '' }));
  else tr.delete(from, to);
  dispatch(tr.setSelection(TextSelection.near(tr.doc.resolve(Math.min(from, tr.doc.content.size)))));
  return true;
};

/** What can be done to a table, by what it is done to. */
export const DEEDS: Readonly<Record<string, readonly (readonly [string, Command])[]>> = {
  Row: [
    ['Insert above', addRowBefore],
    ['Insert below', addRowAfter],
    ['Move up', moved('row', -1)],
    ['Move down', moved('row', 1)],
    ['Delete row', chainCommands(deleteRow, removed)],
  ],
  Column: [
    ['Insert left', withHeads(addColumnBefore)],
    ['Insert right', withHeads(addColumnAfter)],
    ['Move left', moved('column', -1)],
    ['Move right', moved('column', 1)],
    ['Delete column', chainCommands(deleteColumn, removed)],
  ],
  Cells: [
    ['Merge cells', mergeCells],
    ['Split cell', splitCell],
    ['Align left', ranged('left')],
    ['Align centre', ranged('centre')],
    ['Align right', ranged('right')],
  ],
};
export const TABLE_DEEDS: readonly (readonly [string, Command])[] = [
  ['Header row', heads],
  ['Caption', caption],
  ['Delete the table', removed],
];
