/** Makes the reflowable EPUB of an edition, with a page list when it names a print edition. */
import { done, type Outcome } from '@pagina/core/base';
import { editionOf, isReflow, isSample, sampledEbook, type Book } from '@pagina/core/book';
import { compose, type ComposeCache, type Composition } from '@pagina/core/compose';
import { writeEpub } from '@pagina/core/epub';
import { typeSource } from './faces';
import { facesFor } from './ebook-faces';
import { breakMask, picturesFor, withPicture } from './ebook-pictures';
import { fronted } from './front';
import type { PictureBytes } from './pictures';
import { stopwatch, type MakeOptions } from './print';

export interface EbookMade {
  bytes: Uint8Array;
  milliseconds: Record<string, number>;
}
export interface EbookOptions extends MakeOptions {
  cache?: ComposeCache;
  /** The print edition whose pages the ebook lists; null for no page list. A composition at hand is used again. */
  print: { edition: string; composition?: Composition } | null;
  /** Where a book of this ISBN is sold, in a file that is made for one outlet. */
  bookAddress?: (isbn: string) => string | null;
}

export async function makeEbook(
  book: Book,
  editionId: string,
  { pictures, modified, print, cache, progress, bookAddress }: EbookOptions,
): Promise<Outcome<EbookMade>> {
  const clock = stopwatch();
  let composition = print?.composition;
  if (print && !composition) {
    const composed = await compose(book, print.edition, await typeSource(), {
      cache,
      progress: progress && ((s) => progress('Finding the pages of the print edition', s)),
    });
    // A print edition that cannot be set leaves the ebook without a page list, not the author without an ebook.
    if (composed.ok) composition = composed.value;
    else if (composed.refusal.code === 'compose/stopped') return composed;
  }
  clock.lap('compose');
  progress?.('Writing the file', 0);
  const shown = await fronted(book, editionId, pictures);
  const named = editionOf(shown.book, editionId);
  const edition = named && isSample(named) ? sampledEbook(shown.book, named) : named;
  const given = { book: shown.book, files: await allPictures(shown.book, shown.pictures) };
  const sized = edition && isReflow(edition) ? await picturesFor(given, edition) : given;
  const mask = edition && (await breakMask(sized.book, edition, sized.files));
  const masked = mask ? withPicture(sized, mask) : sized;
  const faces =
    edition && isReflow(edition) && edition.faces === 'own' ? await facesFor(shown.book, edition) : [];
  clock.lap('pictures');
  const isbn = book.editions.find((e) => e.id === print?.edition)?.isbn ?? '';
  const written = writeEpub({
    book: masked.book,
    edition: editionId,
    pictures: masked.files,
    breakIsMask: Boolean(mask),
    faces,
    modified,
    print: composition ? { composition, isbn } : null,
    bookAddress,
  });
  clock.lap('epub');
  return written.ok ? done({ bytes: written.value, milliseconds: clock.laps }) : written;
}

export async function allPictures(book: Book, bytesOf: PictureBytes): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for (const p of book.pictures) {
    const bytes = await bytesOf(p.id);
    if (bytes) files.set(p.id, bytes);
  }
  return files;
}
