/** The block of ISBNs. The numbers are of 979-9, which is given to no registration group; check digits by `isbn3`, a library of its own. */
import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import ISBN from 'isbn3';
import { isbnsFrom, isbnsInList } from '@pagina/core/record';
import { placingSchema, type Change } from '@pagina/core/book';
import {
  addIsbns,
  changeImprint,
  createTitle,
  deliveredTo,
  dropIsbn,
  insertProduct,
  isbnBlock,
  isbnsOfTitle,
  nextIsbn,
  openListing,
  readTitle,
  saveChange,
  undo,
} from '../src';
import { threeChapters } from '../../core/test/fixtures/books';
import { freshStore } from './fixtures';

const BLOCK = isbnsFrom('979-9-000-00100-1', 5)!;
const give = (edition: string, isbn: string): Change => ({
  type: 'set-edition',
  id: edition,
  fields: { isbn },
});

describe('a block of ISBNs', () => {
  it('is counted on from its first number with the right check digits', () => {
    const real = isbnsFrom('978-0-306-40615-7', 100)!;
    expect(real).toHaveLength(100);
    for (const n of real) expect(ISBN.parse(n)?.isbn13).toBe(n);
    expect(isbnsFrom('978-0-306-40615-8', 3)).toBeNull();
    expect(isbnsFrom('9789999999991', 2)).toBeNull();
  });
  it('is read from a list, however it is written', () => {
    const { numbers, wrong } = isbnsInList(
      `ISBN: 978-0-306-40615-7\n9780306406157; ISBN-10 0-306-40615-2,\t978 0 14 103614 4\n"979-10-90636-07-1" | 978-0-306-40615-8\nThe Salt Ledger, 2026`,
    );
    expect(numbers).toEqual(['9780306406157', '9780141036144', '9791090636071']);
    expect(wrong).toEqual(['978-0-306-40615-8']);
  });
  it('gives each number once, whoever asks at the same time', async () => {
    const store = await freshStore();
    expect(await addIsbns(store, BLOCK)).toBe(5);
    expect(await addIsbns(store, BLOCK)).toBe(0);
    const titles = await Promise.all([0, 1, 2].map(() => createTitle(store, threeChapters(), randomUUID())));
    const asked = titles.flatMap((t) => ['paperback', 'ebook'].map((e) => [t, e] as const));
    const got = await Promise.all(asked.map(([t, e]) => nextIsbn(store, t, e)));
    const given = got.filter((n) => n !== null);
    expect(given).toHaveLength(5);
    expect(new Set(given)).toEqual(new Set(BLOCK));
  });
  it('passes over numbers that were typed by hand, hyphenated or not, also in a deleted title', async () => {
    const store = await freshStore();
    await addIsbns(store, BLOCK);
    const hand = await createTitle(store, threeChapters(), randomUUID());
    const typed = `979-9-000-00100-${BLOCK[0]!.slice(-1)}`;
    await saveChange(store, hand, { base: 0, change: give('ebook', typed), client: 'c' });
    const other = await createTitle(store, threeChapters(), randomUUID());
    expect(await nextIsbn(store, other, 'ebook')).toBe(BLOCK[1]);
    // Asked again before the edition has it: the same one.
    expect(await nextIsbn(store, other, 'ebook')).toBe(BLOCK[1]);
    expect((await isbnBlock(store)).map((r) => [r.use?.title ?? null, r.kept])).toEqual([
      [hand, false],
      [other, true],
      [null, false],
      [null, false],
      [null, false],
    ]);
    expect(await dropIsbn(store, BLOCK[0]!, 'remove')).toBe(false);
    expect(await dropIsbn(store, BLOCK[1]!, 'free')).toBe(true);
    expect(await nextIsbn(store, hand, 'paperback')).toBe(BLOCK[1]);
  });
  it('tells which other edition carries the same number', async () => {
    const store = await freshStore();
    const [a, b] = [
      await createTitle(store, threeChapters(), randomUUID()),
      await createTitle(store, threeChapters(), randomUUID()),
    ];
    for (const t of [a, b])
      await saveChange(store, t, { base: 0, change: give('ebook', BLOCK[0]!), client: 'c' });
    const of = async (t: string) =>
      (await isbnsOfTitle(store, t, (await readTitle(store, t))!.book)).ebook?.other?.title;
    expect([await of(a), await of(b)].filter((t) => t === a || t === b)).toHaveLength(1);
  });
});

