/** Names titles by the same author in one another's records, as the author does by one press. */
import { nameIn, relativesOf, type Store } from '@pagina/data';

export async function relateBooks(store: Store): Promise<void> {
  const all = await relativesOf(store, '');
  for (const one of all)
    for (const other of all)
      if (one.id !== other.id && one.authors.some((a) => other.authors.includes(a)))
        await nameIn(store, other.id, one.id, 'same-author');
}
