/** What a file is called when it is sent: each outlet has a rule of its own (common practice). */
import type { Edition } from '../book';
import { authorsLine, bareIsbn, fileStem, isbnFault, type BookRecord } from '../record';
import type { Outlet } from './outlet';

/**
 * Null where the record lacks what the name is made of; an outlet that gives books their number takes those that have none by
 * their title. `ending` is that of the file, such as ".epub".
 */
export function fileNameAt(
  outlet: Pick<Outlet, 'fileName' | 'assigns'>,
  record: BookRecord,
  edition: Pick<Edition, 'isbn'>,
  ending: string,
): string | null {
  const isbn = bareIsbn(edition.isbn);
  const author = authorsLine(record);
  const byTitle = record.title.trim() ? fileStem(record.title) + ending : null;
  switch (outlet.fileName) {
    case 'isbn':
      if (isbn && isbnFault(isbn) === null) return isbn + ending;
      return isbn === '' && outlet.assigns ? byTitle : null;
    case 'title':
      return byTitle;
    case 'title-author':
      return record.title.trim() && author ? `${fileStem(record.title)}_${fileStem(author)}${ending}` : null;
  }
}
