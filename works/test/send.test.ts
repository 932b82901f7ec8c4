import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer as createHttpServer, request, type RequestListener, type Server } from 'node:http';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { unzipSync } from 'fflate';
import { schema } from '@pagina/core/book';
import type { BookRecord } from '@pagina/core/record';
import {
  accountsOf,
  createTitle,
  enqueue,
  insertProduct,
  keepBytes,
  openListing,
  openStore,
  productsOf,
  readJob,
  readListing,
  readStored,
  readTitle,
  revisionOf,
  saveChange,
  setAffiliate,
  setKey,
  stopJob,
  type Store,
} from '@pagina/data';
import { Runner } from '../src/run';
import { adapterOf, NotSent, type Parcel } from '../src/outlets';
import { lineAt } from '../src/outlets';
import { lineTo } from '../src/outlets/line';
import { followOutlet, sendListing } from '../src/send';
import { threeChapters } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';

let store: Store;
let shop: ChildProcess;
let port: number;
let title: string;
let listing: string;
const KEY = 'a key of the test';

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const p = (s.address() as { port: number }).port;
      s.close(() => done(p));
    });
  });
async function openShop(): Promise<void> {
  shop = spawn('node', ['outlets-sim/dist/main.mjs'], {
    env: {
      ...process.env,
      OUTLET_PORT: String(port),
      OUTLET_SFTP_PORT: '0',
      PAGINA_DATA: store.folder,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((done) => shop.stdout!.once('data', done));
}
const daysOn = (days: number): Promise<unknown> =>
  fetch(`http://127.0.0.1:${port}/desk`, { method: 'POST', body: JSON.stringify({ days }) });
interface ShopBook {
  keys: { key: string; sum: string }[];
  arrivals: unknown[];
  told: Record<string, unknown>;
}
const parcels = (): ShopBook[] =>
  (
    JSON.parse(readFileSync(join(store.folder, 'outlets.json'), 'utf8')) as {
      books: { lanternquay: ShopBook[] };
    }
  ).books.lanternquay;
/** Checksums of the ebooks that the shop took, in order. */
const taken = (): string[] => parcels()[0]!.keys.map((k) => k.sum.replace('ebook:', ''));
/** As if the outlet's answer to a parcel, and to those after it, had never come. */
async function forgetAnswer(number = 0): Promise<void> {
  await store.client.execute({ sql: 'DELETE FROM deliveries WHERE number >= ?', args: [number] });
  const reference = number === 0 ? ", reference = ''" : '';
  await store.client.execute(`UPDATE listings SET state = 'waiting'${reference}`);
}
const setRecord = async (fields: Partial<BookRecord>): Promise<unknown> =>
  saveChange(store, title, {
    base: (await revisionOf(store, title)) ?? 0,
    client: 'test',
    change: { type: 'group', label: 'Change the record', changes: [{ type: 'set-record', fields }] },
  });

beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'send-')), resolve('data/drizzle'));
  port = await freePort();
  process.env.OUTLET_ADDRESS = `http://127.0.0.1:${port}`;
  await setKey(store, 'lanternquay', KEY);
  writeFileSync(join(store.folder, 'outlets-accounts.json'), JSON.stringify({ lanternquay: KEY }));
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
    await followOutlet(store, 'lanternquay');
    expect((await readListing(store, listing))?.state).toBe('with the shop');
    await daysOn(2);
    await followOutlet(store, 'lanternquay');
    await followOutlet(store, 'lanternquay');
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
    await forgetAnswer();
    await sendListing(store, listing);
    expect(parcels().length).toBe(1);
    expect((await readListing(store, listing))?.events.filter((e) => e.state === 'received').length).toBe(1);
  });
  it('survives a works process killed while the parcel is on its way', async () => {
    let arrived = (): void => undefined;
    const onItsWay = new Promise<void>((done) => (arrived = done));
    // It knows of no parcel, and takes the one that comes without ever answering.
    const silent = await listening((q, r) => {
      if (q.method === 'GET' || q.method === 'HEAD') return void r.writeHead(404).end('{}');
      q.on('data', () => arrived());
    });
    await enqueue(store, 'send', { listing }, title);
    const first = spawn('node', ['works/dist/main.mjs'], {
      env: { ...process.env, PAGINA_DATA: store.folder },
      stdio: 'ignore',
    });
    await onItsWay;
    first.kill('SIGKILL');
    silent.close();
    process.env.OUTLET_ADDRESS = `http://127.0.0.1:${port}`;
    await openShop();
    await store.client.execute('UPDATE jobs SET lease_until = 1');
    await runner().once();
    expect((await readListing(store, listing))?.state).toBe('received');
    expect(parcels().length).toBe(1);
  });
  it('never doubles a file whose answer was lost and that was then made again', async () => {
    await openShop();
    await sendListing(store, listing);
    await forgetAnswer();
    await enqueue(store, 'make', { edition: 'ebook' }, title);
    await runner().once();
    const made = await productsOf(store, title);
    expect(made.length).toBe(2);
    expect(made[0]!.sha256).toBe(made[1]!.sha256);
    const again = await openListing(store, {
      title,
      outlet: 'lanternquay',
      edition: 'ebook',
      product: made[0]!.id,
    });
    expect(again.id).toBe(listing);
    await sendListing(store, again.id);
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
    expect(made).toMatchObject({ name: 'the-causeway-ebook-lanternquay.epub' });
    expect(made?.findings.filter((f) => f.severity !== 'note').map((f) => f.rule)).toEqual(['outlet/cover']);
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
    ).toEqual({ id: listing, fresh: true });
    await openShop();
    await sendListing(store, listing);
    expect(
      await openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product: product!.id }),
    ).toEqual({ id: listing, fresh: false });
  });
});

