/**
 * What a printer on demand takes: page sizes, page counts, the least margins for a page count. The table is that of
 * *Quayhead*, a printer that does not exist; that such tables go by bands of pages is common practice, the figures are its own.
 */
import { mm, type Mp } from '../base';

export type Binding = 'paperback' | 'hardback';

export interface PrinterTable {
  name: string;
  /** Smallest and largest trim. */
  trims: { least: { width: Mp; height: Mp }; most: { width: Mp; height: Mp } };
  /** Fewest and most pages by binding. */
  pages: Record<Binding, { least: number; most: number }>;
  /** Least margin at the fold, up to and with so many pages; the last band has no end. */
  inside: readonly { upTo: number; margin: Mp }[];
  /** Least margin at the other three edges. */
  outside: Mp;
  /** Pixels an inch that pictures should have at their size, and below which they are refused. */
  pixels: { wanted: number; least: number };
}

export const QUAYHEAD: PrinterTable = {
  name: 'Quayhead',
  trims: { least: { width: mm(100), height: mm(145) }, most: { width: mm(220), height: mm(298) } },
  pages: { paperback: { least: 24, most: 800 }, hardback: { least: 72, most: 560 } },
  inside: [
    { upTo: 160, margin: mm(10) },
    { upTo: 320, margin: mm(13) },
    { upTo: 520, margin: mm(16) },
    { upTo: 720, margin: mm(19) },
    { upTo: Infinity, margin: mm(22) },
  ],
  outside: mm(6.5),
  pixels: { wanted: 300, least: 150 },
};

/** The least margin at the fold for so many pages. */
export const leastInside = (table: PrinterTable, pages: number): Mp =>
  (table.inside.find((band) => pages <= band.upTo) ?? (table.inside.at(-1) as { margin: Mp })).margin;
