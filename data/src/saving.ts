/**
 * Saving. Whatever is done to a book goes through `saveChange`: the change is applied to the book as it stands, and change,
 * inverse and new state are written in one short transaction.
 *
 * A client says on which revision its change stands. Structure changes are values ("this title is now X") and apply to
 * any later state or are refused in a sentence. Text steps stand on an exact text: where others have changed that
 * section since, the client is told what they did, moves its steps over it and sends again; a client that is going
 * away (`final`) has its steps moved here.
 */
import { done, refused, type Outcome } from '@pagina/core/base';
import { and, eq, isNull } from 'drizzle-orm';
import { moveSteps, singles, touchedSections, type BookJson, type Change } from '@pagina/core/book';
import { storedSize } from './files';
import { AUTHOR, changesSince, write, type LoggedChange } from './log';
import { titles } from './schema';
import type { Store } from './open';

export type SaveAnswer =
  { revision: number; change: Change; lost: number } | { behind: LoggedChange[]; revision: number };

/** Text steps of a section in a list of changes, in order. */
function stepsIn(list: readonly LoggedChange[], section: string): unknown[] {
  const of = (c: Change): unknown[] =>
    c.type === 'group' ? c.changes.flatMap(of) : c.type === 'text' && c.section === section ? c.steps : [];
  return list.flatMap((l) => of(l.change));
}

export interface SaveRequest {
  base: number;
  change: Change;
  client: string;
  /** The person who does it. */
  actor?: string;
  /** Its name, and those of earlier requests of unknown fate that held the first of the same steps. */
  request?: string;
  earlier?: readonly string[];
  /** The client cannot answer any more: move its steps here rather than send it what it missed. */
  final?: boolean;
}

/**
 * Saves a change on top of what has been saved since `base`. Typing that others' typing is in the way of is answered with
 * what it missed; so is typing that is here already, since its answer was lost. Errors: `title/gone` and what `apply` refuses.
 */
export function saveChange(
  store: Store,
  id: string,
  { base, change, client, actor = AUTHOR, final, request, earlier = [] }: SaveRequest,
): Promise<Outcome<SaveAnswer>> {
  const own = request === undefined ? [] : [request, ...earlier];
  return store.write(async (tx): Promise<Outcome<SaveAnswer>> => {
    const touched = touchedSections(change);
    let moved = change;
    let lost = 0;
    if (touched.length > 0) {
      const since = await changesSince(tx, id, base);
      const inTheWay = since.filter((l) => touched.some((s) => stepsIn([l], s).length > 0));
      if (inTheWay.length > 0) {
        const behind = done({ behind: since, revision: since.at(-1)?.revision ?? base });
        if (!final || change.type !== 'text') return behind;
        const over = moveOver(change.steps, inTheWay, change.section, own);
        if (over.steps.length === 0) return behind;
        lost = over.lost;
        moved = { ...change, steps: over.steps };
      }
    }
    const missing = await missingFile(store, change);
    if (missing) return missing;
    const saved = await write(tx, id, moved, { client, actor, requests: own });
    return saved.ok ? done({ ...saved.value, lost }) : saved;
  });
}

/**
 * Changes a title from elsewhere, by what it holds at that moment: nothing comes between looking and writing. Answers whether
 * there was something to change; not where the title is gone or deleted.
 */
export function changeFromElsewhere(
  store: Store,
  id: string,
  client: string,
  make: (book: BookJson) => Change | null,
): Promise<boolean> {
  return store.write(async (tx) => {
    const [row] = await tx
      .select({ meta: titles.meta })
      .from(titles)
      .where(and(eq(titles.id, id), isNull(titles.deletedAt)));
    const change = row ? make(JSON.parse(row.meta) as BookJson) : null;
    return change !== null && (await write(tx, id, change, { client, actor: AUTHOR })).ok;
  });
}

/** A refusal where a change adds a picture whose file is not in the store. */
async function missingFile(store: Store, change: Change): Promise<Outcome<never> | null> {
  for (const c of singles(change)) {
    if (c.type !== 'add-pictures' && c.type !== 'set-pictures') continue;
    for (const p of c.pictures)
      if (p.sha256 && (await storedSize(store, p.sha256)) === null)
        return refused('picture/missing', 'The picture’s file did not arrive. Add the picture again.');
  }
  return null;
}

/** Steps over what is in their way; of those that came by one of the requests `own` the first ones are there already. */
function moveOver(
  steps: readonly unknown[],
  inTheWay: readonly LoggedChange[],
  section: string,
  own: readonly string[],
): { steps: unknown[]; lost: number } {
  let left = [...steps];
  let lost = 0;
  for (const l of inTheWay) {
    const theirs = stepsIn([l], section);
    if (l.requests.some((r) => own.includes(r))) left = left.slice(theirs.length);
    else {
      const moved = moveSteps(
        left,
        theirs.map((step) => ({ step })),
      );
      left = moved.steps;
      lost += moved.lost;
    }
  }
  return { steps: left, lost };
}
