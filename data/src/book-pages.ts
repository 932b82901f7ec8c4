/** The short addresses of pages about books. */
import { eq } from 'drizzle-orm';
import { done, refused, type Outcome } from '@pagina/core/base';
import { isPageName } from '@pagina/core/outlets';
import { bookPages } from './schema';
import type { Store } from './open';

/** The name under which a title has its page; null where it has none. */
export async function pageNameOf(store: Store, title: string): Promise<string | null> {
  const [row] = await store.db.select().from(bookPages).where(eq(bookPages.title, title));
  return row?.name ?? null;
}
export async function titleOfPage(store: Store, name: string): Promise<string | null> {
  const [row] = await store.db.select().from(bookPages).where(eq(bookPages.name, name));
  return row?.title ?? null;
}

/** Null takes the page away. Errors: `page/name` for what is no name, `page/taken` for another title's. */
export function setPageName(store: Store, title: string, name: string | null): Promise<Outcome<null>> {
  if (name !== null && !isPageName(name))
    return Promise.resolve(refused('page/name', 'Use small letters, figures and hyphens, up to 60 of them.'));
  return store.write(async (tx) => {
    if (name !== null) {
      const [other] = await tx.select().from(bookPages).where(eq(bookPages.name, name));
      if (other && other.title !== title)
        return refused('page/taken', 'Another title’s page has that address. Choose another one.');
    }
    await tx.delete(bookPages).where(eq(bookPages.title, title));
    if (name !== null) await tx.insert(bookPages).values({ name, title });
    return done(null);
  });
}
