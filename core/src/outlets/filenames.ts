/** What a file is called when it is sent: each outlet has a rule of its own (common practice). */
import type { Edition } from '../book';
import { authorsLine, bareIsbn, fileStem, isbnFault, type BookRecord } from '../record';
import type { EbookOutlet } from '../trade';

/** Null where the record lacks what the name is made of. `ending` is that of the file, such as ".epub". */
export function fileNameAt(
  outlet: Pick<EbookOutlet, 'fileName'>,
  record: BookRecord,
  edition: Pick<Edition, 'isbn'>,
  ending: string,
): string | null {
  const isbn = bareIsbn(edition.isbn);
  const author = authorsLine(record);
  switch (outlet.fileName) {
    case 'isbn':
      return isbn && isbnFault(isbn) === null ? isbn + ending : null;
    case 'title':
      return record.title.trim() ? fileStem(record.title) + ending : null;
    case 'title-author':
      return record.title.trim() && author ? `${fileStem(record.title)}_${fileStem(author)}${ending}` : null;
  }
}
