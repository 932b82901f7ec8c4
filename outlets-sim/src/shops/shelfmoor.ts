/**
 * Shelfmoor, an invented wholesaler to libraries that is reached over SFTP. A parcel is a folder `in/KEY` with the files,
 * their checksums in `files.sha256` (as `sha256sum` writes them), and last of all `record.xml`, an ONIX message of one
 * product, which is renamed into place. What came of it is in `out/KEY.xml`, and how a book stands in `out/NUMBER.xml`;
 * `out/sales-YYYY-MM.xml` reports a month.
 * A record without files changes what is told (notification 04), or takes the book from sale (05). A book is known by its
 * record's reference, so that it can't come twice.
 */
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  bookOfKey,
  changeTold,
  keyFault,
  sumOf,
  takeIn,
  type Book,
  type Reason,
  type Review,
  type ShopFile,
} from '../books';
import { factsOf } from '../facts';
import { type House } from '../house';
import { sha256Of } from '../names';
import { reportOf } from '../sales';
import { refuse } from '../http';
import { differences, isIsbn } from '../look';
import { productIn, type OnixProduct } from '../onix';
import { ebookIn, standing, type Shop } from '../shop';
import { escaped } from '../xml';

/** Three weeks. */
export const REVIEW: Review = {
  begins: 2,
  ends: 21,
  words: { with: 'The selectors have it.', on: 'Libraries can order it.' },
  finalFile: 0,
};
const LOOKED_AT = ['title', 'contributors', 'isbn', 'language'];
const LEAST_PRICE = 4.99;

export const hatchOf = (house: House): string => join(house.folder, 'outlets-hatch');
export const openHatch = (house: House): void => {
  for (const folder of ['in', 'out']) mkdirSync(join(hatchOf(house), folder), { recursive: true });
};

function wrongRecord(p: OnixProduct): string | null {
  if (!isIsbn(p.isbn)) return 'The product has no ISBN-13 (ProductIDType 15).';
  if (p.title === '') return 'The product has no title.';
  if (!p.contributors.some((c) => c.role === 'A01' && c.inverted !== ''))
    return 'No author with an inverted name.';
  if (!/^[a-z]{3}$/.test(p.language)) return 'The language of the text is no code of ISO 639-2.';
  if (p.description.replace(/<[^>]*>/g, '').length < 80)
    return 'The description has fewer than 80 characters.';
  if (p.subjects.length < 1 || p.subjects.length > 8) return 'One to eight Thema subjects.';
  if (!/^\d\d$/.test(p.audience)) return 'There is no audience code.';
  if (!/^\d{8}$/.test(p.published)) return 'There is no publishing date.';
  if (p.territories.length === 0) return 'There are no sales rights.';
  return Number(p.price) >= LEAST_PRICE ? null : `The price is below ${LEAST_PRICE}.`;
}

function against(told: OnixProduct, files: readonly ShopFile[]): Reason[] {
  const facts = ebookIn(files);
  if (!facts) return [{ about: 'file', words: 'There is no EPUB.' }];
  const authors = told.contributors.filter((c) => c.role === 'A01').map((c) => c.name);
  const reasons = differences(facts, { title: told.title, authors, isbn: told.isbn });
  // Libraries lend to everyone.
  for (const words of facts.barriers) reasons.push({ about: 'accessibility', words });
  const cover = files.find((f) => f.part === 'cover');
  if (!cover || cover.facts?.fault)
    reasons.push({ about: 'cover', words: 'There is no cover that can be opened.' });
  return reasons;
}

interface Outcome {
  book?: Book;
  fault?: string;
}
/** What came of a folder; `key` is its name up to a full stop, since a parcel may be begun anew with other files. */
async function takeFolder(house: House, name: string, record: string): Promise<Outcome> {
  const books = house.booksAt('shelfmoor');
  const key = keyOf(name);
  const known = bookOfKey(books, key);
  if (known) return { book: known };
  const product = productIn(record);
  if ('fault' in product) return { fault: product.fault };
  const there = books.find((b) => b.told.record === product.record);
  if (product.notification === '05') {
    if (!there) return { fault: 'We have no such product.' };
    there.withdrawn ??= house.day;
    return { book: there };
  }
  const wrong = wrongRecord(product);
  if (wrong) return { fault: wrong };
  const told = { ...product };
  const came = await filesIn(join(hatchOf(house), 'in', name), product.isbn);
  if ('fault' in came) return came;
  const { files } = came;
  if (files.length === 0) {
    if (!there) return { fault: 'There are no files.' };
    const reasons = (): Reason[] => against(product, there.files);
    changeTold(there, told, { day: house.day, again: LOOKED_AT, reasons });
    return { book: there };
  }
  const fault = keyFault(books, key, sumOf(files));
  if (fault) return { fault: fault.message };
  return {
    book: takeIn(
      books,
      { key, told, files, release: null, provisional: false, reasons: against(product, files) },
      { day: house.day, replaces: there ?? null, reference: `SM-${String(3_001 + books.length)}` },
    ),
  };
}
const keyOf = (name: string): string => name.split('.')[0] ?? '';

