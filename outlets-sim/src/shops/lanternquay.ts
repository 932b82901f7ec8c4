/**
 * Lanternquay, an invented ebook shop that speaks JSON. A file is brought to `/files/SHA256` in pieces; `POST /parcels` with
 * a `Parcel-Key` header then brings the slip, which names the file; a `Replaces` header names the book whose file it is.
 * `GET /parcels?key=KEY` tells whether it has arrived; `GET /parcels/REFERENCE` what has happened and what the shop shows;
 * `PUT /parcels/REFERENCE/slip` changes that; `DELETE` takes the book from sale. `PUT /hook` says where news are told.
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
import type { EbookFacts } from '../ebook';
import { answer, jsonOf, refuse, type Reply } from '../http';
import { differences, isDay, isIsbn } from '../look';
import { announcedIn, bearsKey, ebookIn, filesFrom, standing, type Shop } from '../shop';

const LEAST_PRICE = 99;
const LEAST_DESCRIPTION = 50;
export const REVIEW: Review = {
  begins: 0.5,
  ends: 2.5,
  words: { with: 'A reviewer has it.', on: 'It is on sale.' },
  finalFile: 10,
};
/** Details by which the shop knows a book: it looks at the book again where they change. */
const LOOKED_AT = ['title', 'subtitle', 'authors', 'isbn', 'language'];
const TEXTS = ['title', 'subtitle', 'isbn', 'editionStatement', 'description', 'language', 'currency'];
const LISTS = ['authors', 'keywords'];

function wrongSlip(slip: Told): string | null {
  for (const field of TEXTS) if (typeof slip[field] !== 'string') return `The slip lacks “${field}”.`;
  for (const field of LISTS) {
    const list: unknown = slip[field];
    if (!Array.isArray(list) || !list.every((x) => typeof x === 'string'))
      return `The slip’s “${field}” must be a list of words.`;
  }
  if (!Number.isInteger(slip.price) || (slip.price as number) < 0)
    return 'The slip’s price must be a whole number.';
  if (slip.isbn !== '' && !isIsbn(slip.isbn as string)) return `${slip.isbn as string} is no ISBN.`;
  return slip.onSale === undefined || slip.onSale === '' || isDay(String(slip.onSale))
    ? null
    : 'The slip’s first day of sale is no day.';
}

/** Files are shelved under their titles: Latin letters and figures, hyphens between. A long title may be cut. */
function isShelved(name: string, title: string): boolean {
  const latin = (s: string): string =>
    s
      .normalize('NFKD')
      .toLowerCase()
      .replace(/\p{M}/gu, '')
      .replace(/[^a-z0-9]/g, '');
  const shelved = latin(title);
  const given = latin(name.replace(/\.epub$/, ''));
  return /^[a-z0-9-]+\.epub$/.test(name) && (shelved === '' || (given !== '' && shelved.startsWith(given)));
}

export function reasonsAgainst(slip: Told, name: string, facts: EbookFacts): Reason[] {
  const told = { title: slip.title as string, authors: slip.authors as string[], isbn: slip.isbn as string };
  const reasons = differences(facts, told);
  if (facts.fault) return reasons;
  if (!isShelved(name, told.title))
    reasons.push({ about: 'name', words: `The file is called ${name}; we shelve files under their titles.` });
  if (!facts.cover) reasons.push({ about: 'cover', words: 'The ebook has no cover.' });
  const { length } = slip.description as string;
  if (length < LEAST_DESCRIPTION)
    reasons.push({
      about: 'description',
      words: `The description has ${length} characters; it needs ${LEAST_DESCRIPTION}.`,
    });
  if ((slip.price as number) < LEAST_PRICE)
    reasons.push({ about: 'price', words: 'The price is below 0.99.' });
  return reasons;
}

const against = (book: Pick<Book, 'files' | 'told'>): Reason[] => {
  const facts = ebookIn(book.files);
  return facts ? reasonsAgainst(book.told, book.files[0]?.name ?? '', facts) : [];
};