describe('a book that an outlet has', () => {
  it('is listed as the record was when it went, and again when the record has changed', async () => {
    await openShop();
    await sendListing(store, listing);
    expect((await readListing(store, listing))?.listed).toMatchObject({
      title: 'The Causeway',
      isbn: '9789295055124',
      price: { minor: 499, currency: 'GBP' },
    });
    await sendListing(store, listing);
    expect(parcels()[0]!.arrivals).toHaveLength(1);
    await daysOn(3);
    await followOutlet(store, 'lanternquay');
    await setRecord({ price: { minor: 599, currency: 'GBP' } });
    await sendListing(store, listing);
    await sendListing(store, listing);
    expect(parcels()[0]!.told).toMatchObject({ price: 599, currency: 'GBP', title: 'The Causeway' });
    expect(parcels()[0]!.arrivals).toHaveLength(2);
    const now = await readListing(store, listing);
    expect(now).toMatchObject({ state: 'on sale', listed: { price: { minor: 599, currency: 'GBP' } } });
    expect(now?.events.slice(-2).map((e) => e.words)).toEqual([
      'Sent again: price.',
      'Change 1: price. It is shown.',
    ]);
  });
  it('is followed again where it is looked at again, though the outlet is silent after the change', async () => {
    await openShop();
    await sendListing(store, listing);
    await daysOn(3);
    await followOutlet(store, 'lanternquay');
    await setRecord({ language: 'en-US' });
    const server = await listening((q, r) => {
      if (q.method === 'PUT') return void r.end('{}');
      if (q.url?.includes('key=')) return void r.writeHead(404).end('{}');
      q.socket.destroy();
    });
    await sendListing(store, listing);
    server.close();
    process.env.OUTLET_ADDRESS = `http://127.0.0.1:${port}`;
    expect((await readListing(store, listing))?.state).toBe('received');
    await followOutlet(store, 'lanternquay');
    expect((await readListing(store, listing))?.state).toBe('on sale');
  });
  it('gets a new file under its old number, and each file once, whatever answers are lost', async () => {
    await openShop();
    await sendListing(store, listing);
    await setRecord({ title: 'The Causeways' });
    await enqueue(store, 'make', { edition: 'ebook' }, title);
    await runner().once();
    const made = await productsOf(store, title);
    expect(made[0]!.sha256).not.toBe(made[1]!.sha256);
    const next = (product: string): ReturnType<typeof openListing> =>
      openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product });
    expect(await next(made[0]!.id)).toEqual({ id: listing, fresh: true });
    await sendListing(store, listing);
    await forgetAnswer(1);
    await sendListing(store, listing);
    await daysOn(3);
    await followOutlet(store, 'lanternquay');
    expect(parcels()).toHaveLength(1);
    expect(taken()).toEqual([made[1]!.sha256, made[0]!.sha256]);
    expect(await readListing(store, listing)).toMatchObject({
      state: 'on sale',
      reference: 'LQ-00001',
      delivered: made[0]!.sha256,
      listed: { title: 'The Causeways' },
    });
    // Both were sent there, and are told of as long as the title has them.
    expect((await productsOf(store, title)).map((p) => p.sentTo)).toEqual([['lanternquay'], ['lanternquay']]);
    // Back to the first file: it has arrived before, and is not what the outlet has now.
    expect(await next(made[1]!.id)).toEqual({ id: listing, fresh: true });
    await sendListing(store, listing);
    await sendListing(store, listing);
    expect(taken()).toEqual([1, 0, 1].map((i) => made[i]!.sha256));
  });
  it('got a file whose answer was lost before a newer one was chosen: it has the newer one in the end', async () => {
    await openShop();
    await sendListing(store, listing);
    await forgetAnswer();
    await setRecord({ title: 'The Causeways' });
    await enqueue(store, 'make', { edition: 'ebook' }, title);
    await runner().once();
    const made = await productsOf(store, title);
    await openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product: made[0]!.id });
    await sendListing(store, listing);
    expect(parcels()).toHaveLength(1);
    expect(taken()).toEqual([made[1]!.sha256, made[0]!.sha256]);
    expect((await readListing(store, listing))?.delivered).toBe(made[0]!.sha256);
  });
  it('is listed as the outlet says, where it lists something else than it was told', async () => {
    await openShop();
    await sendListing(store, listing);
    shop.kill('SIGKILL');
    const path = join(store.folder, 'outlets.json');
    writeFileSync(
      path,
      readFileSync(path, 'utf8').replace(
        '"title":"The Causeway","subtitle"',
        '"title":"Causeway, The","subtitle"',
      ),
    );
    await openShop();
    await followOutlet(store, 'lanternquay');
    expect((await readListing(store, listing))?.listed?.title).toBe('Causeway, The');
  });
});

