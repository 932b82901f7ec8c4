/**
 * Pages of any PDF as they are drawn, by pdf.js: how far ink stays from the edges, and barcodes, read by a decoder that
 * knows nothing of how ours are made.
 */
import { createCanvas } from '@napi-rs/canvas';
import {
  BarcodeFormat,
  BinaryBitmap,
  DecodeHintType,
  GlobalHistogramBinarizer,
  HybridBinarizer,
  MultiFormatReader,
  RGBLuminanceSource,
} from '@zxing/library';
import type { PDFDocumentProxy, PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { done, refused, type Outcome } from '@pagina/core/base';
import type { InkMargins, PdfSubject, ReadBarcode } from '@pagina/core/check';
import { cutOf } from '@pagina/core/check';
import type { Grey } from './grey';
import { pdfjsFolder } from './places';

/** Pixels of a page at most: a poster's sheet is drawn coarser. */
const MOST_PIXELS = 40_000_000;

async function opened<T>(bytes: Uint8Array, use: (doc: PDFDocumentProxy) => Promise<T>): Promise<Outcome<T>> {
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({
    data: Uint8Array.from(bytes),
    verbosity: VerbosityLevel.ERRORS,
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    standardFontDataUrl: pdfjsFolder('standard_fonts'),
    cMapUrl: pdfjsFolder('cmaps'),
    wasmUrl: pdfjsFolder('wasm'),
  });
  try {
    return done(await use(await task.promise));
  } catch (e) {
    return refused('pdf/not-drawn', `The pages can’t be drawn: ${(e as Error).message.split('\n')[0]}.`);
  } finally {
    await task.destroy();
  }
}

/** Draws the whole sheet of a page. */
async function draw(page: PDFPageProxy, dpi: number): Promise<Grey & { scale: number }> {
  const plain = page.getViewport({ scale: 1, rotation: 0 });
  const scale = Math.min(dpi / 72, Math.sqrt(MOST_PIXELS / (plain.width * plain.height)));
  const viewport = page.getViewport({ scale, rotation: 0 });
  const [width, height] = [Math.max(1, Math.round(viewport.width)), Math.max(1, Math.round(viewport.height))];
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  await page.render({
    canvas: null,
    canvasContext: context as unknown as CanvasRenderingContext2D,
    viewport,
    background: '#ffffff',
  }).promise;
  const rgba = context.getImageData(0, 0, width, height).data;
  const data = new Uint8ClampedArray(width * height);
  for (let i = 0, k = 0; i < data.length; i++, k += 4)
    data[i] = (rgba[k]! * 2 + rgba[k + 1]! * 5 + rgba[k + 2]!) >> 3;
  page.cleanup();
  return { width, height, data, scale };
}

/** Ink lighter than this isn't seen. */
const LIGHT = 235;
/** Dots an inch at which margins are measured: a pixel is a fifth of a millimetre. */
const MARGIN_DPI = 120;

/** How far the ink of every page stays from its trim. Errors: `pdf/not-drawn`, `pdf/stopped`. */
export async function inkMargins(
  bytes: Uint8Array,
  pdf: PdfSubject,
  progress: (share: number) => boolean = () => true,
): Promise<Outcome<(InkMargins | null)[]>> {
  const r = await opened(bytes, async (doc) => {
    const found: (InkMargins | null)[] = [];
    for (let n = 1; n <= doc.numPages; n++) {
      if (!progress((n - 1) / doc.numPages)) return null;
      const page = await doc.getPage(n);
      const subject = pdf.pages[n - 1];
      found.push(subject ? marginsOf(await draw(page, MARGIN_DPI), page.view, cutOf(subject)) : null);
    }
    return found;
  });
  if (!r.ok) return r;
  return r.value ? done(r.value) : refused('pdf/stopped', 'The drawing of the pages was stopped.');
}

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

/** Dots an inch at which words are read. */
const WORDS_DPI = 150;

/** What a cover shows: barcodes of books (EAN-13), and lines of words. Errors: `pdf/not-drawn`. */
export function coverShows(
  bytes: Uint8Array,
): Promise<Outcome<{ barcodes: ReadBarcode[]; words: string[] }>> {
  return opened(bytes, async (doc) => {
    const page = await doc.getPage(1);
    const barcodes = barcodesIn(await draw(page, BARCODE_DPI));
    const { wordsOn } = await import('./coverwords');
    return { barcodes, words: await wordsOn(await draw(page, WORDS_DPI)) };
  });
}

const HINTS = new Map<DecodeHintType, unknown>([
  [DecodeHintType.POSSIBLE_FORMATS, [BarcodeFormat.EAN_13]],
  [DecodeHintType.TRY_HARDER, true],
]);

/** The number of a book (ISBN Users’ Manual §5.1). */
const OF_A_BOOK = /^97[89]/;

/**
 * The sheet is looked at as a whole, then in tiles that overlap, upright and turned: the decoder takes the rows of a picture
 * for one code. A book's number ends the search.
 */
function barcodesIn(sheet: Grey & { scale: number }): ReadBarcode[] {
  const found = new Map<string, ReadBarcode>();
  for (const tile of tilesOf(sheet))
    for (const turned of [false, true]) {
      const read = decode(turned ? transposed(tile.grey) : tile.grey);
      if (!read || found.has(read.digits)) continue;
      const swap = ({ x, y }: Point): Point => (turned ? { x: y, y: x } : { x, y });
      const placed = { ...read, from: swap(read.from), to: swap(read.to) };
      found.set(read.digits, measured(sheet, tile, placed));
      if (OF_A_BOOK.test(read.digits)) return [...found.values()];
    }
  return [...found.values()];
}

/** Mirrored at its diagonal: what ran down runs across. The decoder reads bars from either end. */
function transposed({ width, height, data }: Grey): Grey {
  const out = new Uint8ClampedArray(data.length);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + y] = data[y * width + x]!;
  return { width: height, height: width, data: out };
}

