/** Making a book of 50 pages in the application: from the job that a click leaves to the file that is kept. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { createTitle, enqueue, openStore, readJob, type Store } from '@pagina/data';
import { Runner } from '../works/src/run';
import { book, prose, section } from '../core/test/fixtures/books';

const child = resolve('works/dist/child.mjs');
const fiftyPages = () =>
  book([
    section('t', 'title-page', []),
    section('c', 'copyright-page', []),
    section('toc', 'contents', []),
    ...Array.from({ length: 8 }, (_, i) =>
      section(`c${i}`, 'chapter', [prose(1_000, i + 1), prose(900, i + 20)], { title: `Chapter ${i}` }),
    ),
  ]);
const EDITIONS = ['paperback', 'ebook'];

/** Milliseconds of one job after the other. */
async function jobs(
  store: Store,
  title: string,
  rounds: number,
  each: () => Promise<void>,
): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < rounds; i++)
    for (const edition of EDITIONS) {
      const started = performance.now();
      const job = await enqueue(store, 'make', { edition }, title);
      await each();
      for (;;) {
        const state = (await readJob(store, job))?.state;
        if (state === 'failed') throw new Error('the file could not be made');
        if (state === 'done') break;
        await new Promise((r) => setTimeout(r, 5));
      }
      times.push(performance.now() - started);
    }
  return times;
}

/**
 * A process for every file, as version 0.1 had it, and one that is kept warm; medians of both, in milliseconds. The first
 * counts no waiting for the runner to look for work; the second does.
 */
export async function making(rounds: number): Promise<{ cold: number; warm: number; first: number }> {
  const store = await openStore(mkdtempSync(join(tmpdir(), 'making-')), resolve('data/drizzle'));
  const title = await createTitle(store, fiftyPages());
  const median = (values: number[]): number =>
    [...values].sort((a, b) => a - b)[values.length >> 1] as number;
  const cold = await jobs(store, title, rounds, async () => {
    const one = new Runner(store, { child });
    await one.once();
    one.stop();
  });
  const runner = new Runner(store, { child });
  const running = runner.run();
  // A works process has been started long before somebody clicks.
  await new Promise((r) => setTimeout(r, 5_000));
  const warm = await jobs(store, title, rounds, () => Promise.resolve());
  runner.stop();
  await running;
  return { cold: median(cold), warm: median(warm), first: warm[0] as number };
}
