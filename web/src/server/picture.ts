/** A picture's bytes as the body of a request: kept, and decoded once to the end before anybody relies on them. */
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { MOST_PIXELS, pictureInfo } from '@pagina/core/base';
import { filePath, type Store } from '@pagina/data';
import { Unanswerable } from './answer';
import { keepBody } from './upload';

const MOST_BYTES = 60_000_000;

type PictureFacts = NonNullable<ReturnType<typeof pictureInfo>> & { sha256: string };

/** Throws `Unanswerable` for anything but a whole picture of a kind that a book can carry. */
export async function keepPicture(s: Store, request: Request): Promise<PictureFacts> {
  const { sha256 } = await keepBody(s, request, MOST_BYTES);
  const path = filePath(s, sha256);
  const info = pictureInfo(new Uint8Array(await readFile(path)));
  if (!info) throw new Unanswerable('A book can’t carry this kind of picture. Save it as PNG or JPEG.', 415);
  try {
    await sharp(path, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' }).stats();
  } catch {
    throw new Unanswerable('The picture is damaged or too large to open. Save it again as PNG or JPEG.', 415);
  }
  return { ...info, sha256 };
}
