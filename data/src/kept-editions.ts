/** Choices of editions, kept under a name and used in other titles. */
import { asc, eq } from 'drizzle-orm';
import { editionChoicesSchema, type EditionChoices } from '@pagina/core/book';
import { keptEditions } from './schema';
import type { Store } from './open';

export interface KeptEdition {
  name: string;
  choices: EditionChoices;
}

/** In the order of their names; what no version of the program can read any more is left out. */
export async function keptEditionsOf(store: Store): Promise<KeptEdition[]> {
  const rows = await store.db.select().from(keptEditions).orderBy(asc(keptEditions.name));
  return rows.flatMap(({ name, choices }) => {
    const read = editionChoicesSchema.safeParse(JSON.parse(choices));
    return read.success ? [{ name, choices: read.data }] : [];
  });
}

/** Those of the same name are replaced. */
export async function keepEdition(store: Store, { name, choices }: KeptEdition): Promise<void> {
  const set = { choices: JSON.stringify(choices) };
  await store.write((tx) =>
    tx
      .insert(keptEditions)
      .values({ name, ...set })
      .onConflictDoUpdate({ target: keptEditions.name, set }),
  );
}

export async function forgetEdition(store: Store, name: string): Promise<void> {
  await store.write((tx) => tx.delete(keptEditions).where(eq(keptEditions.name, name)));
}
