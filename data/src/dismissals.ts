/** What the author has dismissed of what was offered, so that it is not offered again. */
import { and, eq, inArray } from 'drizzle-orm';
import { dismissals } from './schema';
import type { Store } from './open';

export async function dismissalsOf(store: Store, title: string): Promise<string[]> {
  const rows = await store.db
    .select({ key: dismissals.key })
    .from(dismissals)
    .where(eq(dismissals.title, title));
  return rows.map((r) => r.key);
}

export async function dismissOffers(store: Store, title: string, keys: readonly string[]): Promise<void> {
  if (keys.length === 0) return;
  await store.write((tx) =>
    tx
      .insert(dismissals)
      .values(keys.map((key) => ({ title, key })))
      .onConflictDoNothing(),
  );
}

/** Offers them again. */
export async function allowOffers(store: Store, title: string, keys: readonly string[]): Promise<void> {
  if (keys.length === 0) return;
  await store.write((tx) =>
    tx.delete(dismissals).where(and(eq(dismissals.title, title), inArray(dismissals.key, [...keys]))),
  );
}
