/** What the imprint has with its outlets: the code that goes into links to books there, and the key of its account. */
import { eq } from 'drizzle-orm';
import type { Account } from '@pagina/core/outlets';
import { accounts } from './schema';
import type { Store } from './open';
import { seal, unseal } from './vault';

/** By outlet; those without an account are left out. No key is among them. */
export async function accountsOf(store: Store): Promise<Record<string, Account>> {
  const rows = await store.db.select().from(accounts);
  return Object.fromEntries(
    rows.map((r) => [
      r.outlet,
      { affiliate: r.affiliate, changedAt: r.changedAt, connected: r.sealed !== '' },
    ]),
  );
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

/** Sets the key of an account; an empty one ends the connection. */
export async function setKey(store: Store, outlet: string, key: string): Promise<void> {
  const sealed = key === '' ? '' : await seal(store, key, outlet);
  await store.write((tx) =>
    tx
      .insert(accounts)
      .values({ outlet, sealed, changedAt: 0 })
      .onConflictDoUpdate({ target: accounts.outlet, set: { sealed } }),
  );
}

/** The key of an account, for whoever speaks to the outlet; null where there is none that can be opened. */
export async function keyAt(store: Store, outlet: string): Promise<string | null> {
  const [row] = await store.db.select().from(accounts).where(eq(accounts.outlet, outlet));
  return row?.sealed ? unseal(store, row.sealed, outlet) : null;
}
