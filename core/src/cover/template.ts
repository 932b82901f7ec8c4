/** An empty sheet with its guides, for a designer: where it is cut and folded, where words are safe, where the barcode goes. */
import type { Mp } from '../base';
import type { Box, Drawing } from '../pdf';
import { SAFE, type CoverGeometry } from './geometry';
import type { Pen } from './pen';

const CUT = '#000000';
const SAFE_LINE = '#0a7f6b';
const FOLD = '#b0301c';
const PALE = '#e8e2d4';
const HINGE_LINE = '#c9bfa8';

const inch = (mp: Mp): string => `${(mp / 72_000).toFixed(3)} in`;
const millimetre = (mp: Mp): string => `${((mp / 72_000) * 25.4).toFixed(1)} mm`;
const both = (mp: Mp): string => `${millimetre(mp)} (${inch(mp)})`;

export function coverTemplate(pen: Pen, g: CoverGeometry, title: string, pages: number): Drawing {
  pen.fill({ x: 0, y: 0, width: g.width, height: g.height }, PALE);
  pen.fill(g.trim, '#ffffff');
  pen.frame(g.trim, CUT, 500);
  for (const x of [g.spine.x, g.spine.x + g.spine.width])
    pen.fill({ x: x - 250, y: 0, width: 500, height: g.height }, FOLD);
  // Where the boards begin to lie flat.
  for (const x of g.binding === 'hardback'
    ? [g.safe.back.x + g.safe.back.width + SAFE, g.safe.front.x - SAFE]
    : [])
    pen.fill({ x: x - 250, y: g.trim.y, width: 500, height: g.trim.height }, HINGE_LINE);
  for (const box of [g.safe.back, g.safe.front, ...(g.safe.spine ? [g.safe.spine] : [])])
    pen.frame(box, SAFE_LINE, 500, true);
  pen.frame(g.barcode, CUT, 500, true);
  const say = (lines: readonly string[], box: Box, y: Mp, size = 9_000): void => {
    const set = pen.set(lines, {
      manner: { size, lining: true },
      measure: box.width,
      leading: Math.round(size * 1.4),
      align: 'centre',
    });
    pen.words(set, box.x, y, CUT);
  };
  const middle = g.trim.y + Math.round(g.trim.height * 0.42);
  say(
    [
      'Back',
      `${both(g.back.width)} wide`,
      `${both(g.back.height)} high`,
      'Keep words inside the dashed line,',
      `${millimetre(g.safe.back.x - g.back.x)} from the ${g.binding === 'hardback' ? 'edge of the board' : 'trimmed edge'}.`,
    ],
    g.back,
    middle,
  );
  say(
    [
      `Front of ${title || 'the book'}`,
      `${both(g.front.width)} wide`,
      `The whole sheet: ${both(g.width)} by ${both(g.height)}`,
      ...(g.binding === 'hardback'
        ? [
            `${both(g.bleed)} at every edge are folded in around the boards.`,
            'Pale lines mark the hinges: keep words off them.',
          ]
        : [`Pictures at the edge run ${both(g.bleed)} past the trim.`]),
    ],
    g.front,
    middle,
  );
  say(['Barcode, on white'], g.barcode, g.barcode.y + (g.barcode.height >> 1), 8_000);
  const note = pen.set(
    [
      `Spine ${both(g.spine.width)} for ${pages} pages${g.safe.spine ? '' : ': too narrow for words'}. The red lines are its folds.`,
    ],
    { manner: { size: 7_000, lining: true }, measure: g.height, leading: 8_000, align: 'left' },
  );
  pen.words(note, g.spine.x + (g.spine.width >> 1) - 2_200, g.safe.back.y + 6_000, CUT, 'down');
  return { width: g.width, height: g.height, trim: g.trim, drawn: pen.drawn, faces: pen.faces };
}
