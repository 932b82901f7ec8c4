/** A record with its editions as JSON: the fields under the names that the record has, for programs. */
import * as z from 'zod';
import { done, moneySchema, refused, type Outcome } from '../base';
import type { Book } from '../book';
import { bareIsbn, isbnFault, recordSchema, type BookRecord } from '../record';
import type { Carried } from './carried';

const FORMAT = 'pagina-record';
const { shape } = recordSchema;
/** Pictures travel with a book, not with its record. */
const fields = recordSchema.omit({ cover: true });

const carriedSchema = z.object({
  format: z.literal(FORMAT),
  version: z.literal(1),
  record: z.record(z.string(), z.unknown()),
  editions: z.array(
    z.object({
      form: z.enum(['print', 'reflow', 'fixed', 'sample']),
      isbn: z.string().default(''),
      price: moneySchema.nullable().default(null),
    }),
  ),
});

export function writeRecordJson(book: Book): string {
  const editions = book.editions
    .filter((e) => e.form !== 'sample')
    .map((e) => ({
      form: e.form,
      name: e.name,
      isbn: bareIsbn(e.isbn),
      price: e.form === 'print' ? e.price : book.record.price,
    }));
  const record = fields.parse(book.record);
  return `${JSON.stringify({ format: FORMAT, version: 1, record, editions }, null, 2)}\n`;
}

/** Fields that don't fit are left out and told of. Error: `json/unread`. */
export function readRecordJson(text: string): Outcome<Carried> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return refused('json/unread', 'The file is no JSON that can be read.');
  }
  const parsed = carriedSchema.safeParse(value);
  if (!parsed.success)
    return refused('json/unread', 'The file is no record: it lacks “format”, “record” or “editions”.');
  const record: Record<string, unknown> = {};
  const unread: string[] = [];
  for (const [key, given] of Object.entries(parsed.data.record)) {
    const field = key === 'cover' || !Object.hasOwn(shape, key) ? null : shape[key as keyof typeof shape];
    const read = field?.safeParse(given);
    if (read?.success) record[key] = read.data;
    else unread.push(`the field “${key}”`);
  }
  return done({
    record: record as Partial<BookRecord>,
    editions: parsed.data.editions.map((e) => ({
      ...e,
      isbn: isbnFault(e.isbn) === null ? bareIsbn(e.isbn) : '',
    })),
    unread,
  });
}
