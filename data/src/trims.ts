/** Trims of the imprint's own, kept under a name for all its titles. */
import { asc, eq } from 'drizzle-orm';
import { trims } from './schema';
import type { Store } from './open';

export interface NamedTrim {
  name: string;
  /** As an edition says it: "140 × 210 mm". */
  size: string;
}

export async function namedTrims(store: Store): Promise<NamedTrim[]> {
  const rows = await store.db.select().from(trims).orderBy(asc(trims.name));
  return rows.map(({ name, size }) => ({ name, size }));
}

/** A trim of the same name is replaced. Editions say the size and not the name: they stay as they are. */
export async function nameTrim(store: Store, { name, size }: NamedTrim): Promise<void> {
  await store.write((tx) =>
    tx.insert(trims).values({ name, size }).onConflictDoUpdate({ target: trims.name, set: { size } }),
  );
}

export async function forgetTrim(store: Store, name: string): Promise<void> {
  await store.write((tx) => tx.delete(trims).where(eq(trims.name, name)));
}
