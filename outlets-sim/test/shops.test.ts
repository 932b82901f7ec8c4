import { beforeEach, describe, expect, it } from 'vitest';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eventsOf, isListed } from '../src/books';
import { House } from '../src/house';
import { type ShopId } from '../src/names';
import type { Reply } from '../src/http';
import { readEpub } from '../src/ebook';
import { cellsOf, sheetOf } from '../src/sheet';
import { REVIEW } from '../src/shops/lanternquay';
import { doubtsIn } from '../src/words';
import { callAt } from '../src/street';
import { ebook, PAGE, sha256, type EbookOptions } from './ebook';

let house: House;
beforeEach(() => {
  house = House.open(mkdtempSync(join(tmpdir(), 'shops-')));
});

interface Asked {
  method?: string;
  headers?: Record<string, string>;
  body?: string | Uint8Array | object;
  key?: string;
}
async function call(
  shop: ShopId,
  path: string,
  { method = 'GET', headers = {}, body = '', key }: Asked = {},
): Promise<Reply> {
  const url = new URL(path, 'http://street');
  const bytes = body instanceof Uint8Array ? body : typeof body === 'string' ? body : JSON.stringify(body);
  const outcome = await callAt(house, shop, {
    method,
    path: url.pathname,
    query: url.searchParams,
    headers: { authorization: `Bearer ${key ?? house.accounts[shop]}`, ...headers },
    body: Buffer.from(bytes),
  });
  if (typeof outcome === 'string') throw new Error(outcome);
  return outcome.reply;
}
const bring = (file: Uint8Array, { from = 0, to = file.length } = {}): Promise<Reply> =>
  call('lanternquay', `/files/${sha256(file)}`, {
    method: 'PATCH',
    headers: { 'upload-offset': String(from), 'upload-length': String(file.length) },
    body: file.slice(from, to),
  });
const slip = (more: object = {}): object => ({
  title: 'The Ferry',
  subtitle: '',
  editionStatement: '',
  keywords: [],
  authors: ['Ada Marsh'],
  isbn: '9789295055124',
  description: 'A long enough description of a book about a ferry.',
  language: 'en',
  price: 499,
  currency: 'GBP',
  ...more,
});
interface Parcel {
  key?: string;
  more?: object;
  name?: string;
  replaces?: string;
  provisional?: boolean;
}
async function send(
  file: Uint8Array,
  { key = 'key-00000001', more = {}, name = 'the-ferry.epub', replaces, provisional = false }: Parcel = {},
): Promise<Reply> {
  if (house.tray.size('lanternquay', sha256(file)) === 0) await bring(file);
  return call('lanternquay', '/parcels', {
    method: 'POST',
    headers: { 'parcel-key': key, ...(replaces ? { replaces } : {}) },
    body: {
      slip: slip(more),
      provisional,
      files: [{ part: 'ebook', name, sha256: sha256(file), size: file.length }],
    },
  });
}
const books = () => house.booksAt('lanternquay');
const states = (): string[] => eventsOf(books()[0]!, house.day, REVIEW).map((e) => e.state);
const last = () => eventsOf(books()[0]!, house.day, REVIEW).at(-1)!;
const days = (n: number): void => void (house.kept.day += n);

