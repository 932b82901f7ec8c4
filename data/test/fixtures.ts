/** A store of its own for a test. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { openStore, type Store } from '../src';

export const migrations = resolve('data/drizzle');
export const freshStore = (): Promise<Store> => openStore(mkdtempSync(join(tmpdir(), 'store-')), migrations);
