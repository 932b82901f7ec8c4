/**
 * The database: one libSQL client a process, WAL set when the file is made, one migrator under a lock.
 * `DATABASE_URL` may name another libSQL server; see the README for what of that is untested.
 */
import { mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { createClient, type Client } from '@libsql/client';
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql';
import { migrate } from 'drizzle-orm/libsql/migrator';
import * as tables from './schema';

export type Database = LibSQLDatabase<typeof tables>;
export type Tx = Parameters<Parameters<Database['transaction']>[0]>[0];

export interface Store {
  /** For reading only: whatever writes goes through `write`. */
  db: Database;
  /**
   * An IMMEDIATE transaction, one at a time in a process. The client waits for a lock without letting go of the thread,
   * so two writers of one process would wait for each other until the time is up.
   */
  write<T>(work: (tx: Tx) => Promise<T>): Promise<T>;
  client: Client;
  /** Folder of the database and the files beside it. */
  folder: string;
}

/** Waiting for another process's write, in milliseconds. */
const BUSY = 5_000;

/** Opens the store in a folder and brings its tables up to date. `migrations` is the folder of the migration files. */
export async function openStore(folder: string, migrations: string): Promise<Store> {
  const where = resolve(folder);
  mkdirSync(join(where, 'files'), { recursive: true });
  const url = process.env.DATABASE_URL ?? `file:${join(where, 'pagina.db')}`;
  const client = createClient({ url, timeout: BUSY });
  if (url.startsWith('file:')) {
    mkdirSync(dirname(url.slice(5)), { recursive: true });
    await client.execute('PRAGMA journal_mode = WAL');
  }
  const db = drizzle(client, { schema: tables });
  await underLock(client, () => migrate(db, { migrationsFolder: migrations }));
  let last: Promise<unknown> = Promise.resolve();
  const write = <T>(work: (tx: Tx) => Promise<T>): Promise<T> => {
    const mine = last.then(() => db.transaction(work, { behavior: 'immediate' }));
    last = mine.catch(() => undefined);
    return mine;
  };
  return { db, client, folder: where, write };
}

/** Two processes that start together must not both migrate: the second waits for the first's row to go. */
async function underLock(client: Client, work: () => Promise<void>): Promise<void> {
  await client.execute(
    'CREATE TABLE IF NOT EXISTS migrating (only INTEGER PRIMARY KEY CHECK (only = 1), since INTEGER NOT NULL)',
  );
  for (let tries = 0; ; tries++) {
    const now = Date.now();
    await client.execute({ sql: 'DELETE FROM migrating WHERE since < ?', args: [now - 60_000] });
    const got = await client.execute({ sql: 'INSERT OR IGNORE INTO migrating VALUES (1, ?)', args: [now] });
    if (got.rowsAffected === 1) break;
    if (tries > 600) throw new Error('another process has been preparing the database for a minute');
    await new Promise((r) => setTimeout(r, 100));
  }
  try {
    await work();
  } finally {
    await client.execute('DELETE FROM migrating');
  }
}