describe('Lanternquay', () => {
  it('answers the checksum it worked out itself, and the same parcel for the same key', async () => {
    const file = ebook();
    const first = await send(file);
    expect([first.status, JSON.parse(first.body)]).toEqual([
      201,
      { reference: 'LQ-00001', sha256: sha256(file) },
    ]);
    const again = await send(file);
    expect([again.status, again.body]).toEqual([200, first.body]);
    expect(books()).toHaveLength(1);
  });
  it('takes a file in pieces, each where the one before ended', async () => {
    const file = ebook();
    const path = `/files/${sha256(file)}`;
    expect((await call('lanternquay', path, { method: 'HEAD' })).status).toBe(404);
    await bring(file, { to: 100 });
    expect((await call('lanternquay', path, { method: 'HEAD' })).headers?.['Upload-Offset']).toBe('100');
    const wrong = await bring(file, { from: 40 });
    expect([wrong.status, wrong.headers?.['Upload-Offset']]).toEqual([409, '100']);
    expect((await bring(file, { from: 100 })).status).toBe(204);
    expect((await send(file)).status).toBe(201);
  });
  it('refuses a damaged file, a key used for another file, no key, and another account', async () => {
    const file = ebook();
    const damaged = file.slice();
    damaged[200]! ^= 1;
    const brought = await call('lanternquay', `/files/${sha256(file)}`, {
      method: 'PATCH',
      headers: { 'upload-offset': '0', 'upload-length': String(file.length) },
      body: damaged,
    });
    expect(brought.status).toBe(422);
    await send(file);
    expect((await send(ebook({ title: 'Another' }))).status).toBe(409);
    expect((await send(file, { key: '' })).status).toBe(400);
    expect((await call('lanternquay', '/parcels', { key: 'another' })).status).toBe(401);
  });
  it('goes from received to the reviewer to on sale by its own days', async () => {
    await send(ebook());
    const seen = [0, 1, 1, 1].map((n) => {
      days(n);
      return last().state;
    });
    expect(seen).toEqual(['received', 'with the shop', 'with the shop', 'on sale']);
  });
  it.each<[string, EbookOptions, object, RegExp]>([
    ['another title', { title: 'The Boat' }, {}, /calls itself “The Boat”/],
    ['another author', {}, { authors: ['Tom Pell'] }, /does not name Tom Pell/],
    ['another ISBN', { isbn: '9780306406157' }, {}, /the slip the ISBN/],
    ['no cover', { cover: false }, {}, /no cover/],
    ['a short description', {}, { description: 'Short.' }, /needs 50/],
    ['a price too low', {}, { price: 50 }, /below 0\.99/],
    ['a broken page', { body: '<html><p>' }, {}, /cannot be opened/],
  ])('holds %s with its reason', async (_name, options, more, reason) => {
    await send(ebook(options), { more });
    days(3);
    expect(last()).toMatchObject({ state: 'held', words: expect.stringMatching(reason) as string });
  });
  it('takes a new file in place of the one it has, once, and looks at the book again', async () => {
    const second = ebook({ body: PAGE('Other text.') });
    await send(ebook());
    days(3);
    const replace = { key: 'key-00000002', replaces: 'LQ-00001' };
    expect((await send(second, replace)).body).toBe((await send(second, replace)).body);
    expect([books().length, books()[0]!.keys.length]).toEqual([1, 2]);
    expect((await send(ebook(), { key: 'key-00000003', replaces: 'LQ-00009' })).status).toBe(404);
    expect(states()).toEqual(['received', 'with the shop', 'on sale', 'received']);
    // Readers can still buy it.
    expect(isListed(books()[0]!, house.day, REVIEW)).toBe(true);
    days(3);
    expect(states().slice(3)).toEqual(['received', 'with the shop', 'on sale']);
  });
  it('shows other details at once, and looks again at those by which it knows the book', async () => {
    await send(ebook());
    days(3);
    const revise = async (more: object): Promise<number> =>
      (await call('lanternquay', '/parcels/LQ-00001/slip', { method: 'PUT', body: slip(more) })).status;
    expect(await revise({ price: 599 })).toBe(200);
    expect(last()).toEqual({ state: 'on sale', day: 3, words: 'Change 1: price. It is shown.' });
    expect(await revise({ price: 599 })).toBe(200);
    expect(books()[0]!.arrivals).toHaveLength(2);
    expect(await revise({ price: 1.5 })).toBe(400);
    await revise({ price: 599, title: 'The Boat' });
    expect(last().state).toBe('received');
    days(3);
    expect(last()).toMatchObject({
      state: 'held',
      words: expect.stringContaining('calls itself “The Ferry”') as string,
    });
  });
  it('looks at a held book again, whatever is changed of it', async () => {
    await send(ebook(), { more: { description: 'Short.' } });
    days(3);
    expect(last().state).toBe('held');
    await call('lanternquay', '/parcels/LQ-00001/slip', { method: 'PUT', body: slip() });
    expect(last().state).toBe('received');
    days(3);
    expect(last().state).toBe('on sale');
  });
  it('keeps a pre-order until its day, and cancels it where no final file comes ten days before', async () => {
    const onSale = house.dateOf(40);
    const file = ebook();
    await send(file, { more: { onSale }, provisional: true });
    days(3);
    expect(last().state).toBe('pre-order');
    days(26);
    expect(last().state).toBe('pre-order');
    days(2);
    expect(last()).toMatchObject({
      state: 'held',
      words: expect.stringMatching(/final file did not come/) as string,
    });
    // Another book, whose final file comes in time.
    house.kept.books.lanternquay = [];
    house.kept.day = 0;
    await send(file, { more: { onSale }, provisional: true });
    days(28);
    await send(file, { key: 'key-00000002', replaces: 'LQ-00001', more: { onSale } });
    days(10);
    expect(last().state).toBe('pre-order');
    days(2);
    expect(last().state).toBe('on sale');
  });
  it('refuses to move the first day of sale in the ten days before it', async () => {
    const revise = async (day: number): Promise<number> =>
      (
        await call('lanternquay', '/parcels/LQ-00001/slip', {
          method: 'PUT',
          body: slip({ onSale: house.dateOf(day) }),
        })
      ).status;
    await send(ebook(), { more: { onSale: house.dateOf(40) } });
    days(29);
    expect(await revise(45)).toBe(200);
    days(7);
    expect(await revise(50)).toBe(409);
  });
  it('takes a book from sale, and back when it comes again', async () => {
    await send(ebook());
    days(3);
    await call('lanternquay', '/parcels/LQ-00001', { method: 'DELETE' });
    expect([last().state, isListed(books()[0]!, house.day, REVIEW)]).toEqual(['withdrawn', false]);
    await send(ebook(), { key: 'key-00000002', replaces: 'LQ-00001' });
    days(3);
    expect(isListed(books()[0]!, house.day, REVIEW)).toBe(true);
  });
  it('has the books of version 0.1, when it was the only shop', () => {
    const folder = mkdtempSync(join(tmpdir(), 'shops-'));
    const slip = { title: 'The Ferry', price: 499, name: 'the-ferry.epub', sha256: 'a'.repeat(64), size: 9 };
    const arrivals = [{ day: 1, words: 'Received as LQ-00001, 9 bytes.', reasons: ['No cover.'] }];
    const keys = [{ key: 'key-00000001', sha256: 'a'.repeat(64) }];
    const parcels = [{ reference: 'LQ-00001', slip, keys, arrivals }];
    writeFileSync(join(folder, 'lanternquay.json'), JSON.stringify({ day: 4, parcels }));
    const earlier = House.open(folder);
    const [book] = earlier.booksAt('lanternquay');
    expect([earlier.day, book?.reference, book?.told.title, book?.keys]).toEqual([
      4,
      'LQ-00001',
      'The Ferry',
      [{ key: 'key-00000001', sum: `ebook:${'a'.repeat(64)}` }],
    ]);
    expect(eventsOf(book!, earlier.day, REVIEW).at(-1)).toMatchObject({ state: 'held', words: 'No cover.' });
  });
  it('has its books after it was closed', async () => {
    await send(ebook());
    const again = House.open(house.folder);
    expect(again.booksAt('lanternquay')).toEqual(books());
    expect(again.accounts).toEqual(house.accounts);
  });
});

