/** Covers for outlets: a JPEG of the pixels and proportions that one wants, made of the book's one cover. */
import sharp from 'sharp';
import { MOST_PIXELS } from '@pagina/core/base';
import { productKeyOf, setsFront, type Book } from '@pagina/core/book';
import { readPackage } from '@pagina/core/package';
import { filePath, readStored } from './files';
import type { Store } from './open';
import { productsOf } from './products';

/** The book has no cover of which one could be made. */
export class NoCover extends Error {
  constructor() {
    super('The book has no cover yet. Choose a picture in the record, or make the ebook.');
  }
}

/** Fronts out of ebooks, by the ebook's checksum: the last few. */
const fronts = new Map<string, Promise<Uint8Array | null>>();
const MOST_FRONTS = 8;
function frontOf(s: Store, sha256: string): Promise<Uint8Array | null> {
  const known = fronts.get(sha256);
  if (known) return known;
  const front = readStored(s, sha256).then((bytes) => {
    const opened = readPackage(bytes);
    const cover = opened.ok
      ? opened.value.manifest.find((i) => i.properties.includes('cover-image'))
      : undefined;
    return opened.ok && cover?.path ? opened.value.zip.read(cover.path) : null;
  });
  front.catch(() => fronts.delete(sha256));
  fronts.set(sha256, front);
  const [oldest] = fronts.keys();
  if (fronts.size > MOST_FRONTS && oldest !== undefined) fronts.delete(oldest);
  return front;
}

/** The front that is set for ebooks, out of the newest one; else the author's picture. */
async function masterOf(s: Store, title: string, book: Book): Promise<Uint8Array | string> {
  const picture = book.pictures.find((p) => p.id === book.record.cover);
  if (picture?.sha256 && !setsFront(book)) return filePath(s, picture.sha256);
  const ebook = (await productsOf(s, title)).find((p) => {
    const { edition, form } = productKeyOf(p.edition);
    const of = book.editions.find((e) => e.id === edition);
    return of !== undefined && of.form !== 'print' && (form === 'whole' || form === 'outlet');
  });
  const front = ebook && (await frontOf(s, ebook.sha256));
  if (front) return front;
  throw new NoCover();
}

/** Share of the picture that counts as its edge. */
const EDGE = 0.02;

/**
 * `height` in pixels, `ratio` width by height. Throws `NoCover`. Nothing of the cover is cut off: where its proportions are others, the mean
 * colour of the edge goes on beyond it.
 */
export async function coverJpeg(
  s: Store,
  title: string,
  book: Book,
  { height, ratio }: { height: number; ratio: number },
): Promise<Uint8Array> {
  const width = Math.round(height * ratio);
  const { data, info } = await sharp(await masterOf(s, title, book), { limitInputPixels: MOST_PIXELS })
    .rotate()
    .flatten({ background: '#fff' })
    .resize(width, height, { fit: 'inside' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width: w, height: h, channels } = info;
  const raw = { raw: { width: w, height: h, channels } };
  const [left, top] = [Math.floor((width - w) / 2), Math.floor((height - h) / 2)];
  const edge =
    left > 0
      ? { left: 0, top: 0, width: Math.max(1, Math.round(w * EDGE)), height: h }
      : { left: 0, top: 0, width: w, height: Math.max(1, Math.round(h * EDGE)) };
  const { channels: means } = await sharp(data, raw).extract(edge).stats();
  const [r = 255, g = r, b = r] = means.map((c) => Math.round(c.mean));
  const jpeg = await sharp(data, raw)
    .extend({ left, top, right: width - w - left, bottom: height - h - top, background: { r, g, b } })
    .jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
    .toBuffer();
  return new Uint8Array(jpeg);
}
