/**
 * A sheet in colour: fills, pictures, words and lines, laid over one another in their order. Covers are drawn as one, and
 * given to the PDF, to the screen and to the ebook's picture from it. Lengths are millipoints from the sheet's top left.
 */
import type { Mp } from '../base';
import type { DisplayList } from '../compose';
import type { Face } from '../type';

export interface Box {
  x: Mp;
  y: Mp;
  width: Mp;
  height: Mp;
}

/** sRGB as "#rrggbb". */
export type Colour = string;

export type Drawn =
  | ({ kind: 'fill'; colour: Colour } & Box)
  /** The outline of a box, its line within the box. */
  | ({ kind: 'frame'; colour: Colour; thickness: Mp; dashed?: boolean } & Box)
  /** A picture in `box`, of which `clip` is seen. */
  | { kind: 'picture'; picture: string; box: Box; clip: Box }
  /** A list whose origin lies at x, y, turned about it by a quarter: `down` reads from head to foot. */
  | { kind: 'words'; list: DisplayList; x: Mp; y: Mp; turn: 'none' | 'down' | 'up'; colour: Colour };

export interface Drawing {
  width: Mp;
  height: Mp;
  /** What is left when the sheet is cut; equal to the sheet where nothing bleeds. */
  trim: Box;
  drawn: readonly Drawn[];
  /** Faces by the numbers in the lists. */
  faces: readonly Face[];
}
