/**
 * Marram, an invented ebook shop that takes a book in two steps, in JSON. Files are brought to `/files/SHA256` in pieces.
 * `POST /books` brings the details under a `key` and answers a reference and that prices come next; `PUT /books/REF/prices`
 * under the same key brings territories and prices, and only then the book is in. `GET /books?key=KEY` tells how far a
 * parcel has come. `PUT /books/REF/details` changes details, `DELETE /books/REF` takes a book from sale. A book without an
 * ISBN is given one half a day after it came.
 */
import {
  bookNamed,
  bookOfKey,
  changeTold,
  keyFault,
  lateChange,
  sumOf,
  takeIn,
  type Book,
  type Reason,
  type Review,
  type Told,
} from '../books';
import type { House } from '../house';
import { answer, jsonOf, refuse, type Call, type Reply } from '../http';
import { differences, isAmount, isDay, isIsbn, withCheckDigit } from '../look';
import type { Facts } from '../facts';
import { announcedIn, bearsKey, ebookIn, filesFrom, standing, type Announced, type Shop } from '../shop';

export const REVIEW: Review = {
  begins: 0.1,
  ends: 1,
  words: { with: 'It is being looked at.', on: 'It is on sale where it may be sold.' },
  finalFile: 10,
};
const LOOKED_AT = ['name', 'author', 'isbn', 'description'];
const SHELVES = [
  'Novels',
  'Verse',
  'Stage',
  'Lives',
  'Letters',
  'Arts',
  'Ideas',
  'Work',
  'Body',
  'Past',
  'Nature',
  'House',
  'Children',
];
/** Days between the sale at home and that in all other territories. */
const ABROAD = 0.5;
/** Days on sale after which a right is asked about in one territory, as happens. */
const ASKED_AFTER = 21;

const text = (told: Told, field: string): string => (typeof told[field] === 'string' ? told[field] : '');
const list = (told: Told, field: string): unknown[] =>
  Array.isArray(told[field]) ? (told[field] as unknown[]) : [];

function wrongDetails(told: Told): string | null {
  const needed = ['name', 'publisher', 'language', 'firstDay', 'description', 'pages'];
  for (const field of needed) if (text(told, field) === '') return `“${field}” is missing.`;
  const authors = list(told, 'author') as { family?: unknown; given?: unknown }[];
  if (
    authors.length === 0 ||
    authors.some((a) => typeof a?.family !== 'string' || typeof a.given !== 'string')
  )
    return 'An author is a family name and a given name.';
  if (!isDay(text(told, 'firstDay'))) return '“firstDay” is no day.';
  const { length } = text(told, 'description');
  if (length < 100 || length > 2_000)
    return `The description has ${length} characters; 100 to 2,000 are taken.`;
  if (/<\/?\w+>/.test(text(told, 'description'))) return 'The description has markup in it.';
  if (!/^\d+$/.test(text(told, 'pages'))) return '“pages” is a number.';
  const [shelf, within] = list(told, 'shelf');
  if (typeof shelf !== 'string' || !SHELVES.includes(shelf) || typeof within !== 'string')
    return 'A shelf is one of ours, and one within it.';
  const words = list(told, 'searchWords');
  if (words.length > 12 || words.some((w) => typeof w !== 'string' || w.split(/\s+/).length > 3))
    return 'Twelve search words of three words each at most.';
  if (text(told, 'isbn') !== '' && !isIsbn(text(told, 'isbn'))) return `${text(told, 'isbn')} is no ISBN.`;
  return told.rights === true ? null : 'Say that you hold the rights.';
}
function wrongPrices(told: Told): string | null {
  const territories = list(told, 'territories');
  if (territories.length === 0 || territories.some((t) => typeof t !== 'string' || !/^[A-Z]{2}$/.test(t)))
    return 'Territories are codes of two letters.';
  const prices = list(told, 'prices') as { currency?: unknown; amount?: unknown }[];
  const wrong = prices.some(
    (p) => !/^[A-Z]{3}$/.test(String(p?.currency)) || typeof p.amount !== 'string' || !isAmount(p.amount),
  );
  return prices.length === 0 || wrong ? 'A price is a currency and an amount.' : null;
}

