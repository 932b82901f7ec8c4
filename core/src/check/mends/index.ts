/**
 * Mends: what can be put right without guessing. Each finding whose rule has one can be mended by itself, with all others
 * of its rule, or with everything; what comes of it is checked again, and mended further where that uncovers more.
 */
import { done, refused, type Finding, type Outcome } from '../../base';
import { applyChanges, copyOf, Draft, openEmended, type Emendation, type Emended } from '../../emend';
import { checkEpub, epubSubject } from '../epub';
import { CONTAINER_MENDS } from './container';
import { MARKUP_MENDS } from './markup';
import type { Mend } from './mend';
import { MANIFEST_MENDS } from './manifest';
import { NAVIGATION_MENDS } from './navigation';
import { PACKAGE_MENDS } from './package';
import { PAGE_MENDS } from './pages';

export { keptBetween, type Kept } from './kept';

/** By name, in the order in which they are done: what others stand on first. */
export const MENDS: Readonly<Record<string, Mend>> = {
  ...CONTAINER_MENDS,
  ...MARKUP_MENDS,
  ...PACKAGE_MENDS,
  ...MANIFEST_MENDS,
  ...NAVIGATION_MENDS,
  ...PAGE_MENDS,
};
const ORDER = Object.keys(MENDS);
/** What each mend does, for a button. */
export const mendLabel = (name: string): string | null => MENDS[name]?.label ?? null;

/** What mending these findings comes to. Errors: those of `epubSubject`, `mend/nothing`. */
export function mend(e: Emended, findings: readonly Finding[], moment: string): Outcome<Emendation> {
  const subject = epubSubject(copyOf(e));
  if (!subject.ok) return subject;
  const d = new Draft(e);
  const [first] = [...findings].sort((a, b) => ORDER.indexOf(a.mend ?? '') - ORDER.indexOf(b.mend ?? ''));
  const name = first?.mend ?? '';
  const of = MENDS[name];
  if (!of) return refused('mend/nothing', 'This can’t be mended automatically.');
  try {
    of.apply({ d, s: subject.value, findings: findings.filter((f) => f.mend === name), moment });
  } catch {
    // Faults that overlap, in a file that is broken in several ways: a person has to look at it.
    return refused('mend/nothing', 'The file has several faults at once here. Mend it in its source.');
  }
  if (d.changes.length === 0)
    return refused('mend/nothing', 'This can’t be mended automatically. Choose what is right yourself.');
  return d.done(of.label);
}

export interface Mended {
  e: Emended;
  /** What was done, in its order. */
  steps: Emendation[];
  /** What is left. */
  findings: Finding[];
}
/** Most rounds of mending and checking; each one has to leave less to mend. */
const ROUNDS = 200;

/** Everything that can be mended in a file. Errors: those of `openEmended` and `epubSubject`. */
export function mendAll(bytes: Uint8Array, moment: string): Outcome<Mended> {
  const opened = openEmended(bytes);
  return opened.ok ? mendThese(opened.value, moment, () => true) : opened;
}

/** Everything that can be mended of what is wanted. Errors: those of `epubSubject`. */
export function mendThese(e: Emended, moment: string, wanted: (f: Finding) => boolean): Outcome<Mended> {
  const result: Mended = { e, steps: [], findings: [] };
  // A mend that changes nothing, or not for the better, is not tried again.
  const given = new Set<string>();
  for (let round = 0; round < ROUNDS; round++) {
    const checked = checkEpub(copyOf(result.e));
    if (!checked.ok) return checked;
    result.findings = checked.value;
    const open = checked.value.filter(wanted);
    const name = ORDER.find((n) => !given.has(n) && open.some((f) => f.mend === n));
    if (name === undefined) break;
    const own = open.filter((f) => f.mend === name);
    const step = mend(result.e, own, moment);
    const applied = step.ok ? applyChanges(result.e, step.value.changes) : step;
    if (!step.ok || !applied.ok) {
      given.add(name);
      continue;
    }
    const after = checkEpub(copyOf(applied.value));
    const better = after.ok && isBetter(checked.value, after.value, name);
    if (!better || own.length <= after.value.filter((f) => wanted(f) && f.mend === name).length)
      given.add(name);
    if (!better) continue;
    result.e = applied.value;
    result.steps.push(step.value);
  }
  return done(result);
}
/** Whether a mend has left less. A file that can be read at last may show faults that nobody could see before. */
function isBetter(before: readonly Finding[], after: readonly Finding[], mend: string): boolean {
  const unread = (all: readonly Finding[]): number => all.filter((f) => f.rule.startsWith('xml/')).length;
  if (unread(after) !== unread(before)) return unread(after) < unread(before);
  const blockers = (all: readonly Finding[]): number => all.filter((f) => f.severity === 'blocker').length;
  const own = (all: readonly Finding[]): number => all.filter((f) => f.mend === mend).length;
  return (
    blockers(after) < blockers(before) || (blockers(after) === blockers(before) && own(after) < own(before))
  );
}
