/** What falls due over all titles. */
import { formatISO } from 'date-fns';
import { dueOf, type Due } from '@pagina/core/outlets';
import { imprintOf, listingsOf, listTitles, productsOf, readTitleBare, type Store } from '@pagina/data';

export interface DueAt extends Due {
  title: string;
  /** Of the book. */
  name: string;
}

/** Soonest first. */
export async function allDue(s: Store): Promise<DueAt[]> {
  const today = formatISO(new Date(), { representation: 'date' });
  const imprint = await imprintOf(s);
  const all: DueAt[] = [];
  for (const { id, name } of await listTitles(s)) {
    const loaded = await readTitleBare(s, id);
    if (!loaded) continue;
    const [products, listings] = await Promise.all([productsOf(s, id), listingsOf(s, id)]);
    const at = listings.map((l) => ({
      outlet: l.outlet,
      state: l.state,
      final: products.some((p) => p.sha256 === l.delivered && p.signedOffAt !== null),
    }));
    all.push(...dueOf(loaded.book, imprint, at, today).map((d) => ({ ...d, title: id, name })));
  }
  return all.sort((a, b) => a.day.localeCompare(b.day));
}
