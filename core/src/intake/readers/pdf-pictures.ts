/** Pictures of a PDF’s pages, decoded, each with the place where it is painted (ISO 32000-1 §8.9.5). */
import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { asPng, reduced, turned, type ConvertPicture, type Pixels, type Turn } from '../raw';

export interface PaintedPicture {
  /** Points from the page's left and foot. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** PNG or JPEG. */
  bytes: Uint8Array;
}

/** Points and pixels of the smallest that is a picture, and no rule, bullet or ornament. */
const LEAST = { points: 36, pixels: 48 };
/** The share of a page over which a picture fills it: a plate, or behind recognised text the page itself, scanned. */
const WHOLE = 0.8;
/** Scanned pages after which the file is a scan, when they are most pages. */
const SCANS = 5;
/** Pixels an inch that are of use to a press, common practice; more are left out. */
const DENSITY = 600;
/** Pixels decoded of one file: 50 photographs of a large camera, which take minutes. */
const MOST_PIXELS = 600e6;
/** Milliseconds after which a picture counts as one that cannot be decoded; after two such no others are tried. */
const PATIENCE = 10_000;

/** Whether a file has pictures at all: their dictionaries are never compressed (§7.5.7), and asking the pages takes long. */
export function hasPictures(bytes: Uint8Array): boolean {
  const latin = new TextDecoder('latin1');
  const [part, overlap] = [1 << 20, 64];
  for (let at = 0; at < bytes.length; at += part)
    if (/\/Subtype\s*\/Image\b/.test(latin.decode(bytes.subarray(at, at + part + overlap)))) return true;
  return false;
}

/** The library's picture; `kind` 1: a bit a pixel, 2: RGB, 3: RGBA (its ImageKind). */
interface Decoded {
  width: number;
  height: number;
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

/** Takes the pictures of one file's pages, until they are more than a book has use for. */
export class PictureTaker {
  /** Pictures that could not be decoded. */
  damaged = 0;
  /** The pages seen before the pictures were too many, or stopped to come. */
  stopped: number | null = null;
  private pages = 0;
  private scans = 0;
  private pixels = 0;
  private waited = 0;

  constructor(private readonly convert?: ConvertPicture) {}

  /** From the head of the page down. `text`: whether the page has any. */
  async of(page: PDFPageProxy, text: boolean): Promise<PaintedPicture[]> {
    const { OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs');
    const scanned = this.scans > SCANS && this.scans > this.pages / 2;
    if (this.stopped !== null || scanned) return [];
    if (this.pixels > MOST_PIXELS || this.waited > 1) {
      this.stopped = this.pages;
      return [];
    }
    this.pages++;
    const { width: pageWidth, height: pageHeight } = page.getViewport({ scale: 1, rotation: 0 });
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
      const turn = turnOf(now);
      if (!turn) continue;
      const [a, b, c, d, e, f] = now;
      const [across, up] = turn.sideways ? [c, b] : [a, d];
      const [width, height] = [Math.abs(across), Math.abs(up)];
      if (width < LEAST.points || height < LEAST.points) continue;
      if (text && width * height > pageWidth * pageHeight * WHOLE) {
        this.scans++;
        continue;
      }
      const bytes = await this.take(page, args[0] as string, { width, height }, turn);
      if (bytes) found.push({ x: Math.min(e, e + across), y: Math.min(f, f + up), width, height, bytes });
    }
    return found.sort((p, q) => q.y + q.height - (p.y + p.height));
  }

  /** A picture as the page shows it, with no more pixels than are of use; null for none. */
  private async take(
    page: PDFPageProxy,
    id: string,
    points: { width: number; height: number },
    turn: Turn,
  ): Promise<Uint8Array | null> {
    const decoded = await this.decoded(page, id);
    const pixels = decoded && pixelsOf(decoded);
    if (!pixels) {
      this.damaged++;
      return null;
    }
    this.pixels += pixels.width * pixels.height;
    if (pixels.width < LEAST.pixels || pixels.height < LEAST.pixels) return null;
    const inches = (turn.sideways ? points.height : points.width) / 72;
    const shown = turned(reduced(pixels, Math.floor(pixels.width / (inches * DENSITY))), turn);
    return (await this.convert?.(shown)) ?? asPng(shown);
  }

  /** Null for what the library could not decode. */
  private decoded(page: PDFPageProxy, id: string): Promise<Decoded | null> {
    return new Promise((resolve) => {
      const objs = id.startsWith('g_') ? page.commonObjs : page.objs;
      const limit = setTimeout(() => {
        this.waited++;
        resolve(null);
      }, PATIENCE);
      objs.get(id, (picture: Decoded | null) => {
        clearTimeout(limit);
        resolve(picture);
      });
    });
  }
}

/** How a picture lies whose corners a matrix puts on the page; null where it leans, which makes it part of a drawing. */
function turnOf([a, b, c, d]: Matrix): Turn | null {
  const [along, beside] = [Math.abs(a) + Math.abs(d), Math.abs(b) + Math.abs(c)];
  if (Math.min(along, beside) > Math.max(along, beside) / 50) return null;
  const sideways = beside > along;
  // A picture's rows are counted from its head (§8.9.5.1): sideways, they run up the page, or down it, as b says.
  return sideways
    ? { sideways, mirrored: c > 0, upsideDown: b > 0 }
    : { sideways, mirrored: a < 0, upsideDown: d < 0 };
}

/** The pixels as whole bytes; null where there are none, or too few. */
function pixelsOf({ width, height, kind, data }: Decoded): Pixels | null {
  if (!data) return null;
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  if (kind === 2 || kind === 3) {
    const channels = kind === 2 ? 3 : 4;
    const size = width * height * channels;
    return bytes.length < size ? null : { width, height, channels, data: bytes.subarray(0, size) };
  }
  const grey = new Uint8Array(width * height);
  const stride = (width + 7) >> 3;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      grey[y * width + x] = ((bytes[y * stride + (x >> 3)] ?? 0) >> (7 - (x & 7))) & 1 ? 255 : 0;
  return { width, height, data: grey, channels: 1 };
}
