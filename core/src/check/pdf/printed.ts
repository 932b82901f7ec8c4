/** Rules about what a page shows when it is drawn, held against the printer's table: margins, sizes, numbers of pages. */
import type { Finding } from '../../base';
import { leastInside, QUAYHEAD, type Binding } from '../../trade';
import { runRules, type Rule } from '../rules';
import type { PdfSubject } from './subject';
import { pagesNamed } from './pagesnamed';

/** How far the ink of a page stays from each edge of the trim, in points; negative where it runs over. Null for a blank page. */
export interface InkMargins {
  left: number;
  right: number;
  top: number;
  bottom: number;
}
export interface PrintedSubject {
  pdf: PdfSubject;
  /** Of each page as it is drawn. */
  ink: readonly (InkMargins | null)[];
  /** Null where nobody has said what it is to be bound in: margins alone are looked at. */
  binding: Binding | null;
}

const points = (mp: number): number => mp / 1000;
/** Points in a millimetre. */
export const MM = 72 / 25.4;
const mm = (pt: number): string => `${(pt / MM).toFixed(1)} mm`;
/** What rendering may be wrong by, in points: a pixel and its grey edge. */
const SLACK = 1.5;
/** Ink as near as this to the edge is meant to run over it, in points. */
const OVER = 1;

/** The ink nearest to an edge of those pages on which none is meant to reach it. */
function* tooNear(
  { pdf, ink }: PrintedSubject,
  least: number,
  margin: (m: InkMargins, page: number) => number,
): Generator<{ pages: string; nearest: number }> {
  const found = ink.flatMap((m, i) => {
    if (!m) return [];
    const d = margin(m, i);
    // A picture that runs over the edge, or fills the page to it, is judged by its bleed.
    return d > OVER && d < least - SLACK ? [{ page: i + 1, d }] : [];
  });
  if (found.length === 0 || pdf.pages.length === 0) return;
  yield {
    pages: pagesNamed(found.map((f) => f.page)),
    nearest: Math.min(...found.map((f) => f.d)),
  };
}

export const PRINTED_RULES: readonly Rule<PrintedSubject>[] = [
  {
    name: 'pdf/inside-margin',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice: the table of ${QUAYHEAD.name}, by number of pages`,
    why: 'A thick book doesn’t open flat: words near the gutter disappear into it.',
    remedy: 'Set the pages with a wider inside margin.',
    *look(s) {
      const least = points(leastInside(QUAYHEAD, s.pdf.pages.length));
      // The first page is a right-hand one: its left edge is at the fold.
      for (const { pages, nearest } of tooNear(s, least, (m, i) => (i % 2 === 0 ? m.left : m.right)))
        yield {
          message: `On ${pages} the ink is ${mm(nearest)} from the gutter; ${QUAYHEAD.name} requires ${mm(least)} for ${s.pdf.pages.length} pages.`,
        };
    },
  },
  {
    name: 'pdf/outside-margin',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice: the table of ${QUAYHEAD.name}`,
    why: 'It may be trimmed off.',
    remedy: 'Move words away from the edge; let pictures bleed over it.',
    *look(s) {
      const least = points(QUAYHEAD.outside);
      const margin = (m: InkMargins, i: number): number => {
        const outer = i % 2 === 0 ? m.right : m.left;
        const kept = [outer, m.top, m.bottom].filter((d) => d > OVER);
        return kept.length > 0 ? Math.min(...kept) : Infinity;
      };
      for (const { pages, nearest } of tooNear(s, least, margin))
        yield {
          message: `On ${pages} the ink is ${mm(nearest)} from the edge; ${QUAYHEAD.name} requires ${mm(least)}.`,
        };
    },
  },
  {
    name: 'pdf/page-count',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice: the table of ${QUAYHEAD.name}`,
    why: 'The printer can’t bind it.',
    *look({ pdf, binding }) {
      if (!binding) return;
      const { least, most } = QUAYHEAD.pages[binding];
      const count = pdf.pages.length;
      if (count > 0 && (count < least || count > most))
        yield {
          message: `The file has ${count} pages; ${QUAYHEAD.name} binds ${least} to ${most} in ${binding}.`,
        };
    },
  },
  {
    name: 'pdf/trim-range',
    severity: 'caution',
    profiles: ['print'],
    source: `common practice: the table of ${QUAYHEAD.name}`,
    why: 'The printer can’t make a book of this size.',
    *look({ pdf, binding }) {
      const [first] = pdf.pages;
      if (!first || !binding) return;
      const { width, height } = cutOf(first);
      const { least, most } = QUAYHEAD.trims;
      const fits =
        width >= points(least.width) - 1 &&
        height >= points(least.height) - 1 &&
        width <= points(most.width) + 1 &&
        height <= points(most.height) + 1;
      if (!fits)
        yield {
          message: `The pages measure ${mm(width)} × ${mm(height)}; ${QUAYHEAD.name} takes ${mm(points(least.width))} × ${mm(points(least.height))} to ${mm(points(most.width))} × ${mm(points(most.height))}.`,
        };
    },
  },
];

/** A page as it is cut, in points. */
export function cutOf({
  boxes,
  width,
  height,
}: Pick<PdfSubject['pages'][number], 'boxes' | 'width' | 'height'>): {
  x: number;
  y: number;
  width: number;
  height: number;
} {
  const b = boxes.TrimBox ?? boxes.CropBox ?? boxes.MediaBox;
  return b
    ? { x: b[0]!, y: b[1]!, width: b[2]! - b[0]!, height: b[3]! - b[1]! }
    : { x: 0, y: 0, width, height };
}

export const checkPrinted = (subject: PrintedSubject): Finding[] => runRules(PRINTED_RULES, subject);
