/** What is wrong at the edges of a section's pages, told from where its slices were put. */
import type { Flow } from '../lines';
import { MIN_LAST_ROWS, type PagePlan } from './pagestate';

/** A defect at a page's edge; `page` counts from the section's first. */
export interface Edge {
  kind: 'widow' | 'orphan' | 'stranded' | 'short-last';
  page: number;
  block?: string;
}
/** Widows, orphans, stranded headings and a short last page of a section, from where its slices were put. */
export function edgesOf(flow: Flow, plans: readonly PagePlan[]): Edge[] {
  const edges: Edge[] = [];
  plans.forEach((plan, page) => {
    const lastPage = page === plans.length - 1;
    for (const [i, slice] of plan.slices.entries()) {
      const block = flow.blocks[slice.block];
      if (!block) continue;
      const rows = slice.variant.rows;
      const id = block.place.block;
      if (block.kind === 'text' && rows > 1) {
        if (slice.from === 0 && slice.to === 1) edges.push({ kind: 'orphan', page, block: id });
        if (slice.to === rows && slice.from === rows - 1) edges.push({ kind: 'widow', page, block: id });
      }
      if (block.heading && block.keep > 0 && slice.to === rows && !lastPage) {
        const after = plan.slices.slice(i + 1).reduce((n, s) => n + s.to - s.from, 0);
        if (after < block.keep) edges.push({ kind: 'stranded', page, block: id });
      }
    }
    if (lastPage && page > 0 && plan.used < MIN_LAST_ROWS && plan.floats.length === 0)
      edges.push({ kind: 'short-last', page });
  });
  return edges;
}
