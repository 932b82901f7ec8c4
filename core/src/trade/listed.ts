/** What an outlet is told of an edition beside its file, and lists it by. */
import * as z from 'zod';
import { moneySchema } from '../base';
import { placingAt, type Book, type Edition } from '../book';
import { bareIsbn, plainDescription } from '../record';

export const listedSchema = z.object({
  title: z.string(),
  subtitle: z.string(),
  authors: z.array(z.string()),
  isbn: z.string(),
  editionStatement: z.string(),
  description: z.string(),
  keywords: z.array(z.string()),
  language: z.string(),
  price: moneySchema.nullable(),
});
/** Fields that an outlet doesn’t take are left out. */
export const listedAsSchema = listedSchema.partial();
export type ListedAs = z.infer<typeof listedAsSchema>;
export type ListedField = keyof ListedAs;
export const LISTED_FIELDS = Object.keys(listedSchema.shape) as ListedField[];

/** An edition as an outlet that takes these fields would list it: what it is told differently comes before the record. */
export function listedAs(
  book: Pick<Book, 'record' | 'placing'>,
  edition: Edition,
  { id, takes }: { id: string; takes: readonly ListedField[] },
): ListedAs {
  const { variants } = placingAt(book, id);
  const { title, subtitle, description, keywords } = { ...book.record, ...variants };
  const { record } = book;
  const all: Required<ListedAs> = {
    title,
    subtitle,
    authors: record.contributors.filter((c) => c.role === 'author').map((c) => c.name),
    isbn: bareIsbn(edition.isbn),
    editionStatement: record.editionStatement,
    description: plainDescription(description),
    keywords,
    language: record.language,
    price: edition.form === 'print' ? edition.price : record.price,
  };
  return Object.fromEntries(takes.map((field) => [field, all[field]]));
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
/** An outlet may give a description back with the markup it was sent, which is no difference. */
const bare = (listed: ListedAs, field: ListedField): unknown =>
  field === 'description' ? plainDescription(listed.description ?? '') : listed[field];
/** Fields in which two listings differ, of those that both have. */
export const listedDifferently = (then: ListedAs, now: ListedAs): ListedField[] =>
  LISTED_FIELDS.filter((f) => f in then && f in now && !same(bare(then, f), bare(now, f)));
