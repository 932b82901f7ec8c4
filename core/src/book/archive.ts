/** The files made of a title as one archive, with a page of plain text that says what each of them is for. */
import { inSentence } from '../base';
import { editionOf, isFixed, isPrint, isSample, type Edition } from './edition';
import { MANUSCRIPT, productKeyOf } from './productkey';

interface MadeFile {
  /** What it is made of; see `productKeyOf`. */
  edition: string;
  name: string;
  size: number;
  sha256: string;
  revision: number;
}
type Editions = { readonly editions: readonly Edition[] };

/** The newest file of each kind of those editions that the title still has, in the title's order. `made`: newest first. */
export function currentFiles<T extends { edition: string }>(book: Editions, made: readonly T[]): T[] {
  const newest = new Map<string, T>();
  for (const f of made) if (!newest.has(f.edition)) newest.set(f.edition, f);
  const place = ({ edition }: T): number => {
    const { edition: id } = productKeyOf(edition);
    return id === null ? book.editions.length : book.editions.findIndex((e) => e.id === id);
  };
  return [...newest.values()]
    .filter((f) => place(f) >= 0)
    .sort((a, b) => place(a) - place(b) || (a.edition < b.edition ? -1 : 1));
}

/** What a file is for, in a sentence. `outlets` are the names of outlets by their ids. */
export function purposeOf(
  book: Editions,
  product: string,
  outlets: Readonly<Record<string, string>> = {},
): string {
  if (product === MANUSCRIPT) return 'For a word processor: the whole text, to be read and marked by others.';
  const { edition: id, form, outlet } = productKeyOf(product);
  const edition = editionOf(book, id);
  const called = edition ? inSentence(edition.name) : id === null ? 'manuscript' : 'book';
  switch (form) {
    case 'screen':
      return `For reading the ${called} on a screen, with its cover, bookmarks and links. Not for the printer.`;
    case 'cover':
      return `For the printer: the cover of the ${called}, back, spine and front on one sheet.`;
    case 'template':
      return `For the designer of a cover for the ${called}: an empty sheet with guides, in the size of these pages.`;
    case 'attached-cover':
      return `For the printer: a designer’s cover of the ${called}.`;
    case 'attached-pages':
      return `For the printer: a supplied interior of the ${called}.`;
    case 'outlet':
      return `For ${outlets[outlet ?? ''] ?? 'one outlet'} and no other: the ${called}, its links to books lead there.`;
    case 'whole':
      if (edition && isSample(edition))
        return `To give away: the ${called}, with a closing page that says where to find the rest.`;
      return edition && isPrint(edition)
        ? `For the printer: the pages of the ${called}, without the cover.`
        : edition && isFixed(edition)
          ? `For shops that take fixed layouts, and for readers: the ${called}, page by page as it is printed.`
          : `For shops of ebooks and for readers: the ${called}.`;
  }
}

/** The page of text. `revision` is the title's now: a file that was made before is older than the book. */
export function archiveText(
  book: Editions,
  title: string,
  files: readonly MadeFile[],
  revision: number,
  outlets: Readonly<Record<string, string>> = {},
): string {
  const told = files.map((f) =>
    [
      f.name,
      `  ${purposeOf(book, f.edition, outlets)}`,
      ...(f.revision < revision ? ['  The book has changed since it was made.'] : []),
      `  ${f.size.toLocaleString('en-GB')} bytes, SHA-256 ${f.sha256}`,
    ].join('\r\n'),
  );
  return [`Files of “${title || 'Untitled'}”`, ...told].join('\r\n\r\n') + '\r\n';
}
