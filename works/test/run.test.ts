import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import {
  claim,
  createTitle,
  enqueue,
  finish,
  insertTitle,
  keepBytes,
  openStore,
  productsOf,
  readJob,
  readStored,
  readTitle,
  stopJob,
  type Store,
} from '@pagina/data';
import { buildSync } from 'esbuild';
import { PDFDocument } from 'pdf-lib';
import { checkPdf } from '@pagina/core/check';
import { Runner } from '../src/run';
import { threeChapters } from '../../core/test/fixtures/books';
import { openNovel } from '../../bench/open-novel';
import { styledManuscript } from '../../core/test/fixtures/manuscript';
import { faultsOf } from '../../core/test/fixtures/checked';

let store: Store;
const child = resolve('works/dist/child.mjs');
beforeEach(async () => {
  store = await openStore(mkdtempSync(join(tmpdir(), 'works-')), resolve('data/drizzle'));
});
const parentOf = (pid: string): string | undefined =>
  /^PPid:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'latin1'))?.[1];
const runners: Runner[] = [];
const runner = (more: object = {}): Runner => {
  const r = new Runner(store, { child, ...more });
  runners.push(r);
  return r;
};
afterEach(() => {
  for (const r of runners.splice(0)) r.stop();
});
/** Processes of the children of a process. */
const childrenOf = (parent: number): string[] =>
  readdirSync('/proc').filter((pid) => {
    try {
      const line = readFileSync(`/proc/${pid}/cmdline`, 'latin1');
      return line.includes('works/dist/child.mjs') && parentOf(pid) === String(parent);
    } catch {
      return false;
    }
  });

