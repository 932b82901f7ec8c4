/** The words of a PDF's page line by line, as the file itself has them, and where each line stands. */
import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { View } from '@pagina/core/proof';

interface Piece {
  text: string;
  /** Left end of the baseline, from the left and from the top of the page, in points. */
  x: number;
  y: number;
  width: number;
  size: number;
}

/** A gap as wide as this share of the size is a space. */
const SPACE = 0.15;
/** Pieces whose baselines are this near, as a share of the size, are on one line. */
const LEVEL = 0.3;

/** In the order in which the file draws them; words that are drawn as outlines are pictures, and none of these. */
export async function linesOf(page: PDFPageProxy): Promise<Pick<View, 'words' | 'places'>> {
  const { items } = await page.getTextContent();
  const [left = 0, , , top = 0] = page.view;
  const lines: Piece[] = [];
  let open: Piece | null = null;
  for (const item of items) {
    if (!('str' in item)) continue;
    const [a, b, , , x, y] = item.transform as [number, number, number, number, number, number];
    const size = Math.hypot(a, b) || item.height;
    const piece = { text: item.str, x: x - left, y: top - y, width: item.width, size };
    if (piece.text.trim() !== '') {
      if (open && isSame(open, piece)) join(open, piece);
      else lines.push((open = piece));
    }
    if (item.hasEOL) open = null;
  }
  return {
    words: lines.map((l) => l.text),
    places: lines.map(
      ({ x, y, width, size }) => [x, y, width, size, 0].map(rounded) as View['places'][number],
    ),
  };
}

const rounded = (n: number): number => Math.round(n * 1000) / 1000;
const isSame = (line: Piece, next: Piece): boolean =>
  Math.abs(line.y - next.y) < LEVEL * line.size && next.x > line.x;
function join(line: Piece, next: Piece): void {
  const gap = next.x - (line.x + line.width);
  const apart = gap > SPACE * line.size && !/\s$/.test(line.text) && !/^\s/.test(next.text);
  line.text += (apart ? ' ' : '') + next.text;
  line.width = next.x + next.width - line.x;
}
