/**
 * Quayhead, an invented printer on demand that takes job tickets in XML. Files are brought to `/files/SHA256` in pieces;
 * `POST /tickets` brings the ticket, which names them, and answers a receipt. `GET /tickets?key=KEY` is the receipt again,
 * `GET /tickets/NUMBER` how the job stands, after a preflight of pages and cover; `PUT` changes the particulars, `DELETE`
 * ends the sale.
 */
import {
  bookNamed,
  bookOfKey,
  changeTold,
  keyFault,
  sumOf,
  takeIn,
  type Book,
  type Reason,
  type Review,
  type ShopFile,
  type Told,
} from '../books';
import type { House } from '../house';
import type { Call, Reply } from '../http';
import { coverDifferences, isAmount, isIsbn } from '../look';
import type { PdfFacts } from '../pdf';
import { filesFrom, standing, type Announced, type Shop } from '../shop';
import { elementsOf, escaped, inside, type Element } from '../xml';

export const REVIEW: Review = {
  begins: 0.2,
  ends: 2,
  words: { with: 'The files are in preflight.', on: 'Copies can be ordered.' },
  finalFile: 0,
};
const LOOKED_AT = ['title', 'subtitle', 'author', 'isbn', 'trim', 'paper', 'binding'];
/** Points of an inch; how far a page may be from the trim it should have. */
const INCH = 72;
const NEAR = 2;
const BLEED = 0.125 * INCH;

const reply = (status: number, body: string): Reply => ({
  status,
  headers: { 'Content-Type': 'application/xml' },
  body,
});
const no = (status: number, words: string): Reply => reply(status, `<refused>${escaped(words)}</refused>`);

interface Ticket {
  key: string;
  replaces: string;
  told: Told;
  files: Announced[];
}
function ticketIn({ body }: Call): Ticket | null {
  let all: Element[];
  try {
    all = elementsOf(body.toString('utf8'));
  } catch {
    return null;
  }
  const [ticket] = all;
  const particulars = all.find((e) => e.name === 'particulars');
  if (ticket?.name !== 'ticket' || !particulars) return null;
  const told: Record<string, unknown> = {};
  for (const e of inside(all, ticket, 'particular')) {
    const name = e.attrs.name ?? '';
    const values = inside(all, e, 'value').map((v) => v.all);
    told[name] = values.length > 1 ? values : (values[0] ?? '');
  }
  const files = inside(all, ticket, 'file').map((f) => ({
    part: f.attrs.part ?? '',
    name: f.attrs.name ?? '',
    sha256: f.attrs.sha256 ?? '',
    size: Number(f.attrs.bytes),
  }));
  return { key: ticket.attrs.key ?? '', replaces: ticket.attrs.replaces ?? '', told, files };
}
const text = (told: Told, name: string): string => {
  const value = told[name];
  return typeof value === 'string' ? value : Array.isArray(value) ? (value as string[]).join(' ') : '';
};

/** Points, of "5.5 × 8.5 in" or "148 × 210 mm" as a ticket writes them. */
function trimIn(written: string): { width: number; height: number } | null {
  const found = /^([\d.]+)\s*[x×]\s*([\d.]+)\s*(in|mm)$/.exec(written.trim());
  if (!found) return null;
  const unit = found[3] === 'mm' ? INCH / 25.4 : INCH;
  return { width: Number(found[1]) * unit, height: Number(found[2]) * unit };
}

function wrongTicket(told: Told): string | null {
  const needed = [
    'isbn',
    'title',
    'author',
    'imprint',
    'date',
    'language',
    'description',
    'trim',
    'paper',
    'binding',
    'pages',
    'price',
    'currency',
  ];
  const missing = needed.find((name) => text(told, name) === '');
  if (missing) return `The ticket says nothing of: ${missing}.`;
  if (!isIsbn(text(told, 'isbn'))) return `${text(told, 'isbn')} is no ISBN.`;
  if (!trimIn(text(told, 'trim'))) return `${text(told, 'trim')} is no trim of ours.`;
  if (!/^\d+$/.test(text(told, 'pages'))) return 'The pages are no number.';
  if (!['Paperback', 'Hardback'].includes(text(told, 'binding')))
    return `We bind no ${text(told, 'binding')}.`;
  return isAmount(text(told, 'price')) ? null : 'The price is no amount.';
}

