/** A title as a table for a spreadsheet: one row an edition, in CSV (RFC 4180), and back. */
import Papa from 'papaparse';
import { amountFrom, amountString, done, refused, type Outcome } from '../base';
import type { Book, Edition } from '../book';
import {
  bareIsbn,
  contributor,
  isbnFault,
  isSubjectCode,
  ROLE_NAMES,
  ROLES,
  withAuthors,
  type BookRecord,
  type Contributor,
} from '../record';
import type { Carried, CarriedEdition } from './carried';

const FORMS: Record<Edition['form'], string> = {
  print: 'print',
  reflow: 'ebook',
  fixed: 'fixed-layout ebook',
  sample: 'sample',
};
/** Columns that are lines of text in the record, by their heads. */
const LINES = {
  Title: 'title',
  Subtitle: 'subtitle',
  Series: 'series',
  Volume: 'volume',
  Collection: 'collection',
  Imprint: 'imprint',
  Publisher: 'publisher',
  Place: 'place',
  Web: 'web',
  Year: 'year',
  Published: 'published',
  Edition: 'editionStatement',
  'Copyright holder': 'copyrightHolder',
  Language: 'language',
  Description: 'description',
  'Short description': 'shortDescription',
} as const;
const HEADS = [
  'ISBN',
  'Form',
  ...Object.keys(LINES),
  'Authors',
  'Others',
  'Keywords',
  'Subjects',
  'Territories',
  'Price',
  'Currency',
];
const BETWEEN = '; ';

const others = (contributors: readonly Contributor[]): string =>
  contributors
    .filter((c) => c.role !== 'author')
    .map((c) => `${c.name} (${ROLE_NAMES[c.role]})`)
    .join(BETWEEN);

/** With a byte order mark, so that spreadsheets read it as UTF-8. */
export function writeTable(book: Book): string {
  const { record } = book;
  const rows = book.editions
    .filter((e) => e.form !== 'sample')
    .map((e) => {
      const price = e.form === 'print' ? e.price : record.price;
      return [
        bareIsbn(e.isbn),
        FORMS[e.form],
        ...Object.values(LINES).map((key) => record[key]),
        record.contributors
          .filter((c) => c.role === 'author')
          .map((c) => c.name)
          .join(BETWEEN),
        others(record.contributors),
        record.keywords.join(BETWEEN),
        record.subjects.join(BETWEEN),
        record.territories === null ? 'WORLD' : record.territories.join(' '),
        price ? amountString(price) : '',
        price?.currency ?? '',
      ];
    });
  // A cell that begins like a formula is not to be worked out by a spreadsheet.
  return `\ufeff${Papa.unparse({ fields: HEADS, data: rows }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}

const plain = (head: string): string => head.trim().toLowerCase();
/** The quotation mark that keeps a spreadsheet from working out a cell. */
const unescaped = (cell: string): string => cell.replace(/^'(?=[=+\-@\t\r])/, '');

/** Error: `table/unread`. */
export function readTable(text: string): Outcome<Carried> {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' });
  const [heads, ...rows] = data;
  const known = (heads ?? []).map((h) => HEADS.find((k) => plain(k) === plain(h)) ?? null);
  if (!known.includes('Title') || rows.length === 0)
    return refused(
      'table/unread',
      'The table needs a first line of column names, “Title” among them, and a line below it.',
    );
  const cell = (row: readonly string[], head: string): string =>
    unescaped((row[known.indexOf(head)] ?? '').trim());
  const first = rows[0] ?? [];
  const own = rows.filter((r) => cell(r, 'Title') === cell(first, 'Title'));
  const record: Partial<BookRecord> = {};
  for (const [head, key] of Object.entries(LINES)) if (cell(first, head)) record[key] = cell(first, head);
  const list = (head: string): string[] =>
    cell(first, head)
      .split(';')
      .map((k) => k.trim())
      .filter(Boolean);
  const people = [...withAuthors([], list('Authors').join('; ')), ...list('Others').flatMap(personFrom)];
  if (people.length > 0) record.contributors = people;
  if (list('Keywords').length > 0) record.keywords = list('Keywords');
  const subjects = list('Subjects').filter(isSubjectCode);
  if (subjects.length > 0) record.subjects = subjects;
  const territories = cell(first, 'Territories');
  if (territories === 'WORLD') record.territories = null;
  else if (/^[A-Z]{2}(?: [A-Z]{2})*$/.test(territories)) record.territories = territories.split(' ');
  const editions = own.map((r): CarriedEdition => {
    const digits = bareIsbn(cell(r, 'ISBN'));
    const currency = cell(r, 'Currency').toUpperCase();
    return {
      form:
        (Object.keys(FORMS) as Edition['form'][]).find((f) => FORMS[f] === plain(cell(r, 'Form'))) ??
        'reflow',
      isbn: isbnFault(digits) === null ? digits : '',
      price: /^[A-Z]{3}$/.test(currency) ? amountFrom(cell(r, 'Price'), currency) : null,
    };
  });
  const ebook = editions.find((e) => e.form !== 'print' && e.price);
  if (ebook?.price) record.price = ebook.price;
  const unread = (heads ?? []).filter((_, i) => known[i] === null).map((h) => `the column “${h}”`);
  return done({ record, editions, unread });
}

function personFrom(text: string): Contributor[] {
  const m = /^(.*?)\s*\(([^)]*)\)$/.exec(text);
  const role = ROLES.find((r) => plain(ROLE_NAMES[r]) === plain(m?.[2] ?? ''));
  return [contributor((m && role ? m[1] : text) ?? text, role ?? 'editor')];
}
