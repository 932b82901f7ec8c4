/**
 * ISBNs: the imprint's block, and where numbers are used. A number is given to one edition and to no other, also after that
 * edition has gone; one under which an outlet has the book is fixed.
 */
import { and, asc, eq, sql } from 'drizzle-orm';
import { inSentence, refused, type Outcome } from '@pagina/core/base';
import { placingAt, type Book, type Edition } from '@pagina/core/book';
import { editionAt, outletNamed, outletsOf } from '@pagina/core/outlets';
import { bareIsbn } from '@pagina/core/record';
import { imprintIn } from './imprint';
import { deliveries, isbns, listings, titles } from './schema';
import type { Database, Store, Tx } from './open';

export interface IsbnUse {
  title: string;
  edition: string;
  /** As they are called. */
  titleName: string;
  editionName: string;
}
export interface IsbnRow {
  number: string;
  /** Null for a number that is free. */
  use: IsbnUse | null;
  /** Given to an edition that doesn't carry it now. */
  kept: boolean;
}

/** Where numbers are used in the record of any title, by their digits; deleted titles too. */
async function uses(db: Database | Tx): Promise<Map<string, IsbnUse>> {
  const rows = await db.all<{
    id: string;
    name: string | null;
    edition: string;
    called: string | null;
    isbn: string;
  }>(
    sql`select ${titles.id} as id, json_extract(${titles.meta}, '$.record.title') as name,
      json_extract(e.value, '$.id') as edition, json_extract(e.value, '$.name') as called,
      json_extract(e.value, '$.isbn') as isbn
      from ${titles}, json_each(${titles.meta}, '$.editions') e where json_extract(e.value, '$.isbn') <> ''`,
  );
  const found = new Map<string, IsbnUse>();
  for (const r of rows)
    found.set(bareIsbn(r.isbn), {
      title: r.id,
      edition: r.edition,
      titleName: r.name ?? '',
      editionName: r.called ?? '',
    });
  return found;
}

/** The block in the order of its numbers. */
export async function isbnBlock(store: Store): Promise<IsbnRow[]> {
  const [rows, used] = await Promise.all([
    store.db.select().from(isbns).orderBy(asc(isbns.number)),
    uses(store.db),
  ]);
  return rows.map((r) => {
    const use = used.get(r.number) ?? null;
    const given =
      r.title === '' ? null : { title: r.title, edition: r.edition, titleName: '', editionName: '' };
    return { number: r.number, use: use ?? given, kept: use === null && given !== null };
  });
}

/** Adds valid numbers; answers how many were new. */
export function addIsbns(store: Store, numbers: readonly string[]): Promise<number> {
  return store.write(async (tx) => {
    let added = 0;
    for (const number of numbers) {
      const { rowsAffected } = await tx
        .insert(isbns)
        .values({ number, addedAt: Date.now() })
        .onConflictDoNothing();
      added += rowsAffected;
    }
    return added;
  });
}

/** Takes a number out of the block, or makes one free again that no edition carries. False where one does. */
export function dropIsbn(store: Store, number: string, how: 'remove' | 'free'): Promise<boolean> {
  return store.write(async (tx) => {
    if ((await uses(tx)).has(number)) return false;
    const it = eq(isbns.number, number);
    if (how === 'remove') await tx.delete(isbns).where(it);
    else await tx.update(isbns).set({ title: '', edition: '' }).where(it);
    return true;
  });
}

/**
 * Gives an edition the next free number of the block: the one that it was given before, else the lowest that nobody was
 * given and no title carries. Null where none is left.
 */
export function nextIsbn(store: Store, title: string, edition: string): Promise<string | null> {
  return store.write(async (tx) => {
    const used = await uses(tx);
    const mine = await tx
      .select()
      .from(isbns)
      .where(and(eq(isbns.title, title), eq(isbns.edition, edition)))
      .orderBy(asc(isbns.number));
    const again = mine.find((r) => !used.has(r.number));
    if (again) return again.number;
    const free = await tx.select().from(isbns).where(eq(isbns.title, '')).orderBy(asc(isbns.number));
    const next = free.find((r) => !used.has(r.number));
    if (!next) return null;
    await tx.update(isbns).set({ title, edition }).where(eq(isbns.number, next.number));
    return next.number;
  });
}

/** The outlet that has an edition under its number; null where none has. */
async function outletWith(
  db: Database | Tx,
  title: string,
  book: Book,
  edition: Edition,
): Promise<string | null> {
  const [sent] = await db
    .select({ outlet: listings.outlet })
    .from(deliveries)
    .innerJoin(listings, eq(listings.id, deliveries.listing))
    .where(and(eq(listings.title, title), eq(listings.edition, edition.id)));
  if (sent) return outletNamed(sent.outlet)?.name ?? sent.outlet;
  const byHand = outletsOf(await imprintIn(db)).find(
    (o) =>
      editionAt(o, book)?.id === edition.id &&
      ['with the shop', 'on sale'].includes(placingAt(book, o.id).state),
  );
  return byHand?.name ?? null;
}

/** By edition of a title: who has it under its number, and which other edition carries the same. */
export async function isbnsOfTitle(
  store: Store,
  title: string,
  book: Book,
): Promise<Record<string, { fixedBy: string | null; other: IsbnUse | null }>> {
  const used = await uses(store.db);
  const entries = book.editions.map(async (e) => {
    const use = e.isbn ? used.get(bareIsbn(e.isbn)) : undefined;
    const other = use && (use.title !== title || use.edition !== e.id) ? use : null;
    return [e.id, { fixedBy: e.isbn ? await outletWith(store.db, title, book, e) : null, other }] as const;
  });
  return Object.fromEntries(await Promise.all(entries));
}

/** A refusal where a change would take a number away under which an outlet has the book. */
export async function isbnFixed(
  tx: Tx,
  title: string,
  before: Book,
  after: Book,
): Promise<Outcome<never> | null> {
  for (const e of before.editions) {
    const now = after.editions.find((x) => x.id === e.id);
    if (e.isbn === '' || !now || bareIsbn(now.isbn) === bareIsbn(e.isbn)) continue;
    const outlet = await outletWith(tx, title, before, e);
    if (outlet)
      return refused(
        'edition/isbn-fixed',
        `${outlet} has the ${inSentence(e.name)} under ${e.isbn}: its ISBN no longer changes. Add another edition for another number.`,
      );
  }
  return null;
}
