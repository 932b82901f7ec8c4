/** What is kept of outlets: sealed keys, parcels that are noted once, news, addresses of books and of pages about them. */
import { beforeEach, describe, expect, it } from 'vitest';
import { createCipheriv, createDecipheriv } from 'node:crypto';
import { readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { NOTHING_FOUND, type News } from '@pagina/core/outlets';
import {
  accountsOf,
  changeImprint,
  createTitle,
  deliveredTo,
  freshNews,
  insertProduct,
  keyAt,
  linksAt,
  listTitles,
  newsOf,
  openListing,
  openListings,
  pageNameOf,
  readListing,
  setAffiliate,
  setDeleted,
  setKey,
  setPageName,
  tellListing,
  titleOfPage,
  wantNews,
  newsAsked,
  withdrawnFrom,
  type Store,
} from '../src';
import { seal, unseal } from '../src/vault';
import { threeChapters } from '../../core/test/fixtures/books';
import { freshStore } from './fixtures';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

describe('the key of an account', () => {
  it('opens again, and lies in the database as something that nobody can read', async () => {
    await setKey(store, 'marram', 'open sesame 7');
    expect(await keyAt(store, 'marram')).toBe('open sesame 7');
    expect(await accountsOf(store)).toEqual({
      marram: { affiliate: '', changedAt: 0, connected: true },
    });
    await store.client.execute('PRAGMA wal_checkpoint(TRUNCATE)');
    for (const name of readdirSync(store.folder).filter((n) => n.startsWith('pagina.db')))
      expect(readFileSync(join(store.folder, name)).includes('sesame')).toBe(false);
    expect(statSync(join(store.folder, 'secret.key')).mode & 0o777).toBe(0o600);
  });
  it('leaves the code of the account as it is, and goes when it is emptied', async () => {
    await setAffiliate(store, 'marram', 'shingle-7');
    const { changedAt } = (await accountsOf(store)).marram!;
    await setKey(store, 'marram', 'k');
    await setKey(store, 'marram', '');
    expect(await accountsOf(store)).toEqual({
      marram: { affiliate: 'shingle-7', changedAt, connected: false },
    });
    expect(await keyAt(store, 'marram')).toBeNull();
  });
  it('is none where the secret is another, or what is sealed was changed or moved', async () => {
    await setKey(store, 'marram', 'k');
    const sealed = await seal(store, 'k', 'marram');
    expect(await unseal(store, sealed, 'packstone')).toBeNull();
    const bytes = Buffer.from(sealed, 'base64');
    bytes[bytes.length - 1]! ^= 1;
    expect(await unseal(store, bytes.toString('base64'), 'marram')).toBeNull();
    expect(await unseal(store, 'rubbish', 'marram')).toBeNull();
    rmSync(join(store.folder, 'secret.key'));
    expect(await keyAt(store, 'marram')).toBeNull();
  });
  it('is AES-256 in GCM as node:crypto reads it: nonce, tag, then what was said', async () => {
    const secret = Buffer.alloc(32, 7);
    writeFileSync(join(store.folder, 'secret.key'), secret);
    const bytes = Buffer.from(await seal(store, 'word', 'x'), 'base64');
    const opener = createDecipheriv('aes-256-gcm', secret, bytes.subarray(0, 12));
    opener.setAAD(Buffer.from('x')).setAuthTag(bytes.subarray(12, 28));
    expect(opener.update(bytes.subarray(28), undefined, 'utf8') + opener.final('utf8')).toBe('word');
    // And the other way about.
    const cipher = createCipheriv('aes-256-gcm', secret, Buffer.alloc(12, 1)).setAAD(Buffer.from('x'));
    const body = Buffer.concat([cipher.update('word'), cipher.final()]);
    const theirs = Buffer.concat([Buffer.alloc(12, 1), cipher.getAuthTag(), body]).toString('base64');
    expect(await unseal(store, theirs, 'x')).toBe('word');
  });
  it('is one, though two processes make the secret at once', async () => {
    const both = await Promise.all([seal(store, 'a', 'x'), seal(store, 'b', 'x'), seal(store, 'c', 'x')]);
    expect(await Promise.all(both.map((s) => unseal(store, s, 'x')))).toEqual(['a', 'b', 'c']);
    expect(readdirSync(store.folder).filter((n) => n.startsWith('secret.key'))).toEqual(['secret.key']);
  });
});

async function listing(): Promise<{ title: string; id: string; product: string }> {
  const b = threeChapters();
  const editions = b.editions.map((e) => (e.id === 'ebook' ? { ...e, isbn: '978-92-95055-12-4' } : e));
  const title = await createTitle(store, { ...b, editions });
  const made = { title, edition: 'ebook', revision: 0, pages: 0, findings: [], name: 'a.epub', size: 1 };
  await store.write((tx) => insertProduct(tx, 'one', { ...made, sha256: 'a'.repeat(64) }));
  const at = { title, outlet: 'marram', edition: 'ebook', product: 'one' };
  return { title, product: 'one', id: (await openListing(store, { ...at, beside: 'cover 1' })).id };
}
const parcel = (number: number, beside = 'cover 1') => ({
  number,
  product: 'one',
  sha256: 'a'.repeat(64),
  beside,
  reference: 'M1',
  words: `Received ${number}.`,
  listed: {},
  told: { title: ['The Causeway'] },
});
const news = (events: News['events'], more: Partial<News> = {}): News => ({
  events,
  link: '',
  listed: null,
  found: NOTHING_FOUND,
  ...more,
});

describe('a parcel', () => {
  it('is noted once, though two processes note it', async () => {
    const { id } = await listing();
    await Promise.all([deliveredTo(store, id, parcel(0)), deliveredTo(store, id, parcel(0))]);
    expect(await readListing(store, id)).toMatchObject({ deliveries: 1, told: { title: ['The Causeway'] } });
    await deliveredTo(store, id, parcel(1, 'cover 2'));
    expect(await readListing(store, id)).toMatchObject({ deliveries: 2, beside: 'cover 2' });
  });
  it('goes again where what is beside the file has changed, or the book was taken from sale', async () => {
    const { id, title } = await listing();
    await deliveredTo(store, id, parcel(0));
    const open = async (beside: string): Promise<boolean> =>
      (await openListing(store, { title, outlet: 'marram', edition: 'ebook', product: 'one', beside })).fresh;
    expect([await open('cover 1'), await open('cover 2')]).toEqual([false, true]);
    await withdrawnFrom(store, id, 'Withdrawn.');
    expect(await open('cover 1')).toBe(true);
  });
});

describe('news', () => {
  it('are told once, newest first, and counted since somebody looked', async () => {
    const { id, title } = await listing();
    await deliveredTo(store, id, parcel(0));
    const all = news([
      { state: 'received', words: 'Received 0.' },
      { state: 'held', words: 'No cover.' },
    ]);
    await tellListing(store, id, all);
    await tellListing(store, id, all);
    const told = await newsOf(store);
    expect(told.map((n) => [n.state, n.words, n.name, n.title])).toEqual([
      ['held', 'No cover.', 'The Causeway', title],
      ['received', 'Received 0.', 'The Causeway', title],
    ]);
    expect(await freshNews(store)).toBe(2);
    await changeImprint(store, { set: 'seen', at: told[0]!.at });
    // Another window that looked earlier doesn't make them new again.
    await changeImprint(store, { set: 'seen', at: 1 });
    expect(await freshNews(store)).toBe(0);
    await setDeleted(store, title, true);
    expect(await newsOf(store)).toEqual([]);
  });
  it('change nothing and wake nobody where they say the same', async () => {
    const { id, title } = await listing();
    await deliveredTo(store, id, parcel(0));
    const found = { ...NOTHING_FOUND, contents: ['One'] };
    const same = news([{ state: 'on sale', words: 'On sale.' }], {
      link: 'https://marram.example/b/1',
      found,
    });
    await tellListing(store, id, same);
    const pulse = async (): Promise<unknown> =>
      (await store.client.execute({ sql: 'SELECT at FROM pulses WHERE title = ?', args: [title] })).rows[0]
        ?.at;
    const before = await pulse();
    await tellListing(store, id, same);
    expect(await pulse()).toBe(before);
    await tellListing(store, id, { ...same, found: { ...found, contents: ['One', 'Two'] } });
    expect(await pulse()).not.toBe(before);
    expect((await readListing(store, id))?.found.contents).toEqual(['One', 'Two']);
    expect((await listTitles(store))[0]?.places).toEqual({ marram: 'on sale' });
  });
  it('are asked for sooner where somebody wishes so', async () => {
    const { id } = await listing();
    await deliveredTo(store, id, parcel(0));
    await tellListing(store, id, news([{ state: 'on sale', words: 'On sale.' }]));
    const moving = async (): Promise<string[]> => (await openListings(store, 'marram')).map((l) => l.id);
    expect(await moving()).toEqual([]);
    await wantNews(store, 'packstone');
    expect(await moving()).toEqual([]);
    await wantNews(store);
    expect(await moving()).toEqual([id]);
    await newsAsked(store, id);
    expect(await moving()).toEqual([]);
    expect((await openListings(store, 'marram', 'settled')).map((l) => l.id)).toEqual([id]);
  });
});

it('an outlet’s own address of a book is known by its ISBN', async () => {
  const { id } = await listing();
  await deliveredTo(store, id, parcel(0));
  expect(await linksAt(store, 'marram')).toEqual({});
  await tellListing(
    store,
    id,
    news([{ state: 'on sale', words: '' }], { link: 'https://marram.example/b/m1' }),
  );
  expect(await linksAt(store, 'marram')).toEqual({ '9789295055124': 'https://marram.example/b/m1' });
  expect(await linksAt(store, 'packstone')).toEqual({});
});

it('the address of a page belongs to one title, moves, and is given up', async () => {
  expect((await setPageName(store, 'one', 'the-causeway')).ok).toBe(true);
  const taken = await setPageName(store, 'two', 'the-causeway');
  expect(!taken.ok && taken.refusal.code).toBe('page/taken');
  expect((await setPageName(store, 'one', 'causeway')).ok).toBe(true);
  expect([await titleOfPage(store, 'the-causeway'), await titleOfPage(store, 'causeway')]).toEqual([
    null,
    'one',
  ]);
  expect(await pageNameOf(store, 'one')).toBe('causeway');
  expect((await setPageName(store, 'one', 'Not a name')).ok).toBe(false);
  await setPageName(store, 'one', null);
  expect(await pageNameOf(store, 'one')).toBeNull();
});
