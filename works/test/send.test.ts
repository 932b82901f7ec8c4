import { afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { unzipSync } from 'fflate';
import { schema } from '@pagina/core/book';
import {
  accountsOf,
  createTitle,
  enqueue,
  keepBytes,
  openListing,
  openStore,
  productsOf,
  readJob,
  readListing,
  readStored,
  setAffiliate,
  type Store,
} from '@pagina/data';
import { Runner } from '../src/run';
import { followListings, sendListing } from '../src/send';
import { threeChapters } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';

let store: Store;
let shop: ChildProcess;
let port: number;
let title: string;
let listing: string;

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const p = (s.address() as { port: number }).port;
      s.close(() => done(p));
    });
  });
async function openShop(): Promise<void> {
  shop = spawn('node', ['outlets-sim/dist/main.mjs'], {
    env: { ...process.env, OUTLET_PORT: String(port), PAGINA_DATA: store.folder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((done) => shop.stdout!.once('data', done));
}
const daysOn = (days: number): Promise<unknown> =>
  fetch(`http://127.0.0.1:${port}/clock`, { method: 'POST', body: JSON.stringify({ days }) });
const parcels = (): unknown[] =>
  (JSON.parse(readFileSync(join(store.folder, 'lanternquay.json'), 'utf8')) as { parcels: unknown[] })
    .parcels;

beforeAll(() => {
  const bundled = spawnSync('node', ['scripts/bundle.mjs'], { encoding: 'utf8' });
  if (bundled.status !== 0) throw new Error(bundled.stderr);
});
beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'send-')), resolve('data/drizzle'));
  port = await freePort();
  process.env.OUTLET_ADDRESS = `http://127.0.0.1:${port}`;
  const { sha256 } = await keepBytes(store, png(160, 250));
  const b = threeChapters();
  title = await createTitle(store, {
    ...b,
    record: {
      ...b.record,
      description: 'Mud, carts, and a causeway that was not there the day before.',
      price: { minor: 499, currency: 'GBP' },
      cover: 'c',
    },
    pictures: [{ id: 'c', name: 'cover', type: 'image/png', width: 160, height: 250, sha256 }],
    editions: b.editions.map((e) => (e.id === 'ebook' ? { ...e, isbn: '978-92-95055-12-4' } : e)),
  });
  await enqueue(store, 'make', { edition: 'ebook' }, title);
  await new Runner(store, { child: resolve('works/dist/child.mjs') }).once();
  const [product] = await productsOf(store, title);
  listing = (
    await openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product: product!.id })
  ).id;
});
afterEach(() => {
  shop?.kill('SIGKILL');
});
const runner = (): Runner => new Runner(store, { child: resolve('works/dist/child.mjs') });

describe('sending', () => {
  it('brings a book from received over review to on sale, with its link', async () => {
    await openShop();
    const job = await enqueue(store, 'send', { listing }, title);
    await runner().once();
    expect((await readJob(store, job))?.state).toBe('done');
    expect(await readListing(store, listing)).toMatchObject({ state: 'received', reference: 'LQ-00001' });
    await daysOn(1);
    await followListings(store);
    expect((await readListing(store, listing))?.state).toBe('with the shop');
    await daysOn(2);
    await followListings(store);
    await followListings(store);
    const end = await readListing(store, listing);
    expect(end).toMatchObject({ state: 'on sale', link: 'https://lanternquay.example/book/lq-00001' });
    expect(end?.events.map((e) => e.state)).toEqual(['waiting', 'received', 'with the shop', 'on sale']);
  });
  it('tries again while the shop is away, and arrives once', async () => {
    const job = await enqueue(store, 'send', { listing }, title);
    const work = runner().once();
    await new Promise((r) => setTimeout(r, 900));
    await openShop();
    await work;
    expect((await readJob(store, job))?.state).toBe('done');
    expect(parcels().length).toBe(1);
  });
  it('never doubles a parcel whose answer was lost', async () => {
    await openShop();
    await sendListing(store, listing);
    await store.client.execute({
      sql: "UPDATE listings SET reference = '', state = 'waiting' WHERE id = ?",
      args: [listing],
    });
    await sendListing(store, listing);
    expect(parcels().length).toBe(1);
    expect((await readListing(store, listing))?.events.filter((e) => e.state === 'received').length).toBe(1);
  });
  it('survives a works process killed in mid-sending', async () => {
    await enqueue(store, 'send', { listing }, title);
    const first = spawn('node', ['works/dist/main.mjs'], {
      env: { ...process.env, PAGINA_DATA: store.folder },
      stdio: 'ignore',
    });
    await new Promise((r) => setTimeout(r, 1_500));
    first.kill('SIGKILL');
    await openShop();
    await store.client.execute('UPDATE jobs SET lease_until = 1');
    await runner().once();
    expect((await readListing(store, listing))?.state).toBe('received');
    expect(parcels().length).toBe(1);
  });
  it('makes an outlet’s own file, in which links to books lead there with the imprint’s code', async () => {
    await setAffiliate(store, 'lanternquay', 'shingle-7');
    const b = threeChapters();
    const mark = schema.mark('link', { kind: 'shop', target: '9789295055124' });
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'p' }, [schema.text('The book before', [mark])]),
    ]);
    const sections = b.sections.map((s) => (s.id === 'ack' ? { ...s, content } : s));
    const id = await createTitle(store, { ...b, sections });
    await enqueue(store, 'make', { edition: 'ebook/for/lanternquay' }, id);
    await runner().once();
    const [made] = await productsOf(store, id);
    expect(made).toMatchObject({ name: 'the-causeway-ebook-lanternquay.epub', findings: [] });
    const files = Object.values(unzipSync(await readStored(store, made!.sha256)));
    const text = files.map((f) => new TextDecoder('latin1').decode(f)).join('');
    expect(text).toContain('href="https://lanternquay.example/isbn/9789295055124?by=shingle-7"');
    const before = (await accountsOf(store)).lanternquay;
    await setAffiliate(store, 'lanternquay', 'shingle-7');
    expect((await accountsOf(store)).lanternquay).toEqual(before);
  });
  it('gives the same listing for the same file', async () => {
    const [product] = await productsOf(store, title);
    expect(
      await openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product: product!.id }),
    ).toEqual({ id: listing, fresh: false });
  });
});