describe('the works process', () => {
  it('does several jobs at once: a long one does not hold up a short one', async () => {
    const long = await createTitle(store, openNovel());
    const slow = await enqueue(store, 'make', { edition: 'paperback' }, long);
    const { sha256 } = await keepBytes(store, await styledManuscript());
    const quick = await enqueue(store, 'read', { sha256, title: 'quick', name: 'a.docx' });
    const r = runner();
    const all = r.run();
    try {
      await expect.poll(async () => (await readJob(store, quick))?.state, { timeout: 30_000 }).toBe('done');
      expect((await readJob(store, slow))?.state).toBe('running');
    } finally {
      r.stop();
      await all;
    }
  });
  it('reads a manuscript into a title, pictures and all', async () => {
    const { sha256 } = await keepBytes(store, await styledManuscript());
    const job = await enqueue(store, 'read', { sha256, title: 'new-title' });
    await runner().once();
    expect((await readJob(store, job))?.state).toBe('done');
    const title = await readTitle(store, 'new-title');
    expect(title?.book.record.title).toBe('The Causeway');
    const picture = title?.book.pictures[0];
    expect((await readStored(store, picture?.sha256 as string)).length).toBeGreaterThan(50);
  });
  it('tells in one sentence why it cannot read a file, and makes nothing', async () => {
    const { sha256 } = await keepBytes(store, new TextEncoder().encode('no docx'));
    const job = await enqueue(store, 'read', { sha256, title: 'none', name: 'a.docx' });
    await runner().once();
    expect(await readJob(store, job)).toMatchObject({
      state: 'failed',
      error: expect.stringMatching(/not a \.docx/) as string,
    });
    expect(await readTitle(store, 'none')).toBeNull();
  });
  it('makes files that pass the checks, and keeps them under their checksum', async () => {
    const id = await createTitle(store, threeChapters());
    await enqueue(store, 'make', { edition: 'paperback' }, id);
    await enqueue(store, 'make', { edition: 'ebook' }, id);
    await runner().once();
    await runner().once();
    const [epub, pdf] = await productsOf(store, id);
    expect([pdf?.name, epub?.name]).toEqual(['the-causeway-paperback.pdf', 'the-causeway-ebook.epub']);
    // That it has no cover is advice by the standard; outlets refuse it, but for the one whose covers come apart.
    const serious = epub?.findings.filter((f) => f.severity !== 'note') ?? [];
    const by = (outlet: string | undefined): string[] =>
      serious.filter((f) => f.outlet === outlet).map((f) => f.rule);
    expect([pdf?.findings, by(undefined)]).toEqual([[], []]);
    expect([by('lanternquay'), by('marram'), by('pocketfell')]).toEqual([
      ['outlet/cover'],
      ['outlet/cover'],
      [],
    ]);
    expect(await checkPdf(await readStored(store, pdf!.sha256))).toEqual({ ok: true, value: [] });
    expect(faultsOf(await readStored(store, epub!.sha256))).toEqual([]);
  });
  it('makes a cover’s sheet with the spine of these pages, and an empty one', async () => {
    const id = await createTitle(store, threeChapters());
    await enqueue(store, 'make', { edition: 'paperback/cover' }, id);
    await enqueue(store, 'make', { edition: 'paperback/template' }, id);
    await runner().once();
    await runner().once();
    const made = await productsOf(store, id);
    expect(made.map((p) => p.name).sort()).toEqual([
      'the-causeway-paperback-cover.pdf',
      'the-causeway-paperback-template.pdf',
    ]);
    const cover = made.find((p) => p.edition === 'paperback/cover')!;
    expect(cover.findings.map((f) => f.rule).sort()).toEqual([
      'cover/isbn',
      'cover/pages',
      'cover/spine-narrow',
    ]);
    const doc = await PDFDocument.load(await readStored(store, cover.sha256), { updateMetadata: false });
    // Half as many leaves as pages, 127 µm each, between two pages of 5.5 in.
    const spine = (Math.ceil(cover.pages / 2) * 0.127 * 72) / 25.4;
    expect(doc.getPage(0).getTrimBox().width).toBeCloseTo(792 + spine, 2);
    const none = await enqueue(store, 'make', { edition: 'ebook/cover' }, id);
    await runner().once();
    expect((await readJob(store, none))?.state).toBe('failed');
  });
  it('stops when asked to', async () => {
    const id = await createTitle(store, openNovel());
    const job = await enqueue(store, 'make', { edition: 'paperback' }, id);
    const work = runner().once();
    await new Promise((r) => setTimeout(r, 900));
    await stopJob(store, job);
    await work;
    expect((await readJob(store, job))?.state).toBe('stopped');
    expect(await productsOf(store, id)).toEqual([]);
  });
  it('gives up on a task that takes too long, or too much memory, or dies, and says which', async () => {
    const id = await createTitle(store, openNovel());
    const after = async (more: object): Promise<string | null | undefined> => {
      const job = await enqueue(store, 'make', { edition: 'paperback' }, id);
      await runner(more).once();
      return (await readJob(store, job))?.error;
    };
    expect(await after({ time: 300 })).toBe('This took too long and was stopped.');
    // Enough to start, too little for a novel.
    expect(await after({ memory: 12 })).toBe('This needed too much memory and was stopped.');
    const dying = join(store.folder, 'dying.mjs');
    writeFileSync(dying, "process.once('message', () => process.exit(3));");
    expect(await after({ child: dying })).toBe(
      'Pagina stopped unexpectedly while working on this. Try again.',
    );
  });
  it('ends a task whose buffers, not its heap, take too much memory', async () => {
    const { sha256 } = await keepBytes(store, new TextEncoder().encode('# A\n\nText.'));
    const job = await enqueue(store, 'read', { sha256, title: 'x', name: 'a.md' });
    const fat = join(store.folder, 'fat.mjs');
    buildSync({
      stdin: {
        contents: `import { watchOverChild } from './works/src/watch';
          watchOverChild();
          const all = [];
          process.once('message', () => { for (;;) all.push(Buffer.alloc(64e6, 1)); });`,
        resolveDir: resolve('.'),
      },
      bundle: true,
      platform: 'node',
      format: 'esm',
      outfile: fat,
    });
    await runner({ child: fat, memory: 64 }).once();
    expect((await readJob(store, job))?.error).toBe('This needed too much memory and was stopped.');
  });
  it('makes a title and ends its job together, or neither', async () => {
    const job = await enqueue(store, 'read', {});
    await claim(store, 'w1');
    const also = (): Promise<never> => Promise.reject(new Error('no'));
    await expect(finish(store, job, 'w1', { state: 'done', also })).rejects.toThrow('no');
    expect((await readJob(store, job))?.state).toBe('running');
    // A worker that has lost its lease makes nothing.
    await finish(store, job, 'w2', {
      state: 'done',
      also: (tx) => insertTitle(tx, { book: threeChapters(), id: 'twice' }),
    });
    expect(await readTitle(store, 'twice')).toBeNull();
  });
  it('that is killed in mid-work loses nothing: the next one does the job', async () => {
    const id = await createTitle(store, openNovel());
    const job = await enqueue(store, 'make', { edition: 'paperback' }, id);
    const first = spawn('node', ['works/dist/main.mjs'], {
      env: { ...process.env, PAGINA_DATA: store.folder },
      stdio: 'ignore',
    });
    for (let i = 0; i < 100 && (await readJob(store, job))?.state !== 'running'; i++)
      await new Promise((r) => setTimeout(r, 50));
    const children = (): string[] => childrenOf(first.pid as number);
    await expect.poll(children, { timeout: 10_000 }).toHaveLength(1);
    const [orphan] = children() as [string];
    first.kill('SIGKILL');
    // The child is in the middle of setting pages: it ends with its parent all the same.
    await expect.poll(() => existsSync(`/proc/${orphan}`), { timeout: 10_000 }).toBe(false);
    expect((await readJob(store, job))?.state).toBe('running');
    await store.client.execute('UPDATE jobs SET lease_until = 1');
    await runner().once();
    expect(await readJob(store, job)).toMatchObject({ state: 'done', attempts: 2 });
    expect((await productsOf(store, id)).length).toBe(1);
  });
});

