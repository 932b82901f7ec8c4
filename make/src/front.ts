/** The front of the cover in ebooks and files for the screen. */
import { setsFront, type Book } from '@pagina/core/book';
import type { PictureBytes } from './pictures';

const FRONT = 'cover-front';

/** The book with the front that is set here in the place of its cover picture, and that picture's bytes. */
export async function fronted(
  book: Book,
  editionId: string,
  pictures: PictureBytes,
): Promise<{ book: Book; pictures: PictureBytes }> {
  const edition = book.editions.find((e) => e.id === editionId);
  if (!edition || !setsFront(book)) return { book, pictures };
  // Most files need none of it.
  const { frontPicture } = await import('./cover');
  const { bytes, width, height } = await frontPicture(book, edition, pictures);
  return {
    book: {
      ...book,
      record: { ...book.record, cover: FRONT },
      pictures: [...book.pictures, { id: FRONT, name: 'cover.jpg', type: 'image/jpeg', width, height }],
    },
    pictures: (id) => (id === FRONT ? bytes : pictures(id)),
  };
}
