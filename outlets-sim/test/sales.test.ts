/** Reports of sales: read by general-purpose readers (JSON, Papa Parse, saxes), and counted against one another. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Papa from 'papaparse';
import { SaxesParser } from 'saxes';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Book, Told } from '../src/books';
import { House } from '../src/house';
import { SHOPS, type ShopId } from '../src/names';
import { endedMonths, soldIn } from '../src/sales';
import { SHOPS_OPEN } from '../src/shops';
import { outFile } from '../src/shops/shelfmoor';
import { callAt } from '../src/street';

const ISBN = '9789295055124';
const TOLD: Record<ShopId, Told> = {
  lanternquay: { title: 'The Ferry', isbn: ISBN, price: 499, currency: 'GBP', rate: 'wide' },
  marram: { name: 'The Ferry, “No 2”', isbn: ISBN, prices: [{ currency: 'GBP', amount: '4.99' }] },
  packstone: {
    title: 'The Ferry',
    isbn13: ISBN,
    consumerPrice: '4.99',
    currency: 'GBP',
    passOnTo: ['Gannetstone', 'Fernhythe'],
  },
  pocketfell: { Title: 'The Ferry', ISBN, Price: '4.99', Currency: 'GBP' },
  shelfmoor: { title: 'The Ferry', isbn: ISBN, price: '9.98', currency: 'GBP' },
  quayhead: { title: 'The Ferry', isbn: ISBN, price: '10.99', currency: 'GBP' },
};
const book = (told: Told): Book => ({
  reference: 'R-1',
  keys: [],
  told,
  files: [{ part: 'ebook', name: 'a.epub', sha256: 'a', size: 1_000_000, facts: null }],
  arrivals: [{ day: 3, words: 'Received.', reasons: [] }],
  release: null,
  provisional: false,
  withdrawn: null,
  assigned: null,
});

let house: House;
beforeEach(() => {
  house = House.open(mkdtempSync(join(tmpdir(), 'sales-')), { keeps: false });
  house.kept.begun = '2026-12-01';
  for (const id of SHOPS) house.booksAt(id).push(book(TOLD[id]));
  house.kept.day = 70;
});
const report = async (shop: ShopId, month: string, key = house.accounts[shop]) => {
  const basic = `Basic ${Buffer.from(`imprint:${key}`).toString('base64')}`;
  const headers = { authorization: shop === 'quayhead' ? basic : `Bearer ${key}` };
  const query = new URLSearchParams({ month });
  const outcome = await callAt(house, shop, {
    method: 'GET',
    path: '/sales',
    query,
    headers,
    body: Buffer.of(),
  });
  if (typeof outcome === 'string') throw new Error(outcome);
  return { status: outcome.reply.status, text: String(outcome.reply.body) };
};
interface Row {
  copies: number;
  sum: number;
}
const minor = (text: string): number => Math.round(Number(text.replace(',', '.')) * 100);
const table = (text: string, delimiter: string) =>
  Papa.parse<Record<string, string>>(text, { header: true, delimiter, skipEmptyLines: true }).data;
function xml(text: string): { name: string; attrs: Record<string, string>; text: string }[] {
  const found: { name: string; attrs: Record<string, string>; text: string }[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', (t) => void found.push({ name: t.name, attrs: t.attributes as never, text: '' }));
  parser.on('text', (t) => found.at(-1) && (found.at(-1)!.text += t));
  parser.write(text).close();
  return found;
}
/** Copies that stayed sold, and what is owed for them, as another program reads them. */
const read: Record<ShopId, (text: string) => Row[]> = {
  lanternquay: (t) =>
    (JSON.parse(t) as { sales: { sold: number; returned: number; royalty: number }[] }).sales.map((s) => ({
      copies: s.sold - s.returned,
      sum: s.royalty,
    })),
  marram: (t) =>
    table(t, ',').map((r) => ({ copies: Number(r.Units) - Number(r.Refunds), sum: minor(r.Payable!) })),
  packstone: (t) => table(t, ';').map((r) => ({ copies: Number(r['Net copies']), sum: minor(r.Share!) })),
  pocketfell: (t) => table(t, '\t').map((r) => ({ copies: Number(r.Qty), sum: minor(r.Proceeds!) })),
  shelfmoor: (t) => {
    const all = xml(t);
    const sums = all.filter((e) => e.name === 'due').map((e) => minor(e.text));
    return all.filter((e) => e.name === 'copies').map((e, i) => ({ copies: Number(e.text), sum: sums[i]! }));
  },
  quayhead: (t) =>
    xml(t)
      .filter((e) => e.name === 'line')
      .map(({ attrs: a }) => ({
        copies: Number(a.printed) - Number(a.returned),
        sum: minor(a.compensation!),
      })),
};
/** By hand, a copy: 68 % of 4.99 − 0.09; 66 %, 70 % of 4.99; half of 9.98; 60 % of 10.99 − 0.85 for no pages. */
const OWED: Partial<Record<ShopId, number>> = {
  lanternquay: 333,
  marram: 329,
  pocketfell: 349,
  shelfmoor: 499,
  quayhead: 574,
};

describe('a shop’s report of a month', () => {
  it.each(SHOPS)('of %s is read by other programs, and its sums are what its copies bring', async (shop) => {
    const text =
      shop === 'shelfmoor'
        ? ((await outFile(house, 'sales-2026-12.xml')) ?? '')
        : (await report(shop, '2026-12')).text;
    const rows = read[shop](text);
    const sold = soldIn(house, SHOPS_OPEN[shop], '2026-12')!;
    expect(rows.length).toBeGreaterThan(0);
    const copies = rows.reduce((n, r) => n + r.copies, 0);
    const sum = rows.reduce((n, r) => n + r.sum, 0);
    expect(copies).toBe(sold.reduce((n, s) => n + s.copies - s.returned, 0));
    expect(copies).toBeGreaterThan(0);
    const owed = OWED[shop];
    if (owed !== undefined) expect(sum).toBe(copies * owed);
    // 4.99 × 0.55 × 0.9 = 2.47; (4.99 − 0.79) × 0.9 = 3.78.
    else
      expect(new Set(sold.map((s) => `${s.by} ${s.owed}`))).toEqual(
        new Set(['Gannetstone 247', 'Fernhythe 378']),
      );
  });

  it('is the same however often it is asked for, and only once the month has ended', async () => {
    expect(endedMonths(house)).toEqual(['2027-01', '2026-12']);
    expect(await report('marram', '2026-12')).toEqual(await report('marram', '2026-12'));
    for (const month of ['2027-02', '2026-11', '2026-13', 'soon', '', '../x'])
      expect((await report('marram', month)).status).toBe(month === '2026-11' ? 200 : 404);
    expect((await report('marram', '2026-12', 'wrong')).status).toBe(401);
  });

  it('has nothing of a book that isn’t sold, and nothing after it was withdrawn', () => {
    const [there] = house.booksAt('marram');
    const all = (month: string): number =>
      soldIn(house, SHOPS_OPEN.marram, month)!.reduce((n, s) => n + s.copies, 0);
    expect(all('2027-01')).toBeGreaterThan(0);
    there!.withdrawn = 31;
    expect([all('2026-12') > 0, all('2027-01')]).toEqual([true, 0]);
    there!.withdrawn = null;
    there!.arrivals[0]!.reasons = [{ about: 'title', words: 'Another title.' }];
    expect(all('2026-12')).toBe(0);
  });
});
