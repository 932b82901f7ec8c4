/** Designs of one's own: an interior with what was changed of it, kept under a name and used in other titles. */
import { randomUUID } from 'node:crypto';
import { asc, eq } from 'drizzle-orm';
import type * as z from 'zod';
import { printEditionSchema } from '@pagina/core/book';
import { designs } from './schema';
import type { Store } from './open';

export const keptDesignSchema = printEditionSchema.pick({ interior: true, design: true, trim: true });
export type KeptChoice = z.infer<typeof keptDesignSchema>;
export interface KeptDesign extends KeptChoice {
  id: string;
  name: string;
}

/** Keeps a design; one of the same name is replaced. */
export async function keepDesign(store: Store, name: string, choice: KeptChoice): Promise<KeptDesign> {
  return store.write(async (tx) => {
    await tx.delete(designs).where(eq(designs.name, name));
    const id = randomUUID();
    await tx.insert(designs).values({ id, name, choice: JSON.stringify(choice), keptAt: Date.now() });
    return { id, name, ...choice };
  });
}

export async function keptDesigns(store: Store): Promise<KeptDesign[]> {
  const rows = await store.db.select().from(designs).orderBy(asc(designs.name));
  return rows.flatMap((r) => {
    const choice = keptDesignSchema.safeParse(JSON.parse(r.choice));
    return choice.success ? [{ id: r.id, name: r.name, ...choice.data }] : [];
  });
}

export async function forgetDesign(store: Store, id: string): Promise<void> {
  await store.write((tx) => tx.delete(designs).where(eq(designs.id, id)));
}
