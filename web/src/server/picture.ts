/** A picture's bytes as the body of a request: kept, and decoded once to the end before anybody relies on them. */
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { MOST_PIXELS, pictureInfo } from '@pagina/core/base';
import { filePath, keepBytes, type Store } from '@pagina/data';
import { Unanswerable } from './answer';
import { keepBody } from './upload';

const MOST_BYTES = 60_000_000;

type PictureFacts = NonNullable<ReturnType<typeof pictureInfo>> & { sha256: string };

/**
 * The picture as a book can carry it: one of another kind (WebP, TIFF, AVIF) is turned into such, as in a manuscript.
 * Throws `Unanswerable` for what is no whole picture.
 */
export async function keepPicture(s: Store, request: Request): Promise<PictureFacts> {
  const kept = await keepBody(s, request, MOST_BYTES);
  const bytes = new Uint8Array(await readFile(filePath(s, kept.sha256)));
  const info = pictureInfo(bytes);
  if (info) {
    await openOrRefuse(filePath(s, kept.sha256));
    return { ...info, sha256: kept.sha256 };
  }
  const familiar = await asKnownKind(bytes);
  const turned = familiar && pictureInfo(familiar);
  if (!familiar || !turned)
    throw new Unanswerable('This isn’t a picture that can be opened. Save it as PNG or JPEG.', 415);
  return { ...turned, sha256: (await keepBytes(s, familiar)).sha256 };
}

/** As JPEG, or as PNG where one can see through it; null where it can’t be opened. */
async function asKnownKind(bytes: Uint8Array): Promise<Uint8Array | null> {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' }).rotate();
    const { hasAlpha } = await picture.metadata();
    return new Uint8Array(await (hasAlpha ? picture.png() : picture.jpeg({ quality: 94 })).toBuffer());
  } catch {
    return null;
  }
}

async function openOrRefuse(path: string): Promise<void> {
  try {
    await sharp(path, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' }).stats();
  } catch {
    throw new Unanswerable('The picture is damaged or too large to open. Save it again as PNG or JPEG.', 415);
  }
}
