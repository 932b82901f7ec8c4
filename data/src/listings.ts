/** Where a title stands in its outlets, and the log of what went and what came back. */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, inArray, isNull, ne, notInArray, or } from 'drizzle-orm';
import { placingAt } from '@pagina/core/book';
import {
  editionAt,
  foundSchema,
  NOTHING_FOUND,
  outletNamed,
  type Found,
  type ListingState,
  type News,
  type ToldFields,
} from '@pagina/core/outlets';
import { bareIsbn } from '@pagina/core/record';
import { listedAsSchema, type ListedAs } from '@pagina/core/trade';
import { deliveries, listingEvents, listings, products, titles } from './schema';
import type { Database, Store, Tx } from './open';
import { readTitleBare } from './titles';

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
  /** Checksum of what else was in that parcel; '' for a file that came alone. */
  beside: string;
  /** How many parcels it took. */
  deliveries: number;
  /** What the outlet lists; null before it was told anything. */
  listed: ListedAs | null;
  /** What it was told last, by field; null where that wasn't noted. */
  told: ToldFields | null;
  /** What it found beside what happened. */
  found: Found;
  changedAt: number;
  events: ListingEvent[];
}

/**
 * The listing of an edition at an outlet, begun where there is none, with the file that it is to have. `fresh` says whether
 * that file, or what goes beside it, has yet to go; a file made again with the same bytes is the same file.
 */
