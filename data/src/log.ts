/** The log of a title: what was done, by whom, and its inverse; a change and its entry are written together or not at all. */
import { and, asc, eq, gt, sql } from 'drizzle-orm';
import { done, refused, type Outcome } from '@pagina/core/base';
import { apply, isBeside, settling, type Change } from '@pagina/core/book';
import { changes, sections, titles } from './schema';
import type { Store, Tx } from './open';
import { isbnFixed } from './isbns';
import { load, metaOf, wordsOf, writeSections } from './titles';

/** The one person who uses the program so far. */
export const AUTHOR = 'author';

export interface LoggedChange {
  revision: number;
  client: string;
  /** Names of the requests that brought it. */
  requests: string[];
  change: Change;
}
/** Ids of sections whose text a change needs. */
export function sectionsNeeded(change: Change): string[] {
  if (change.type === 'group') return change.changes.flatMap(sectionsNeeded);
  if (change.type === 'text') return [change.section];
  return change.type === 'remove-section' ? [change.id] : [];
}
const labelOf = (c: Change): string =>
  c.type === 'group' ? c.label : c.type === 'text' ? 'Typing' : 'Change';

export async function changesSince(
  store: Store | Tx | Store['db'],
  id: string,
  revision: number,
): Promise<LoggedChange[]> {
  const db = 'db' in store ? store.db : store;
  const rows = await db
    .select()
    .from(changes)
    .where(and(eq(changes.title, id), gt(changes.revision, revision)))
    .orderBy(asc(changes.revision));
  return rows.map((r) => ({
    revision: r.revision,
    client: r.client,
    requests: r.requests.split(' '),
    change: JSON.parse(r.change) as Change,
  }));
}

/** Who does a change, and what it stands for in the log. */
interface Entry {
  client: string;
  actor: string;
  requests?: readonly string[];
  undoes?: number;
  redoes?: number;
}

/** Applies a change to the title as it stands and logs it. Errors: `title/gone` and what `apply` refuses. */
export async function write(
  tx: Tx,
  id: string,
  asked: Change,
  { client, actor, requests = [], undoes, redoes }: Entry,
): Promise<Outcome<{ revision: number; change: Change }>> {
  const loaded = await load(tx, id, sectionsNeeded(asked));
  if (!loaded) return gone();
  const tried = apply(loaded.book, asked);
  if (!tried.ok) return tried;
  // Two moves from two windows can contradict each other: what settles them is part of the change.
  const settled = settling(tried.value.book);
  const change: Change =
    settled.length === 0
      ? asked
      : { type: 'group', label: labelOf(asked), changes: [...partsOf(asked), ...settled] };
  const applied = settled.length === 0 ? tried : apply(loaded.book, change);
  if (!applied.ok) return applied;
  const { book, inverse } = applied.value;
  const fixed = await isbnFixed(tx, id, loaded.book, book);
  if (fixed) return fixed;
  const before = new Map(loaded.book.sections.map((s) => [s.id, s]));
  const changed = book.sections.filter((s) => before.get(s.id)?.content !== s.content);
  const removed = loaded.book.sections.filter((s) => !book.sections.some((b) => b.id === s.id));
  await writeSections(tx, id, changed);
  for (const s of removed)
    await tx.delete(sections).where(and(eq(sections.title, id), eq(sections.id, s.id)));
  const revision = loaded.revision + 1;
  const now = Date.now();
  const words = wordsOf(changed) - wordsOf(changed.flatMap((s) => before.get(s.id) ?? [])) - wordsOf(removed);
  await tx
    .update(titles)
    .set({ meta: metaOf(book), revision, words: sql`${titles.words} + ${words}`, changedAt: now })
    .where(eq(titles.id, id));
  await tx.insert(changes).values({
    title: id,
    revision,
    client,
    actor,
    requests: requests.join(' '),
    change: JSON.stringify(change),
    beside: isBeside(change, book),
    inverse: JSON.stringify(inverse),
    label: labelOf(change),
    at: now,
    undoes,
    redoes,
  });
  return done({ revision, change });
}
export const gone = (): Outcome<never> => refused('title/gone', 'This title no longer exists.');
const partsOf = (c: Change): Change[] => (c.type === 'group' ? c.changes : [c]);
