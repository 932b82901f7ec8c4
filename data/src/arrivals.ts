/** How manuscripts were read, kept beside their titles. */
import { eq } from 'drizzle-orm';
import { arrivalSchema, type Arrival } from '@pagina/core/book';
import { arrivals } from './schema';
import type { Store } from './open';

export interface KeptArrival {
  arrival: Arrival;
  /** Milliseconds since 1970; null until the author has accepted what was found. */
  acceptedAt: number | null;
}

/** Null for a title that began blank. */
export async function readArrival(store: Store, title: string): Promise<KeptArrival | null> {
  const [row] = await store.db.select().from(arrivals).where(eq(arrivals.title, title));
  return row ? { arrival: arrivalSchema.parse(JSON.parse(row.arrival)), acceptedAt: row.acceptedAt } : null;
}

export async function acceptArrival(store: Store, title: string): Promise<void> {
  await store.write((tx) =>
    tx.update(arrivals).set({ acceptedAt: Date.now() }).where(eq(arrivals.title, title)),
  );
}

/** Marks what was set aside as put back. Errors: none; an index that is not there marks nothing. */
export async function markPutBack(store: Store, title: string, index: number): Promise<void> {
  await store.write(async (tx) => {
    const [row] = await tx.select().from(arrivals).where(eq(arrivals.title, title));
    if (!row) return;
    const arrival = arrivalSchema.parse(JSON.parse(row.arrival));
    const item = arrival.setAside[index];
    if (!item) return;
    item.back = true;
    await tx
      .update(arrivals)
      .set({ arrival: JSON.stringify(arrival) })
      .where(eq(arrivals.title, title));
  });
}
