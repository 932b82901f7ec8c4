/**
 * Versions of a title. Nothing is copied: the log holds every change with its inverse, so the book at any revision is
 * the book as it is now with the later changes taken back. A named version is a name for a revision; the automatic ones
 * are the ends of sittings, found in the log.
 */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt } from 'drizzle-orm';
import { apply, type Book, type Change } from '@pagina/core/book';
import { refused, done, type Outcome } from '@pagina/core/base';
import { changes, titles, versions } from './schema';
import type { Store } from './open';
import { readTitle } from './titles';

export interface NamedVersion {
  id: string;
  name: string;
  revision: number;
  at: number;
}
/** Work without a long pause; the book as it was at its end. */
export interface Sitting {
  revision: number;
  from: number;
  until: number;
  changes: number;
  /** What was done besides typing, newest first, each once. */
  actions: string[];
}

/** A pause that ends a sitting, in milliseconds. */
const PAUSE = 20 * 60_000;
const MOST_ACTIONS = 4;

export async function nameVersion(store: Store, title: string, name: string): Promise<Outcome<NamedVersion>> {
  return store.write(async (tx): Promise<Outcome<NamedVersion>> => {
    const [row] = await tx.select({ revision: titles.revision }).from(titles).where(eq(titles.id, title));
    if (!row) return refused('title/gone', 'This title no longer exists.');
    const version = { id: randomUUID(), name, revision: row.revision, at: Date.now() };
    await tx.insert(versions).values({ title, ...version });
    return done(version);
  });
}

export async function forgetVersion(store: Store, title: string, id: string): Promise<void> {
  await store.write((tx) => tx.delete(versions).where(and(eq(versions.title, title), eq(versions.id, id))));
}

export async function versionsOf(
  store: Store,
  title: string,
): Promise<{ named: NamedVersion[]; sittings: Sitting[] }> {
  const named = await store.db
    .select()
    .from(versions)
    .where(eq(versions.title, title))
    .orderBy(desc(versions.at));
  const log = await store.db
    .select({ revision: changes.revision, at: changes.at, label: changes.label })
    .from(changes)
    .where(eq(changes.title, title))
    .orderBy(asc(changes.revision));
  const sittings: Sitting[] = [];
  for (const c of log) {
    let now = sittings.at(-1);
    if (!now || c.at - now.until > PAUSE) {
      now = { revision: c.revision, from: c.at, until: c.at, changes: 0, actions: [] };
      sittings.push(now);
    }
    now.revision = c.revision;
    now.until = c.at;
    now.changes++;
    if (c.label !== 'Typing') {
      now.actions = [c.label, ...now.actions.filter((d) => d !== c.label)].slice(0, MOST_ACTIONS);
    }
  }
  const [row] = await store.db.select({ at: titles.createdAt }).from(titles).where(eq(titles.id, title));
  // As it was before anything was done to it.
  const first: Sitting[] = row ? [{ revision: 0, from: row.at, until: row.at, changes: 0, actions: [] }] : [];
  return {
    named: named.map(({ title: _, ...v }) => v),
    sittings: [...first, ...sittings].reverse(),
  };
}

/** When a revision was made, in milliseconds since 1970. */
export async function changedAt(store: Store, title: string, revision: number): Promise<number> {
  const [change] = await store.db
    .select({ at: changes.at })
    .from(changes)
    .where(and(eq(changes.title, title), eq(changes.revision, revision)));
  if (change) return change.at;
  const [row] = await store.db.select({ at: titles.createdAt }).from(titles).where(eq(titles.id, title));
  return row?.at ?? 0;
}

/** The book as it was at a revision. Errors: `title/gone`, `version/none`, and what taking back refuses. */
export async function bookAt(store: Store, title: string, revision: number): Promise<Outcome<Book>> {
  const loaded = await readTitle(store, title);
  if (!loaded) return refused('title/gone', 'This title no longer exists.');
  if (revision < 0 || revision > loaded.revision)
    return refused('version/none', 'That version doesn’t exist.');
  const later = await store.db
    .select({ inverse: changes.inverse })
    .from(changes)
    .where(and(eq(changes.title, title), gt(changes.revision, revision)))
    .orderBy(desc(changes.revision));
  let book = loaded.book;
  for (const { inverse } of later) {
    const back = apply(book, JSON.parse(inverse) as Change);
    if (!back.ok) return back;
    book = back.value.book;
  }
  return done(book);
}
