/**
 * What pages of any PDF show once they are drawn: how far ink stays from the edges, barcodes and words of a cover, and an
 * impression for the proof.
 */
import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { done, refused, type Outcome } from '@pagina/core/base';
import { cutOf, type InkMargins, type PdfSubject, type ReadBarcode } from '@pagina/core/check';
import type { Impression, View } from '@pagina/core/proof';
import { barcodesIn } from './barcodes';
import { draw, opened, type Drawn } from './drawing';
import type { Grey } from './grey';
import { linesOf } from './pdflines';

/** Ink lighter than this isn't seen. */
const LIGHT = 235;
/** Dots an inch at which margins are measured: a pixel is a fifth of a millimetre. */
const MARGIN_DPI = 120;

export interface PagesShown {
  /** How far the ink of every page stays from its trim. */
  ink: (InkMargins | null)[];
  impression: Impression;
}

/** Pages of an interior. `progress` answers false to stop. Errors: `pdf/not-drawn`, `pdf/stopped`. */
export async function pagesShow(
  bytes: Uint8Array,
  pdf: PdfSubject,
  progress: (share: number) => boolean = () => true,
): Promise<Outcome<PagesShown>> {
  const r = await opened(bytes, async (doc) => {
    const ink: (InkMargins | null)[] = [];
    const views: View[] = [];
    const labels = await doc.getPageLabels();
    let size = { width: 0, height: 0 };
    for (let n = 1; n <= doc.numPages; n++) {
      if (!progress((n - 1) / doc.numPages)) return null;
      const page = await doc.getPage(n);
      if (n === 1) size = sizeOf(page);
      const lines = await linesOf(page);
      const drawn = await draw(page, MARGIN_DPI);
      const subject = pdf.pages[n - 1];
      ink.push(subject ? marginsOf(drawn, page.view, cutOf(subject)) : null);
      views.push(viewOf(drawn, lines, labels?.[n - 1] || String(n)));
    }
    return { ink, impression: { version: 1 as const, engine: 0, ...size, views } };
  });
  if (!r.ok) return r;
  return r.value ? done(r.value) : refused('pdf/stopped', 'The drawing of the pages was stopped.');
}

const sizeOf = ({ view: [x0 = 0, y0 = 0, x1 = 0, y1 = 0] }: PDFPageProxy) => ({
  width: x1 - x0,
  height: y1 - y0,
});
/** Nothing is known of a page but what is seen: moved words are changed ones. */
const viewOf = ({ sum }: Drawn, lines: Pick<View, 'words' | 'places'>, label: string): View => ({
  mark: sum,
  matter: sum,
  label,
  path: '',
  ...lines,
});

function marginsOf(
  { width, height, data, scale }: Grey & { scale: number },
  [left = 0, , , top = 0]: readonly number[],
  trim: { x: number; y: number; width: number; height: number },
): InkMargins | null {
  let [x0, x1, y0, y1] = [width, -1, height, -1];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++)
      if (data[at]! < LIGHT) {
        if (x < x0) x0 = x;
        if (x > x1) x1 = x;
        if (y < y0) y0 = y;
        if (y > y1) y1 = y;
      }
  if (x1 < 0) return null;
  // From pixels of the drawn sheet, whose corner is the view's, to points of the page.
  const at = (x: number): number => left + x / scale;
  const down = (y: number): number => top - y / scale;
  return {
    left: at(x0) - trim.x,
    right: trim.x + trim.width - at(x1 + 1),
    top: trim.y + trim.height - down(y0),
    bottom: down(y1 + 1) - trim.y,
  };
}

/** Dots an inch at which barcodes are looked for: the narrowest bar of one at half its size is two dots wide. */
const BARCODE_DPI = 360;

/** Dots an inch at which words are read, and a sheet is known again. */
const WORDS_DPI = 150;

export interface CoverShown {
  /** Barcodes of books (EAN-13). */
  barcodes: ReadBarcode[];
  /** Lines of words. */
  words: string[];
  impression: Impression;
}

/** What a cover’s sheet shows. Errors: `pdf/not-drawn`. */
export const sheetShows = (bytes: Uint8Array): Promise<Outcome<Impression>> =>
  opened(bytes, async (doc) => (await impressionOfSheet(await doc.getPage(1))).impression);

/** The same, and what is read on it. Errors: `pdf/not-drawn`. */
export const coverShows = (bytes: Uint8Array): Promise<Outcome<CoverShown>> =>
  opened(bytes, async (doc) => {
    const page = await doc.getPage(1);
    const barcodes = barcodesIn(await draw(page, BARCODE_DPI));
    const { drawn, impression } = await impressionOfSheet(page);
    const { wordsOn } = await import('./coverwords');
    return { barcodes, words: await wordsOn(drawn), impression };
  });

async function impressionOfSheet(page: PDFPageProxy): Promise<{ drawn: Drawn; impression: Impression }> {
  const lines = await linesOf(page);
  const drawn = await draw(page, WORDS_DPI);
  const views = [viewOf(drawn, lines, 'Cover')];
  return { drawn, impression: { version: 1, engine: 0, ...sizeOf(page), views } };
}
