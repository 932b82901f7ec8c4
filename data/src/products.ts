/** Files made of editions, with what the checks said of them. */
import { randomUUID } from 'node:crypto';
import { desc, eq } from 'drizzle-orm';
import type { Finding } from '@pagina/core/base';
import { products } from './schema';
import type { Store } from './open';

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

export async function addProduct(store: Store, p: Omit<Product, 'id' | 'madeAt'>): Promise<Product> {
  const row = { ...p, id: randomUUID(), madeAt: Date.now() };
  await store.write((tx) => tx.insert(products).values({ ...row, findings: JSON.stringify(p.findings) }));
  return row;
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
