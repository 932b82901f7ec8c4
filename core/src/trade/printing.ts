/**
 * Printing on demand: papers, the spine they make, and what a copy costs. The papers' calipers are common practice, from
 * memory; the price list is that of *Quayhead*, a printer that does not exist and stands in for one.
 */
import { inches, mm, type Mp, type Money } from '../base';
import type { Trim } from '../design';
import { QUAYHEAD, type Binding } from './printer';

export interface Paper {
  id: string;
  name: string;
  /** Thickness of a leaf in micrometres. */
  caliper: number;
}
export const PAPERS: readonly [Paper, ...Paper[]] = [
  { id: 'cream-80', name: 'Cream, 80 g/m²', caliper: 127 },
  { id: 'white-80', name: 'White, 80 g/m²', caliper: 104 },
  { id: 'white-90', name: 'White, 90 g/m²', caliper: 115 },
  { id: 'coated-115', name: 'Coated, 115 g/m², for pictures', caliper: 92 },
];
export const paperOf = (id: string): Paper => PAPERS.find((p) => p.id === id) ?? PAPERS[0];

/** Thickness of a board of a hardback with its lining, in micrometres (common practice, from memory). */
const BOARD = 3_000;

/**
 * Width of the spine: half as many leaves as pages, each of the paper's caliper; of a hardback the two boards too, since its
 * spine stands as high as they do.
 */
export const spineWidth = (pages: number, paper: Paper, binding: Binding = 'paperback'): Mp =>
  mm((Math.ceil(pages / 2) * paper.caliper + (binding === 'hardback' ? 2 * BOARD : 0)) / 1000);

/** Quayhead's list, in pence: a fixed sum a copy, and thousandths of a penny a page. */
const LIST = {
  small: { copy: 78, page: 1_050 },
  large: { copy: 86, page: 1_320 },
  colourPage: 4_800,
  /** Boards, their printed covering and endpapers, instead of a cover of card. */
  boards: 395,
} as const;
const pence = (minor: number): Money => ({ minor, currency: 'GBP' });
/** Trims no larger than this are priced as small ones. */
const SMALL = { width: inches(6.14), height: inches(9.21) };
/** What a copy costs; null where the list has no price because the printer does not bind so many or so few pages. */
export function printingCost(
  pages: number,
  trim: Pick<Trim, 'width' | 'height'>,
  colour: boolean,
  binding: Binding = 'paperback',
): Money | null {
  const { least, most } = QUAYHEAD.pages[binding];
  if (pages < least || pages > most) return null;
  const size = trim.width <= SMALL.width && trim.height <= SMALL.height ? LIST.small : LIST.large;
  const bound = binding === 'hardback' ? LIST.boards : 0;
  return pence(bound + size.copy + Math.ceil((pages * (colour ? LIST.colourPage : size.page)) / 1000));
}

/** Share of the list price that a shop keeps (common practice for books sold on). */
const SHOP_KEEPS = 0.4;
/** The list price below which the author gets nothing: what the shop leaves must pay the printing. */
export const lowestListPrice = (cost: Money): Money => ({
  ...cost,
  minor: Math.ceil(cost.minor / (1 - SHOP_KEEPS)),
});
