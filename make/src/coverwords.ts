/**
 * The words on a cover, read from its picture by a recogniser (tesseract.js, its English data from the registry): designers
 * turn words into outlines, so the file's own text is no witness. Latin letters are read; accents come and go.
 */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { PSM } from 'tesseract.js';
import type { Grey } from './grey';

const require_ = createRequire(import.meta.url);
const dataFolder = (): string =>
  join(dirname(require_.resolve('@tesseract.js-data/eng/package.json')), '4.0.0_best_int');

/** Finds words wherever they are on a sheet, in any order ("sparse text"). */
const SPARSE = '11' as PSM;

/** Lines of words, those of the sheet as it is before those of the sheet turned both ways, as a spine is read. */
export async function wordsOn(sheet: Grey): Promise<string[]> {
  const [{ createWorker }, { default: sharp }] = await Promise.all([import('tesseract.js'), import('sharp')]);
  const worker = await createWorker('eng', 1, { langPath: dataFolder(), cacheMethod: 'none', gzip: true });
  try {
    await worker.setParameters({ tessedit_pageseg_mode: SPARSE });
    const lines: string[] = [];
    const raw = { width: sheet.width, height: sheet.height, channels: 1 as const };
    for (const turn of [0, 90, 270]) {
      const picture = await sharp(Buffer.from(sheet.data.buffer, sheet.data.byteOffset, sheet.data.length), {
        raw,
      })
        .rotate(turn)
        .png()
        .toBuffer();
      const { data } = await worker.recognize(picture);
      lines.push(...data.text.split('\n').flatMap((l) => l.trim() || []));
    }
    return lines;
  } finally {
    await worker.terminate();
  }
}
