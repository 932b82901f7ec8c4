/** BOOK.json: a whole title in one file, pictures in base 64. */
import { Buffer } from 'node:buffer';
import { done, refused, type Outcome } from '@pagina/core/base';
import { bookFromJson, bookToJson, type Book } from '@pagina/core/book';

export interface BookFile {
  book: Book;
  files: Map<string, Uint8Array>;
}

export function readBookFile(bytes: Uint8Array): Outcome<BookFile> {
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return refused('book/json', 'This is not a book file: it is not JSON.');
  }
  const read = bookFromJson(json);
  if (!read.ok) return read;
  const files = new Map<string, Uint8Array>();
  const pictures = read.value.pictures.map(({ base64, ...picture }) => {
    if (base64) files.set(picture.id, new Uint8Array(Buffer.from(base64, 'base64')));
    return picture;
  });
  return done({ book: { ...read.value, pictures }, files });
}

export function writeBookFile({ book, files }: BookFile): Uint8Array {
  const pictures = book.pictures.map((p) => {
    const bytes = files.get(p.id);
    return bytes ? { ...p, base64: Buffer.from(bytes).toString('base64') } : p;
  });
  return new TextEncoder().encode(`${JSON.stringify({ ...bookToJson(book), pictures })}\n`);
}
