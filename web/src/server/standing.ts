/** What a title has beside its book: its jobs, its files, and where it stands in the outlets. */
import {
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
}

export async function standingOf(s: Store, title: string): Promise<Standing> {
  const [jobs, products, listings] = await Promise.all([
    jobsOf(s, title),
    productsOf(s, title),
    listingsOf(s, title),
  ]);
  return { jobs, products, listings };
}
