/** Makes the printer's PDF of an edition: composition, pictures, file. */
import { availableParallelism } from 'node:os';
import { done, refused, type Outcome } from '@pagina/core/base';
import { coloursOf, printOf, sectionsOf, type Book, type Edition } from '@pagina/core/book';
import {
  compose,
  screenFacts,
  sheetPictures,
  type ComposeCache,
  type Composition,
} from '@pagina/core/compose';
import type { PdfPicture } from '@pagina/core/pdf';
import { fronted } from './front';
import { typeSource } from './faces';
import { openPdfFile } from './pdf-file';
import {
  inkOperators,
  pressPicture,
  printPicture,
  profileOfInks,
  screenPicture,
  type PictureBytes,
} from './pictures';

export interface MakeOptions {
  pictures: PictureBytes;
  /** When the book was last changed, in ISO form: the date of files whose edition has none of its own. */
  modified?: string;
  cache?: ComposeCache;
  /** Stage and share done of it; false stops. */
  progress?: (stage: string, share: number) => boolean;
}

export interface PrintMade {
  bytes: Uint8Array;
  composition: Composition;
  milliseconds: Record<string, number>;
}

/** The PDF of a print edition: its printer's, by the standard that the edition names, or one for the screen. */
export async function makePrint(
  book: Book,
  editionId: string,
  { pictures, modified = '', cache, progress, screen = false }: MakeOptions & { screen?: boolean },
): Promise<Outcome<PrintMade>> {
  const edition = printOf(book, editionId);
  const clock = stopwatch();
  const inColour = !screen && edition?.inks === 'colour';
  const colours = coloursOf(sectionsOf(book, editionId).map((s) => s.content));
  // Writes the first pages while the others are set.
  const file = openPdfFile(
    screen ? 'screen' : (edition?.standard ?? 'plain'),
    screen && edition ? screenFacts(book, edition) : null,
    await inkOperators(colours, screen ? 'screen' : inColour ? 'four' : 'black'),
  );
  try {
    const source = await typeSource();
    clock.lap('faces');
    const composed = await compose(book, editionId, source, {
      cache,
      progress: progress && ((s) => progress('Setting pages', s)),
      onPage: file.page,
    });
    if (!composed.ok) return composed;
    clock.lap('compose');
    const composition = composed.value;
    const prepare = screen ? screenPicture : inColour ? pressPicture : printPicture;
    const ready = await printPictures(composition, pictures, prepare);
    const cover = screen && edition ? await coverBytes(book, edition, pictures) : null;
    clock.lap('pictures');
    if (progress?.('Writing the file', 0.5) === false)
      return refused('make/stopped', 'The work was stopped.');
    const bytes = await file.end(composition.pages, composition, {
      record: book.record,
      identity: `${book.id}/${editionId}/${screen ? 'screen' : 'print'}`,
      date: edition?.date || modified,
      firstArabic: composition.pages.findIndex((p) => p.label === '1'),
      pictures: ready,
      // On a screen nothing is cut off.
      bleed: screen ? 0 : composition.bleed,
      cover: cover && (await screenPicture(cover, COVER_INCHES)),
      profile: inColour && edition.standard === 'x-4' ? await profileOfInks() : null,
    });
    clock.lap('pdf');
    return done({ bytes, composition, milliseconds: clock.laps });
  } finally {
    file.close();
  }
}

async function coverBytes(book: Book, edition: Edition, pictures: PictureBytes): Promise<Uint8Array | null> {
  const shown = await fronted(book, edition.id, pictures);
  const { cover } = shown.book.record;
  return cover === null ? null : shown.pictures(cover);
}

/** A cover is shown on a screen as wide as a large page. */
const COVER_INCHES = 7;

async function printPictures(
  c: Composition,
  bytesOf: PictureBytes,
  prepare: typeof printPicture,
): Promise<Map<string, PdfPicture>> {
  const widths = new Map<string, number>();
  for (const page of c.pages)
    for (const { picture, width } of sheetPictures(page.body))
      widths.set(picture, Math.max(widths.get(picture) ?? 0, width / 72_000));
  const ready = new Map<string, PdfPicture>();
  const waiting = [...widths].reverse();
  const next = async (): Promise<void> => {
    for (let one = waiting.pop(); one; one = waiting.pop()) {
      const bytes = await bytesOf(one[0]);
      if (bytes) ready.set(one[0], await prepare(bytes, one[1]));
    }
  };
  // Turning a large picture into four inks takes seconds of one thread.
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, availableParallelism()) }, next));
  return ready;
}

/** Pictures in the making at the same time: each takes some memory. */
const AT_ONCE = 4;

export function stopwatch(): { laps: Record<string, number>; lap(name: string): void } {
  const laps: Record<string, number> = {};
  let last = performance.now();
  return {
    laps,
    lap(name) {
      const now = performance.now();
      laps[name] = Math.round(now - last);
      last = now;
    },
  };
}
