/** Pictures of a PDF’s pages, decoded, each with the place where it is painted (ISO 32000-1 §8.9.5). */
import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';

export interface PaintedPicture {
  /** Points from the page's left and foot. */
  x: number;
  y: number;
  width: number;
  height: number;
  png: Uint8Array;
}

/** Points and pixels of the smallest that is a picture, and no rule, bullet or ornament. */
const LEAST = { points: 36, pixels: 48 };
/** A picture over this share of the page lies behind recognised text: it is the page itself, scanned. */
const WHOLE = 0.8;

/** Whether a file has pictures at all: their dictionaries are never compressed (§7.5.7), and asking the pages takes long. */
export function hasPictures(bytes: Uint8Array): boolean {
  const text = new TextDecoder('latin1').decode(bytes);
  return /\/Subtype\s*\/Image\b/.test(text);
}

interface Pixels {
  width: number;
  height: number;
  /** 1: a bit a pixel, 2: RGB, 3: RGBA (the library's ImageKind). */
  kind?: number;
  data?: Uint8Array | Uint8ClampedArray;
}
type Matrix = [number, number, number, number, number, number];

const times = ([a, b, c, d, e, f]: Matrix, [A, B, C, D, E, F]: Matrix): Matrix => [
  a * A + c * B,
  b * A + d * B,
  a * C + c * D,
  b * C + d * D,
  a * E + c * F + e,
  b * E + d * F + f,
];

export async function picturesOf(page: PDFPageProxy): Promise<PaintedPicture[]> {
  const [{ OPS }, { encode }] = await Promise.all([
    import('pdfjs-dist/legacy/build/pdf.mjs'),
    import('fast-png'),
  ]);
  const { width: pageWidth, height: pageHeight } = page.getViewport({ scale: 1 });
  const { fnArray, argsArray } = await page.getOperatorList();
  const found: PaintedPicture[] = [];
  let now: Matrix = [1, 0, 0, 1, 0, 0];
  const open: Matrix[] = [];
  for (const [i, op] of fnArray.entries()) {
    const args = argsArray[i] as unknown[];
    if (op === OPS.save || op === OPS.paintFormXObjectBegin) open.push(now);
    if (op === OPS.restore || op === OPS.paintFormXObjectEnd) now = open.pop() ?? now;
    if (op === OPS.transform) now = times(now, args as Matrix);
    if (op === OPS.paintFormXObjectBegin && Array.isArray(args[0])) now = times(now, args[0] as Matrix);
    if (op !== OPS.paintImageXObject) continue;
    const [a, b, c, d, e, f] = now;
    // Turned or skewed, it is part of a drawing.
    if (Math.abs(b) > 1 || Math.abs(c) > 1) continue;
    const [width, height] = [Math.abs(a), Math.abs(d)];
    if (width < LEAST.points || height < LEAST.points) continue;
    if (width * height > pageWidth * pageHeight * WHOLE) continue;
    const pixels = await pixelsOf(page, args[0] as string);
    const rows = pixels && rowsOf(pixels);
    if (!pixels || !rows || pixels.width < LEAST.pixels || pixels.height < LEAST.pixels) continue;
    found.push({
      x: Math.min(e, e + a),
      y: Math.min(f, f + d),
      width,
      height,
      png: encode({ width: pixels.width, height: pixels.height, ...rows }),
    });
  }
  return found.sort((p, q) => q.y + q.height - (p.y + p.height));
}

/** Null for what the library could not decode. */
const pixelsOf = (page: PDFPageProxy, id: string): Promise<Pixels | null> =>
  new Promise((resolve) => {
    const objs = id.startsWith('g_') ? page.commonObjs : page.objs;
    const limit = setTimeout(() => resolve(null), 10_000);
    objs.get(id, (pixels: Pixels | null) => {
      clearTimeout(limit);
      resolve(pixels);
    });
  });

/** The pixels as whole bytes; null where there are none. */
function rowsOf({ width, height, kind, data }: Pixels): { data: Uint8Array; channels: number } | null {
  if (!data) return null;
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  if (kind === 2) return { data: bytes.slice(0, width * height * 3), channels: 3 };
  if (kind === 3) return { data: bytes.slice(0, width * height * 4), channels: 4 };
  const grey = new Uint8Array(width * height);
  const stride = (width + 7) >> 3;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      grey[y * width + x] = ((bytes[y * stride + (x >> 3)] ?? 0) >> (7 - (x & 7))) & 1 ? 255 : 0;
  return { data: grey, channels: 1 };
}
