/** What belongs to the imprint: one row, of which one thing is set at a time. */
import { eq } from 'drizzle-orm';
import type { Outcome } from '@pagina/core/base';
import {
  changedImprint,
  imprintSchema,
  NEW_IMPRINT,
  type Imprint,
  type ImprintChange,
} from '@pagina/core/outlets';
import { imprint } from './schema';
import type { Database, Store, Tx } from './open';

const ROW = 1;

export const imprintOf = (store: Store): Promise<Imprint> => imprintIn(store.db);

export async function imprintIn(db: Database | Tx): Promise<Imprint> {
  const [row] = await db.select().from(imprint).where(eq(imprint.id, ROW));
  return row ? imprintSchema.parse(JSON.parse(row.value)) : NEW_IMPRINT;
}

/** Errors: what `changedImprint` refuses. */
export function changeImprint(store: Store, change: ImprintChange): Promise<Outcome<Imprint>> {
  return store.write(async (tx) => {
    const changed = changedImprint(await imprintIn(tx), change);
    if (!changed.ok) return changed;
    const row = { value: JSON.stringify(changed.value), changedAt: Date.now() };
    await tx
      .insert(imprint)
      .values({ id: ROW, ...row })
      .onConflictDoUpdate({ target: imprint.id, set: row });
    return changed;
  });
}
