/** What the imprint has with its outlets: so far the code that goes into links to books there. */
import type { Account } from '@pagina/core/outlets';
import { accounts } from './schema';
import type { Store } from './open';

/** By outlet; those without an account are left out. */
export async function accountsOf(store: Store): Promise<Record<string, Account>> {
  const rows = await store.db.select().from(accounts);
  return Object.fromEntries(rows.map((r) => [r.outlet, { affiliate: r.affiliate, changedAt: r.changedAt }]));
}

/** A code that stands already is not written again: files that have it stay good. */
export async function setAffiliate(store: Store, outlet: string, affiliate: string): Promise<void> {
  if (((await accountsOf(store))[outlet]?.affiliate ?? '') === affiliate) return;
  const changedAt = Date.now();
  await store.write((tx) =>
    tx
      .insert(accounts)
      .values({ outlet, affiliate, changedAt })
      .onConflictDoUpdate({ target: accounts.outlet, set: { affiliate, changedAt } }),
  );
}