export function openListing(
  store: Store,
  { beside = '', ...l }: { title: string; outlet: string; edition: string; product: string; beside?: string },
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
    const last = (await deliveriesTo(tx, id)).at(-1);
    if (file && last?.sha256 === file.sha256 && last.beside === beside && known.state !== 'withdrawn') {
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

/** A parcel that an outlet took. */
export interface Delivered {
  /** From 0: noting one twice makes no two of it. */
  number: number;
  product: string;
  /** SHA-256 of the file that is listed. */
  sha256: string;
  beside: string;
  reference: string;
  words: string;
  listed: ListedAs;
  told: ToldFields;
}
/** What an outlet was told beside its files, and whether it looks at the book again. */
export interface Revised {
  words: string;
  listed: ListedAs;
  told: ToldFields;
  again: boolean;
}

/** Notes that an outlet has a file, and what it lists since. */
export function deliveredTo(store: Store, id: string, d: Delivered): Promise<void> {
  return store.write(async (tx) => {
    const now = Date.now();
    const { number, product, sha256, beside, reference, words } = d;
    const file = { product, sha256, beside };
    await tx
      .insert(deliveries)
      .values({ listing: id, number, ...file, at: now })
      .onConflictDoUpdate({ target: [deliveries.listing, deliveries.number], set: file });
    const [listed, told] = [JSON.stringify(d.listed), JSON.stringify(d.told)];
    await tx
      .update(listings)
      .set({ reference, listed, told, state: 'received', changedAt: now })
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
    beside: taken.at(-1)?.beside ?? '',
    deliveries: (taken.at(-1)?.number ?? -1) + 1,
    state: r.state as ListingState,
    listed: listedFrom(r.listed),
    told: r.told === '' ? null : (JSON.parse(r.told) as ToldFields),
    found: foundIn(r.found),
    events: events.map((e) => ({ at: e.at, state: e.state as ListingState, words: e.words })),
  };
}

function listedFrom(json: string): ListedAs | null {
  const parsed = json === '' ? null : listedAsSchema.safeParse(JSON.parse(json));
  return parsed?.success ? parsed.data : null;
}

function foundIn(json: string): Found {
  const parsed = json === '' ? null : foundSchema.safeParse(JSON.parse(json));
  return parsed?.success ? parsed.data : NOTHING_FOUND;
}

/** States in which little happens any more. */
const SETTLED: ListingState[] = ['held', 'pre-order', 'on sale', 'withdrawn'];
/** Listings that an outlet may have news of: those on their way or whose news are wanted, or those that have settled. */
export async function openListings(
  store: Store,
  outlet: string,
  which: 'moving' | 'settled' = 'moving',
): Promise<Listing[]> {
  const rows = await store.db
    .select()
    .from(listings)
    .where(
      and(
        eq(listings.outlet, outlet),
        which === 'settled'
          ? inArray(listings.state, SETTLED)
          : or(notInArray(listings.state, ['waiting', ...SETTLED]), eq(listings.wanted, true)),
      ),
    );
  return Promise.all(rows.map((r) => withEvents(store, r)));
}

/**
 * Takes over what an outlet says has happened, from the beginning: what the log has already, as often as it happened, is not
 * written again. What was asked before something else happened to the listing (`since`, its `changedAt`) is passed over.
 */
export function tellListing(
  store: Store,
  id: string,
  { events: news, link, listed, found }: News,
  since?: number,
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
    const next = {
      // A book that was taken from sale has no address any more.
      link: last?.state === 'withdrawn' ? '' : link || row.link,
      state: last?.state ?? row.state,
      listed: listed ? JSON.stringify(listed) : row.listed,
      found: JSON.stringify(found),
    };
    const same = (Object.keys(next) as (keyof typeof next)[]).every((k) => next[k] === row[k]);
    if (fresh.length === 0 && same) return;
    await tx
      .update(listings)
      .set({ ...next, changedAt: at })
      .where(eq(listings.id, id));
  });
}

/** Notes that an outlet is being told something: until it has answered, what it was told last is unknown. */
export function tellingListing(store: Store, id: string): Promise<void> {
  return store.write(async (tx) => {
    await tx.update(listings).set({ told: '{}' }).where(eq(listings.id, id));
  });
}

/** Notes that an outlet was told what is listed from now on; with `again`, that it looks at the book again. */
export function revisedAt(store: Store, id: string, { words, listed, told, again }: Revised): Promise<void> {
  return store.write(async (tx) => {
    const now = Date.now();
    const [row] = await tx.select().from(listings).where(eq(listings.id, id));
    if (!row) return;
    const state = again ? 'received' : row.state;
    await tx
      .update(listings)
      .set({ listed: JSON.stringify(listed), told: JSON.stringify(told), state, changedAt: now })
      .where(eq(listings.id, id));
    await tx.insert(listingEvents).values({ id: randomUUID(), listing: id, at: now, state, words });
  });
}

/** Addresses of books at an outlet, by their thirteen digits: as it gave them, or as they were entered by hand. */
export async function linksAt(store: Store, id: string): Promise<Record<string, string>> {
  const outlet = outletNamed(id);
  const [rows, there] = await Promise.all([
    store.db.select({ id: titles.id }).from(titles).where(isNull(titles.deletedAt)),
    store.db
      .select({ title: listings.title, edition: listings.edition, link: listings.link })
      .from(listings)
      .where(and(eq(listings.outlet, id), ne(listings.link, ''))),
  ]);
  const links: Record<string, string> = {};
  for (const { id: title } of rows) {
    const book = (await readTitleBare(store, title))?.book;
    if (!book || !outlet) continue;
    const byHand = placingAt(book, id).link;
    const meant = editionAt(outlet, book)?.id;
    for (const e of book.editions) {
      const isbn = bareIsbn(e.isbn);
      const link =
        there.find((l) => l.title === title && l.edition === e.id)?.link ?? (e.id === meant ? byHand : '');
      if (isbn && link) links[isbn] = link;
    }
  }
  return links;
}

/** Wishes for news of whatever an outlet has, or all of them have, as soon as may be. */
export function wantNews(store: Store, outlet?: string): Promise<void> {
  return store.write(async (tx) => {
    const there = ne(listings.reference, '');
    await tx
      .update(listings)
      .set({ wanted: true })
      .where(outlet === undefined ? there : and(there, eq(listings.outlet, outlet)));
  });
}
/** Notes that an outlet is being asked. */
export async function newsAsked(store: Store, id: string): Promise<void> {
  const wanted = and(eq(listings.id, id), eq(listings.wanted, true));
  const [row] = await store.db.select({ id: listings.id }).from(listings).where(wanted);
  if (row) await store.write((tx) => tx.update(listings).set({ wanted: false }).where(wanted));
}

/** Notes that an outlet took a book from sale because the author wished so. */
export function withdrawnFrom(store: Store, id: string, words: string): Promise<void> {
  return store.write(async (tx) => {
    const now = Date.now();
    const state = 'withdrawn';
    const [row] = await tx.select().from(listings).where(eq(listings.id, id));
    if (!row || row.state === state) return;
    await tx.update(listings).set({ state, link: '', changedAt: now }).where(eq(listings.id, id));
    await tx.insert(listingEvents).values({ id: randomUUID(), listing: id, at: now, state, words });
  });
}