/** What a preflight finds in pages and cover, and in the two together. */
function preflight(told: Told, files: readonly ShopFile[]): Reason[] {
  const pages = files.find((f) => f.part === 'pages')?.facts as PdfFacts | undefined;
  const cover = files.find((f) => f.part === 'cover sheet')?.facts as PdfFacts | undefined;
  const trim = trimIn(text(told, 'trim'));
  if (!pages || !cover || !trim)
    return [{ about: 'file', words: 'We need a PDF of the pages and one of the cover.' }];
  const reasons: Reason[] = [];
  const say = (about: string, words: string): void => void reasons.push({ about, words });
  for (const [what, f] of [
    ['pages', pages],
    ['cover', cover],
  ] as const)
    if (f.fault) say('file', `The PDF of the ${what} can’t be opened: ${f.fault}.`);
  if (reasons.length > 0) return reasons;
  if (!pages.even) say('trim', 'The pages aren’t all of one size.');
  const near = (a: number, b: number): boolean => Math.abs(a - b) <= NEAR;
  const alone = near(pages.width, trim.width) && near(pages.height, trim.height);
  const bleeds = near(pages.width, trim.width + 2 * BLEED) || near(pages.width, trim.width + BLEED);
  if (!alone && !(bleeds && near(pages.height, trim.height + 2 * BLEED)))
    say(
      'trim',
      `The pages are ${inches(pages.width)} × ${inches(pages.height)} in; the ticket says ${text(told, 'trim')}.`,
    );
  if (pages.pages !== Number(text(told, 'pages')))
    say('pages', `The PDF has ${pages.pages} pages; the ticket says ${text(told, 'pages')}.`);
  if (pages.pages < 24) say('pages', 'We bind 24 pages and more.');
  if (cover.height < trim.height + NEAR) say('cover', 'The cover is not high enough for pages and bleed.');
  if (cover.width < 2 * trim.width) say('cover', 'The cover is not wide enough for back, spine and front.');
  reasons.push(
    ...coverDifferences(cover, { title: text(told, 'title'), authors: [], isbn: text(told, 'isbn') }),
  );
  return reasons;
}
const inches = (points: number): string => (points / INCH).toFixed(2);

async function takeTicket(call: Call, house: House): Promise<Reply> {
  const books = house.booksAt('quayhead');
  const ticket = ticketIn(call);
  if (!ticket) return no(400, 'The ticket can’t be read.');
  const { key, told, files: announced } = ticket;
  const fault = keyFault(books, key, sumOf(announced));
  if (fault) return no(fault.status, fault.message);
  const known = bookOfKey(books, key);
  if (known) return reply(200, receiptOf(known));
  const wrong = wrongTicket(told);
  if (wrong) return no(400, wrong);
  const replaces = ticket.replaces === '' ? null : (bookNamed(books, ticket.replaces) ?? null);
  if (ticket.replaces !== '' && !replaces) return no(404, `We have no job ${ticket.replaces}.`);
  const came = await filesFrom(house, 'quayhead', announced);
  if ('missing' in came) return no(422, came.missing);
  const { files } = came;
  const book = takeIn(
    books,
    { key, told, files, release: null, provisional: false, reasons: preflight(told, files) },
    { day: house.day, replaces, reference: `Q${String(20_000 + books.length + 1)}` },
  );
  for (const f of announced) house.tray.clear('quayhead', f.sha256);
  house.keep();
  return reply(201, receiptOf(book));
}
const attr = (name: string, value: string): string => ` ${name}="${escaped(value)}"`;
const el = (name: string, words: string, more = ''): string => `<${name}${more}>${escaped(words)}</${name}>`;
const receiptOf = ({ reference, files }: Book): string =>
  `<receipt${attr('number', reference)}>${files.map((f) => `<file${attr('part', f.part)}${attr('sha256', f.sha256)}/>`).join('')}</receipt>`;

function jobXml(house: House, book: Book): string {
  const now = standing(house, quayhead, book);
  const shops = Array.isArray(book.told.distribution)
    ? (book.told.distribution as string[])
    : [text(book.told, 'distribution')];
  return [
    `<job${attr('number', book.reference)}${attr('state', now.state)}>`,
    ...now.events.map((e) => el('event', e.words, attr('state', e.state))),
    ...now.reasons.map((r) => el('reason', r.words, attr('about', r.about))),
    ...now.files.map((f) => el('file', f.words || f.state, attr('part', f.part))),
    ...shops.filter(Boolean).map((s) => el('channel', s, attr('state', now.listed ? 'on sale' : 'not yet'))),
    ...(now.listed ? [el('link', `https://quayhead.example/print/${text(book.told, 'isbn')}`)] : []),
    ...['title', 'subtitle', 'author', 'isbn', 'description', 'price', 'currency'].map((n) =>
      el('shown', text(book.told, n), attr('name', n)),
    ),
    '</job>',
  ].join('');
}

export const quayhead: Shop = {
  id: 'quayhead',
  name: 'Quayhead',
  review: REVIEW,
  allows: ({ headers }, key) =>
    headers.authorization === `Basic ${Buffer.from(`imprint:${key}`).toString('base64')}`,
  async handle(call, house): Promise<Reply> {
    const books = house.booksAt('quayhead');
    const [, room = '', id = ''] = call.path.split('/');
    if (room === 'files') return house.tray.handle('quayhead', id, call);
    if (room !== 'tickets') return no(404, 'There is nothing here.');
    if (id === '' && call.method === 'POST') return takeTicket(call, house);
    if (id === '') {
      const there = bookOfKey(books, call.query.get('key') ?? '');
      return there ? reply(200, receiptOf(there)) : no(404, 'No such ticket has come.');
    }
    const book = bookNamed(books, id);
    if (!book) return no(404, `We have no job ${id}.`);
    if (call.method === 'PUT') {
      const ticket = ticketIn(call);
      const wrong = ticket ? wrongTicket(ticket.told) : 'The ticket can’t be read.';
      if (!ticket || wrong) return no(400, wrong ?? '');
      const { told } = ticket;
      changeTold(book, told, {
        day: house.day,
        again: LOOKED_AT,
        reasons: () => preflight(told, book.files),
      });
      house.keep();
      return reply(200, receiptOf(book));
    }
    if (call.method === 'DELETE') {
      book.withdrawn ??= house.day;
      house.keep();
      return reply(200, receiptOf(book));
    }
    return reply(200, jobXml(house, book));
  },
};
