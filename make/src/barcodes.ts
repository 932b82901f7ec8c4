/** Barcodes of books on a sheet, read by a decoder that knows nothing of how ours are made. */
import {
  BarcodeFormat,
  BinaryBitmap,
  DecodeHintType,
  GlobalHistogramBinarizer,
  HybridBinarizer,
  MultiFormatReader,
  RGBLuminanceSource,
} from '@zxing/library';
import type { ReadBarcode } from '@pagina/core/check';
import { addOnBeyond } from './addon';
import type { Grey } from './grey';

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
export function barcodesIn(sheet: Grey & { scale: number }): ReadBarcode[] {
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
    addOn: addOnBeyond(
      dark,
      { x: to.x + GUARD * module * ux, y: to.y + GUARD * module * uy },
      { x: ux, y: uy },
      module,
    ),
    module: module / sheet.scale,
    before: light(from, -1),
    after: light(to, 1),
  };
}
