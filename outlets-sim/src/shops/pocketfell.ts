/**
 * Pocketfell, an invented reading app that takes a sheet with files. Files are brought to `/files/SHA256` in pieces; `PUT
 * /sheets/KEY` brings a sheet of one row of names and one of values, which names them. It answers in sheets too: `GET
 * /sheets/KEY` is the receipt, `GET /books/NUMBER` how the book stands. A sheet without files changes what is told.
 */
import {
  bookNamed,
  bookOfKey,
  changeTold,
  eventsOf,
  keyFault,
  sumOf,
  takeIn,
  type Book,
  type Reason,
  type Review,
  type Told,
} from '../books';
import type { House } from '../house';
import type { Call, Reply } from '../http';
import { differences, isAmount, isIsbn } from '../look';
import { bearsKey, ebookIn, filesFrom, standing, type Announced, type Shop } from '../shop';
import { cellsOf, sheetOf } from '../sheet';

/** It looks for a little more than an hour. */
export const REVIEW: Review = {
  begins: 0.01,
  ends: 0.05,
  words: { with: 'In review.', on: 'In the app.' },
  finalFile: 0,
};
const LOOKED_AT = ['Title', 'Author', 'Description'];

const reply = (status: number, rows: readonly (readonly string[])[]): Reply => ({
  status,
  headers: { 'Content-Type': 'text/csv; charset=utf-8' },
  body: sheetOf(rows),
});
const no = (status: number, words: string): Reply => reply(status, [['message'], [words]]);

function sheetIn({ body }: Call): Record<string, string> | null {
  const rows = cellsOf(body.toString('utf8'));
  const [names, values] = rows ?? [];
  if (!names || !values || rows?.length !== 2 || names.length !== values.length) return null;
  return Object.fromEntries(names.map((n, i) => [n, values[i] ?? '']));
}

function wrongSheet(s: Record<string, string>): string | null {
  for (const column of [
    'Title',
    'Author',
    'Language',
    'Description',
    'Subjects',
    'Price',
    'Currency',
    'Contains adult content',
  ])
    if (!s[column]) return `The column ${column} is empty.`;
  if (s['Contains adult content'] !== 'No') return 'We sell no books for adults only.';
  if (s.Description!.replace(/<[^>]*>/g, '').length < 200)
    return 'The description is too short: 200 characters.';
  if (s.ISBN && !isIsbn(s.ISBN)) return `${s.ISBN} is no ISBN.`;
  if (!isAmount(s.Price!)) return `${s.Price} is no price.`;
  const share = (column: string): number => Number((s[column] ?? '').replace(' %', ''));
  if (!(share('Readable before buying') >= 0 && share('Readable before buying') <= 20))
    return 'A preview is at most 20 %.';
  if (!(share('Text that may be copied') >= 0 && share('Text that may be copied') <= 40))
    return 'At most 40 % may be copied.';
  return s['Declaration of rights'] === 'Yes' ? null : 'Say that you hold the rights.';
}

const against = (told: Told, book: Pick<Book, 'files'>): Reason[] => {
  const facts = ebookIn(book.files);
  if (!facts) return [{ about: 'file', words: 'There is no book.' }];
  const t = told as Record<string, string>;
  return differences(facts, {
    title: t.Title!,
    authors: t.Author!.split(/, | and /),
    isbn: facts.identifier.startsWith('urn:isbn:') ? (t.ISBN ?? '') : '',
  });
};

