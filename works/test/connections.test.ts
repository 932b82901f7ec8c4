/** Every outlet over its own protocol, in a process of its own: HTTP with JSON, forms, sheets and XML; and SFTP with ONIX. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, renameSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { besideDigest, editionAt, factsOf, outletNamed } from '@pagina/core/outlets';
import {
  createTitle,
  enqueue,
  filePath,
  keepBytes,
  openListing,
  openStore,
  productsOf,
  readListing,
  readTitle,
  revisionOf,
  saveChange,
  setKey,
  streamStored,
  type Listing,
  type Store,
} from '@pagina/data';
import { Runner } from '../src/run';
import { lineAt, NotSent, type Asking } from '../src/outlets';
import { bringInPieces } from '../src/outlets/pieces';
import { followOutlet, sendListing, withdrawListing } from '../src/send';
import type { Book } from '@pagina/core/book';
import { png } from '../../core/test/fixtures/manuscript';
import { OUTLETS_REACHED, placedBook } from './placed';

let store: Store;
let shops: ChildProcess;
let street: string;
let title: string;

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const { port } = s.address() as { port: number };
      s.close(() => done(port));
    });
  });
interface Desk {
  accounts: Record<string, string>;
  date: string;
}
const desk = async (say?: object): Promise<Desk> =>
  (
    await fetch(`${street}/desk`, say ? { method: 'POST', body: JSON.stringify(say) } : {})
  ).json() as Promise<Desk>;

beforeAll(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'connections-')), resolve('data/drizzle'));
  const [port, sftp] = [await freePort(), await freePort()];
  street = `http://127.0.0.1:${port}`;
  process.env.OUTLET_ADDRESS = street;
  process.env.OUTLET_SFTP_PORT = String(sftp);
  shops = spawn('node', ['outlets-sim/dist/main.mjs'], {
    env: { ...process.env, OUTLET_PORT: String(port), PAGINA_DATA: store.folder },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((done) => shops.stdout!.once('data', done));
  const { accounts } = await desk();
  for (const o of OUTLETS_REACHED) await setKey(store, o, accounts[o]!);
  const { sha256 } = await keepBytes(store, png(1_600, 2_500));
  const b = placedBook();
  title = await createTitle(store, {
    ...b,
    record: { ...b.record, cover: 'c' },
    pictures: [{ id: 'c', name: 'cover', type: 'image/png', width: 1_600, height: 2_500, sha256 }],
  });
  const runner = new Runner(store, { child: resolve('works/dist/child.mjs') });
  for (const edition of ['ebook', 'paperback', 'paperback/cover', 'sample']) {
    await enqueue(store, 'make', { edition }, title);
    await runner.once();
  }
}, 300_000);
afterAll(() => void shops?.kill('SIGKILL'));

const book = async (): Promise<Book> => (await readTitle(store, title))!.book;
/** As the application begins a listing. */
async function open(outlet: string): Promise<string> {
  const [b, files, revision] = [await book(), await productsOf(store, title), await revisionOf(store, title)];
  const o = outletNamed(outlet)!;
  const edition = editionAt(o, b)!;
  const facts = factsOf({ outlet: o, book: b, edition, revision: revision!, files });
  const product = files.find((p) => p.edition === edition.id)!;
  const at = { title, outlet, edition: edition.id, product: product.id };
  return (await openListing(store, { ...at, beside: besideDigest(o, facts) })).id;
}
const listings = new Map<string, string>();
const at = async (outlet: string): Promise<Listing> => (await readListing(store, listings.get(outlet)!))!;

describe.each(OUTLETS_REACHED)('%s', (outlet) => {
  it('takes the parcel once, with the very files that were made', async () => {
    listings.set(outlet, await open(outlet));
    const gone: number[] = [];
    await sendListing(store, listings.get(outlet)!, { share: (done) => gone.push(done) });
    await sendListing(store, listings.get(outlet)!);
    const listing = await at(outlet);
    expect(listing).toMatchObject({ state: 'received', deliveries: 1 });
    expect(listing.reference).not.toBe('');
    expect(gone.at(-1)).toBe(1);
    const kept = (JSON.parse(readFileSync(join(store.folder, 'outlets.json'), 'utf8')) as Kept).books[
      outlet
    ]!;
    expect(kept).toHaveLength(1);
    const made = await productsOf(store, title);
    const [first] = kept[0]!.files;
    expect(first?.sha256).toBe(made.find((p) => p.id === listing.product)?.sha256);
  });
});
interface Kept {
  books: Record<
    string,
    { files: { part: string; name: string; sha256: string }[]; told: Record<string, unknown> }[]
  >;
}
const kept = (): Kept['books'] =>
  (JSON.parse(readFileSync(join(store.folder, 'outlets.json'), 'utf8')) as Kept).books;

