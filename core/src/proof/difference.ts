/**
 * One impression against another: which pages are as they were, and which lines of the others differ. Pages are matched by
 * their marks first, then by their matter, and what is left between two matches is paired in order. The longest common
 * subsequence is found by the diff library (Myers 1986).
 */
import { diffArrays } from 'diff';
import type { Impression, View } from './impression';

export interface Match {
  /**
   * *moved*: the same words and pictures in other places, under another head or folio, or in other styles of the ebook.
   */
  how: 'same' | 'moved' | 'changed' | 'added' | 'removed';
  /** Numbers of the views, 0 up; null where there is none. */
  before: number | null;
  now: number | null;
}

/** Beyond this many differences the pages of a stretch are paired in order. */
const MOST_EDITS = 2_000;

/** Stretches that two lists have in common, as numbers of both, and the stretches between them. */
function* stretches(
  a: readonly string[],
  b: readonly string[],
): Generator<{ same: boolean; a: [from: number, to: number]; b: [from: number, to: number] }> {
  let [i, k] = [0, 0];
  let [fromA, fromB] = [0, 0];
  const parts = diffArrays([...a], [...b], { maxEditLength: MOST_EDITS });
  if (!parts) return yield { same: false, a: [0, a.length], b: [0, b.length] };
  for (const p of parts) {
    const n = p.value.length;
    if (p.removed) i += n;
    else if (p.added) k += n;
    else {
      if (i > fromA || k > fromB) yield { same: false, a: [fromA, i], b: [fromB, k] };
      yield { same: true, a: [i, i + n], b: [k, k + n] };
      [fromA, fromB] = [(i += n), (k += n)];
    }
  }
  if (i > fromA || k > fromB) yield { same: false, a: [fromA, i], b: [fromB, k] };
}

/** In the order of the pages as they are now, each that is gone before the one that follows it. */
export function matchViews(before: readonly View[], now: readonly View[]): Match[] {
  const out: Match[] = [];
  const marks = (views: readonly View[]): string[] => views.map((v) => v.mark);
  const matters = (views: readonly View[]): string[] => views.map((v) => v.matter);
  for (const s of stretches(marks(before), marks(now))) {
    if (s.same) {
      for (let n = 0; n < s.a[1] - s.a[0]; n++)
        out.push({ how: 'same', before: s.a[0] + n, now: s.b[0] + n });
      continue;
    }
    const [gone, come] = [before.slice(...s.a), now.slice(...s.b)];
    for (const t of stretches(matters(gone), matters(come))) {
      const [a, b] = [s.a[0] + t.a[0], s.b[0] + t.b[0]];
      const [m, n] = [t.a[1] - t.a[0], t.b[1] - t.b[0]];
      for (let x = 0; x < Math.max(m, n); x++)
        out.push({
          how: x >= n ? 'removed' : x >= m ? 'added' : t.same ? 'moved' : 'changed',
          before: x < m ? a + x : null,
          now: x < n ? b + x : null,
        });
    }
  }
  return out;
}

/** Lines of one view that the other has not: numbers of both, 0 up. A line that only stands higher or lower is the same. */
export function linesChanged(before: View, now: View): { out: number[]; in: number[] } {
  const keys = ({ words, places }: View): string[] =>
    words.map((w, i) => `${w.trim()} ${(places[i] ?? []).filter((_, k) => k !== 1).join(' ')}`);
  const changed: { out: number[]; in: number[] } = { out: [], in: [] };
  const span = ([from, to]: [number, number]): number[] =>
    Array.from({ length: to - from }, (_, n) => from + n);
  for (const s of stretches(keys(before), keys(now)))
    if (!s.same) {
      changed.out.push(...span(s.a));
      changed.in.push(...span(s.b));
    }
  return changed;
}

export interface Moved {
  /** Labels of the pages. */
  from: string;
  to: string;
  before: string;
  now: string;
}
/**
 * Lines that came out otherwise although the book may be the same: what a newer engine did. Lines of heads and folios are
 * left out.
 */
export function linesMoved(before: Impression, now: Impression): Moved[] {
  const moved: Moved[] = [];
  for (const m of matchViews(before.views, now.views)) {
    if (m.how === 'same') continue;
    const [a, b] = [
      m.before === null ? null : before.views[m.before],
      m.now === null ? null : now.views[m.now],
    ];
    const lines = linesChanged(a ?? NOTHING, b ?? NOTHING);
    const body = (v: View | null | undefined, at: number[]): string[] =>
      at.filter((i) => v?.places[i]?.[4] !== 1).map((i) => v?.words[i] ?? '');
    const [out, come] = [body(a, lines.out), body(b, lines.in)];
    for (let i = 0; i < Math.max(out.length, come.length); i++)
      moved.push({ from: a?.label ?? '', to: b?.label ?? '', before: out[i] ?? '', now: come[i] ?? '' });
  }
  return moved;
}
const NOTHING: View = { mark: '', matter: '', label: '', path: '', words: [], places: [] };
