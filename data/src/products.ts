/** Files made of editions, with what the checks said of them. */
import { desc, eq } from 'drizzle-orm';
import type { Finding } from '@pagina/core/base';
import { products } from './schema';
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
}

/** Adds a file within a transaction. */
export async function insertProduct(tx: Tx, id: string, p: Omit<Product, 'id' | 'madeAt'>): Promise<void> {
  await tx.insert(products).values({ ...p, id, madeAt: Date.now(), findings: JSON.stringify(p.findings) });
}

/** Newest first. */
export async function productsOf(store: Store, title: string): Promise<Product[]> {
  const rows = await store.db
    .select()
    .from(products)
    .where(eq(products.title, title))
    .orderBy(desc(products.madeAt))
    .limit(100);
  return rows.map((r) => ({ ...r, findings: JSON.parse(r.findings) as Finding[] }));
}
