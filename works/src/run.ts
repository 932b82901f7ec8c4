/**
 * The job runner: claims jobs and has them done, several at once. Several runners may share a database. A runner that is
 * killed loses its leases after some seconds, and its jobs go to another from their start.
 *
 * Loops run side by side, so that none waits for another: those that read and make, in child processes; and for every
 * outlet one that sends and one that asks for news, so that a silent outlet holds up nothing but itself.
 */
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import {
  claim,
  collectFiles,
  finish,
  isFull,
  isQueued,
  DiskFull,
  report,
  type Job,
  type JobEnd,
  type Store,
} from '@pagina/data';
import { attachFile } from './attach-job';
import { makeEdition } from './make-job';
import { readAgain, readManuscriptJob } from './read-job';
import { OUTLETS } from '@pagina/core/outlets';
import { followOutlet, sendJob } from './send';
import type { Desk } from './desk';
import { Children, type TaskLimits } from './children';
import type { TaskEnd } from './task';
import type { Task } from './tasks';

export interface RunnerOptions {
  /** Path of the bundled child. */
  child: string;
  /** Megabytes and milliseconds that a task may take, in place of what its kind and size allow. */
  memory?: number;
  time?: number;
  /** How many manuscripts are read and editions made at once. */
  lanes?: number;
  log?: (words: string, more?: object) => void;
}
const POLL = 250;
/** How often a lane without work looks for some, in milliseconds. */
const LOOK = 40;
/** Outlets are asked for news this often, in milliseconds. */
const FOLLOW = 1_000;
/** Of books that are on sale, or held, they are asked this often. */
const FOLLOW_SETTLED = 60_000;
/** Files that nothing refers to are collected this often, in milliseconds. */
const COLLECT = 6 * 3_600_000;
/** After a fault of the database a loop waits this long, in milliseconds. */
const FAULT = 2_000;
const MEMORY = 2_048;
const JOB_FOLDER = 'pagina-job-';

const MAKES: readonly string[] = ['read', 'reread', 'make', 'attach'];
const SENDS: readonly string[] = ['send', 'withdraw'];

const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

export class Runner {
  readonly name = `works-${process.pid}-${randomUUID().slice(0, 8)}`;
  private running = true;
  private readonly children: Children;
  private readonly lanes: number;

  constructor(
    private readonly store: Store,
    private readonly options: RunnerOptions,
  ) {
    this.lanes = options.lanes ?? 2;
    this.children = new Children(options.child, this.lanes);
  }

  async run(): Promise<void> {
    removeOldFolders();
    this.children.warmUp(this.options.memory ?? MEMORY);
    await Promise.all([
      ...Array.from({ length: this.lanes }, () => this.lane(MAKES)),
      ...OUTLETS.filter((o) => o.reached === 'connection').flatMap(({ id }) => [
        this.lane(SENDS, id),
        this.every(FOLLOW, () => followOutlet(this.store, id)),
        this.every(FOLLOW_SETTLED, () => followOutlet(this.store, id, 'settled')),
      ]),
      this.every(COLLECT, () => collectFiles(this.store)),
    ]);
  }
  stop(): void {
    this.running = false;
    this.children.stop();
  }

  /** Does one job to its end; answers whether there was one. For tests. */
  async once(): Promise<boolean> {
    const job = await claim(this.store, this.name);
    if (job) await this.work(job);
    return job !== null;
  }

  private async lane(kinds: readonly string[], outlet?: string): Promise<void> {
    while (this.running) {
      try {
        const job = await claim(this.store, this.name, kinds, outlet);
        if (job) await this.work(job);
        else await this.rest(kinds);
      } catch (e) {
        this.options.log?.('waits after a fault', { error: String(e) });
        await pause(FAULT);
      }
    }
  }
  /** Waits a while, or until there is work: looking costs next to nothing, claiming writes. */
  private async rest(kinds: readonly string[]): Promise<void> {
    for (let left = POLL; left > 0 && this.running; left -= LOOK) {
      await pause(LOOK);
      if (await isQueued(this.store, kinds)) return;
    }
  }
  private async every(milliseconds: number, work: () => Promise<unknown>): Promise<void> {
    while (this.running) {
      await work().catch((e: unknown) => this.options.log?.('fails', { error: String(e) }));
      for (let left = milliseconds; left > 0 && this.running; left -= FOLLOW)
        await pause(Math.min(left, FOLLOW));
    }
  }

  private async work(job: Job): Promise<void> {
    const started = Date.now();
    this.options.log?.('begins', { job: job.id, kind: job.kind });
    let end: JobEnd;
    let folder = '';
    try {
      folder = mkdtempSync(join(tmpdir(), `${JOB_FOLDER}${process.pid}-`));
      end = await this.doIt(job, folder);
      await finish(this.store, job.id, this.name, end);
    } catch (e) {
      this.options.log?.('fails', { job: job.id, error: String(e) });
      end = { state: 'failed', error: sentenceFor(e) };
      await finish(this.store, job.id, this.name, end);
    } finally {
      if (folder) rmSync(folder, { recursive: true, force: true });
    }
    this.options.log?.('ends', { job: job.id, state: end.state, milliseconds: Date.now() - started });
  }

  private doIt(job: Job, folder: string): Promise<JobEnd> {
    const desk: Desk = {
      store: this.store,
      job,
      folder,
      report: (stage, share) => report(this.store, job.id, this.name, stage, share),
      task: (task, limits) => this.task(desk, task, limits),
    };
    if (job.kind === 'read') return readManuscriptJob(desk);
    if (job.kind === 'reread') return readAgain(desk);
    if (job.kind === 'make') return makeEdition(desk);
    if (job.kind === 'attach') return attachFile(desk);
    if (job.kind === 'send' || job.kind === 'withdraw') return sendJob(desk);
    return Promise.resolve({ state: 'failed', error: `Pagina can’t do “${job.kind}” jobs.` });
  }

  private task(desk: Desk, task: Task, asked: Partial<TaskLimits> = {}): Promise<TaskEnd> {
    const { memory = asked.memory ?? MEMORY, time = asked.time ?? 600_000 } = this.options;
    return this.children.run(task, { memory, time }, desk.report);
  }
}

const sentenceFor = (e: unknown): string =>
  isFull(e) ? new DiskFull().message : `Something went wrong: ${(e as Error).message}`;

/** Removes what runners left behind that died in the middle of a job. */
function removeOldFolders(): void {
  for (const name of readdirSync(tmpdir())) {
    const pid = name.startsWith(JOB_FOLDER) ? Number(name.slice(JOB_FOLDER.length).split('-')[0]) : NaN;
    if (Number.isInteger(pid) && !isAlive(pid))
      rmSync(join(tmpdir(), name), { recursive: true, force: true });
  }
}
function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (e) {
    return (e as NodeJS.ErrnoException).code === 'EPERM';
  }
}
