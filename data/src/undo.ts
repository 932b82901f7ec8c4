/** Undo and redo, from the log: over reloads, over what others have done since, each person's own. */
import { and, asc, desc, eq, gt, isNull, lte, notInArray, type SQL } from 'drizzle-orm';
import { done, type Outcome } from '@pagina/core/base';
import { undoing, type Change } from '@pagina/core/book';
import { AUTHOR, gone, sectionsNeeded, write } from './log';
import { changes } from './schema';
import type { Store, Tx } from './open';
import { load } from './titles';

export interface UndoRequest {
  client: string;
  actor?: string;
  redo?: boolean;
  /** The latest revision that the client knew of: what came after is not what it meant. */
  known?: number;
  /** Clients that are open elsewhere: what they did is theirs to undo. */
  others?: readonly string[];
}

type Row = typeof changes.$inferSelect;

/**
 * Undoes the person's last change that is not undone, leaving out what was done in other windows that are still open.
 * `redo` redoes the last one undone, unless something new was done since. What others did in between
 * stays. Answers null when there is nothing to do. It works over reloads, since it reads the log.
 */
export function undo(
  store: Store,
  id: string,
  { client, actor = AUTHOR, redo = false, known, others = [] }: UndoRequest,
): Promise<Outcome<{ revision: number; change: Change; label: string } | null>> {
  return store.write(async (tx) => {
    const own = and(
      eq(changes.actor, actor),
      others.length > 0 ? notInArray(changes.client, [...others]) : undefined,
      known === undefined ? undefined : lte(changes.revision, known),
    );
    const row = await target(tx, id, redo, own);
    if (!row) return done(null);
    const later = await tx
      .select({
        revision: changes.revision,
        change: changes.change,
        undoes: changes.undoes,
        redoes: changes.redoes,
      })
      .from(changes)
      .where(and(eq(changes.title, id), gt(changes.revision, row.revision)))
      .orderBy(asc(changes.revision));
    const change = JSON.parse(row.change) as Change;
    const inverse = JSON.parse(row.inverse) as Change;
    const needed = [...sectionsNeeded(inverse), ...sectionsNeeded(change)];
    const loaded = await load(tx, id, needed);
    if (!loaded) return gone();
    const log = later.map((l) => ({
      revision: l.revision,
      change: JSON.parse(l.change) as Change,
      reverses: l.undoes ?? l.redoes,
    }));
    const back = undoing(loaded.book, change, inverse, log);
    if (!back.ok) return back;
    const saved = await write(tx, id, back.value, {
      client,
      actor,
      ...(redo ? { redoes: row.revision } : { undoes: row.revision }),
    });
    if (!saved.ok) return saved;
    await tx
      .update(changes)
      .set({ undone: 1 })
      .where(and(eq(changes.title, id), eq(changes.revision, row.revision)));
    return done({ ...saved.value, label: row.label });
  });
}
/** The row that undo or redo is about, of a person's own. */
async function target(tx: Tx, title: string, redo: boolean, own: SQL | undefined): Promise<Row | undefined> {
  const last = async (more: SQL | undefined): Promise<Row | undefined> =>
    (
      await tx
        .select()
        .from(changes)
        .where(and(eq(changes.title, title), own, more))
        .orderBy(desc(changes.revision))
        .limit(1)
    )[0];
  if (!redo) return last(and(isNull(changes.undoes), eq(changes.undone, 0)));
  const undoneLast = await last(and(gt(changes.undoes, 0), eq(changes.undone, 0)));
  // Anything new closes the way forward, for good: also when it has been undone itself since.
  const newest = await last(and(isNull(changes.undoes), isNull(changes.redoes)));
  return undoneLast && newest && newest.revision > undoneLast.revision ? undefined : undoneLast;
}
