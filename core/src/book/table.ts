/** A table's cells in their places: which column each begins in, however cells are merged. */
import type { Node } from 'prosemirror-model';

export interface PlacedCell {
  node: Node;
  row: number;
  column: number;
  colspan: number;
  rowspan: number;
}
export interface TableGrid {
  columns: number;
  cells: readonly PlacedCell[];
  /** Share of the width of each column, in thousandths of all; null where no widths were set. */
  widths: readonly number[] | null;
}

const MOST = 100;

/** Cells go into the first place of their row that is free for all of them: HTML, §4.9.12, without its overlaps. */
export function gridOf(table: Node): TableGrid {
  const taken: boolean[][] = Array.from({ length: table.childCount }, () => []);
  const cells: PlacedCell[] = [];
  const set: number[] = [];
  let columns = 1;
  table.forEach((row, _offset, r) => {
    let c = 0;
    row.forEach((node) => {
      const colspan = Math.max(1, Math.min(MOST, Number(node.attrs.colspan)));
      const isFree = (at: number): boolean =>
        Array.from({ length: colspan }, (_, k) => taken[r]?.[at + k]).every((x) => !x);
      while (!isFree(c)) c++;
      const rowspan = Math.max(1, Math.min(table.childCount - r, Number(node.attrs.rowspan)));
      cells.push({ node, row: r, column: c, colspan, rowspan });
      const widths = (node.attrs.colwidth ?? []) as readonly number[];
      for (let k = 0; k < colspan; k++) {
        for (let x = r; x < r + rowspan; x++) (taken[x] as boolean[])[c + k] = true;
        if (Number(widths[k]) > 0) set[c + k] ??= Number(widths[k]);
      }
      c += colspan;
      columns = Math.max(columns, c);
    });
  });
  return { columns, cells, widths: sharesOf(set, columns) };
}

/** Columns without a width of their own are as wide as the others on average. */
function sharesOf(set: readonly (number | undefined)[], columns: number): number[] | null {
  const known = set.filter((w): w is number => w !== undefined);
  if (known.length === 0) return null;
  const mean = known.reduce((a, b) => a + b, 0) / known.length;
  const widths = Array.from({ length: columns }, (_, i) => set[i] ?? mean);
  const all = widths.reduce((a, b) => a + b, 0);
  return widths.map((w) => Math.round((w * 1000) / all));
}

/** How many rows at the top are heads throughout. */
export function headRows(table: Node): number {
  let n = 0;
  let heads = true;
  table.forEach((row) => {
    row.forEach((cell) => {
      heads &&= Boolean(cell.attrs.head);
    });
    if (heads) n++;
  });
  return n < table.childCount ? n : 0;
}
