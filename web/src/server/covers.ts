/** Covers for outlets: a JPEG of the pixels and proportions that one wants, made of the book's one cover. */
import sharp from 'sharp';
import { MOST_PIXELS } from '@pagina/core/base';
import { filePath, productsOf, type Store } from '@pagina/data';
import type { Book } from '@pagina/core/book';
import { Unanswerable } from './answer';
import { openEbook } from './ebook';

/** The author's picture, else the front that is set in the newest ebook. */
async function masterOf(s: Store, title: string, book: Book): Promise<Uint8Array | string> {
  const picture = book.pictures.find((p) => p.id === book.record.cover);
  if (picture?.sha256) return filePath(s, picture.sha256);
  const ebook = (await productsOf(s, title)).find((p) => p.name.endsWith('.epub'));
  if (ebook) {
    const opened = await openEbook(ebook.sha256);
    const cover = opened.manifest.find((i) => i.properties.includes('cover-image'));
    const bytes = cover?.path ? opened.zip.read(cover.path) : null;
    if (bytes) return bytes;
  }
  throw new Unanswerable(
    'The book has no cover yet. Choose a picture in the record, or make the ebook.',
    404,
  );
}

/**
 * `height` in pixels, `ratio` width by height. Nothing of the cover is cut off: where its proportions are others, the
 * colour of its edge goes on beside it.
 */
export async function coverJpeg(
  s: Store,
  title: string,
  book: Book,
  { height, ratio }: { height: number; ratio: number },
): Promise<Uint8Array> {
  const master = sharp(await masterOf(s, title, book), { limitInputPixels: MOST_PIXELS })
    .rotate()
    .flatten({ background: '#fff' });
  const width = Math.round(height * ratio);
  const edge = await master.clone().resize(1, 1, { fit: 'cover', position: 'left' }).raw().toBuffer();
  const [r = 255, g = 255, b = 255] = edge;
  const jpeg = await master
    .resize(width, height, { fit: 'contain', background: { r, g, b } })
    .toColourspace('srgb')
    .jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
    .toBuffer();
  return new Uint8Array(jpeg);
}
