/**
 * A chapter's pages: first every paragraph stands at its best length. Only where that has a fault are the other lengths of
 * the paragraphs around it worked out and the chapter run again.
 */
import type { FlowBlock } from '../lines';
import { Planner } from './pages';
import type { Fault, PageShape, Plan } from './pagestate';
import { leavesTrail, type Trail } from './trail';

const HEALED: readonly Fault['kind'][] = ['widow', 'orphan', 'stranded', 'unlevel', 'short-last', 'hole'];
/** Pages before a fault whose paragraphs may change their length, tried one after the other. */
const REACH = [3, 10];

/**
 * The pages of a chapter. Linear in its length; every row of every block stands on exactly one page. With the trail of a
 * chapter that is being written in, in proportion to what has changed.
 */
export function planPages(blocks: readonly FlowBlock[], shape: PageShape, trail: Trail | null = null): Plan {
  const plain = (t: Trail | null): Plan => new Planner(blocks, shape, new Set()).run(t);
  let plan = plain(trail && leavesTrail(blocks) ? trail : null);
  // What is healed is compared by its cost.
  if (Number.isNaN(plan.cost) && plan.faults.some((f) => HEALED.includes(f.kind))) plan = plain(null);
  for (const reach of REACH) {
    const bad = plan.faults.filter((f) => HEALED.includes(f.kind));
    if (bad.length === 0) break;
    const loose = new Set<number>();
    for (const f of bad)
      for (let p = Math.max(0, f.page - reach); p <= Math.min(f.page + 1, plan.pages.length - 1); p++)
        for (const s of plan.pages[p]?.slices ?? []) loose.add(s.block);
    const better = new Planner(blocks, shape, loose).run();
    if (better.cost < plan.cost) plan = better;
  }
  return plan;
}
