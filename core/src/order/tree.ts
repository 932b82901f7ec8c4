/**
 * The order as a tree: sections stand in a list, and what stands below a part may belong to it. Every rearrangement is
 * worked out as the list it should be; `arrange` finds the fewest moves that lead there, so that other people's work on
 * sections that stay is not disturbed.
 */
import { settle, type Book, type Change, type Placed } from '../book';

/** A section with everything that stands in it, in order. */
export function familyOf<S extends Placed>(sections: readonly S[], id: string): S[] {
  const inside = new Set([id]);
  return sections.filter((s) => {
    if (s.parent !== null && inside.has(s.parent)) inside.add(s.id);
    return inside.has(s.id);
  });
}

/** Those of the sections chosen that stand in none of the others, in the book's order. */
export function rootsOf<S extends Placed>(sections: readonly S[], ids: readonly string[]): S[] {
  const chosen = new Set(ids);
  const parents = new Map(sections.map((s) => [s.id, s.parent]));
  const within = (s: S): boolean => {
    for (let p = s.parent; p; p = parents.get(p) ?? null) if (chosen.has(p)) return true;
    return false;
  };
  return sections.filter((s) => chosen.has(s.id) && !within(s));
}

/** The changes that lead from the book's order to the list, which must hold the same sections. */
export function arrange(book: Pick<Book, 'sections'>, list: readonly Placed[]): Change[] {
  const target = settle(list);
  const now = book.sections.map((s) => s.id);
  const changes: Change[] = [];
  const stay = longestRun(target.map((s) => now.indexOf(s.id)));
  target.forEach((s, i) => {
    if (stay.has(i)) return;
    now.splice(now.indexOf(s.id), 1);
    const before = target[i - 1];
    const index = before ? now.indexOf(before.id) + 1 : 0;
    now.splice(index, 0, s.id);
    changes.push({ type: 'move-section', id: s.id, index });
  });
  const old = new Map(book.sections.map((s) => [s.id, s]));
  for (const s of target) {
    const was = old.get(s.id);
    if (was && (was.parent !== s.parent || was.matter !== s.matter))
      changes.push({ type: 'set-section', id: s.id, fields: { parent: s.parent, matter: s.matter } });
  }
  return changes;
}

/** Indexes of a longest increasing subsequence (patience sorting; Fredman 1975). */
function longestRun(values: readonly number[]): Set<number> {
  const tails: number[] = [];
  const before = new Array<number>(values.length).fill(-1);
  values.forEach((v, i) => {
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if ((values[tails[mid] as number] as number) < v) low = mid + 1;
      else high = mid;
    }
    before[i] = low > 0 ? (tails[low - 1] as number) : -1;
    tails[low] = i;
  });
  const run = new Set<number>();
  for (let i = tails.at(-1) ?? -1; i >= 0; i = before[i] as number) run.add(i);
  return run;
}
