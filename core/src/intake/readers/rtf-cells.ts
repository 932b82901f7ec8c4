/** Tables of Rich Text (RTF 1.9.1, "Table Definitions"): cells by their right edges, merged ones by their words. */
import type { RawCell, RawParagraph, RawTable } from '../raw';

/** A cell as its row defines it. */
interface CellPlace {
  /** Twips from the page's left margin. */
  right: number;
  /** Belongs to the cell before it, or to the one above. */
  ofLeft: boolean;
  ofAbove: boolean;
}
interface Row {
  cells: RawParagraph[][];
  places: CellPlace[];
  left: number;
  head: boolean;
}
/** Edges as near as this are one. */
const NEAR = 30;

export class RtfCells {
  private rows: Row[] = [];
  private cells: RawParagraph[][] = [];
  private places: CellPlace[] = [];
  private left = 0;
  private head = false;
  private next = { ofLeft: false, ofAbove: false };

  get empty(): boolean {
    return this.rows.length === 0 && this.cells.length === 0;
  }

  /** Takes a word that defines a row; false for any other. */
  word(word: string, param = 0): boolean {
    switch (word) {
      case 'trowd':
        this.places = [];
        this.left = 0;
        this.head = false;
        this.next = { ofLeft: false, ofAbove: false };
        return true;
      case 'trleft':
        this.left = param;
        return true;
      case 'trhdr':
        this.head = true;
        return true;
      case 'clmrg':
        this.next.ofLeft = true;
        return true;
      case 'clvmrg':
        this.next.ofAbove = true;
        return true;
      case 'cellx':
        this.places.push({ right: param, ...this.next });
        this.next = { ofLeft: false, ofAbove: false };
        return true;
    }
    return false;
  }

  cell(paragraphs: RawParagraph[]): void {
    this.cells.push(paragraphs);
  }
  endRow(): void {
    if (this.cells.length > 0)
      this.rows.push({ cells: this.cells, places: [...this.places], left: this.left, head: this.head });
    this.cells = [];
  }

  /** The table that the rows so far are, and room for the next one. */
  take(): RawTable {
    this.endRow();
    const { rows } = this;
    this.rows = [];
    const known = rows.every((r) => r.places.length === r.cells.length);
    return known ? laidOut(rows) : { kind: 'table', rows: rows.map((r) => r.cells) };
  }
}

function laidOut(rows: readonly Row[]): RawTable {
  const edges: number[] = [];
  for (const e of rows.flatMap((r) => [r.left, ...r.places.map((p) => p.right)]).sort((a, b) => a - b))
    if (edges.length === 0 || e - (edges.at(-1) as number) > NEAR) edges.push(e);
  const column = (x: number): number => edges.findLastIndex((e) => e <= x + NEAR);
  /** By the column in which it begins: the cell that the next row may go on. */
  let above = new Map<number, { lie: RawCell; cell: RawParagraph[] }>();
  const out: Required<Pick<RawTable, 'rows' | 'cells'>> = { rows: [], cells: [] };
  for (const r of rows) {
    const cells: RawParagraph[][] = [];
    const lies: RawCell[] = [];
    const here: typeof above = new Map();
    let from = column(r.left);
    let open: { lie: RawCell; cell: RawParagraph[] } | null = null;
    r.cells.forEach((cell, i) => {
      const place = r.places[i] as CellPlace;
      const to = Math.max(from + 1, column(place.right));
      const over = place.ofAbove ? above.get(from) : undefined;
      if (place.ofLeft && open) {
        open.cell.push(...filled(cell));
        open.lie.colspan = (open.lie.colspan ?? 1) + to - from;
      } else if (over) {
        over.cell.push(...filled(cell));
        over.lie.rowspan = (over.lie.rowspan ?? 1) + 1;
        here.set(from, over);
        open = null;
      } else {
        open = { lie: { colspan: to - from, rowspan: 1, head: r.head }, cell };
        cells.push(cell);
        lies.push(open.lie);
        here.set(from, open);
      }
      from = to;
    });
    above = here;
    out.rows.push(cells);
    out.cells.push(lies);
  }
  return { kind: 'table', ...out };
}
const filled = (cell: readonly RawParagraph[]): RawParagraph[] =>
  cell.filter((p) => p.text.trim() !== '' || p.pictures.length > 0 || p.inline.length > 0);
