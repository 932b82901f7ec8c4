import { describe, expect, it } from 'vitest';
import { createHash } from 'node:crypto';
import { strToU8, zipSync } from 'fflate';
import { eventsOf, linkOf, receive, revise, type ShopState, type Slip } from '../src/shop';
import { readEpub } from '../src/epub';

/** A small ebook written by hand here, so that the shop is not tested with our own maker alone. */
function ebook(
  title = 'The Ferry',
  more: { cover?: boolean; isbn?: string; body?: string } = {},
): Uint8Array {
  const cover =
    more.cover === false ? '' : '<item id="c" href="c.png" media-type="image/png" properties="cover-image"/>';
  return zipSync({
    mimetype: [strToU8('application/epub+zip'), { level: 0 }],
    'META-INF/container.xml': strToU8(
      '<container xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="x/p.opf" media-type="application/oebps-package+xml"/></rootfiles></container>',
    ),
    'x/p.opf': strToU8(
      `<package xmlns="http://www.idpf.org/2007/opf"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier>urn:isbn:${more.isbn ?? '9789295055124'}</dc:identifier><dc:title>${title}</dc:title><dc:creator>Ada Marsh</dc:creator></metadata><manifest><item id="a" href="a.xhtml" media-type="application/xhtml+xml"/>${cover}</manifest><spine><itemref idref="a"/></spine></package>`,
    ),
    'x/a.xhtml': strToU8(
      more.body ?? '<html xmlns="http://www.w3.org/1999/xhtml"><body><p>Text.</p></body></html>',
    ),
    'x/c.png': new Uint8Array([1]),
  });
}
const slip = (file: Uint8Array, more: Partial<Slip> = {}): Slip => ({
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
  name: 'the-ferry.epub',
  sha256: createHash('sha256').update(file).digest('hex'),
  size: file.length,
  ...more,
});
const OTHER_PAGE = '<html xmlns="http://www.w3.org/1999/xhtml"><body><p>Other text.</p></body></html>';
const open = (): ShopState => ({ day: 10, parcels: [] });
const outcome = (file: Uint8Array, more: Partial<Slip> = {}) => {
  const shop = open();
  receive(shop, 'key-00000001', slip(file, more), file);
  shop.day += 3;
  return eventsOf(shop, shop.parcels[0]!).at(-1)!;
};

describe('the stand-in shop', () => {
  it('answers the checksum it worked out itself, and the same parcel for the same key', () => {
    const shop = open();
    const file = ebook();
    const first = receive(shop, 'key-00000001', slip(file), file);
    expect(first).toMatchObject({ status: 201, sha256: slip(file).sha256 });
    expect(receive(shop, 'key-00000001', slip(file), file)).toEqual({ ...first, status: 200 });
    expect(shop.parcels.length).toBe(1);
  });
  it('refuses a damaged file, a key used for another file, and no key', () => {
    const shop = open();
    const file = ebook();
    expect(receive(shop, 'key-00000001', slip(file), file.slice(1)).status).toBe(422);
    receive(shop, 'key-00000001', slip(file), file);
    const other = ebook('Another');
    expect(receive(shop, 'key-00000001', slip(other), other).status).toBe(409);
    expect(receive(shop, '', slip(file), file).status).toBe(400);
  });
  it('goes from received to the reviewer to on sale by its own days', () => {
    const shop = open();
    const file = ebook();
    receive(shop, 'key-00000001', slip(file), file);
    const states = [0, 1, 1, 1].map((days) => {
      shop.day += days;
      return eventsOf(shop, shop.parcels[0]!).at(-1)!.state;
    });
    expect(states).toEqual(['received', 'with the shop', 'with the shop', 'on sale']);
  });
  it.each([
    ['another title', ebook('The Boat'), {}, /calls itself “The Boat”/],
    ['another author', ebook(), { authors: ['Tom Pell'] }, /does not name Tom Pell/],
    ['another ISBN', ebook('The Ferry', { isbn: '9780306406157' }), {}, /the slip the ISBN/],
    ['no cover', ebook('The Ferry', { cover: false }), {}, /no cover/],
    ['a short description', ebook(), { description: 'Short.' }, /needs 50/],
    ['a price too low', ebook(), { price: 50 }, /below 0\.99/],
    ['a broken page', ebook('The Ferry', { body: '<html><p>' }), {}, /cannot be opened/],
  ] as [string, Uint8Array, Partial<Slip>, RegExp][])(
    'holds %s with its reason',
    (_name, file, more, reason) =>
      expect(outcome(file, more)).toMatchObject({
        state: 'held',
        words: expect.stringMatching(reason) as string,
      }),
  );
  it('takes a new file in place of the one it has, once, and looks at the book again', () => {
    const shop = open();
    const [first, second] = [ebook(), ebook('The Ferry', { body: OTHER_PAGE })];
    receive(shop, 'key-00000001', slip(first), first);
    shop.day += 3;
    const replace = (): unknown => receive(shop, 'key-00000002', slip(second), second, 'LQ-00001');
    expect(replace()).toEqual({ status: 200, reference: 'LQ-00001', sha256: slip(second).sha256 });
    expect(replace()).toEqual({ status: 200, reference: 'LQ-00001', sha256: slip(second).sha256 });
    const parcel = shop.parcels[0]!;
    expect([shop.parcels.length, parcel.keys.length]).toEqual([1, 2]);
    expect(receive(shop, 'key-00000003', slip(first), first, 'LQ-00009').status).toBe(404);
    const states = (): string[] => eventsOf(shop, parcel).map((e) => e.state);
    expect(states()).toEqual(['received', 'with the shop', 'on sale', 'received']);
    // Readers can still buy it.
    expect(linkOf(shop, parcel)).toBe('https://lanternquay.example/book/lq-00001');
    shop.day += 3;
    expect(states().slice(3)).toEqual(['received', 'with the shop', 'on sale']);
  });
  it('shows other details at once, and looks again at those by which it knows the book', () => {
    const shop = open();
    const file = ebook();
    receive(shop, 'key-00000001', slip(file), file);
    shop.day += 3;
    const parcel = shop.parcels[0]!;
    expect(revise(shop, parcel, { ...slip(file), price: 599 }).status).toBe(200);
    expect(eventsOf(shop, parcel).at(-1)).toEqual({
      state: 'on sale',
      day: 13,
      words: 'Change 1: price. It is shown.',
    });
    expect(revise(shop, parcel, { ...slip(file), price: 599 }).status).toBe(200);
    expect(parcel.arrivals).toHaveLength(2);
    expect(revise(shop, parcel, { ...slip(file), price: 1.5 }).status).toBe(400);
    revise(shop, parcel, { ...slip(file), price: 599, title: 'The Boat' });
    expect(eventsOf(shop, parcel).at(-1)?.state).toBe('received');
    shop.day += 3;
    expect(eventsOf(shop, parcel).at(-1)).toMatchObject({
      state: 'held',
      words: expect.stringContaining('calls itself “The Ferry”') as string,
    });
  });
  it('tells what is no ebook at all', () => expect(readEpub(new Uint8Array([1, 2, 3])).fault).not.toBe(''));
});