it('whatever is cut off, in whatever order, each file arrives once and the outlet ends up with what was meant', async () => {
  await openShop();
  // Between the two stands a line that is cut before a call, or after it with its answer.
  let faults: ('before' | 'after' | 'none')[] = [];
  const line = await listening((q, r) => {
    const fault = faults.shift() ?? 'none';
    if (fault === 'before') return void q.socket.destroy();
    const headers = { ...q.headers, host: '' };
    const passed = request({ port, host: '127.0.0.1', path: q.url, method: q.method, headers }, (a) => {
      if (fault === 'after') return void a.resume().on('end', () => q.socket.destroy());
      r.writeHead(a.statusCode ?? 500, a.headers);
      a.pipe(r);
    });
    q.pipe(passed);
  });
  let random = 7;
  const below = (n: number): number => (random = (random * 48_271) % 2_147_483_647) % n;
  const files = await Promise.all(
    [1, 2, 3].map(async (n) => {
      const { sha256, size } = await keepBytes(store, new TextEncoder().encode(`file ${n}`));
      const id = `file-${n}`;
      const name = `file-${n}.epub`;
      const more = { title, edition: 'ebook', revision: n, pages: 0, findings: [] };
      await store.write((tx) => insertProduct(tx, id, { ...more, name, sha256, size }));
      return { id, sha256 };
    }),
  );
  let wanted = '';
  let sent = 0;
  for (let step = 0; step < 250; step++) {
    const what = below(4);
    if (what === 0) await setRecord({ price: { minor: 100 + below(900), currency: 'GBP' } });
    if (what === 1 || wanted === '') {
      const file = files[below(files.length)]!;
      await openListing(store, { title, outlet: 'lanternquay', edition: 'ebook', product: file.id });
      wanted = file.sha256;
    }
    faults = Array.from({ length: 6 }, () => (['before', 'after', 'none', 'none'] as const)[below(4)]!);
    await sendListing(store, listing).then(
      () => void sent++,
      (e: unknown) => void expect(e).toBeInstanceOf(NotSent),
    );
    if (what === 2) await followOutlet(store, 'lanternquay');
    if (what === 3) await daysOn(1);
  }
  faults = [];
  await sendListing(store, listing);
  expect(sent).toBeGreaterThan(50);
  expect(parcels()).toHaveLength(1);
  const [parcel] = parcels();
  const now = (await readListing(store, listing))!;
  const { keys } = parcel!;
  expect(new Set(keys.map((k) => k.key)).size).toBe(keys.length);
  // Never the same file twice running: that would be one sent twice.
  expect(keys.filter((k, i) => k.sum === keys[i - 1]?.sum)).toEqual([]);
  expect(taken().at(-1)).toBe(wanted);
  expect(now.delivered).toBe(wanted);
  const { book } = (await readTitle(store, title))!;
  expect(parcel!.told).toMatchObject({ price: book.record.price!.minor, title: book.record.title });
  expect(now.listed?.price).toEqual(book.record.price);
  line.closeAllConnections();
  line.close();
}, 240_000);

/** A shop of the test's own, which does what real ones do on bad days. */
async function listening(answer: RequestListener): Promise<Server> {
  const server = createHttpServer(answer);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port: own } = server.address() as { port: number };
  process.env.OUTLET_ADDRESS = `http://127.0.0.1:${own}`;
  return server;
}
const quick = (): ReturnType<typeof lineTo> =>
  lineTo({ address: process.env.OUTLET_ADDRESS!, headers: {}, time: 400, most: 10_000 });

