/** Draws pages of any PDF by pdf.js. */
import { createHash } from 'node:crypto';
import { createCanvas } from '@napi-rs/canvas';
import type { PDFDocumentProxy, PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { done, refused, type Outcome } from '@pagina/core/base';
import type { Grey } from './grey';
import { pdfjsFolder } from './places';

/** Pixels of a page at most: a poster's sheet is drawn coarser. */
const MOST_PIXELS = 40_000_000;

export async function opened<T>(
  bytes: Uint8Array,
  use: (doc: PDFDocumentProxy) => Promise<T>,
): Promise<Outcome<T>> {
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

export interface Drawn extends Grey {
  /** Pixels to a point. */
  scale: number;
  /** 16 hexadecimal digits that depend on every pixel in its colour. */
  sum: string;
}
/** Draws the whole sheet of a page. */
export async function draw(page: PDFPageProxy, dpi: number): Promise<Drawn> {
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
  const sum = createHash('sha256').update(`${width} ${height} `).update(rgba).digest('hex').slice(0, 16);
  return { width, height, data, scale, sum };
}
