/** Makes the ebook of a fixed layout from the pages of a print edition. */
import { done, refused, type Outcome } from '@pagina/core/base';
import { pagesOf, type Book } from '@pagina/core/book';
import { compose, type Composition } from '@pagina/core/compose';
import { fixedPages } from '@pagina/core/epub';
import { allPictures, type EbookMade } from './ebook';
import { facesByName } from './ebook-faces';
import { typeSource } from './faces';
import { fronted } from './front';
import { stopwatch, type MakeOptions } from './print';

/** `composition`: of the print edition that it shows, where that is at hand. Errors: those of `compose` and `fixedPages`. */
export async function makeFixed(
  book: Book,
  editionId: string,
  { pictures, modified, cache, progress, composition }: MakeOptions & { composition?: Composition },
): Promise<Outcome<EbookMade & { pages: number }>> {
  const clock = stopwatch();
  const shown = await fronted(book, editionId, pictures);
  let pages = composition;
  const print = pagesOf(book, editionId);
  if (!pages && print) {
    const composed = await compose(shown.book, print.id, await typeSource(), {
      cache,
      progress: progress && ((s) => progress('Setting pages', s)),
    });
    if (!composed.ok) return composed;
    pages = composed.value;
  }
  clock.lap('compose');
  if (progress?.('Writing the file', 0.3) === false) return refused('make/stopped', 'The work was stopped.');
  const drawn = fixedPages({
    book: shown.book,
    edition: editionId,
    composition: pages ?? null,
    pictures: await allPictures(shown.book, shown.pictures),
    modified,
  });
  if (!drawn.ok) return drawn;
  clock.lap('pages');
  const bytes = drawn.value.file(await facesByName(drawn.value.used));
  clock.lap('epub');
  return done({ bytes, pages: pages?.pages.length ?? 0, milliseconds: clock.laps });
}
