/**
 * The job runner: claims a job, has a child process do it, keeps what came of it. Several runners may share a database.
 * A runner that is killed loses its lease after some seconds and the job goes to another, from its start.
 */
import { fork, type ChildProcess } from 'node:child_process';
import { createReadStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { bookFromJson, bookToJson, makingOf, MANUSCRIPT, type Arrival, type Book } from '@pagina/core/book';
import { fileStem } from '@pagina/core/record';
import {
  accountsOf,
  addProduct,
  claim,
  createTitle,
  filePath,
  finish,
  keepBytes,
  keepFile,
  readTitle,
  report,
  type Job,
  type Store,
} from '@pagina/data';
import { followListings, NotSent, sendListing } from './send';
import type { FromChild, Task } from './tasks';

export interface RunnerOptions {
  /** Path of the bundled child. */
  child: string;
  /** Megabytes of memory and milliseconds that a task may take. */
  memory?: number;
  time?: number;
  log?: (words: string, more?: object) => void;
}
const POLL = 250;
/** Outlets are asked for news this often, in milliseconds. */
const FOLLOW = 1_000;
/** Waits between tries to send, in milliseconds. */
const SEND_AGAIN = [500, 2_000, 8_000];
/** Progress is written at most this often, in milliseconds. */
const REPORT = 250;

export class Runner {
  readonly name = `works-${process.pid}-${randomUUID().slice(0, 8)}`;
  private running = true;
  private current: ChildProcess | null = null;

  constructor(
    private readonly store: Store,
    private readonly options: RunnerOptions,
  ) {}

  async run(): Promise<void> {
    let asked = 0;
    while (this.running) {
      if (Date.now() - asked > FOLLOW) {
        asked = Date.now();
        await followListings(this.store);
      }
      const job = await claim(this.store, this.name);
      if (job) await this.work(job);
      else await new Promise((r) => setTimeout(r, POLL));
    }
  }
  stop(): void {
    this.running = false;
    this.current?.kill('SIGKILL');
  }

  /** Does one job to its end; answers whether there was one. For tests. */
  async once(): Promise<boolean> {
    const job = await claim(this.store, this.name);
    if (job) await this.work(job);
    return job !== null;
  }

  private async work(job: Job): Promise<void> {
    const started = Date.now();
    this.options.log?.('begins', { job: job.id, kind: job.kind });
    const folder = mkdtempSync(join(tmpdir(), 'pagina-job-'));
    try {
      const end = await this.doIt(job, folder);
      await finish(this.store, job.id, this.name, end);
      this.options.log?.('ends', { job: job.id, state: end.state, milliseconds: Date.now() - started });
    } catch (e) {
      await finish(this.store, job.id, this.name, {
        state: 'failed',
        error: `Something went wrong: ${(e as Error).message}`,
      });
      this.options.log?.('fails', { job: job.id, error: String(e) });
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }

  private doIt(job: Job, folder: string): Promise<End> {
    if (job.kind === 'read') return this.read(job, folder);
    if (job.kind === 'reread') return this.reread(job, folder);
    if (job.kind === 'make') return this.make(job, folder);
    if (job.kind === 'send') return this.send(job);
    return Promise.resolve({ state: 'failed', error: `There is no such work as “${job.kind}”.` });
  }

  private async send(job: Job): Promise<End> {
    const { listing } = job.payload as { listing: string };
    for (let tries = 0; ; tries++) {
      if (
        !(await report(
          this.store,
          job.id,
          this.name,
          tries === 0 ? 'Sending the parcel' : 'Trying once more',
          0,
        ))
      )
        return { state: 'stopped' };
      try {
        await sendListing(this.store, listing);
        return { state: 'done', result: { listing } };
      } catch (e) {
        const wait = SEND_AGAIN[tries];
        if (!(e instanceof NotSent) || !e.again || wait === undefined)
          return { state: 'failed', error: (e as Error).message };
        await new Promise((r) => setTimeout(r, wait));
      }
    }
  }

  private async read(job: Job, folder: string): Promise<End> {
    const { sha256, title, name = '' } = job.payload as { sha256: string; title: string; name?: string };
    const read = await this.reading(job, folder, sha256, name);
    if (!('book' in read)) return read;
    await createTitle(this.store, read.book, title, read.arrival);
    return { state: 'done', result: { title } };
  }

  /** Reads a manuscript for a title that is there already; what was read is kept for the author to compare. */
  private async reread(job: Job, folder: string): Promise<End> {
    const { sha256, name } = job.payload as { sha256: string; name: string };
    const read = await this.reading(job, folder, sha256, name);
    if (!('book' in read)) return read;
    const text = JSON.stringify({ name, book: bookToJson(read.book), findings: read.arrival.findings });
    const kept = await keepBytes(this.store, new TextEncoder().encode(text));
    return { state: 'done', result: { reading: kept.sha256 } };
  }

  /** A manuscript's book, with the files of its pictures kept. */
  private async reading(
    job: Job,
    folder: string,
    sha256: string,
    name: string,
  ): Promise<{ book: Book; arrival: Arrival } | End> {
    const manuscript = filePath(this.store, sha256);
    const answer = await this.task(job, { kind: 'read', manuscript, name, folder });
    if (answer.type !== 'read') return endOf(answer);
    const parsed = bookFromJson(answer.book);
    if (!parsed.ok) return { state: 'failed', error: parsed.refusal.message };
    const kept = new Map<string, string>();
    for (const [id, path] of Object.entries(answer.pictures))
      kept.set(id, (await keepFile(this.store, createReadStream(path))).sha256);
    const book = {
      ...parsed.value,
      pictures: parsed.value.pictures.map((p) => ({ ...p, sha256: kept.get(p.id) })),
    };
    return { book, arrival: answer.arrival };
  }

  private async make(job: Job, folder: string): Promise<End> {
    const { edition: id } = job.payload as { edition: string };
    const loaded = job.title ? await readTitle(this.store, job.title) : null;
    const { edition: editionId, form, outlet } = makingOf(id);
    const edition = loaded?.book.editions.find((e) => e.id === editionId);
    if (!loaded || !job.title || !(edition || editionId === null))
      return { state: 'failed', error: 'The title or the edition is no longer there.' };
    const ending = !edition ? 'docx' : edition.form === 'print' ? 'pdf' : 'epub';
    const name = `${fileStem(loaded.book.record.title)}-${fileStem(edition?.name ?? MANUSCRIPT)}${form === 'whole' ? '' : `-${outlet ? fileStem(outlet) : form}`}.${ending}`;
    const pictures: Record<string, string> = {};
    for (const p of loaded.book.pictures) if (p.sha256) pictures[p.id] = filePath(this.store, p.sha256);
    const out = join(folder, 'made');
    const answer = await this.task(job, {
      kind: 'make',
      book: bookToJson(loaded.book),
      edition: id,
      pictures,
      out,
      name,
      affiliate: outlet ? ((await accountsOf(this.store))[outlet]?.affiliate ?? '') : '',
    });
    if (answer.type !== 'made') return endOf(answer);
    const { sha256, size } = await keepFile(this.store, createReadStream(out));
    const product = await addProduct(this.store, {
      title: job.title,
      edition: id,
      name,
      sha256,
      size,
      revision: loaded.revision,
      pages: answer.pages,
      findings: answer.findings,
    });
    return { state: 'done', result: { product: product.id } };
  }

  /** Has a child do the task. Resolves with its last word; kills it when asked to stop, out of time, or without a lease. */
  private task(
    job: Job,
    task: Task,
  ): Promise<FromChild | { type: 'stopped' } | { type: 'died'; why: string }> {
    const { child: path, memory = 2_048, time = 600_000 } = this.options;
    return new Promise((resolve) => {
      const child = fork(path, [], {
        execArgv: [
          `--max-old-space-size=${memory}`,
          '--max-semi-space-size=64',
          '--initial-old-space-size=256',
        ],
        stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
        // It speaks to no one: certificates of the surroundings, which Node would read first of all, are not wanted.
        env: { ...process.env, NODE_EXTRA_CA_CERTS: undefined },
      });
      this.current = child;
      let last: FromChild | null = null;
      let stage = job.kind === 'read' ? 'Reading the manuscript' : 'Starting';
      let share = 0;
      let end: 'stopped' | 'time' | null = null;
      let stderr = '';
      child.stderr?.on('data', (d: Buffer) => (stderr = (stderr + d.toString()).slice(-2_000)));
      const kill = (why: 'stopped' | 'time'): void => {
        end = why;
        child.kill('SIGKILL');
      };
      const beat = setInterval(() => {
        report(this.store, job.id, this.name, stage, share).then(
          (go) => go || kill('stopped'),
          () => undefined,
        );
      }, REPORT);
      const limit = setTimeout(() => kill('time'), time);
      child.on('message', (m: FromChild) => {
        if (m.type === 'progress') {
          stage = m.stage;
          share = m.share;
        } else last = m;
      });
      child.on('exit', () => {
        clearInterval(beat);
        clearTimeout(limit);
        this.current = null;
        if (last) resolve(last);
        else if (end === 'stopped') resolve({ type: 'stopped' });
        else
          resolve({
            type: 'died',
            why:
              end === 'time'
                ? 'it took too long'
                : /heap out of memory/.test(stderr)
                  ? 'it needed too much memory'
                  : 'the program stopped',
          });
      });
      child.on('error', () => undefined);
      child.send(task);
    });
  }
}

type End = { state: 'done' | 'failed' | 'stopped'; result?: unknown; error?: string };
function endOf(answer: FromChild | { type: 'stopped' } | { type: 'died'; why: string }): End {
  if (answer.type === 'stopped') return { state: 'stopped' };
  if (answer.type === 'refused') return { state: 'failed', error: answer.message };
  return {
    state: 'failed',
    error: `The work was given up: ${answer.type === 'died' ? answer.why : 'no answer came'}.`,
  };
}