const authorsOf = (told: Told): string[] =>
  (list(told, 'author') as { family: string; given: string }[]).map((a) => `${a.given} ${a.family}`.trim());
function against({ told, files }: Pick<Book, 'told' | 'files'>): Reason[] {
  const facts = ebookIn(files);
  if (!facts) return [{ about: 'file', words: 'There is no EPUB.' }];
  const reasons = differences(facts, {
    title: text(told, 'name'),
    authors: authorsOf(told),
    isbn: text(told, 'isbn'),
  });
  const cover = files.find((f) => f.part === 'cover')?.facts as Facts | undefined;
  if (cover?.kind === 'cover' && cover.fault)
    reasons.push({ about: 'cover', words: `The cover: ${cover.fault}.` });
  else if (cover?.kind === 'cover' && cover.height < 1_400)
    reasons.push({ about: 'cover', words: `The cover is ${cover.height} pixels high, of 1,400.` });
  return reasons;
}

/** What is told in both steps, of which the second leaves the first as it is. */
const both = (details: Told, prices: Told): Told => ({
  ...details,
  territories: prices.territories,
  prices: prices.prices,
  bundle: prices.bundle ?? '',
});

function listDetails(call: Call, house: House): Reply {
  const books = house.booksAt('marram');
  const body = jsonOf(call);
  const announced = announcedIn(body?.files);
  const details = body?.details as Told | undefined;
  if (!body || !announced || !details) return refuse(400, 'Details and files are missing.');
  const key = String(body.key);
  const sum = sumOf(announced);
  const fault = keyFault(books, key, sum);
  if (fault) return refuse(fault.status, fault.message);
  const known = bookOfKey(books, key);
  if (known) return answer(200, { reference: known.reference, next: '' });
  const heard = house.heardAt('marram');
  const before = Object.hasOwn(heard, key) ? heard[key] : undefined;
  const wrong = wrongDetails(details);
  if (wrong) return refuse(400, wrong);
  const named = typeof body.replaces === 'string' ? body.replaces : '';
  if (named && !bookNamed(books, named)) return refuse(404, `We have no book ${named}.`);
  const number = books.length + Object.values(heard).filter((h) => !bookNamed(books, h.reference)).length + 1;
  const reference = before?.reference ?? (named || `M${String(10_000 + number)}`);
  heard[key] = {
    reference,
    told: { ...details, files: announced, provisional: body.provisional === true },
    sum,
  };
  house.keep();
  return answer(201, { reference, next: 'prices' });
}

async function listPrices(reference: string, call: Call, house: House): Promise<Reply> {
  const books = house.booksAt('marram');
  const body = jsonOf(call);
  if (!body) return refuse(400, 'Prices are missing.');
  const wrong = wrongPrices(body);
  if (wrong) return refuse(400, wrong);
  const key = typeof body.key === 'string' ? body.key : '';
  const there = bookNamed(books, reference);
  if (key === '') {
    if (!there) return refuse(409, 'Prices come after the details have been accepted.');
    return changed(house, there, both(there.told, body));
  }
  const known = bookOfKey(books, key);
  if (known) return answer(200, receiptOf(known));
  const heard = house.heardAt('marram');
  const begun = Object.hasOwn(heard, key) ? heard[key] : undefined;
  if (begun?.reference !== reference) return refuse(409, 'Prices come after the details have been accepted.');
  const { files: announced, provisional, ...details } = begun.told;
  const came = await filesFrom(house, 'marram', announced as Announced[]);
  if ('missing' in came) return refuse(422, came.missing);
  const release = house.dayOf(text(details, 'firstDay'));
  const late = there && lateChange(there, release, house.day, REVIEW);
  if (late) return refuse(409, late);
  const told = both(details, body);
  const { files } = came;
  const book = takeIn(
    books,
    { key, told, files, release, provisional: provisional === true, reasons: against({ told, files }) },
    { day: house.day, replaces: there ?? null, reference },
  );
  if (text(told, 'isbn') === '') {
    const isbn = withCheckDigit(`97992${String(4_100_000 + Number(reference.slice(1)))}`);
    book.assigned ??= { isbn, from: house.day + 0.5 };
  }
  delete heard[key];
  for (const f of announced as Announced[]) house.tray.clear('marram', f.sha256);
  house.keep();
  return answer(201, receiptOf(book));
}

