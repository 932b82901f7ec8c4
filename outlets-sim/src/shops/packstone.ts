/**
 * Packstone, an invented aggregator that takes forms with files. `POST /titles` brings all of a book at once, under a `key`;
 * `replaces` names the title whose files these are. `POST /titles/NUMBER` without files changes what is told of it.
 * `GET /titles?key=KEY` tells whether a form has come, `GET /titles/NUMBER` how it stands in each shop; `DELETE` withdraws
 * it from all of them.
 */
import { createHash } from 'node:crypto';
import {
  bookNamed,
  bookOfKey,
  changeTold,
  eventsOf,
  keyFault,
  lateChange,
  sumOf,
  takeIn,
  type Book,
  type Reason,
  type Review,
  type ShopFile,
  type Told,
} from '../books';
import { factsOf } from '../facts';
import { formOf, type Form } from '../form';
import type { House } from '../house';
import { answer, refuse, type Call, type Reply } from '../http';
import { differences, isAmount, isDay, isIsbn } from '../look';
import { bearsKey, ebookIn, standing, type Shop } from '../shop';

export const REVIEW: Review = {
  begins: 0.5,
  ends: 3,
  words: { with: 'We are looking at it.', on: 'It has been passed on to the shops.' },
  finalFile: 10,
};
const LOOKED_AT = ['isbn13', 'title', 'contributors', 'languageCode', 'consumerPrice'];
const MANY = ['thema', 'passOnTo'];
const SHOPS: Record<string, { days: number; fault: (ebook: { version: string } | null) => string }> = {
  Plover: { days: 2, fault: (e) => (e?.version.startsWith('2') ? '' : 'It takes EPUB 2.0.1 only.') },
  Gannetstone: { days: 1, fault: () => '' },
  Fernhythe: { days: 4, fault: () => '' },
  'Tollgate Lane': { days: 1, fault: () => '' },
  Shelfmoor: { days: 14, fault: () => '' },
};
/** Days after which one of the shops is found to have lost it. */
const LOST_AFTER = 30;

function toldIn({ fields }: Form): Told {
  const { account: _, key: __, replaces: ___, provisional: ____, ...told } = fields;
  return Object.fromEntries(Object.entries(told).map(([n, v]) => [n, MANY.includes(n) ? v : (v[0] ?? '')]));
}
const text = (told: Told, field: string): string => (typeof told[field] === 'string' ? told[field] : '');
const many = (told: Told, field: string): string[] =>
  Array.isArray(told[field]) ? (told[field] as string[]) : [];

function wrongForm(told: Told): string | null {
  const needed = [
    'isbn13',
    'title',
    'contributors',
    'publisher',
    'publicationDate',
    'languageCode',
    'longDescription',
  ];
  for (const field of [
    ...needed,
    'shortDescription',
    'audienceCode',
    'consumerPrice',
    'currency',
    'salesRights',
  ])
    if (text(told, field) === '') return `${field}: required.`;
  if (!isIsbn(text(told, 'isbn13'))) return `isbn13: ${text(told, 'isbn13')} is no ISBN.`;
  if (!isDay(text(told, 'publicationDate'))) return 'publicationDate: no day.';
  if (!isAmount(text(told, 'consumerPrice'))) return 'consumerPrice: no amount.';
  if (!/^\d\d$/.test(text(told, 'audienceCode'))) return 'audienceCode: two figures.';
  const bare = text(told, 'longDescription').replace(/<\/?(p|em|strong|br|ul|ol|li|i|b)\s*\/?>/g, '');
  if (/<\w/.test(bare)) return 'longDescription: only p, em, strong and lists.';
  if (bare.length < 150) return `longDescription: ${bare.length} characters of 150.`;
  if (!/^\d{0,3}$/.test(text(told, 'seriesNumber'))) return 'seriesNumber: a bare number.';
  const thema = many(told, 'thema');
  if (thema.length < 1 || thema.length > 2 || thema.some((t) => !/^[A-Z][A-Z0-9]*$/.test(t)))
    return 'thema: one code or two.';
  const shops = many(told, 'passOnTo');
  return shops.length === 0 || shops.some((s) => !Object.hasOwn(SHOPS, s))
    ? 'passOnTo: no shop of ours.'
    : null;
}

function against(told: Told, files: readonly ShopFile[]): Reason[] {
  const facts = ebookIn(files);
  if (!facts) return [{ about: 'file', words: 'There is no EPUB.' }];
  const reasons = differences(facts, {
    title: text(told, 'title'),
    authors: text(told, 'contributors').split(/, | and /),
    isbn: text(told, 'isbn13'),
  });
  const epub = files.find((f) => f.part === 'epub');
  if (epub && epub.name !== `${text(told, 'isbn13')}.epub`)
    reasons.push({
      about: 'name',
      words: `The file is called ${epub.name}, not ${text(told, 'isbn13')}.epub.`,
    });
  if (facts.isbns.length > 0 && !facts.isbns.includes(text(told, 'isbn13')))
    reasons.push({ about: 'isbn', words: `The copyright page gives the ISBN ${facts.isbns.join(', ')}.` });
  if (!files.some((f) => f.part === 'cover' && !f.facts?.fault))
    reasons.push({ about: 'cover', words: 'There is no cover that can be opened.' });
  return reasons;
}