async function takeSheet(key: string, call: Call, house: House): Promise<Reply> {
  const books = house.booksAt('pocketfell');
  const sheet = sheetIn(call);
  if (!sheet) return no(400, 'The sheet has to have one row of names and one of values.');
  const {
    'Replaces number': named = '',
    'Book SHA-256': sha256 = '',
    'Book bytes': size = '',
    Book: name = '',
    ...told
  } = sheet;
  const announced: Announced[] = sha256 ? [{ part: 'ebook', name, sha256, size: Number(size) }] : [];
  const fault = keyFault(books, key, sumOf(announced));
  if (fault) return no(fault.status, fault.message);
  const known = bookOfKey(books, key);
  if (known) return reply(200, receiptOf(known));
  const wrong = wrongSheet(told);
  if (wrong) return no(400, wrong);
  const replaces = named === '' ? null : (bookNamed(books, named) ?? null);
  if (named !== '' && !replaces) return no(404, `We have no book ${named}.`);
  if (announced.length === 0) {
    if (!replaces) return no(400, 'There is no book.');
    changeTold(replaces, told, { day: house.day, again: LOOKED_AT, reasons: () => against(told, replaces) });
    house.keep();
    return reply(200, receiptOf(replaces));
  }
  const came = await filesFrom(house, 'pocketfell', announced);
  if ('missing' in came) return no(422, came.missing);
  const { files } = came;
  const book = takeIn(
    books,
    { key, told, files, release: null, provisional: false, reasons: against(told, { files }) },
    { day: house.day, replaces, reference: `PF${String(books.length + 1).padStart(6, '0')}` },
  );
  for (const f of announced) house.tray.clear('pocketfell', f.sha256);
  house.keep();
  return reply(201, receiptOf(book));
}
const receiptOf = (book: Book): string[][] => [
  ['number', 'sha256'],
  [book.reference, book.files[0]?.sha256 ?? ''],
];

/** A row for each thing that it tells: what kind it is, of what, and in words. */
function rowsOf(house: House, book: Book): string[][] {
  const now = standing(house, pocketfell, book);
  const state = eventsOf(book, house.day, REVIEW).at(-1)?.state;
  const subjects = String(book.told.Subjects ?? '')
    .split('; ')
    .slice(0, 2);
  return [
    ['kind', 'name', 'words'],
    ['book', book.reference, now.state],
    ...now.events.map((e) => ['event', e.state, e.words]),
    ...now.reasons.map((r) => ['reason', r.about, r.words]),
    ...now.files.map((f) => ['file', f.part, f.words || f.state]),
    ...now.contents.map((c) => ['contents', '', c]),
    ...now.doubts.map((d) => ['doubt', '', d]),
    ...now.barriers.map((b) => ['barrier', '', b]),
    ...(now.listed ? subjects.map((s) => ['subject', '', s]) : []),
    // It says so of every book that it sells, and there is nothing to do.
    ...(state === 'on sale' ? [['needs action', '', 'Needs action: complete your listing.']] : []),
    ...(now.listed ? [['link', '', `https://pocketfell.example/open/${book.reference.toLowerCase()}`]] : []),
    ...['Title', 'Author', 'ISBN', 'Description', 'Language', 'Price', 'Currency'].map((n) => [
      'shown',
      n,
      String(book.told[n] ?? ''),
    ]),
  ];
}

export const pocketfell: Shop = {
  id: 'pocketfell',
  name: 'Pocketfell',
  review: REVIEW,
  allows: bearsKey,
  async handle(call, house): Promise<Reply> {
    const books = house.booksAt('pocketfell');
    const [, room = '', id = ''] = call.path.split('/');
    if (room === 'files') return house.tray.handle('pocketfell', id, call);
    if (room === 'sheets' && call.method === 'PUT') return takeSheet(id, call, house);
    if (room === 'sheets') {
      const there = bookOfKey(books, id);
      return there ? reply(200, receiptOf(there)) : no(404, 'No such sheet has come.');
    }
    const book = room === 'books' ? bookNamed(books, id) : undefined;
    if (!book) return no(404, 'We have no book of that number.');
    if (call.method === 'DELETE') {
      book.withdrawn ??= house.day;
      house.keep();
      return reply(200, receiptOf(book));
    }
    return reply(200, rowsOf(house, book));
  },
};
