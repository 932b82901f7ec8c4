/** Files made of editions, with what the checks said of them. */
import { and, desc, eq, isNull, lte, max, or, sql } from 'drizzle-orm';
import type { Finding } from '@pagina/core/base';
import { fitSchema, type Fit } from '@pagina/core/trade';
import { changes, deliveries, listings, products, signOffs, titles } from './schema';
import type { Store, Tx } from './open';

export interface Product {
  id: string;
  title: string;
  edition: string;
  name: string;
  sha256: string;
  size: number;
  /** The revision of the book that it was made of, and the newest one whose file it still is. */
  revision: number;
  upTo: number;
  pages: number;
  findings: Finding[];
  /** SHA-256 of its impression; '' where none was taken. */
  impression: string;
  /** What of the edition a file that others made was checked against; null for one that Pagina made. */
  fit: Fit | null;
  madeAt: number;
  /** When it was signed off, in milliseconds since 1970; null where it wasn’t. */
  signedOffAt: number | null;
  /** Outlets that were sent a file with these bytes. */
  sentTo: string[];
}

/** Adds a file within a transaction. */
export async function insertProduct(
  tx: Tx,
  id: string,
  p: Omit<Product, 'id' | 'madeAt' | 'upTo' | 'sentTo' | 'signedOffAt' | 'impression' | 'fit'> & {
    impression?: string;
    fit?: Fit;
  },
): Promise<void> {
  await tx.insert(products).values({
    ...p,
    id,
    madeAt: Date.now(),
    findings: JSON.stringify(p.findings),
    fit: p.fit ? JSON.stringify(p.fit) : '',
  });
}

/** Files of one edition that are told of: the newest, and those before it. */
const TOLD = 12;

/** Newest first, of every edition as many as are told of, and those that were signed off or sent. */
export async function productsOf(store: Store, title: string): Promise<Product[]> {
  const newest = store.db
    .select({
      id: products.id,
      place:
        sql<number>`row_number() over (partition by ${products.edition} order by ${products.madeAt} desc)`.as(
          'place',
        ),
    })
    .from(products)
    .where(eq(products.title, title))
    .as('newest');
  const [rows, sent, signed, reached] = await Promise.all([
    store.db
      .select({ product: products })
      .from(products)
      .innerJoin(newest, eq(newest.id, products.id))
      .where(
        or(
          lte(newest.place, TOLD),
          sql`${products.id} in (select product from ${signOffs} where withdrawn_at is null union select product from ${listings} union select product from ${deliveries})`,
        ),
      )
      .orderBy(desc(products.madeAt)),
    store.db
      .select({ sha256: deliveries.sha256, outlet: listings.outlet })
      .from(deliveries)
      .innerJoin(listings, eq(listings.id, deliveries.listing))
      .where(eq(listings.title, title)),
    store.db
      .select({ sha256: signOffs.sha256, edition: signOffs.edition, at: signOffs.at })
      .from(signOffs)
      .where(and(eq(signOffs.title, title), isNull(signOffs.withdrawnAt)))
      .orderBy(desc(signOffs.at)),
    reachedBy(store, title),
  ]);
  return rows.map(({ product: p }) => ({
    ...p,
    upTo: p.revision >= reached.shown ? Math.max(p.revision, reached.newest) : p.revision,
    findings: JSON.parse(p.findings) as Finding[],
    fit: p.fit === '' ? null : fitSchema.parse(JSON.parse(p.fit)),
    // A file made again with the same bytes is the file that was signed off.
    signedOffAt: signed.find((s) => s.sha256 === p.sha256 && s.edition === p.edition)?.at ?? null,
    sentTo: [...new Set(sent.filter((l) => l.sha256 === p.sha256).map((l) => l.outlet))],
  }));
}

/** The newest revision of a title, and the newest that changed what its files show. */
async function reachedBy(store: Store, title: string): Promise<{ newest: number; shown: number }> {
  const [[row], [log]] = await Promise.all([
    store.db.select({ revision: titles.revision }).from(titles).where(eq(titles.id, title)),
    store.db
      .select({ shown: max(changes.revision) })
      .from(changes)
      .where(and(eq(changes.title, title), eq(changes.beside, false))),
  ]);
  return { newest: row?.revision ?? 0, shown: log?.shown ?? 0 };
}

/** Files of that kind are no longer the title’s. Their bytes go when nothing else has them. */
export function forgetProducts(store: Store, title: string, edition: string): Promise<void> {
  return store.write(async (tx) => {
    await tx.delete(products).where(and(eq(products.title, title), eq(products.edition, edition)));
  });
}