function changed(house: House, book: Book, told: Told): Reply {
  const release = house.dayOf(text(told, 'firstDay'));
  const late = lateChange(book, release, house.day, REVIEW);
  if (late) return refuse(409, late);
  changeTold(book, told, {
    day: house.day,
    again: LOOKED_AT,
    reasons: () => against({ told, files: book.files }),
  });
  book.release = release;
  house.keep();
  return answer(200, {});
}

const receiptOf = (book: Book) => ({
  reference: book.reference,
  next: '',
  files: Object.fromEntries(book.files.map((f) => [f.part, f.sha256])),
});

/** Where it can be bought: at home first, elsewhere half a day later; after three weeks one right is asked about. */
function territoriesOf(house: House, book: Book): Record<string, string> {
  const { listed, events } = standing(house, marram, book);
  const since = events.find((e) => e.state === 'on sale')?.day;
  const codes = list(book.told, 'territories') as string[];
  const last = codes.length > 3 ? codes.at(-1) : undefined;
  return Object.fromEntries(
    codes.map((code, i) => {
      if (!listed || since === undefined) return [code, 'not yet'];
      if (i > 0 && house.day < since + ABROAD) return [code, 'not yet'];
      return [
        code,
        code === last && house.day >= since + ASKED_AFTER
          ? 'held: say who holds the rights there'
          : 'on sale',
      ];
    }),
  );
}

export const marram: Shop = {
  id: 'marram',
  name: 'Marram',
  review: REVIEW,
  allows: bearsKey,
  async handle(call, house): Promise<Reply> {
    const books = house.booksAt('marram');
    const { method, path } = call;
    const [, room = '', id = '', part = ''] = path.split('/');
    if (room === 'files') return house.tray.handle('marram', id, call);
    if (room !== 'books') return refuse(404, 'There is nothing here.');
    if (id === '' && method === 'POST') return listDetails(call, house);
    if (id === '') {
      const key = call.query.get('key') ?? '';
      const there = bookOfKey(books, key);
      if (there) return answer(200, receiptOf(there));
      const heard = house.heardAt('marram');
      const begun = Object.hasOwn(heard, key) ? heard[key] : undefined;
      return begun
        ? answer(200, { reference: begun.reference, next: 'prices' })
        : refuse(404, 'No such parcel.');
    }
    if (part === 'prices' && method === 'PUT') return listPrices(id, call, house);
    const book = bookNamed(books, id);
    if (!book) return refuse(404, `We have no book ${id}.`);
    if (part === 'details' && method === 'PUT') {
      const details = jsonOf(call);
      const wrong = details ? wrongDetails(details) : 'The details can’t be read.';
      return wrong || !details ? refuse(400, wrong ?? '') : changed(house, book, both(details, book.told));
    }
    if (method === 'DELETE') {
      book.withdrawn ??= house.day;
      house.keep();
      return answer(200, {});
    }
    const { listed, ...now } = standing(house, marram, book);
    return answer(200, {
      ...now,
      address: listed ? `https://marram.example/b/${book.reference.toLowerCase()}` : '',
      told: book.told,
      territories: territoriesOf(house, book),
      // It keeps to the shelf, and goes no deeper than it likes.
      shelf: listed ? [text({ s: list(book.told, 'shelf')[0] }, 's'), 'General'] : [],
    });
  },
};