describe('a shop', () => {
  it('has bad days: busy, closed, silent, or losing its answer', async () => {
    const asked = (): Promise<unknown> =>
      callAt(house, 'marram', {
        method: 'POST',
        path: '/books',
        query: new URLSearchParams(),
        headers: { authorization: `Bearer ${house.accounts.marram}` },
        body: Buffer.from('{}'),
      });
    house.kept.weather.marram = 'closed';
    expect(await asked()).toMatchObject({ reply: { status: 503 } });
    house.kept.weather.marram = 'silent';
    expect(await asked()).toBe('silence');
    house.kept.weather.marram = 'cut';
    expect(await asked()).toBe('lost');
    house.kept.weather.marram = 'busy';
    const both = (await Promise.all([asked(), asked()])) as { reply: Reply }[];
    expect(both.map((b) => b.reply.status).sort()).toEqual([400, 429]);
    expect(both.find((b) => b.reply.status === 429)?.reply.headers).toMatchObject({ 'Retry-After': '1' });
    house.kept.weather.marram = 'fair';
    expect(await asked()).toMatchObject({ reply: { status: 400 } });
  });
  it('reads sheets as RFC 4180 has them', () => {
    const rows = [
      ['a,b', 'say “x”', 'he said "no"'],
      ['two\nlines', '', ' z'],
    ];
    expect(cellsOf(sheetOf(rows))).toEqual(rows);
    expect(cellsOf('"open')).toBeNull();
  });
  it('doubts words that its dictionary lacks, and no names', () => {
    expect(
      doubtsIn('The ferrry crossed. Nessa wrote in the ledger; it was Nessa’s colour.', 'en-GB'),
    ).toEqual(['ferrry']);
    expect(doubtsIn('Die Fähre.', 'de')).toEqual([]);
  });
  it('reads contents, language and barriers out of an ebook', () => {
    const facts = readEpub(
      ebook({
        body: '<html xmlns="http://www.w3.org/1999/xhtml"><body><p>ISBN 978-92-95055-12-4</p><img src="x.png"/></body></html>',
      }),
    );
    expect(facts).toMatchObject({
      contents: ['The Landing'],
      language: 'en-GB',
      isbns: ['9789295055124'],
      barriers: ['1 picture has no text for those who can’t see it.'],
    });
  });
  it('tells what is no ebook at all', () => expect(readEpub(new Uint8Array([1, 2, 3])).fault).not.toBe(''));
});
