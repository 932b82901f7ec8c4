/** From the optimiser's last link back to the first page: what stands on each page, and its notes. */
import type { FlowBlock, Variant } from '../lines';
import type { Choice, Fault, Link, PagePlan, PageShape, Slice } from './pagestate';

/** What was divided into pages. */
interface Planned {
  blocks: readonly FlowBlock[];
  variants: readonly (readonly Variant[])[];
  shape: PageShape;
}

/** A link and all before it, from the first page on. */
export function chainOf(last: Link): Link[] {
  const links: Link[] = [];
  for (let l: Link | null = last; l; l = l.before) links.push(l);
  return links.reverse();
}

/** Lays each page's slices and notes out from its head; `links` are the ends of the pages. */
export function unwind(
  links: readonly Link[],
  choice: Choice | null,
  { blocks, variants, shape }: Planned,
): { pages: PagePlan[]; faults: Fault[] } {
  const chosen = new Map<number, number>();
  for (let c = choice; c; c = c.before) chosen.set(c.block, c.variant);
  const pages: PagePlan[] = [];
  const faults: Fault[] = [];
  let block = 0;
  let row = 0;
  let queue: { id: string; from: number; to: number }[] = [];
  links.forEach((link, index) => {
    const slices: Slice[] = [];
    let at = 0;
    while (block < link.block || (block === link.block && row < link.row)) {
      const b = blocks[block] as FlowBlock;
      if (b.kind === 'new-page' || b.kind === 'float' || b.kind === 'flush') {
        block++;
        continue;
      }
      const variant = (variants[block] as Variant[])[chosen.get(block) ?? 0] as Variant;
      if (row === 0 && at > 0) at += b.before;
      const again = row === 0 && at === 0 && b.again !== undefined;
      if (again) at += b.again?.rows ?? 0;
      const to = block === link.block ? link.row : variant.rows;
      slices.push({ block, variant, from: row, to, at, again });
      at += to - row;
      for (let r = row; r < to; r++)
        for (const id of variant.notes.get(r) ?? []) queue.push({ id, from: 0, to: shape.noteLines(id) });
      if (block === link.block) {
        row = to;
        break;
      }
      block++;
      row = 0;
    }
    const total = queue.reduce((n, q) => n + q.to - q.from, 0);
    const { here, rest } = take(queue, Math.max(0, total - link.carried));
    queue = rest;
    const { used, shortfall, floats } = link;
    pages.push({ slices, used, notes: here, shortfall, floats });
    for (const kind of link.faults) faults.push({ kind, page: index });
  });
  // Notes longer than the chapter's last page get pages of their own.
  while (queue.length > 0) {
    let lines = queue.reduce((n, q) => n + q.to - q.from, 0);
    while (shape.noteRows(lines) > shape.rows) lines--;
    const { here, rest } = take(queue, Math.max(1, lines));
    queue = rest;
    pages.push({ slices: [], used: 0, notes: here, shortfall: 0, floats: [] });
  }
  return { pages, faults };
}

function take(
  queue: readonly { id: string; from: number; to: number }[],
  lines: number,
): { here: PagePlan['notes']; rest: PagePlan['notes'] } {
  const here: PagePlan['notes'] = [];
  const rest: PagePlan['notes'] = [];
  let left = lines;
  for (const q of queue) {
    const n = Math.min(left, q.to - q.from);
    if (n > 0) here.push({ ...q, to: q.from + n });
    if (n < q.to - q.from) rest.push({ ...q, from: q.from + n });
    left -= n;
  }
  return { here, rest };
}