interface Tile {
  x: number;
  y: number;
  grey: Grey;
}
/** Tiles across the longer side. */
const TILES = 4;

function* tilesOf({ width, height, data }: Grey): Generator<Tile> {
  yield { x: 0, y: 0, grey: { width, height, data } };
  const size = Math.ceil(Math.max(width, height) / TILES);
  for (let y = 0; y < height; y += size >> 1)
    for (let x = 0; x < width; x += size >> 1) {
      const [w, h] = [Math.min(size, width - x), Math.min(size, height - y)];
      if (w < size >> 2 || h < size >> 2) continue;
      const cut = new Uint8ClampedArray(w * h);
      for (let row = 0; row < h; row++)
        cut.set(data.subarray((y + row) * width + x, (y + row) * width + x + w), row * w);
      yield { x, y, grey: { width: w, height: h, data: cut } };
    }
}

interface Point {
  x: number;
  y: number;
}
interface Decoded {
  digits: string;
  from: Point;
  to: Point;
}
function decode({ width, height, data }: Grey): Decoded | null {
  for (const binarizer of [GlobalHistogramBinarizer, HybridBinarizer])
    try {
      const source = new RGBLuminanceSource(data, width, height);
      const result = new MultiFormatReader().decode(new BinaryBitmap(new binarizer(source)), HINTS);
      const [a, b] = result.getResultPoints();
      if (a && b)
        return {
          digits: result.getText(),
          from: { x: a.getX(), y: a.getY() },
          to: { x: b.getX(), y: b.getY() },
        };
    } catch {
      // Nothing is found in this tile, or not in this way.
    }
  return null;
}

/** Modules between the middles of the guard bars at both ends: 95 less half a guard at each (ISO/IEC 15420). */
const BETWEEN = 92;
const GUARD = 1.5;
/** Modules beyond the bars that are looked at. */
const LOOKED = 20;
const DARK = 140;

/** The width of a module, and the light before and after the bars, along the row in which they were read. */
function measured(sheet: Grey & { scale: number }, tile: Tile, { digits, from, to }: Decoded): ReadBarcode {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const module = length / BETWEEN;
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length];
  const dark = (x: number, y: number): boolean => {
    const [px, py] = [Math.round(tile.x + x), Math.round(tile.y + y)];
    if (px < 0 || py < 0 || px >= sheet.width || py >= sheet.height) return false;
    return sheet.data[py * sheet.width + px]! < DARK;
  };
  const light = (at: { x: number; y: number }, way: 1 | -1): number => {
    // From the outer edge of the guard, a pixel beyond what is grey.
    const start = GUARD * module + 1;
    for (let d = start; d < LOOKED * module; d++)
      if (dark(at.x + way * d * ux, at.y + way * d * uy)) return (d - GUARD * module) / module;
    return LOOKED;
  };
  return {
    digits,
    module: module / sheet.scale,
    before: light(from, -1),
    after: light(to, 1),
  };
}
