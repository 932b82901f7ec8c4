/**
 * Typing moved over what another window did meanwhile, in the way of operational transformation (Ellis and Gibbs 1989):
 * what both removed is removed once, and what each typed stays.
 */
import type { PartChange, TextEdit } from './container';

const endOf = (e: TextEdit): number => e.at + e.removed.length;

/** `a` as it has to be once `b` is done. Of two things typed at the same place, `a` is last where `after` says so. */
function over(a: TextEdit, b: TextEdit, after: boolean): TextEdit[] {
  if (a.path !== b.path) return [a];
  const shifted = { ...a, at: a.at + b.inserted.length - b.removed.length };
  if (a.at === b.at && a.removed === '' && b.removed === '') return [after ? shifted : a];
  if (endOf(a) <= b.at) return [a];
  if (a.at >= endOf(b)) return [shifted];
  const right = a.removed.slice(Math.max(0, endOf(b) - a.at));
  const behind = b.at + b.inserted.length;
  if (a.at === b.at && !after) {
    const typed = { ...a, removed: '' };
    const rest = { ...a, at: behind + a.inserted.length, removed: right, inserted: '' };
    return right ? [typed, rest] : [typed];
  }
  if (a.at >= b.at) return [{ ...a, at: behind, removed: right }];
  const left = { ...a, removed: a.removed.slice(0, b.at - a.at) };
  const moved = behind + a.inserted.length - left.removed.length;
  return right ? [left, { ...a, at: moved, removed: right, inserted: '' }] : [left];
}

/** Both lists as they have to be once the other is done. */
function across(mine: TextEdit[], theirs: TextEdit[]): [TextEdit[], TextEdit[]] {
  const [a, ...restA] = mine;
  const [b, ...restB] = theirs;
  if (!a || !b) return [mine, theirs];
  if (restA.length === 0 && restB.length === 0) return [over(a, b, true), over(b, a, false)];
  const [firstA, throughFirst] = across([a], [b]);
  const [firstAll, restTheirs] = across(firstA, restB);
  const [restMine, allTheirs] = across(restA, [...throughFirst, ...restTheirs]);
  return [[...firstAll, ...restMine], allTheirs];
}

/**
 * Edits as they have to be after changes that they did not know of; `lost` are those of a part that is no longer there, or
 * holds something else altogether.
 */
export function moveEdits(
  edits: readonly TextEdit[],
  changes: readonly PartChange[],
): { edits: TextEdit[]; lost: TextEdit[] } {
  let mine = [...edits];
  const lost: TextEdit[] = [];
  for (const c of changes) {
    if (c.op === 'edit') mine = across(mine, [c])[0];
    else if (c.op === 'rename') mine = mine.map((m) => (m.path === c.path ? { ...m, path: c.to } : m));
    else if (c.op !== 'add') {
      lost.push(...mine.filter((m) => m.path === c.path));
      mine = mine.filter((m) => m.path !== c.path);
    }
  }
  return { edits: mine, lost };
}

/** What makes one text of another, as a single edit; null where they are the same. */
export function editBetween(path: string, was: string, now: string): TextEdit | null {
  if (was === now) return null;
  let at = 0;
  while (at < was.length && was[at] === now[at]) at++;
  let end = 0;
  while (end < was.length - at && end < now.length - at && was.at(-1 - end) === now.at(-1 - end)) end++;
  return {
    op: 'edit',
    path,
    at,
    removed: was.slice(at, was.length - end),
    inserted: now.slice(at, now.length - end),
  };
}

/** A text with edits done to it, each standing on what the one before it left. */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  let now = text;
  for (const e of edits) now = now.slice(0, e.at) + e.inserted + now.slice(e.at + e.removed.length);
  return now;
}
