/** A record on its way between programs: the fields that a file names, and its editions by their form. */
import { editionOf, type Book, type Change, type Edition } from '../book';
import { inSentence, moneySchema, moneyString, type Money } from '../base';
import { bareIsbn, type BookRecord } from '../record';

export interface CarriedEdition {
  form: Edition['form'];
  /** Thirteen digits, or '' where the file has none. */
  isbn: string;
  /** List price; null where the file has none. */
  price: Money | null;
}
export interface Carried {
  record: Partial<BookRecord>;
  editions: readonly CarriedEdition[];
  /** What the file says that a record doesn't keep. */
  unread: readonly string[];
}

/** One field that would change. */
export interface Difference {
  key: string;
  /** As one says it. */
  called: string;
  now: string;
  then: string;
  change: Change;
}

const shown = (value: unknown): string => {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value))
    return value
      .map((v: unknown) => (typeof v === 'object' && v !== null && 'name' in v ? String(v.name) : shown(v)))
      .join('; ');
  const money = moneySchema.safeParse(value);
  if (money.success) return moneyString(money.data);
  const { from, to } = value as BookRecord['ages'];
  return `${from ?? ''}–${to ?? ''}`;
};

const CALLED: Partial<Record<keyof BookRecord, string>> = {
  contributors: 'people',
  alsoBy: 'other books',
  related: 'related titles',
  shortDescription: 'short description',
  editionStatement: 'edition statement',
  editionNumber: 'edition number',
  editionType: 'kind of edition',
  copyrightHolder: 'copyright holder',
  published: 'day of publication',
  publicDomain: 'public domain',
  libraryPrice: 'price for libraries',
  bundlePrice: 'price beside the printed book',
  price: 'list price of the ebook',
  prices: 'prices in other currencies',
  web: 'web address',
};

/** What taking a file in would change, field by field: each may be taken or left. */
export function differences(book: Book, { record, editions }: Carried): Difference[] {
  const found: Difference[] = [];
  const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
  for (const key of Object.keys(record) as (keyof BookRecord)[]) {
    // No file carries pictures: who is named as before keeps theirs.
    const then =
      key === 'contributors'
        ? record.contributors?.map((c) => ({
            ...c,
            portrait: book.record.contributors.find((b) => b.name === c.name)?.portrait ?? null,
          }))
        : record[key];
    if (same(then, book.record[key])) continue;
    found.push({
      key,
      called: CALLED[key] ?? key,
      now: shown(book.record[key]),
      then: shown(then),
      change: { type: 'set-record', fields: { [key]: then } },
    });
  }
  const taken = new Set<string>();
  for (const carried of editions) {
    const match =
      book.editions.find((e) => carried.isbn !== '' && bareIsbn(e.isbn) === carried.isbn) ??
      book.editions.find((e) => e.form === carried.form && !taken.has(e.id));
    const edition = match && editionOf(book, match.id);
    if (!edition) continue;
    taken.add(edition.id);
    const set = (field: 'isbn' | 'price', called: string, now: unknown, then: unknown): void => {
      found.push({
        key: `${edition.id} ${field}`,
        called: `${called} of the ${inSentence(edition.name)}`,
        now: shown(now),
        then: shown(then),
        change: { type: 'set-edition', id: edition.id, fields: { [field]: then } },
      });
    };
    if (carried.isbn !== '' && bareIsbn(edition.isbn) !== carried.isbn)
      set('isbn', 'ISBN', edition.isbn, carried.isbn);
    if (edition.form === 'print' && carried.price && !same(edition.price, carried.price))
      set('price', 'list price', edition.price, carried.price);
  }
  return found;
}