/** The files of a folder, each as its checksum says. */
async function filesIn(folder: string, isbn: string): Promise<{ files: ShopFile[] } | { fault: string }> {
  const sums = join(folder, 'files.sha256');
  const files: ShopFile[] = [];
  for (const line of existsSync(sums) ? readFileSync(sums, 'utf8').split('\n').filter(Boolean) : []) {
    const [sha256 = '', name = ''] = line.split(/ [ *]/);
    const path = join(folder, name.replace(/.*\//, ''));
    const bytes = existsSync(path) ? new Uint8Array(readFileSync(path)) : null;
    if (!bytes || sha256Of(bytes) !== sha256) return { fault: `${name} isn’t what its checksum says.` };
    if (!name.startsWith(isbn)) return { fault: `${name} isn’t named by its ISBN.` };
    const part = name.endsWith('.epub') ? 'ebook' : 'cover';
    files.push({ part, name, sha256, size: bytes.length, facts: await factsOf(part, bytes) });
  }
  return { files };
}

/** Takes in what has come to the hatch since: a record that was taken once stays as it was taken. */
export async function collect(house: House): Promise<void> {
  openHatch(house);
  const heard = house.heardAt('shelfmoor');
  for (const name of readdirSync(join(hatchOf(house), 'in'))) {
    const path = join(hatchOf(house), 'in', name, 'record.xml');
    if (!existsSync(path)) continue;
    const record = readFileSync(path, 'utf8');
    const sum = `${name} ${sha256Of(new TextEncoder().encode(record))}`;
    const key = keyOf(name);
    if (heard[key]?.sum === sum) continue;
    const { book, fault = '' } = await takeFolder(house, name, record);
    heard[key] = { reference: book?.reference ?? '', told: { fault }, sum };
    house.keep();
  }
}

const attr = (name: string, value: string): string => ` ${name}="${escaped(value)}"`;
/** A file of the folder `out`; null where there is none. */
export async function outFile(house: House, name: string): Promise<string | null> {
  await collect(house);
  const month = /^sales-(.+)\.xml$/.exec(name)?.[1];
  if (month) return reportOf(house, shelfmoor, month)?.text ?? null;
  const id = name.replace(/\.xml$/, '');
  const books = house.booksAt('shelfmoor');
  const heard = house.heardAt('shelfmoor');
  const outcome = Object.hasOwn(heard, id) ? heard[id] : undefined;
  const book = books.find((b) => b.reference === (outcome?.reference || id));
  if (outcome && !book) return `<notice><refused>${escaped(String(outcome.told.fault))}</refused></notice>`;
  if (!outcome) return book ? bookXml(house, book) : null;
  const listed = book!.files.map((f) => `<file${attr('part', f.part)}${attr('sha256', f.sha256)}/>`).join('');
  return `<notice${attr('number', book!.reference)}>${listed}</notice>`;
}
function bookXml(house: House, book: Book): string {
  const now = standing(house, shelfmoor, book);
  const told = book.told as unknown as OnixProduct;
  const el = (name: string, text: string, more = ''): string => `<${name}${more}>${escaped(text)}</${name}>`;
  return [
    `<book${attr('number', book.reference)}${attr('state', now.state)}>`,
    ...now.events.map((e) => el('event', e.words, attr('state', e.state))),
    ...now.reasons.map((r) => el('reason', r.words, attr('about', r.about))),
    ...now.files.map((f) => el('file', f.words || f.state, attr('part', f.part))),
    ...now.contents.map((c) => el('entry', c)),
    ...now.doubts.map((d) => el('doubt', d)),
    ...now.barriers.map((b) => el('barrier', b)),
    ...(now.listed ? told.subjects.slice(0, 1).map((s) => el('subject', s)) : []),
    ...(now.listed ? [el('link', `https://shelfmoor.example/item/${told.isbn}`)] : []),
    el('title', told.title),
    el('subtitle', told.subtitle),
    ...told.contributors.filter((c) => c.role === 'A01').map((c) => el('author', c.name)),
    el('isbn', told.isbn),
    el('description', told.description),
    el('price', told.price, attr('currency', told.currency)),
    '</book>',
  ].join('');
}

export const shelfmoor: Shop = {
  id: 'shelfmoor',
  name: 'Shelfmoor',
  review: REVIEW,
  allows: () => false,
  handle: () => refuse(404, 'We are reached over SFTP.'),
};