export const lanternquay: Shop = {
  id: 'lanternquay',
  name: 'Lanternquay',
  review: REVIEW,
  allows: bearsKey,
  async handle(call, house): Promise<Reply> {
    const books = house.booksAt('lanternquay');
    const { method, path } = call;
    const [, room = '', id = '', part = ''] = path.split('/');
    const receipt = (status: number, book: Book): Reply =>
      answer(status, { reference: book.reference, sha256: book.files[0]?.sha256 ?? '' });
    if (room === 'files') return house.tray.handle('lanternquay', id, call);
    if (path === '/hook' && method === 'PUT') {
      house.kept.hooks.lanternquay = String(jsonOf(call)?.address ?? '');
      house.keep();
      return answer(200, {});
    }
    if (path === '/parcels' && method === 'GET') {
      const there = bookOfKey(books, call.query.get('key') ?? '');
      return there ? receipt(200, there) : refuse(404, 'No such parcel has arrived.');
    }
    if (path === '/parcels' && method === 'POST') {
      const body = jsonOf(call);
      const announced = announcedIn(body?.files);
      const slip = body?.slip as Told | undefined;
      if (!announced || !slip) return refuse(400, 'The slip cannot be read.');
      const key = call.headers['parcel-key'] ?? '';
      const fault = keyFault(books, key, sumOf(announced));
      if (fault) return refuse(fault.status, fault.message);
      const known = bookOfKey(books, key);
      if (known) return receipt(200, known);
      const wrong = wrongSlip(slip);
      if (wrong) return refuse(400, wrong);
      const named = call.headers.replaces;
      const replaces = named === undefined ? null : (bookNamed(books, named) ?? null);
      if (named !== undefined && !replaces) return refuse(404, `We have no book ${named}.`);
      const came = await filesFrom(house, 'lanternquay', announced);
      if ('missing' in came) return refuse(422, came.missing);
      const day = slip.onSale ? house.dayOf(String(slip.onSale)) : null;
      const late = replaces && lateChange(replaces, day, house.day, REVIEW);
      if (late) return refuse(409, late);
      const book = takeIn(
        books,
        {
          key,
          told: slip,
          files: came.files,
          release: day,
          provisional: body?.provisional === true,
          reasons: against({ told: slip, files: came.files }),
        },
        { day: house.day, replaces, reference: `LQ-${String(books.length + 1).padStart(5, '0')}` },
      );
      for (const f of announced) house.tray.clear('lanternquay', f.sha256);
      house.keep();
      return receipt(replaces ? 200 : 201, book);
    }
    const book = room === 'parcels' ? bookNamed(books, id) : undefined;
    if (!book) return refuse(404, 'That parcel is unknown.');
    if (part === 'slip' && method === 'PUT') {
      const slip = jsonOf(call) as Told | null;
      const wrong = slip ? wrongSlip(slip) : 'The slip cannot be read.';
      if (!slip || wrong) return refuse(400, wrong ?? '');
      const day = slip.onSale ? house.dayOf(String(slip.onSale)) : null;
      const late = lateChange(book, day, house.day, REVIEW);
      if (late) return refuse(409, late);
      const reasons = (): Reason[] => against({ told: slip, files: book.files });
      changeTold(book, slip, { day: house.day, again: LOOKED_AT, reasons });
      book.release = day;
      house.keep();
      return answer(200, {});
    }
    if (part === '' && method === 'DELETE') {
      book.withdrawn ??= house.day;
      house.keep();
      return answer(200, {});
    }
    if (part !== '' || method !== 'GET') return refuse(404, 'That parcel is unknown.');
    const { listed, ...now } = standing(house, lanternquay, book);
    return answer(200, {
      ...now,
      link: listed ? `https://lanternquay.example/book/${book.reference.toLowerCase()}` : '',
      slip: book.told,
    });
  },
};
