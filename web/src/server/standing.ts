/** What a title has beside its book: its jobs, its files, where it stands in the outlets, and its imprint. */
import type { Imprint } from '@pagina/core/outlets';
import {
  imprintOf,
  jobsOf,
  listingsOf,
  productsOf,
  type Job,
  type Listing,
  type Product,
  type Store,
} from '@pagina/data';

export interface Standing {
  jobs: Job[];
  products: Product[];
  listings: Listing[];
  imprint: Imprint;
}

export async function standingOf(s: Store, title: string): Promise<Standing> {
  const [jobs, products, listings, imprint] = await Promise.all([
    jobsOf(s, title),
    productsOf(s, title),
    listingsOf(s, title),
    imprintOf(s),
  ]);
  return { jobs, products, listings, imprint };
}
