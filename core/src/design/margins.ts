/** Margins: what a trim gets without a wish, and what is suggested when the number of pages is known. */
import { inches, inchString, pt, type Mp } from '../base';
import type { Trim } from './trims';

export interface Margins {
  inside: Mp;
  outside: Mp;
  top: Mp;
  bottom: Mp;
}

/** By the trim alone (common practice: 6 × 9 in with 0.875 inside and 0.75 outside; at least 0.75 inside on smaller). */
export function plainMargins({ width, height }: Trim): Margins {
  const wide = width >= inches(6);
  const narrow = width < inches(5.25);
  const upright = height < inches(7) ? pt(42) : narrow ? pt(50) : pt(54);
  // A page narrower than a paperback gives up margin rather than measure.
  const share = Math.min(1, width / inches(5));
  return {
    inside: Math.round((wide ? inches(0.875) : inches(0.75)) * share),
    outside: Math.round((wide ? inches(0.75) : inches(0.5)) * share),
    top: upright,
    bottom: upright,
  };
}

/** Pages to a further sixteenth of an inch inside: a thick book opens less far (common practice). */
const THICK = { from: 300, step: 150 };

/** Margins for a trim and an extent, with the reason in a sentence. */
export function suggestedMargins(trim: Trim, pages: number): { margins: Margins; reason: string } {
  const plain = plainMargins(trim);
  const steps = Math.min(6, Math.max(0, Math.ceil((pages - THICK.from) / THICK.step)));
  const inside = plain.inside + steps * inches(1 / 16);
  const reason =
    steps === 0
      ? `${pages} pages open flat enough for ${inchString(inside)} in inside.`
      : `${pages} pages do not open flat: ${inchString(inside)} in inside instead of ${inchString(plain.inside)}, so that no line runs into the fold.`;
  return { margins: { ...plain, inside }, reason };
}
