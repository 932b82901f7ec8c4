/** What outlets did with all titles, newest first, and when somebody last looked. */
import { and, desc, eq, gt, isNull, ne, count } from 'drizzle-orm';
import type { ListingState } from '@pagina/core/outlets';
import { imprintOf } from './imprint';
import { listingEvents, listings, titles } from './schema';
import type { Store } from './open';

export interface NewsRow {
  id: string;
  /** Milliseconds since 1970. */
  at: number;
  title: string;
  /** Of the book. */
  name: string;
  outlet: string;
  state: ListingState;
  words: string;
}

const MOST = 300;
/** What the author did is no news to them. */
const told = and(ne(listingEvents.state, 'waiting'), isNull(titles.deletedAt));

export async function newsOf(store: Store): Promise<NewsRow[]> {
  const rows = await store.db
    .select({ event: listingEvents, title: titles.id, meta: titles.meta, outlet: listings.outlet })
    .from(listingEvents)
    .innerJoin(listings, eq(listings.id, listingEvents.listing))
    .innerJoin(titles, eq(titles.id, listings.title))
    .where(told)
    .orderBy(desc(listingEvents.at))
    .limit(MOST);
  return rows.map(({ event, title, meta, outlet }) => ({
    id: event.id,
    at: event.at,
    title,
    name: (JSON.parse(meta) as { record?: { title?: string } }).record?.title ?? '',
    outlet,
    state: event.state as ListingState,
    words: event.words,
  }));
}

/** How many of them came since somebody last looked. */
export async function freshNews(store: Store): Promise<number> {
  const { seenAt } = await imprintOf(store);
  const [row] = await store.db
    .select({ n: count() })
    .from(listingEvents)
    .innerJoin(listings, eq(listings.id, listingEvents.listing))
    .innerJoin(titles, eq(titles.id, listings.title))
    .where(and(told, gt(listingEvents.at, seenAt)));
  return row?.n ?? 0;
}
