/**
 * Sequences of numbers through a whole manuscript. All lines that may carry a number compete: the sequence that earns
 * most by the table of costs is the book's, so that numbers that run on pull in weak members (not bold, no page break,
 * misspelt) and what breaks the run stays outside. Dynamic programming over the candidates in their order.
 */
import { COSTS, NEAR_WORDS } from './costs';
import type { Label } from '../../base';

export interface Candidate {
  at: number;
  label: Label;
  /** What the line earns by itself. */
  worth: number;
  /** What a reader sees of it; members of a sequence mostly look alike. */
  key: string;
  /** Words of the manuscript before it. */
  words: number;
  /** Marked as a heading by the file, or with a word such as "Chapter". */
  strong: boolean;
}

export interface Member {
  candidate: Candidate;
  number: number;
}
export interface Sequence {
  members: Member[];
  worth: number;
}

/** How many candidates back a step may begin: more noise than that between two chapters no manuscript has. */
const REACH = 300;

/**
 * The best sequence of these candidates, or null. `partBetween` says whether a part may begin between two blocks, after
 * which numbers may begin at 1 once more.
 */
export function bestSequence(
  candidates: readonly Candidate[],
  partBetween: (from: number, to: number) => boolean,
): Sequence | null {
  const n = candidates.length;
  const worth = new Float64Array(n);
  const number = new Int32Array(n);
  const from = new Int32Array(n).fill(-1);
  for (let i = 0; i < n; i++) {
    const c = candidates[i] as Candidate;
    number[i] = c.label.number ?? 1;
    worth[i] = c.worth + start(number[i] as number);
    for (let k = Math.max(0, i - REACH); k < i; k++) {
      const before = candidates[k] as Candidate;
      const s = step(before, number[k] as number, c, partBetween);
      const all = (worth[k] as number) + s + c.worth;
      if (all > (worth[i] as number)) {
        worth[i] = all;
        from[i] = k;
        number[i] = c.label.number ?? (number[k] as number) + 1;
      }
    }
  }
  let best = -1;
  for (let i = 0; i < n; i++)
    if ((worth[i] as number) > COSTS.least && (best < 0 || (worth[i] as number) > (worth[best] as number)))
      best = i;
  if (best < 0) return null;
  const members: Member[] = [];
  for (let i = best; i >= 0; i = from[i] as number)
    members.unshift({ candidate: candidates[i] as Candidate, number: number[i] as number });
  return { members, worth: worth[best] as number };
}

const start = (n: number): number =>
  n === 1 ? COSTS.start.one : Math.max(COSTS.start.most, COSTS.start.each * n);

function step(
  a: Candidate,
  n: number,
  b: Candidate,
  partBetween: (from: number, to: number) => boolean,
): number {
  const c = COSTS.step;
  let s: number;
  const m = b.label.number;
  if (m === null) s = c.unread;
  else if (m === n + 1) s = c.next;
  else if (m === n) s = c.again;
  else if (m > n) s = Math.max(c.gapMost, c.gap * (m - n - 1));
  else if (m === 1 && (a.label.level === null) !== (b.label.level === null)) return -Infinity;
  else if (m === 1) s = partBetween(a.at, b.at) ? c.afresh : c.afreshWithoutPart;
  else s = c.back;
  if (b.words - a.words < NEAR_WORDS) s += a.strong && b.strong ? c.near / 3 : c.near;
  if (a.key === b.key) s += c.alike;
  return s;
}
