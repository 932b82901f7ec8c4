/** Pictures for print: decoded, turned grey for black-and-white editions, never larger than they are printed. */
import type { PdfPicture } from '@pagina/core/pdf';

/** Pixels a side beyond which a picture is not decoded at full size: 12,000 × 12,000 is the most a book can want. */
const MOST_PIXELS = 160_000_000;

/**
 * A picture as the printer's file carries it. `width` is the printed width in inches; more than 600 pixels an inch are
 * of no use to a press and are taken out. Throws when the bytes are no picture.
 */
export async function printPicture(bytes: Uint8Array, width: number): Promise<PdfPicture> {
  // Loaded only for a book with pictures: the library takes a while to start.
  const { default: sharp } = await import('sharp');
  const image = sharp(bytes, { limitInputPixels: MOST_PIXELS, sequentialRead: true })
    .rotate()
    .flatten({ background: '#ffffff' })
    .greyscale();
  const wanted = Math.max(1, Math.round(width * 600));
  const { data, info } = await image
    .resize({ width: wanted, withoutEnlargement: true })
    .toColourspace('b-w')
    .jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
    .toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    space: 'DeviceGray',
    filter: 'DCTDecode',
    bytes: new Uint8Array(data),
  };
}
