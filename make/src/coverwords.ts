/**
 * The words on a cover, read from its picture by a recogniser (tesseract.js, its English data from the registry): designers
 * turn words into outlines, so the file's own text is no witness. Latin letters are read; accents come and go.
 */
import { createHash } from 'node:crypto';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { PSM } from 'tesseract.js';
import { setsFront, type Book } from '@pagina/core/book';
import type { Grey } from './grey';
import type { PictureBytes } from './pictures';

const require_ = createRequire(import.meta.url);
const dataFolder = (): string =>
  join(dirname(require_.resolve('@tesseract.js-data/eng/package.json')), '4.0.0_best_int');

/** Finds words wherever they are on a sheet, in any order ("sparse text"). */
const SPARSE = '11' as PSM;

/** Pixels across at which a front's words are read: large letters are found in the smaller, small ones in the larger. */
const ACROSS = [700, 1_100];
const fronts = new Map<string, string[]>();
const KEPT = 50;

/**
 * Lines of words on a front that is the author's own picture; null where the front is set from the record. Read once for a
 * picture while the process lives.
 */
export async function wordsOnFront(
  book: Pick<Book, 'cover' | 'record' | 'pictures'>,
  pictures: PictureBytes,
): Promise<string[] | null> {
  const bytes = book.record.cover && !setsFront(book) ? await pictures(book.record.cover) : null;
  if (!bytes) return null;
  const sum = createHash('sha256').update(bytes).digest('hex');
  const known = fronts.get(sum);
  if (known) return known;
  try {
    const { default: sharp } = await import('sharp');
    const upright = ACROSS.map((width) =>
      sharp(bytes)
        .resize({ width, withoutEnlargement: true })
        .flatten({ background: '#ffffff' })
        .greyscale()
        .normalise()
        .png()
        .toBuffer(),
    );
    const words = await wordsIn(await Promise.all(upright));
    fronts.set(sum, words);
    for (const old of [...fronts.keys()].slice(0, -KEPT)) fronts.delete(old);
    return words;
  } catch {
    // A picture that can’t be opened, or read: nothing was found on it, and the book is made all the same.
    return [];
  }
}

/** Turns in degrees: a sheet is read upright, and both ways as a spine is. */
const TURNS = [0, 90, 270];

/** Lines of words, those of the sheet as it is before those of the sheet turned. */
export async function wordsOn({ width, height, data }: Grey): Promise<string[]> {
  const { default: sharp } = await import('sharp');
  const raw = { width, height, channels: 1 as const };
  const sheet = Buffer.from(data.buffer, data.byteOffset, data.length);
  return wordsIn(await Promise.all(TURNS.map((turn) => sharp(sheet, { raw }).rotate(turn).png().toBuffer())));
}

async function wordsIn(pictures: readonly Buffer[]): Promise<string[]> {
  const { createWorker } = await import('tesseract.js');
  const worker = await createWorker('eng', 1, { langPath: dataFolder(), cacheMethod: 'none', gzip: true });
  try {
    await worker.setParameters({ tessedit_pageseg_mode: SPARSE });
    const lines: string[] = [];
    for (const picture of pictures) {
      const { data } = await worker.recognize(picture);
      lines.push(...data.text.split('\n').flatMap((l) => l.trim() || []));
    }
    return lines;
  } finally {
    await worker.terminate();
  }
}
