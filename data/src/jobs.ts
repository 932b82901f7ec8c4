/** The queue: a job is claimed under a lease that its worker renews; a worker that dies loses the lease, not the job. */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, inArray, lt, or, sql } from 'drizzle-orm';
import { jobs, listings } from './schema';
import type { Store, Tx } from './open';

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'stopped';
export interface Job {
  id: string;
  kind: string;
  title: string | null;
  payload: unknown;
  state: JobState;
  attempts: number;
  stage: string;
  /** 0 to 1. */
  share: number;
  stop: boolean;
  result: unknown;
  error: string | null;
  createdAt: number;
  changedAt: number;
}
const LEASE = 15_000;
const MOST_ATTEMPTS = 3;
export const KINDS = ['read', 'reread', 'make', 'attach', 'send', 'withdraw'] as const;

const fromRow = (r: typeof jobs.$inferSelect): Job => ({
  id: r.id,
  kind: r.kind,
  title: r.title,
  payload: JSON.parse(r.payload) as unknown,
  state: r.state as JobState,
  attempts: r.attempts,
  stage: r.stage,
  share: r.share / 1000,
  stop: r.stop === 1,
  result: r.result ? (JSON.parse(r.result) as unknown) : null,
  error: r.error,
  createdAt: r.createdAt,
  changedAt: r.changedAt,
});

export async function enqueue(
  store: Store,
  kind: string,
  payload: unknown,
  title: string | null = null,
  actor?: string,
): Promise<string> {
  const id = randomUUID();
  const now = Date.now();
  await store.write((tx) =>
    tx.insert(jobs).values({
      id,
      kind,
      title,
      actor,
      payload: JSON.stringify(payload),
      state: 'queued',
      createdAt: now,
      changedAt: now,
    }),
  );
  return id;
}

/** Whether a job of these kinds waits to be claimed. It only reads, so it may be asked often. */
export async function isQueued(store: Store, kinds: readonly string[]): Promise<boolean> {
  const found = await store.db
    .select({ id: jobs.id })
    .from(jobs)
    .where(and(inArray(jobs.kind, [...kinds]), eq(jobs.state, 'queued')))
    .limit(1);
  return found.length > 0;
}

/**
 * Takes the oldest job of these kinds, or of these for one outlet, that waits or whose worker has died; null when there is
 * none.
 */
export function claim(
  store: Store,
  worker: string,
  kinds: readonly string[] = KINDS,
  outlet?: string,
): Promise<Job | null> {
  return store.write(async (tx) => {
    const now = Date.now();
    const at = (name: string) =>
      tx.select({ id: listings.id }).from(listings).where(eq(listings.outlet, name));
    const [row] = await tx
      .select()
      .from(jobs)
      .where(
        and(
          inArray(jobs.kind, [...kinds]),
          outlet === undefined
            ? undefined
            : inArray(sql`json_extract(${jobs.payload}, '$.listing')`, at(outlet)),
          or(eq(jobs.state, 'queued'), and(eq(jobs.state, 'running'), lt(jobs.leaseUntil, now))),
        ),
      )
      .orderBy(asc(jobs.createdAt))
      .limit(1);
    if (!row) return null;
    if (row.attempts >= MOST_ATTEMPTS) {
      await tx
        .update(jobs)
        .set({
          state: 'failed',
          error: 'Pagina stopped unexpectedly all three times it tried this.',
          changedAt: now,
        })
        .where(eq(jobs.id, row.id));
      return null;
    }
    const claimed = {
      state: 'running',
      worker,
      attempts: row.attempts + 1,
      leaseUntil: now + LEASE,
      changedAt: now,
    };
    await tx.update(jobs).set(claimed).where(eq(jobs.id, row.id));
    return fromRow({ ...row, ...claimed });
  });
}

/** Tells how far a job is and renews its lease. Answers false when somebody asked to stop or the lease is another's. */
export async function report(
  store: Store,
  id: string,
  worker: string,
  stage: string,
  share: number,
): Promise<boolean> {
  const now = Date.now();
  await store.write((tx) =>
    tx
      .update(jobs)
      .set({ stage, share: Math.round(share * 1000), leaseUntil: now + LEASE, changedAt: now })
      .where(and(eq(jobs.id, id), eq(jobs.worker, worker))),
  );
  const [row] = await store.db.select().from(jobs).where(eq(jobs.id, id));
  return row?.worker === worker && row.stop === 0;
}

export interface JobEnd {
  state: 'done' | 'failed' | 'stopped';
  result?: unknown;
  error?: string;
  /** What the job makes in the database, in the transaction that ends it: both happen or neither. */
  also?: (tx: Tx) => Promise<unknown>;
}

/** Ends a job that is still the worker's; another's is left alone. */
export async function finish(store: Store, id: string, worker: string, end: JobEnd): Promise<void> {
  const set = {
    state: end.state,
    result: end.result === undefined ? null : JSON.stringify(end.result),
    error: end.error ?? null,
    share: 1000,
    changedAt: Date.now(),
  };
  await store.write(async (tx) => {
    const own = and(eq(jobs.id, id), eq(jobs.worker, worker));
    if ((await tx.update(jobs).set(set).where(own)).rowsAffected > 0) await end.also?.(tx);
  });
}

/** Asks a running job to stop; a waiting one is stopped at once. */
export async function stopJob(store: Store, id: string): Promise<void> {
  const now = Date.now();
  await store.write(async (tx) => {
    await tx
      .update(jobs)
      .set({ state: 'stopped', changedAt: now })
      .where(and(eq(jobs.id, id), eq(jobs.state, 'queued')));
    await tx
      .update(jobs)
      .set({ stop: 1, changedAt: now })
      .where(and(eq(jobs.id, id), eq(jobs.state, 'running')));
  });
}

export async function readJob(store: Store, id: string): Promise<Job | null> {
  const [row] = await store.db.select().from(jobs).where(eq(jobs.id, id));
  return row ? fromRow(row) : null;
}
export async function jobsOf(store: Store, title: string): Promise<Job[]> {
  return (
    await store.db.select().from(jobs).where(eq(jobs.title, title)).orderBy(desc(jobs.createdAt)).limit(20)
  ).map(fromRow);
}
export async function activeJobs(store: Store): Promise<Job[]> {
  return (
    await store.db
      .select()
      .from(jobs)
      .where(inArray(jobs.state, ['queued', 'running']))
      .orderBy(asc(jobs.createdAt))
  ).map(fromRow);
}
