/** What has changed since: a number a title, counted by the database itself (see the triggers of migration 0008). */
import { asc, gt } from 'drizzle-orm';
import { pulses } from './schema';
import type { Store } from './open';

/** Titles with a number above `since`, the earliest first. */
export const pulsesSince = (store: Store, since: number): Promise<{ title: string; at: number }[]> =>
  store.db.select().from(pulses).where(gt(pulses.at, since)).orderBy(asc(pulses.at));
