/** Where a title stands in its outlets, and the log of what went and what came back. */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, notInArray } from 'drizzle-orm';
import { listedAsSchema, type ListedAs } from '@pagina/core/trade';
import { deliveries, listingEvents, listings, products } from './schema';
import type { Database, Store, Tx } from './open';

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
  /** SHA-256 of the file that the outlet has; '' for none. */
  delivered: string;
  /** How many files it took. */
  deliveries: number;
  /** What the outlet lists; null before it was told anything. */
  listed: ListedAs | null;
  changedAt: number;
  events: ListingEvent[];
}

/**
 * The listing of an edition at an outlet, begun where there is none, with the file that it is to have. `fresh` says whether
 * that file has yet to go; a file made again with the same bytes is the same file.
 */
export function openListing(
  store: Store,
  l: { title: string; outlet: string; edition: string; product: string },
): Promise<{ id: string; fresh: boolean }> {
  return store.write(async (tx) => {
    const [file] = await tx.select().from(products).where(eq(products.id, l.product));
    const [known] = await tx
      .select()
      .from(listings)
      .where(and(eq(listings.title, l.title), eq(listings.outlet, l.outlet), eq(listings.edition, l.edition)))
      .orderBy(desc(listings.changedAt));
    const now = Date.now();
    const tell = (listing: string, words: string): Promise<unknown> =>
      tx.insert(listingEvents).values({ id: randomUUID(), listing, at: now, state: 'waiting', words });
    if (!known) {
      const id = randomUUID();
      await tx.insert(listings).values({ ...l, id, state: 'waiting', changedAt: now });
      await tell(id, 'Waits to be sent.');
      return { id, fresh: true };
    }
    const { id } = known;
    if (file && (await deliveriesTo(tx, id)).at(-1)?.sha256 === file.sha256) {
      // Another may have been meant to follow, and not arrived.
      if (known.product !== l.product)
        await tx.update(listings).set({ product: l.product, changedAt: now }).where(eq(listings.id, id));
      return { id, fresh: false };
    }
    if (known.product !== l.product || known.state !== 'waiting') {
      await tx.update(listings).set({ product: l.product, changedAt: now }).where(eq(listings.id, id));
      await tell(id, `${file?.name ?? 'A new file'} waits to be sent.`);
    }
    return { id, fresh: true };
  });
}

/** Notes that an outlet has a file, and what it lists since. */
export function deliveredTo(
  store: Store,
  id: string,
  d: { product: string; sha256: string; reference: string; words: string; listed: ListedAs },
): Promise<void> {
  return store.write(async (tx) => {
    const now = Date.now();
    const { product, sha256, reference, words } = d;
    const number = ((await deliveriesTo(tx, id)).at(-1)?.number ?? -1) + 1;
    await tx.insert(deliveries).values({ listing: id, number, product, sha256, at: now });
    const listed = JSON.stringify(d.listed);
    await tx
      .update(listings)
      .set({ reference, listed, state: 'received', changedAt: now })
      .where(eq(listings.id, id));
    const state = 'received';
    const same = and(
      eq(listingEvents.listing, id),
      eq(listingEvents.state, state),
      eq(listingEvents.words, words),
    );
    const known = await tx.select({ id: listingEvents.id }).from(listingEvents).where(same);
    if (known.length === 0)
      await tx.insert(listingEvents).values({ id: randomUUID(), listing: id, at: now, state, words });
  });
}

const deliveriesTo = (db: Database | Tx, listing: string): Promise<(typeof deliveries.$inferSelect)[]> =>
  db.select().from(deliveries).where(eq(deliveries.listing, listing)).orderBy(asc(deliveries.number));

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
  const taken = await deliveriesTo(store.db, r.id);
  return {
    ...r,
    delivered: taken.at(-1)?.sha256 ?? '',
    deliveries: (taken.at(-1)?.number ?? -1) + 1,
    state: r.state as ListingState,
    listed: listedFrom(r.listed),
    events: events.map((e) => ({ at: e.at, state: e.state as ListingState, words: e.words })),
  };
}

function listedFrom(json: string): ListedAs | null {
  const parsed = json === '' ? null : listedAsSchema.safeParse(JSON.parse(json));
  return parsed?.success ? parsed.data : null;
}

/** Listings that an outlet may still have news of. */
export async function openListings(store: Store, outlet: string): Promise<Listing[]> {
  const rows = await store.db
    .select()
    .from(listings)
    .where(and(eq(listings.outlet, outlet), notInArray(listings.state, ['waiting', 'held', 'on sale'])));
  return Promise.all(rows.map((r) => withEvents(store, r)));
}

/**
 * Takes over what an outlet says has happened, from the beginning: what the log has already, as often as it happened, is not
 * written again. What was asked before something else happened to the listing (`since`, its `changedAt`) is passed over.
 */
export function tellListing(
  store: Store,
  id: string,
  news: readonly { state: ListingState; words: string }[],
  { since, listed, ...more }: { since?: number; link?: string; listed?: ListedAs } = {},
): Promise<void> {
  return store.write(async (tx) => {
    const [row] = await tx.select().from(listings).where(eq(listings.id, id));
    if (!row || (since !== undefined && row.changedAt !== since)) return;
    const known = await tx.select().from(listingEvents).where(eq(listingEvents.listing, id));
    const fresh = news.filter((n) => {
      const at = known.findIndex((k) => k.state === n.state && k.words === n.words);
      if (at >= 0) known.splice(at, 1);
      return at < 0;
    });
    let at = Date.now();
    for (const n of fresh)
      await tx.insert(listingEvents).values({ id: randomUUID(), listing: id, at: at++, ...n });
    const last = news.at(-1);
    if (fresh.length === 0 && !more.link && !listed) return;
    const state = last ? { state: last.state } : {};
    await tx
      .update(listings)
      .set({ ...more, ...state, ...(listed ? { listed: JSON.stringify(listed) } : {}), changedAt: at })
      .where(eq(listings.id, id));
  });
}

/** Notes that an outlet was told what is listed from now on; with `again`, that it looks at the book again. */
export function revisedAt(
  store: Store,
  id: string,
  { words, listed, again }: { words: string; listed: ListedAs; again: boolean },
): Promise<void> {
  return store.write(async (tx) => {
    const now = Date.now();
    const [row] = await tx.select().from(listings).where(eq(listings.id, id));
    if (!row) return;
    const state = again ? 'received' : row.state;
    await tx
      .update(listings)
      .set({ listed: JSON.stringify(listed), state, changedAt: now })
      .where(eq(listings.id, id));
    await tx.insert(listingEvents).values({ id: randomUUID(), listing: id, at: now, state, words });
  });
}
