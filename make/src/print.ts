/** Makes the printer's PDF of an edition: composition, pictures, file. */
import { done, refused, type Outcome } from '@pagina/core/base';
import type { Book } from '@pagina/core/book';
import { compose, type ComposeCache, type Composition } from '@pagina/core/compose';
import { printPdf, type PdfPicture } from '@pagina/core/pdf';
import { openDeflater } from './deflate';
import { faceSubsetter, typeSource } from './faces';
import { printPicture } from './pictures';

/** Bytes of a book's picture by id; null when they are not at hand. */
export type PictureBytes = (id: string) => Promise<Uint8Array | null> | Uint8Array | null;

export interface MakeOptions {
  pictures: PictureBytes;
  cache?: ComposeCache;
  /** Stage and share done of it; false stops. */
  progress?: (stage: string, share: number) => boolean;
}

export interface PrintMade {
  bytes: Uint8Array;
  composition: Composition;
  milliseconds: Record<string, number>;
}

export async function makePrint(
  book: Book,
  editionId: string,
  { pictures, cache, progress }: MakeOptions,
): Promise<Outcome<PrintMade>> {
  const clock = stopwatch();
  // Compiled on another thread while pages are set.
  const subsetter = faceSubsetter();
  const source = await typeSource();
  clock.lap('faces');
  const composed = await compose(book, editionId, source, {
    cache,
    progress: progress && ((s) => progress('Setting pages', s)),
  });
  if (!composed.ok) return composed;
  clock.lap('compose');
  const composition = composed.value;
  const ready = await printPictures(composition, pictures);
  clock.lap('pictures');
  const edition = book.editions.find((e) => e.id === editionId);
  const deflater = openDeflater();
  const bytes = await printPdf({
    composition,
    record: book.record,
    date: edition?.date ?? '',
    pictures: ready,
    tools: { deflate: deflater.deflate, subsetter: await subsetter },
    progress: progress && ((s) => progress('Writing the file', s)),
  });
  await deflater.close();
  clock.lap('pdf');
  if (!bytes) return refused('make/stopped', 'The work was stopped.');
  return done({ bytes, composition, milliseconds: clock.laps });
}

async function printPictures(c: Composition, bytesOf: PictureBytes): Promise<Map<string, PdfPicture>> {
  const widths = new Map<string, number>();
  for (const page of c.pages)
    for (const { item } of page.body)
      if (item.kind === 'picture')
        widths.set(item.picture, Math.max(widths.get(item.picture) ?? 0, item.width / 72_000));
  const ready = new Map<string, PdfPicture>();
  for (const [id, width] of widths) {
    const bytes = await bytesOf(id);
    if (bytes) ready.set(id, await printPicture(bytes, width));
  }
  return ready;
}

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