describe('an outlet that', () => {
  it.each<[string, RequestListener, RegExp, boolean]>([
    ['never answers', () => undefined, /did not answer within/, true],
    [
      'answers a little at a time',
      (_, r) => {
        const drip = setInterval(() => r.write(' '), 50);
        r.on('close', () => clearInterval(drip));
      },
      /did not answer within/,
      true,
    ],
    [
      'answers without end',
      (_, r) => {
        const flood = (): void => {
          while (!r.destroyed && r.write('x'.repeat(65_536)));
        };
        r.on('drain', flood);
        flood();
      },
      /far too long/,
      false,
    ],
    [
      'sends elsewhere',
      (_, r) => void r.writeHead(302, { Location: 'http://127.0.0.1:1/' }).end(),
      /can’t be reached/,
      true,
    ],
    ['hangs up', (q) => void q.socket.destroy(), /can’t be reached/, true],
  ])('%s is told of in words', async (_, answer, words, again) => {
    const server = await listening(answer);
    const fault = await quick()
      .call('/parcels/x')
      .catch((e: unknown) => e);
    expect(fault).toBeInstanceOf(NotSent);
    expect((fault as NotSent).message).toMatch(words);
    expect((fault as NotSent).again).toBe(again);
    server.closeAllConnections();
    server.close();
  });
  it('answers what is no JSON is told of in words', async () => {
    const server = await listening((_, r) => void r.end('<html>'));
    const fault = await adapterOf('lanternquay')
      .ask({ key: 'key' } as Parcel, lineAt('lanternquay', KEY))
      .catch((e: unknown) => e);
    expect((fault as NotSent).message).toMatch(/can’t be read/);
    server.close();
  });
  it('doesn’t know the key says so once, and where to enter it', async () => {
    await openShop();
    await setKey(store, 'lanternquay', 'another key');
    const job = await enqueue(store, 'send', { listing }, title);
    await runner().once();
    expect(await readJob(store, job)).toMatchObject({
      state: 'failed',
      error: 'The outlet doesn’t accept the key of your account. Enter it again in Imprint.',
    });
    await setKey(store, 'lanternquay', '');
    await expect(sendListing(store, listing)).rejects.toThrow(/has no key for your account at Lanternquay/);
  });
  it('is silent holds up no making, keeps its lease, and lets go when asked to stop', async () => {
    const server = await listening(() => undefined);
    const send = await enqueue(store, 'send', { listing }, title);
    const make = await enqueue(store, 'make', { edition: 'ebook' }, title);
    const r = runner();
    const all = r.run();
    try {
      const state = async (job: string) => (await readJob(store, job))?.state;
      await expect.poll(() => state(make), { timeout: 30_000 }).toBe('done');
      expect(await state(send)).toBe('running');
      const { rows } = await store.client.execute({
        sql: 'SELECT lease_until FROM jobs WHERE id = ?',
        args: [send],
      });
      expect(Number(rows[0]?.lease_until)).toBeGreaterThan(Date.now());
      await stopJob(store, send);
      await expect.poll(() => state(send), { timeout: 5_000 }).toBe('stopped');
    } finally {
      r.stop();
      server.closeAllConnections();
      server.close();
      await all;
    }
  });
  it.each([
    [503, 'done', 2],
    [429, 'done', 2],
    [422, 'failed', 1],
  ])('answers %i at first: the job is %s', async (status, state, posts) => {
    let n = 0;
    const server = await listening((q, r) => {
      if (q.method === 'GET' || q.method === 'HEAD') return void r.writeHead(404).end('{}');
      if (q.method === 'PATCH') return void q.resume().on('end', () => r.writeHead(204).end());
      q.resume().on('end', () => {
        n++;
        if (n === 1) return void r.writeHead(status).end(JSON.stringify({ message: 'Not today.' }));
        const sha256 = /"sha256":"(\w+)"/.exec(slip)?.[1];
        r.writeHead(201).end(JSON.stringify({ reference: 'X-1', sha256 }));
      });
      let slip = '';
      q.on('data', (d: Buffer) => (slip += d.toString('latin1')));
    });
    const job = await enqueue(store, 'send', { listing }, title);
    await runner().once();
    const end = await readJob(store, job);
    expect(end?.state).toBe(state);
    if (state === 'failed') expect(end?.error).toBe('Not today.');
    expect(n).toBe(posts);
    server.close();
  });
});