describe('an ISBN under which an outlet has the book', () => {
  const sent = async () => {
    const store = await freshStore();
    const title = await createTitle(store, threeChapters(), randomUUID());
    await saveChange(store, title, { base: 0, change: give('ebook', BLOCK[0]!), client: 'c' });
    return { store, title };
  };
  it('no longer changes, by hand or by Undo, and anything else does', async () => {
    const { store, title } = await sent();
    const product = randomUUID();
    const sha256 = 'a'.repeat(64);
    await store.write((tx) =>
      insertProduct(tx, product, {
        title,
        edition: 'ebook',
        name: 'x.epub',
        sha256,
        size: 1,
        revision: 1,
        pages: 0,
        findings: [],
      }),
    );
    const { id } = await openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product });
    await deliveredTo(store, id, {
      product,
      sha256,
      reference: 'r',
      words: 'w',
      listed: {},
      told: {},
      beside: '',
      number: 0,
    });
    const change = (c: Change) => saveChange(store, title, { base: 1, change: c, client: 'c' });
    const refused = await change(give('ebook', BLOCK[1]!));
    expect(!refused.ok && refused.refusal.message).toMatch(/Lanternquay has the ebook under/);
    expect((await undo(store, title, { client: 'c' })).ok).toBe(false);
    expect((await change(give('paperback', BLOCK[1]!))).ok).toBe(true);
    expect((await change({ type: 'set-edition', id: 'ebook', fields: { purpose: 'x' } })).ok).toBe(true);
    // Hyphens make no other number.
    expect((await change(give('ebook', BLOCK[0]!.replace(/^979/, '979-')))).ok).toBe(true);
  });
  it('is fixed by an outlet that is filled in by hand too, once the book is there', async () => {
    const { store, title } = await sent();
    const placed = (state: 'waiting' | 'on sale'): Change => ({
      type: 'set-placing',
      outlet: 'marram',
      fields: { ...placingSchema.parse({}), chosen: true, state },
    });
    await saveChange(store, title, { base: 1, change: placed('waiting'), client: 'c' });
    expect(
      (await saveChange(store, title, { base: 2, change: give('ebook', BLOCK[1]!), client: 'c' })).ok,
    ).toBe(true);
    await saveChange(store, title, { base: 3, change: placed('on sale'), client: 'c' });
    const own = { id: 'own-1', name: 'Corner', web: '', sells: 'print' as const, fileName: 'title' as const };
    const rest = { keeps: 30, currencies: ['GBP'], cover: { height: 2_500, ratio: 0.6 }, asks: [] };
    await changeImprint(store, { set: 'outlet', outlet: { ...own, ...rest } });
    // The paperback is free until the author's own outlet has it.
    expect(
      (await saveChange(store, title, { base: 4, change: give('paperback', BLOCK[3]!), client: 'c' })).ok,
    ).toBe(true);
    const there: Change = { type: 'set-placing', outlet: 'own-1', fields: { state: 'with the shop' } };
    await saveChange(store, title, { base: 5, change: there, client: 'c' });
    expect(
      (await saveChange(store, title, { base: 6, change: give('paperback', BLOCK[4]!), client: 'c' })).ok,
    ).toBe(false);
    expect(
      (await saveChange(store, title, { base: 4, change: give('ebook', BLOCK[2]!), client: 'c' })).ok,
    ).toBe(false);
  });
});