async function newTitle(form: Form, house: House): Promise<Reply> {
  const books = house.booksAt('packstone');
  const bare = form.files.map(({ part, name, bytes }) => ({
    part,
    name,
    bytes,
    size: bytes.length,
    sha256: createHash('sha256').update(bytes).digest('hex'),
  }));
  const key = form.fields.key?.[0] ?? '';
  const fault = keyFault(books, key, sumOf(bare));
  if (fault) return refuse(fault.status, fault.message);
  const known = bookOfKey(books, key);
  if (known) return answer(200, receiptOf(known));
  if (bare.length === 0) return refuse(400, 'epub: required.');
  const told = toldIn(form);
  const wrong = wrongForm(told);
  if (wrong) return refuse(400, wrong);
  const named = form.fields.replaces?.[0] ?? '';
  const replaces = named === '' ? null : (bookNamed(books, named) ?? null);
  if (named !== '' && !replaces) return refuse(404, `We have no title ${named}.`);
  const files: ShopFile[] = [];
  for (const { bytes, ...f } of bare)
    files.push({ ...f, facts: await factsOf(f.part, new Uint8Array(bytes)) });
  const release = house.dayOf(text(told, 'publicationDate'));
  const late = replaces && lateChange(replaces, release, house.day, REVIEW);
  if (late) return refuse(409, late);
  const book = takeIn(
    books,
    {
      key,
      told,
      files,
      release,
      provisional: form.fields.provisional?.[0] === 'yes',
      reasons: against(told, files),
    },
    { day: house.day, replaces, reference: String(700_000 + books.length + 1) },
  );
  house.keep();
  return answer(201, receiptOf(book));
}
const receiptOf = (book: Book) => ({
  number: book.reference,
  received: Object.fromEntries(book.files.map((f) => [f.part, f.sha256])),
});

/** How it stands in each shop that it is passed on to. */
function shopsOf(house: House, book: Book): { shop: string; state: string; words: string; link: string }[] {
  const events = eventsOf(book, house.day, REVIEW);
  const passed = events.find((e) => e.state === 'on sale' || e.state === 'pre-order')?.day;
  const ebook = ebookIn(book.files);
  return many(book.told, 'passOnTo').map((shop) => {
    const { days, fault } = SHOPS[shop]!;
    const on = passed !== undefined && house.day >= passed + days;
    const link = `https://${shop.toLowerCase().replace(/ /g, '-')}.example/${text(book.told, 'isbn13')}`;
    if (book.withdrawn !== null) return { shop, state: 'withdrawn', words: '', link: '' };
    if (passed === undefined) return { shop, state: 'not passed on yet', words: '', link: '' };
    const why = fault(ebook);
    if (why) return { shop, state: 'held', words: why, link: '' };
    if (!on) return { shop, state: 'with the shop', words: `It takes about ${days} days.`, link: '' };
    if (shop === 'Tollgate Lane' && house.day >= passed + LOST_AFTER)
      return {
        shop,
        state: 'missing',
        words: 'The shop no longer shows it. We have asked it why.',
        link: '',
      };
    return { shop, state: 'on sale', words: '', link };
  });
}

export const packstone: Shop = {
  id: 'packstone',
  name: 'Packstone',
  review: REVIEW,
  allows: bearsKey,
  async handle(call: Call, house): Promise<Reply> {
    const books = house.booksAt('packstone');
    const [, room = '', id = ''] = call.path.split('/');
    if (room !== 'titles') return refuse(404, 'There is nothing here.');
    if (id === '' && call.method === 'GET') {
      const there = bookOfKey(books, call.query.get('key') ?? '');
      return there ? answer(200, receiptOf(there)) : refuse(404, 'No such form has come.');
    }
    const form = call.method === 'POST' ? await formOf(call).catch(() => null) : undefined;
    if (form === null) return refuse(400, 'This is no form.');
    if (id === '') return form ? newTitle(form, house) : refuse(405, 'Titles are posted.');
    const book = bookNamed(books, id);
    if (!book) return refuse(404, `We have no title ${id}.`);
    if (form) {
      const told = toldIn(form);
      const wrong = wrongForm(told);
      if (wrong) return refuse(400, wrong);
      const release = house.dayOf(text(told, 'publicationDate'));
      const late = lateChange(book, release, house.day, REVIEW);
      if (late) return refuse(409, late);
      changeTold(book, told, { day: house.day, again: LOOKED_AT, reasons: () => against(told, book.files) });
      book.release = release;
      house.keep();
      return answer(200, {});
    }
    if (call.method === 'DELETE') {
      book.withdrawn ??= house.day;
      house.keep();
      return answer(200, {});
    }
    const { reference, listed: _, ...now } = standing(house, packstone, book);
    return answer(200, { number: reference, ...now, told: book.told, shops: shopsOf(house, book) });
  },
};
