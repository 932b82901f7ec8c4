/**
 * The sheet of a cover, from left to right: bleed, back, spine, front, bleed. All figures are common practice, from memory:
 * an eighth of an inch of bleed, words a quarter inch from the cut and a sixteenth from the spine's folds, which move.
 *
 * A hardback's sheet is glued over its boards. They stand over the pages by an eighth of an inch at three edges; between
 * board and spine runs a hinge, into which the sheet is pressed; and the sheet is folded in around the boards.
 */
import { inches, mm, type Mp } from '../base';
import { BLEED } from '../compose';
import type { Trim } from '../design';
import type { Box } from '../pdf';
import { spineWidth, type Binding, type Paper } from '../trade';

/** Nothing that matters stands nearer to the cut. */
export const SAFE: Mp = inches(0.25);
/** The same on either side of the spine's folds. */
const SPINE_SAFE: Mp = inches(0.0625);
/** How far boards stand over the pages. */
const SQUARE: Mp = inches(0.125);
/** From a hardback's spine to where the board begins to lie flat. */
const HINGE: Mp = mm(9);
/** What is folded in around the boards. */
const TURN_IN: Mp = mm(16);
/** A narrower spine bears no words: they would run over the folds. */
export const LEAST_SPINE: Mp = mm(6);
/** Room for a barcode of full size with its light margins, and a line above it. */
const BARCODE = { width: inches(2), height: inches(1.2) };

/** The margin of words on front and back, by their width. */
export const marginOf = (width: Mp): Mp => Math.round(width * 0.095);

export interface CoverGeometry {
  width: Mp;
  height: Mp;
  /** Past the edges that are seen: cut off from a paperback's cover, folded in around a hardback's boards. */
  bleed: Mp;
  binding: Binding;
  /** As it is seen. */
  trim: Box;
  back: Box;
  spine: Box;
  front: Box;
  /** Where words may stand. */
  safe: { back: Box; spine: Box | null; front: Box };
  barcode: Box;
}

const inset = (b: Box, x: Mp, y: Mp): Box => ({
  x: b.x + x,
  y: b.y + y,
  width: b.width - 2 * x,
  height: b.height - 2 * y,
});

export function coverGeometry(
  trim: Pick<Trim, 'width' | 'height'>,
  pages: number,
  paper: Paper,
  binding: Binding = 'paperback',
): CoverGeometry {
  const hard = binding === 'hardback';
  const spine = spineWidth(pages, paper, binding);
  const bleed = hard ? TURN_IN : BLEED;
  // The hinge is a part of back and front, and takes what the boards are moved out.
  const panel = hard ? trim.width + SQUARE : trim.width;
  const height = hard ? trim.height + 2 * SQUARE : trim.height;
  const hinge = hard ? HINGE : 0;
  const at = (x: Mp, width: Mp): Box => ({ x, y: bleed, width, height });
  const back = at(bleed, panel);
  const middle = at(back.x + back.width, spine);
  const front = at(middle.x + spine, panel);
  const margin = Math.max(SAFE, marginOf(panel));
  const safe = (b: Box, from: Mp): Box => inset({ ...b, x: from, width: b.width - hinge }, SAFE, SAFE);
  return {
    width: 2 * bleed + 2 * panel + spine,
    height: 2 * bleed + height,
    bleed,
    binding,
    trim: at(bleed, 2 * panel + spine),
    back,
    spine: middle,
    front,
    safe: {
      back: safe(back, back.x),
      spine: spine >= LEAST_SPINE ? inset(middle, SPINE_SAFE, SAFE) : null,
      front: safe(front, front.x + hinge),
    },
    barcode: {
      x: back.x + back.width - hinge - margin - BARCODE.width,
      y: back.y + back.height - margin - BARCODE.height,
      ...BARCODE,
    },
  };
}
