/** Files made of editions, with what the checks said of them. */
import { desc, eq, lte, sql } from 'drizzle-orm';
import type { Finding } from '@pagina/core/base';
import { listings, products } from './schema';
import type { Store, Tx } from './open';

export interface Product {
  id: string;
  title: string;
  edition: string;
  name: string;
  sha256: string;
  size: number;
  revision: number;
  pages: number;
  findings: Finding[];
  madeAt: number;
  /** Outlets that were sent a file with these bytes. */
  sentTo: string[];
}

/** Adds a file within a transaction. */
export async function insertProduct(
  tx: Tx,
  id: string,
  p: Omit<Product, 'id' | 'madeAt' | 'sentTo'>,
): Promise<void> {
  await tx.insert(products).values({ ...p, id, madeAt: Date.now(), findings: JSON.stringify(p.findings) });
}

/** Files of one edition that are told of: the newest, and those before it. */
const TOLD = 12;

/** Newest first, of every edition as many as are told of. */
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
  const [rows, sent] = await Promise.all([
    store.db
      .select({ product: products })
      .from(products)
      .innerJoin(newest, eq(newest.id, products.id))
      .where(lte(newest.place, TOLD))
      .orderBy(desc(products.madeAt)),
    store.db
      .select({ sha256: products.sha256, outlet: listings.outlet })
      .from(listings)
      .innerJoin(products, eq(products.id, listings.product))
      .where(eq(listings.title, title)),
  ]);
  return rows.map(({ product: p }) => ({
    ...p,
    findings: JSON.parse(p.findings) as Finding[],
    sentTo: [...new Set(sent.filter((l) => l.sha256 === p.sha256).map((l) => l.outlet))],
  }));
}
