/**
 * The interior: every measure and habit of a printed page, resolved to millipoints. One trim is one page size for the
 * whole edition. Sizes and margins follow common practice (TRADE figures are quoted in docs/typesetting.md).
 */
import { inches, pt, parseTrim, type Mp } from '../base';

export interface Interior {
  name: string;
  family: string;
  page: { width: Mp; height: Mp };
  margins: { inside: Mp; outside: Mp; top: Mp; bottom: Mp };
  text: {
    size: Mp;
    leading: Mp;
    indent: Mp;
    /** Stretch and shrink of a word space, in thousandths of an em. */
    stretch: number;
    shrink: number;
    /** How much wider or narrower the letters of a justified line may be drawn, in thousandths. */
    glyphScaling: number;
  };
  note: { size: Mp; leading: Mp };
  opening: {
    /** Grid rows from the head of the type area to the number's baseline. */
    sink: number;
    numberSize: Mp;
    titleSize: Mp;
    subtitleSize: Mp;
    /** Grid rows from the last heading line to the first line of text. */
    gap: number;
    dropCapLines: number;
    smallCapWords: number;
  };
  ornament: string;
  head: { size: Mp; /** From the head of the type area up to the head's baseline. */ above: Mp };
}

export interface Trim {
  name: string;
  width: Mp;
  height: Mp;
}

export const TRIMS: readonly Trim[] = [
  { name: '5 × 8 in', width: inches(5), height: inches(8) },
  { name: '5.5 × 8.5 in', width: inches(5.5), height: inches(8.5) },
  { name: '6 × 9 in', width: inches(6), height: inches(9) },
];

/** A listed trim by name, or one typed as "5.5x8.5in"; null when it is neither. */
export function trimOf(text: string): Trim | null {
  const listed = TRIMS.find((t) => t.name === text);
  if (listed) return listed;
  const size = parseTrim(text);
  if (!size) return null;
  const same = TRIMS.find(
    (t) => Math.abs(t.width - size.width) < 100 && Math.abs(t.height - size.height) < 100,
  );
  return same ?? { name: text, ...size };
}

/** *Harrow*: EB Garamond 11/14, quiet openings with a raised number, a drop cap and a few words in small capitals. */
export function harrow(trim: Trim): Interior {
  const wide = trim.width >= inches(6);
  const narrow = trim.width < inches(5.25);
  return {
    name: 'Harrow',
    family: 'EB Garamond',
    page: { width: trim.width, height: trim.height },
    margins: {
      inside: wide ? inches(0.875) : inches(0.75),
      outside: wide ? inches(0.75) : inches(0.5),
      top: narrow ? pt(50) : pt(54),
      bottom: narrow ? pt(50) : pt(54),
    },
    text: { size: pt(11), leading: pt(14), indent: inches(0.25), stretch: 167, shrink: 80, glyphScaling: 10 },
    note: { size: pt(9), leading: pt(11) },
    opening: {
      sink: 6,
      numberSize: pt(11),
      titleSize: pt(20),
      subtitleSize: pt(13),
      gap: 4,
      dropCapLines: 2,
      smallCapWords: 4,
    },
    ornament: '❦',
    head: { size: pt(9.5), above: pt(17) },
  };
}

export const INTERIORS = ['Harrow'] as const;
export const interiorOf = (_name: string, trim: Trim): Interior => harrow(trim);

/** Grid rows of the type area: as many full leadings as stand between the margins. */
export const rowsOf = (i: Interior): number =>
  Math.floor((i.page.height - i.margins.top - i.margins.bottom) / i.text.leading);
export const measureOf = (i: Interior): Mp => i.page.width - i.margins.inside - i.margins.outside;
