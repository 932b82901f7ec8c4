/** What differs between two states of an ebook, part by part and line by line (Myers 1986, by the diff library). */
import { diffArrays } from 'diff';
import { textOfPart, type Emended, type PartChange } from './container';

export interface LineDifference {
  how: 'same' | 'in' | 'out';
  /** What differs, or the whole line, with what stands before and after it in the line. */
  text: string;
  before: string;
  after: string;
  /** 1 up, in the newer text; of a line that went, in the older one. */
  line: number;
}
export interface PartDifference {
  path: string;
  how: 'changed' | 'added' | 'removed' | 'renamed';
  /** Of one that was renamed. */
  to?: string;
  /** Changed lines with some around them; null where lines are left out between. */
  lines: (LineDifference | null)[];
}

/** Lines shown around a change; characters of a line, and those around what differs in it. */
const AROUND = 1;
const LONGEST = 240;
const BESIDE = 48;
/** Lines of one part that are shown; a part that is other throughout says enough by its first ones. */
const MOST = 60;

const cut = (text: string): string => (text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text);
const whole = (how: LineDifference['how'], text: string, line: number): LineDifference => ({
  how,
  text: cut(text),
  before: '',
  after: '',
  line,
});

/** An older and a newer line with what they have in common taken off both ends, but for some characters. */
function pair(out: LineDifference, now: LineDifference, was: string, is: string): void {
  let from = 0;
  const most = Math.min(was.length, is.length);
  while (from < most && was[from] === is[from]) from++;
  let end = 0;
  while (end < most - from && was[was.length - 1 - end] === is[is.length - 1 - end]) end++;
  for (const [line, text] of [
    [out, was],
    [now, is],
  ] as const) {
    const start = Math.max(0, from - BESIDE);
    const to = text.length - end;
    line.before = `${start > 0 ? '… ' : ''}${text.slice(start, from)}`;
    line.text = cut(text.slice(from, to));
    line.after = `${text.slice(to, to + BESIDE)}${end > BESIDE ? ' …' : ''}`;
  }
}

/** Of nothing there is no line, not an empty one. */
const linesOf = (text: string): string[] => (text === '' ? [] : text.split('\n'));

function between(before: string, after: string): PartDifference['lines'] {
  const all: LineDifference[] = [];
  let [was, is] = [0, 0];
  let gone: string[] = [];
  for (const part of diffArrays(linesOf(before), linesOf(after), { maxEditLength: 4_000 }) ?? []) {
    const how = part.added ? 'in' : part.removed ? 'out' : 'same';
    const first = all.length;
    for (const text of part.value) {
      if (!part.added) was++;
      if (!part.removed) is++;
      all.push(whole(how, text, how === 'out' ? was : is));
    }
    if (part.added && gone.length === part.value.length)
      for (const [i, text] of part.value.entries())
        pair(
          all[first - gone.length + i] as LineDifference,
          all[first + i] as LineDifference,
          gone[i] as string,
          text,
        );
    gone = part.removed ? part.value : [];
  }
  const near = (i: number): boolean =>
    all.slice(Math.max(0, i - AROUND), i + AROUND + 1).some((l) => l.how !== 'same');
  const shown: PartDifference['lines'] = [];
  for (const [i, l] of all.entries()) {
    if (shown.length >= MOST) break;
    if (near(i)) shown.push(l);
    else if (shown.length > 0 && shown.at(-1) !== null) shown.push(null);
  }
  return shown;
}

/** What these changes make of the parts that they touch. */
export function partDifferences(
  before: Emended,
  after: Emended,
  changes: readonly PartChange[],
): PartDifference[] {
  const names = new Map<string, string>();
  for (const c of changes) if (c.op === 'rename') names.set(c.path, c.to);
  const found = new Map<string, PartDifference>();
  for (const { path } of changes) {
    const from = [...names].find(([, to]) => to === path)?.[0] ?? path;
    if (found.has(from)) continue;
    const to = names.get(from);
    const [was, is] = [before.parts.has(from), after.parts.has(to ?? from)];
    if (!was && !is) continue;
    const texts = [textOfPart(before, from) ?? '', textOfPart(after, to ?? from) ?? ''] as const;
    const how = !was ? 'added' : !is ? 'removed' : to ? 'renamed' : 'changed';
    const lines = how === 'removed' || (how === 'renamed' && texts[0] === texts[1]) ? [] : between(...texts);
    found.set(from, { path: from, how, ...(to ? { to } : {}), lines });
  }
  return [...found.values()];
}