describe('children that are kept warm', () => {
  const mine = (): string[] => childrenOf(process.pid);
  const made = async (r: Runner, edition: string, title: string): Promise<string> => {
    const job = await enqueue(store, 'make', { edition }, title);
    await r.once();
    return (await readJob(store, job))?.state ?? '';
  };
  it('make one file after the other, the same to the byte as a fresh one does', async () => {
    const r = runner();
    const id = await createTitle(store, threeChapters());
    const sums = new Map<string, Set<string>>();
    const make = async (by: Runner, edition: string): Promise<void> => {
      expect(await made(by, edition, id)).toBe('done');
      const product = (await productsOf(store, id)).find((p) => p.edition === edition);
      sums.set(edition, (sums.get(edition) ?? new Set<string>()).add(product!.sha256));
    };
    await make(r, 'paperback');
    await expect.poll(mine).toHaveLength(1);
    const [first] = mine();
    for (const edition of ['ebook', 'paperback', 'ebook']) await make(r, edition);
    expect(mine()).toEqual([first]);
    const fresh = runner();
    await make(fresh, 'paperback');
    await make(runner(), 'ebook');
    expect([...sums.values()].map((s) => s.size)).toEqual([1, 1]);
  });
  it('never read a manuscript: whoever reads one ends with it', async () => {
    const r = runner();
    const id = await createTitle(store, threeChapters());
    await made(r, 'ebook', id);
    const { sha256 } = await keepBytes(store, await styledManuscript());
    await enqueue(store, 'read', { sha256, title: 'read', name: 'a.docx' });
    const [maker] = mine();
    await r.once();
    await expect.poll(mine).toEqual([maker]);
  });
  it('are replaced when one is killed, whether it works or waits', async () => {
    const r = runner();
    const id = await createTitle(store, threeChapters());
    await made(r, 'ebook', id);
    const [first] = mine();
    process.kill(Number(first), 'SIGKILL');
    await expect.poll(mine).toEqual([]);
    expect(await made(r, 'ebook', id)).toBe('done');
    expect(mine()).not.toContain(first);
  });
  it('go after some files, and another stands ready', async () => {
    const r = runner();
    const id = await createTitle(store, threeChapters());
    await made(r, 'ebook', id);
    const [first] = mine();
    for (let i = 0; i < 24; i++) expect(await made(r, 'ebook', id)).toBe('done');
    await expect.poll(mine).not.toContain(first);
    await expect.poll(mine).toHaveLength(1);
  });
  it('end with their runner', async () => {
    const r = runner();
    await made(r, 'ebook', await createTitle(store, threeChapters()));
    await expect.poll(mine).toHaveLength(1);
    r.stop();
    await expect.poll(mine).toEqual([]);
  });
});
