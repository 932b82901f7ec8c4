/** Related titles: each is named in the other's record, which is told of the one by what the other is to it. */
import { and, desc, eq, isNull } from 'drizzle-orm';
import type { BookJson } from '@pagina/core/book';
import {
  bareIsbn,
  INVERSE,
  isbnFault,
  namedAs,
  recordSchema,
  type RelatedTitle,
  type Relation,
} from '@pagina/core/record';
import { titles } from './schema';
import { changeFromElsewhere } from './saving';
import type { Store } from './open';

/** A title as others name it. */
export interface Relative {
  id: string;
  name: string;
  authors: string[];
  print: string;
  ebook: string;
  related: RelatedTitle[];
}

function relativeOf(id: string, meta: string): Relative {
  const book = JSON.parse(meta) as BookJson;
  const record = recordSchema.parse(book.record);
  /** One that is wrong names no book. */
  const isbnOf = (print: boolean): string =>
    bareIsbn(
      book.editions.find(
        (e) => (e.form === 'print') === print && e.form !== 'sample' && isbnFault(e.isbn ?? '') === null,
      )?.isbn ?? '',
    );
  return {
    id,
    name: record.title,
    authors: record.contributors.filter((c) => c.role === 'author').map((c) => c.name),
    print: isbnOf(true),
    ebook: isbnOf(false),
    related: record.related,
  };
}

/** Every title but one; those that were changed last come first. */
export async function relativesOf(store: Store, of: string): Promise<Relative[]> {
  const rows = await store.db
    .select({ id: titles.id, meta: titles.meta })
    .from(titles)
    .where(isNull(titles.deletedAt))
    .orderBy(desc(titles.changedAt));
  return rows.filter((r) => r.id !== of).map((r) => relativeOf(r.id, r.meta));
}

/**
 * Names a title in the record of another: `relation` is what the other is to it, null where it is no longer named. Answers
 * whether the other was changed.
 */
export async function nameIn(
  store: Store,
  other: string,
  title: string,
  relation: Relation | null,
): Promise<boolean> {
  if (other === title) return false;
  const [here] = await store.db
    .select({ meta: titles.meta })
    .from(titles)
    .where(and(eq(titles.id, title), isNull(titles.deletedAt)));
  if (!here) return false;
  const called = relativeOf(title, here.meta);
  return changeFromElsewhere(store, other, 'related', (book) => {
    const now = recordSchema.parse(book.record).related;
    const entry = relation && namedAs(called, INVERSE[relation]);
    const at = now.findIndex((r) => r.title === title);
    const next =
      at < 0 ? [...now, ...(entry ? [entry] : [])] : now.flatMap((r, i) => (i === at ? (entry ?? []) : [r]));
    if (JSON.stringify(next) === JSON.stringify(now)) return null;
    const label = entry
      ? `Name “${called.name}” among the related titles`
      : `Remove “${called.name}” from the related titles`;
    return { type: 'group', label, changes: [{ type: 'set-record', fields: { related: next } }] };
  });
}
