/** Pictures for the screens of ebook readers: no larger than an edition wants them, and never larger than they were. */
import { MOST_PIXELS, pictureInfo } from '@pagina/core/base';
import { showsPicture, type Book, type Edition, type ReflowEdition } from '@pagina/core/book';
import { designOf } from '@pagina/core/design';

/** The longest side in pixels, and the quality of JPEG: a tablet's screen in the hand, and a telephone's or e-paper's. */
const PROFILES = {
  large: { side: 2_560, quality: 82 },
  small: { side: 1_280, quality: 74 },
} as const;

export interface EbookPictures {
  book: Book;
  files: Map<string, Uint8Array>;
}

/** The book and its pictures as the edition wants them; one that would gain nothing stays as it is. */
export async function picturesFor(
  { book, files }: EbookPictures,
  { pictures: profile }: Pick<ReflowEdition, 'pictures'>,
): Promise<EbookPictures> {
  if (profile === 'as-they-are') return { book, files };
  const lighter = new Map(files);
  for (const [id, bytes] of files) lighter.set(id, await lightened(bytes, PROFILES[profile]));
  const pictures = book.pictures.map((p) => {
    const bytes = lighter.get(p.id);
    const info = bytes && bytes !== files.get(p.id) ? pictureInfo(bytes) : null;
    return info ? { ...p, width: info.width, height: info.height } : p;
  });
  return { book: { ...book, pictures }, files: lighter };
}

/** The same with another file for one of its pictures. */
export function withPicture(
  { book, files }: EbookPictures,
  { id, bytes }: { id: string; bytes: Uint8Array },
): EbookPictures {
  const info = pictureInfo(bytes);
  const pictures = book.pictures.map((p) =>
    p.id === id && info ? { ...p, type: info.type, width: info.width, height: info.height } : p,
  );
  return { book: { ...book, pictures }, files: new Map(files).set(id, bytes) };
}

/**
 * The picture of a break as a mask: what was dark is there, what was light is not. Readers show it in the colour of the text,
 * so that it is seen at night too. Null where the design has none, or the text shows the same picture.
 */
export async function breakMask(
  book: Book,
  edition: Edition,
  files: ReadonlyMap<string, Uint8Array>,
): Promise<{ id: string; bytes: Uint8Array } | null> {
  const id = designOf(edition).breaks.picture;
  const bytes = id ? files.get(id) : undefined;
  if (!bytes || book.record.cover === id) return null;
  let shown = false;
  for (const s of book.sections)
    s.content.descendants((n) => void (shown ||= showsPicture(n) && n.attrs.picture === id));
  if (shown) return null;
  try {
    const { default: sharp } = await import('sharp');
    const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS })
      .rotate()
      .resize({ width: 800, height: 800, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .greyscale()
      .negate()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const ink = Buffer.alloc(info.width * info.height * 4);
    for (let i = 0; i < info.width * info.height; i++) ink[i * 4 + 3] = data[i * info.channels] as number;
    const made = await sharp(ink, { raw: { width: info.width, height: info.height, channels: 4 } })
      .png({ compressionLevel: 9 })
      .toBuffer();
    return { id, bytes: new Uint8Array(made) };
  } catch {
    return null;
  }
}

async function lightened(
  bytes: Uint8Array,
  { side, quality }: { side: number; quality: number },
): Promise<Uint8Array> {
  const info = pictureInfo(bytes);
  // Frames that move are left to themselves.
  if (!info || info.type === 'image/gif') return bytes;
  try {
    const { default: sharp } = await import('sharp');
    const sized = sharp(bytes, { limitInputPixels: MOST_PIXELS, sequentialRead: true })
      .rotate()
      .resize({ width: side, height: side, fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb');
    const made = await (
      info.type === 'image/jpeg'
        ? sized.jpeg({ quality, mozjpeg: true })
        : sized.png({ compressionLevel: 9, effort: 10 })
    ).toBuffer();
    return made.length < bytes.length ? new Uint8Array(made) : bytes;
  } catch {
    // What can't be decoded is shown, or not, as it was given.
    return bytes;
  }
}
