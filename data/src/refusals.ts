/** What the author has refused of what was offered, so that it is not offered again. */
import { and, eq, inArray } from 'drizzle-orm';
import { refusals } from './schema';
import type { Store } from './open';

export async function refusalsOf(store: Store, title: string): Promise<string[]> {
  const rows = await store.db.select({ key: refusals.key }).from(refusals).where(eq(refusals.title, title));
  return rows.map((r) => r.key);
}

export async function refuseOffers(store: Store, title: string, keys: readonly string[]): Promise<void> {
  if (keys.length === 0) return;
  await store.write((tx) =>
    tx
      .insert(refusals)
      .values(keys.map((key) => ({ title, key })))
      .onConflictDoNothing(),
  );
}

/** Offers them again. */
export async function allowOffers(store: Store, title: string, keys: readonly string[]): Promise<void> {
  if (keys.length === 0) return;
  await store.write((tx) =>
    tx.delete(refusals).where(and(eq(refusals.title, title), inArray(refusals.key, [...keys]))),
  );
}
