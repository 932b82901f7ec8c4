/** Where a title stands in its outlets, and the log of what went and what came back. */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, notInArray } from 'drizzle-orm';
import { listingEvents, listings, products } from './schema';
import type { Store } from './open';

export type ListingState = 'waiting' | 'received' | 'with the shop' | 'held' | 'on sale';
export interface ListingEvent {
  at: number;
  state: ListingState;
  words: string;
}
export interface Listing {
  id: string;
  title: string;
  outlet: string;
  edition: string;
  product: string;
  state: ListingState;
  reference: string;
  link: string;
  changedAt: number;
  events: ListingEvent[];
}

/**
 * Begins a listing for a file, or answers the one that this file has in that outlet already: nothing is sent twice. A
 * file made again with the same bytes is the same file.
 */
export function openListing(
  store: Store,
  l: { title: string; outlet: string; edition: string; product: string },
): Promise<{ id: string; fresh: boolean }> {
  return store.write(async (tx) => {
    const [file] = await tx.select().from(products).where(eq(products.id, l.product));
    const [known] = await tx
      .select({ id: listings.id })
      .from(listings)
      .innerJoin(products, eq(products.id, listings.product))
      .where(
        and(
          eq(listings.title, l.title),
          eq(listings.outlet, l.outlet),
          eq(products.sha256, file?.sha256 ?? ''),
        ),
      );
    if (known) return { id: known.id, fresh: false };
    const id = randomUUID();
    const now = Date.now();
    await tx.insert(listings).values({ ...l, id, state: 'waiting', changedAt: now });
    await tx
      .insert(listingEvents)
      .values({ id: randomUUID(), listing: id, at: now, state: 'waiting', words: 'Waits to be sent.' });
    return { id, fresh: true };
  });
}

/** Newest first, each with its events in order. */
export async function listingsOf(store: Store, title: string): Promise<Listing[]> {
  const rows = await store.db
    .select()
    .from(listings)
    .where(eq(listings.title, title))
    .orderBy(desc(listings.changedAt));
  return Promise.all(rows.map((r) => withEvents(store, r)));
}
export async function readListing(store: Store, id: string): Promise<Listing | null> {
  const [row] = await store.db.select().from(listings).where(eq(listings.id, id));
  return row ? withEvents(store, row) : null;
}
async function withEvents(store: Store, r: typeof listings.$inferSelect): Promise<Listing> {
  const events = await store.db
    .select()
    .from(listingEvents)
    .where(eq(listingEvents.listing, r.id))
    .orderBy(asc(listingEvents.at));
  return {
    ...r,
    state: r.state as ListingState,
    events: events.map((e) => ({ at: e.at, state: e.state as ListingState, words: e.words })),
  };
}

/** Listings that an outlet may still have news of. */
export async function openListings(store: Store, outlet: string): Promise<Listing[]> {
  const rows = await store.db
    .select()
    .from(listings)
    .where(and(eq(listings.outlet, outlet), notInArray(listings.state, ['waiting', 'held', 'on sale'])));
  return Promise.all(rows.map((r) => withEvents(store, r)));
}

/** Adds what is new: a state that the log already has with the same words is not written again. */
export function tellListing(
  store: Store,
  id: string,
  news: readonly { state: ListingState; words: string }[],
  more: { reference?: string; link?: string } = {},
): Promise<void> {
  return store.write(async (tx) => {
    const known = await tx.select().from(listingEvents).where(eq(listingEvents.listing, id));
    const fresh = news.filter((n) => !known.some((k) => k.state === n.state && k.words === n.words));
    let at = Date.now();
    for (const n of fresh)
      await tx.insert(listingEvents).values({ id: randomUUID(), listing: id, at: at++, ...n });
    const last = news.at(-1);
    if (fresh.length > 0 || more.reference || more.link)
      await tx
        .update(listings)
        .set({ ...more, ...(last ? { state: last.state } : {}), changedAt: Date.now() })
        .where(eq(listings.id, id));
  });
}