it('names every file by the outlet’s rule, and brings covers in their pixels', () => {
  const names = Object.fromEntries(OUTLETS_REACHED.map((o) => [o, kept()[o]![0]!.files.map((f) => f.name)]));
  expect(names).toEqual({
    lanternquay: ['the-causeway.epub'],
    marram: ['9789295055124.epub', '9789295055124.jpg', '9789295055124_sample.epub'],
    packstone: ['9789295055124.epub', '9789295055124.jpg', '9789295055124_sample.epub'],
    pocketfell: ['the-causeway.epub'],
    shelfmoor: ['9789295055124.epub', '9789295055124.jpg'],
    quayhead: ['9780306406157_pages.pdf', '9780306406157_cover.pdf'],
  });
  const covers = Object.fromEntries(
    ['marram', 'packstone', 'shelfmoor'].map((o) => {
      const facts = (kept()[o]![0]!.files[1] as { facts?: { width: number; height: number } }).facts;
      return [o, [facts?.width, facts?.height]];
    }),
  );
  // TRADE: about 2,500 pixels high (common practice); each outlet’s own figures.
  expect(covers).toEqual({ marram: [1_690, 2_560], packstone: [1_600, 2_500], shelfmoor: [1_625, 2_500] });
});

it('is on sale everywhere when each has looked, with what each found', async () => {
  const follow = async (): Promise<void> => {
    for (const o of OUTLETS_REACHED) {
      await followOutlet(store, o);
      await followOutlet(store, o, 'settled');
    }
  };
  await desk({ days: 1 });
  await follow();
  expect(await Promise.all(OUTLETS_REACHED.map(async (o) => (await at(o)).state))).toEqual([
    'with the shop',
    'on sale',
    'with the shop',
    'on sale',
    'received',
    'with the shop',
  ]);
  await desk({ days: 22 });
  await follow();
  for (const o of OUTLETS_REACHED) {
    const { state, link, found, listed } = await at(o);
    expect([o, state, found.reasons]).toEqual([o, 'on sale', []]);
    expect(link).toMatch(/^https:\/\/[\w-]+\.example\//);
    expect(listed?.title).toBe('The Causeway');
    expect(listed?.isbn).toBe(o === 'quayhead' ? '9780306406157' : '9789295055124');
    expect(found.files.every((f) => f.state === 'in order')).toBe(true);
    if (o !== 'quayhead') expect(found.contents).toContain('Part I: Water');
  }
  expect((await at('marram')).found).toMatchObject({ subjects: ['Novels', 'General'] });
  expect(Object.values((await at('marram')).found.territories)).toContain('on sale');
  // After three weeks one right is asked about.
  expect((await at('marram')).found.territories.NZ).toMatch(/held/);
  expect((await at('packstone')).found.shops).toMatchObject([
    { name: 'Gannetstone', state: 'on sale' },
    { name: 'Tollgate Lane', state: 'on sale' },
  ]);
  expect((await at('pocketfell')).found.calls).toEqual(['Needs action: complete your listing.']);
});

it('is told what has changed and no more, and looks again only where it says so', async () => {
  const before = kept();
  await saveChange(store, title, {
    base: (await revisionOf(store, title))!,
    client: 'test',
    change: {
      type: 'group',
      label: 'Change the keywords',
      changes: [
        {
          type: 'set-record',
          fields: { keywords: ['causeways', 'winter'], shortDescription: 'A road between two villages.' },
        },
      ],
    },
  });
  const words: Record<string, string | undefined> = {};
  for (const o of OUTLETS_REACHED) {
    await sendListing(store, listings.get(o)!);
    const { events, state, deliveries } = await at(o);
    words[o] = events.filter((e) => e.words.startsWith('Sent again')).at(-1)?.words;
    expect([o, state, deliveries]).toEqual([o, 'on sale', 1]);
    expect(kept()[o]![0]!.files).toEqual(before[o]![0]!.files);
  }
  expect(words).toEqual({
    lanternquay: 'Sent again: keywords.',
    marram: 'Sent again: keywords.',
    packstone: 'Sent again: short description, keywords.',
    pocketfell: undefined,
    shelfmoor: undefined,
    quayhead: undefined,
  });
  expect(kept().packstone![0]!.told).toMatchObject({
    keywords: 'causeways, winter',
    shortDescription: 'A road between two villages.',
  });
});

it('takes the book from sale where the author wishes so, and sells it again', async () => {
  for (const o of OUTLETS_REACHED) {
    await withdrawListing(store, listings.get(o)!);
    await followOutlet(store, o, 'settled');
    expect(await at(o)).toMatchObject({ state: 'withdrawn', link: '' });
    await open(o);
    await sendListing(store, listings.get(o)!);
    expect(kept()[o]).toHaveLength(1);
  }
  await desk({ days: 30 });
  for (const o of OUTLETS_REACHED) {
    await followOutlet(store, o);
    expect([o, (await at(o)).state]).toEqual([o, 'on sale']);
  }
});

it('takes over the number that an outlet gives a book without one, and sends the file that carries it', async () => {
  const b = placedBook();
  const { sha256 } = await keepBytes(store, png(1_600, 2_500));
  const other = await createTitle(store, {
    ...b,
    record: { ...b.record, cover: 'c' },
    pictures: [{ id: 'c', name: 'cover', type: 'image/png', width: 1_600, height: 2_500, sha256 }],
    editions: b.editions.filter((e) => e.form === 'reflow').map((e) => ({ ...e, isbn: '' })),
  });
  const made = async (): Promise<string> => {
    await enqueue(store, 'make', { edition: 'ebook' }, other);
    await new Runner(store, { child: resolve('works/dist/child.mjs') }).once();
    return (await productsOf(store, other))[0]!.id;
  };
  const at = { title: other, outlet: 'marram', edition: 'ebook' };
  const { id } = await openListing(store, { ...at, product: await made() });
  await sendListing(store, id);
  const ours = () => kept().marram!.at(-1)!;
  expect(ours().files[0]?.name).toBe('the-causeway.epub');
  await desk({ days: 2 });
  await followOutlet(store, 'marram');
  const isbn = (await readTitle(store, other))!.book.editions[0]!.isbn;
  // The check digit by another hand: weights 1 and 3, modulo 10 (ISBN Users’ Manual, §5).
  expect([...isbn].reduce((n, d, i) => n + Number(d) * (i % 2 ? 3 : 1), 0) % 10).toBe(0);
  // Asked again, nothing is written again.
  const before = await revisionOf(store, other);
  await followOutlet(store, 'marram', 'settled');
  expect(await revisionOf(store, other)).toBe(before);
  await openListing(store, { ...at, product: await made() });
  await sendListing(store, id);
  expect([ours().files[0]?.name, ours().told.isbn]).toEqual([`${isbn}.epub`, isbn]);
  await desk({ days: 2 });
  await followOutlet(store, 'marram');
  expect(await readListing(store, id)).toMatchObject({ state: 'on sale', listed: { isbn } });
});

it('takes a book from sale though its file has gone from the disk', async () => {
  const id = listings.get('shelfmoor')!;
  const { delivered } = (await readListing(store, id))!;
  const path = filePath(store, delivered);
  renameSync(path, `${path}.gone`);
  await withdrawListing(store, id);
  expect((await readListing(store, id))?.state).toBe('withdrawn');
  renameSync(`${path}.gone`, path);
});

it('goes on where a cut line left off: of a large file no piece is brought twice', async () => {
  const piece = 4_194_304;
  const whole = new Uint8Array(5 * piece + 1_234);
  for (let i = 0; i < whole.length; i += 997) whole[i] = i % 251;
  const { sha256, size } = await keepBytes(store, whole);
  const { accounts } = await desk();
  const file = {
    part: 'ebook' as const,
    name: 'a.epub',
    sha256,
    size,
    bytes: (from?: number) => streamStored(store, sha256, from) as AsyncIterable<Uint8Array>,
  };
  const real = lineAt('lanternquay', accounts.lanternquay!);
  let brought = 0;
  let cuts = 0;
  const line = {
    ...real,
    async call(path: string, asking: Asking = {}) {
      if (asking.method === 'PATCH' && brought > 0 && cuts < 2 && brought >= (cuts + 1) * 2 * piece) {
        cuts++;
        throw new NotSent('The outlet can’t be reached.', true);
      }
      const reply = await real.call(path, asking);
      if (asking.method === 'PATCH') brought += (asking.body as Uint8Array).length;
      return reply;
    },
  };
  for (let tries = 0; tries < 3; tries++)
    await bringInPieces(line, file, () => undefined).catch((e: unknown) => expect(e).toBeInstanceOf(NotSent));
  expect([cuts, brought]).toEqual([2, size]);
});

it('hears nothing said to a host that has another key than the one that was given', async () => {
  const { accounts } = await desk();
  const [password] = accounts.shelfmoor!.split('@');
  await setKey(store, 'shelfmoor', `${password}@${'A'.repeat(43)}`);
  await expect(sendListing(store, listings.get('shelfmoor')!)).rejects.toThrow(/isn’t the one whose key/);
  await setKey(store, 'shelfmoor', `wrong@${accounts.shelfmoor!.split('@')[1]}`);
  const fault = await sendListing(store, listings.get('shelfmoor')!).catch((e: unknown) => e);
  expect(fault).toBeInstanceOf(NotSent);
  expect((fault as NotSent).message).toMatch(/doesn’t accept the key/);
  await setKey(store, 'shelfmoor', accounts.shelfmoor!);
});

it('keeps no key where it can be read', async () => {
  const { accounts } = await desk();
  for (const name of readdirSync(store.folder).filter((n) => n.includes('.db'))) {
    const bytes = readFileSync(join(store.folder, name)).toString('latin1');
    for (const o of OUTLETS_REACHED) expect(bytes.includes(accounts[o]!.split('@')[0]!)).toBe(false);
  }
});
