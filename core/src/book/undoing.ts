/**
 * Undoing one change while later ones stand. Its inverse was made for the book as it was right after the change; here
 * it is moved over what has been done since:
 *
 * - changes that cancel out (something done, then undone) are left out of account;
 * - steps in a text are mapped over the later steps in the same section;
 * - a value is put back only where it is still the one that the change set: a title that somebody else has given since
 *   stays;
 * - a section that somebody else has written in is not removed, nor an edition that has been changed.
 */
import { Step } from 'prosemirror-transform';
import { done, refused, type Outcome } from '../base';
import { apply, type Change, type SingleChange } from './changes';
import { moveSteps, type Moved } from './moving';
import type { Book } from './model';
import { placingAt } from './placing';
import { schema } from './schema';

/** A change of the log. */
export interface LogEntry {
  revision: number;
  change: Change;
  /** The revision that this entry undoes, or the undoing that it redoes. */
  reverses: number | null;
}

/** The single changes of a change, in order. */
export const singles = (c: Change): SingleChange[] => (c.type === 'group' ? c.changes.flatMap(singles) : [c]);

/** Entries without those that cancel out with nothing lasting between them. */
function uncancelled(log: readonly LogEntry[]): LogEntry[] {
  const left: LogEntry[] = [];
  for (const e of log) {
    if (e.reverses !== null && left.at(-1)?.revision === e.reverses) left.pop();
    else left.push(e);
  }
  return left;
}

/** Text steps of one section in a list of entries, each with the index of the step that it takes back. */
function stepsOver(log: readonly LogEntry[], section: string): Moved[] {
  const over: Moved[] = [];
  const at = new Map<number, number[]>();
  for (const e of log) {
    const steps = singles(e.change).flatMap((c) =>
      c.type === 'text' && c.section === section ? c.steps : [],
    );
    const taken = e.reverses === null ? undefined : at.get(e.reverses);
    const mirrored = taken?.length === steps.length ? [...taken].reverse() : null;
    at.set(
      e.revision,
      steps.map((_, i) => over.length + i),
    );
    steps.forEach((step, i) => over.push({ step, mirrors: mirrored?.[i] }));
  }
  return over;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const orNull = (map: object, key: string): object => ({
  [key]: Object.hasOwn(map, key) ? (map as Record<string, unknown>)[key] : null,
});

/** The values that a change set, and the same values as they are now; null for changes that set none. */
function valuesOf(book: Book, c: SingleChange): { set: object; now: object } | null {
  switch (c.type) {
    case 'set-section': {
      const s = book.sections.find((x) => x.id === c.id);
      return s ? { set: c.fields, now: s } : null;
    }
    case 'set-edition': {
      const e = book.editions.find((x) => x.id === c.id);
      return e ? { set: c.fields, now: e } : null;
    }
    case 'set-record':
      return { set: c.fields, now: book.record };
    case 'set-numbering':
      return { set: c.fields, now: book.numbering };
    case 'set-placing':
      return { set: c.fields, now: placingAt(book, c.outlet) };
    case 'set-variant':
      return { set: { [c.field]: c.value }, now: orNull(placingAt(book, c.outlet).variants, c.field) };
    case 'set-tick':
      return { set: { [c.field]: c.digest }, now: orNull(placingAt(book, c.outlet).ticked, c.field) };
    case 'set-cover':
      return { set: c.fields, now: book.cover };
    case 'set-words':
      return { set: { words: c.words }, now: book };
    case 'set-index-see':
      return { set: { indexSee: c.see }, now: book };
    case 'set-reading':
      return { set: { reading: c.sha256 }, now: book };
    case 'set-editions':
      return { set: { editions: c.editions }, now: book };
    default:
      return null;
  }
}

/** An inverse that sets only what is still as its change left it; null where nothing is. */
function stillSet(book: Book, change: SingleChange, inverse: SingleChange): SingleChange | null {
  const values = valuesOf(book, change);
  if (!values) return inverse;
  const { set, now } = values as { set: Record<string, unknown>; now: Record<string, unknown> };
  const kept = Object.keys(set).filter((k) => same(now[k], set[k]));
  if (kept.length === 0) return null;
  if (!('fields' in inverse)) return inverse;
  const fields = Object.fromEntries(Object.entries(inverse.fields).filter(([k]) => kept.includes(k)));
  return { ...inverse, fields } as SingleChange;
}

/**
 * The change that undoes `change` in the book as it is now. `later` is what the log holds after it.
 * Errors: `undo/written` where somebody else has written in a section that would be removed; what `apply` refuses.
 */
export function undoing(
  book: Book,
  change: Change,
  inverse: Change,
  later: readonly LogEntry[],
): Outcome<Change> {
  const log = uncancelled(later);
  if (log.length === 0) return done(inverse);
  const forward = singles(change).reverse();
  const back: Change[] = [];
  let current = book;
  for (const [i, inv] of singles(inverse).entries()) {
    const moved = over(current, forward[i] ?? inv, inv, log);
    if (!moved.ok) return moved;
    if (!moved.value) continue;
    const applied = apply(current, moved.value);
    if (!applied.ok) return applied;
    current = applied.value.book;
    back.push(moved.value);
  }
  return done(
    inverse.type !== 'group' && back[0]
      ? back[0]
      : { type: 'group', label: inverse.type === 'group' ? inverse.label : 'Undo', changes: back },
  );
}

function over(
  book: Book,
  change: SingleChange,
  inverse: SingleChange,
  log: readonly LogEntry[],
): Outcome<SingleChange | null> {
  if (inverse.type === 'text') {
    const { steps } = moveSteps(inverse.steps, stepsOver(log, inverse.section));
    // The log of a section that was removed and put back may speak of another text: what does not fit is left out.
    if (!book.sections.some((s) => s.id === inverse.section)) return done(null);
    return done(steps.length > 0 ? { ...inverse, steps: fitting(book, inverse.section, steps) } : null);
  }
  if (inverse.type === 'remove-section') {
    if (stepsOver(log, inverse.id).length > 0)
      return refused(
        'undo/written',
        'Somebody has written in that section since. Delete it in the running order if it should go.',
      );
    return done(book.sections.some((s) => s.id === inverse.id) ? inverse : null);
  }
  if (inverse.type === 'remove-edition') {
    const changed = log.some((e) =>
      singles(e.change).some((c) => c.type === 'set-edition' && c.id === inverse.id),
    );
    if (changed)
      return refused(
        'undo/changed',
        'The edition has been changed since. Remove it in Editions if it should go.',
      );
    return done(book.editions.some((e) => e.id === inverse.id) ? inverse : null);
  }
  if (inverse.type === 'insert-edition') {
    const { id } = inverse.edition as { id?: string };
    return done(book.editions.some((e) => e.id === id) ? null : inverse);
  }
  if ('id' in inverse && inverse.type !== 'set-edition' && !book.sections.some((s) => s.id === inverse.id))
    return done(null);
  if (
    inverse.type === 'insert-section' &&
    book.sections.some((s) => s.id === (inverse.section as { id?: string }).id)
  )
    return done(null);
  return done(stillSet(book, change, inverse));
}

/** The steps that the text can still take, in order. */
function fitting(book: Book, section: string, steps: readonly unknown[]): unknown[] {
  let doc = book.sections.find((s) => s.id === section)?.content;
  const fit: unknown[] = [];
  for (const json of steps) {
    const result = doc ? Step.fromJSON(schema, json).apply(doc) : null;
    if (!result?.doc) continue;
    doc = result.doc;
    fit.push(json);
  }
  return fit;
}
