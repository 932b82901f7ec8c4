/** An outline as a list of entries with depths: entries moved with all that stands below them. */
import type { WantedEntry } from '@pagina/core/emend';

/** The number behind the last entry that stands below this one. */
export function branchEnd(entries: readonly WantedEntry[], at: number): number {
  const own = entries[at]?.depth ?? 0;
  let end = at + 1;
  while ((entries[end]?.depth ?? -1) > own) end++;
  return Math.min(end, entries.length);
}

/** Moved over the branch before or after it, to that one’s depth. */
export function moved(
  entries: readonly WantedEntry[],
  at: number,
  by: number,
): { entries: WantedEntry[]; at: number } {
  const end = branchEnd(entries, at);
  const branch = entries.slice(at, end);
  const own = branch[0]?.depth ?? 0;
  const rest = [...entries.slice(0, at), ...entries.slice(end)];
  let to = at;
  if (by < 0) {
    to = at - 1;
    while (to > 0 && (entries[to]?.depth ?? 0) > own) to--;
  } else if (end < entries.length) to = at + branchEnd(entries, end) - end;
  if (to < 0) return { entries: [...entries], at };
  // One is never more than a step deeper than the entry above.
  const most = to === 0 ? 0 : (rest[to - 1]?.depth ?? 0) + 1;
  const shift = Math.min(0, most - own);
  const next = [
    ...rest.slice(0, to),
    ...branch.map((e) => ({ ...e, depth: e.depth + shift })),
    ...rest.slice(to),
  ];
  return { entries: next.map((e, i) => ({ ...e, depth: Math.min(e.depth, i === 0 ? 0 : e.depth) })), at: to };
}

/** Moved in or out with all that stands below it; null where it can’t be. */
export function indented(entries: readonly WantedEntry[], at: number, by: number): WantedEntry[] | null {
  const own = entries[at];
  if (!own) return null;
  const depth = own.depth + by;
  if (depth < 0 || depth > (at === 0 ? 0 : (entries[at - 1]?.depth ?? 0) + 1)) return null;
  const end = branchEnd(entries, at);
  return entries.map((e, i) => (i >= at && i < end ? { ...e, depth: e.depth + by } : e));
}
