/**
 * The sheet of a paperback's cover, from left to right: bleed, back, spine, front, bleed. All figures are common practice:
 * an eighth of an inch of bleed, words a quarter inch from the cut and a sixteenth from the spine's folds, which move.
 */
import { inches, mm, type Mp } from '../base';
import { BLEED } from '../compose';
import type { Trim } from '../design';
import type { Box } from '../pdf';
import { spineWidth, type Paper } from '../trade';

/** Nothing that matters stands nearer to the cut. */
export const SAFE: Mp = inches(0.25);
/** The same on either side of the spine's folds. */
const SPINE_SAFE: Mp = inches(0.0625);
/** A narrower spine bears no words: they would run over the folds. */
export const LEAST_SPINE: Mp = mm(6);
/** Room for a barcode of full size with its light margins, and a line above it. */
const BARCODE = { width: inches(2), height: inches(1.2) };

/** The margin of words on front and back, by their width. */
export const marginOf = (width: Mp): Mp => Math.round(width * 0.095);

export interface CoverGeometry {
  width: Mp;
  height: Mp;
  bleed: Mp;
  /** As cut. */
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
): CoverGeometry {
  const spine = spineWidth(pages, paper);
  const at = (x: Mp, width: Mp): Box => ({ x, y: BLEED, width, height: trim.height });
  const back = at(BLEED, trim.width);
  const middle = at(back.x + back.width, spine);
  const front = at(middle.x + spine, trim.width);
  const margin = Math.max(SAFE, marginOf(trim.width));
  return {
    width: 2 * BLEED + 2 * trim.width + spine,
    height: 2 * BLEED + trim.height,
    bleed: BLEED,
    trim: at(BLEED, 2 * trim.width + spine),
    back,
    spine: middle,
    front,
    safe: {
      back: inset(back, SAFE, SAFE),
      spine: spine >= LEAST_SPINE ? inset(middle, SPINE_SAFE, SAFE) : null,
      front: inset(front, SAFE, SAFE),
    },
    barcode: {
      x: back.x + back.width - margin - BARCODE.width,
      y: back.y + back.height - margin - BARCODE.height,
      ...BARCODE,
    },
  };
}
