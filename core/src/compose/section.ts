/** One section composed alone: flow, plan, and bodies of pages. Numbers and heads come later, so it can be kept. */
import type { Place } from '../base';
import type { Picture, Section } from '../book';
import { kindRule, opensText } from '../book';
import { rowsOf } from '../design';
import type { Heading } from '../order';
import { FlowBuilder, type FlowManners } from './blocks';
import type { Composition, Side } from './composition';
import { edgesOf, type Edge } from './edges';
import type { Flow, FlowBlock } from './flow';
import { openingBlock } from './opening';
import { planPages } from './pages';
import type { PagePlan } from './pagestate';
import type { Setter } from './setter';
import { SheetWriter, type Sheet } from './sheet';

export interface SectionPages {
  section: string;
  pages: readonly { body: Sheet; used: number; shortfall: number }[];
  /** Defects at the pages' edges, by page of the section. */
  edges: readonly Edge[];
  missing: Composition['missing'];
}

/** Flow of a section whose text the author wrote. */
export function textFlow(
  s: Setter,
  section: Section,
  heading: Heading,
  pictures: ReadonlyMap<string, Picture>,
  notes: Pick<FlowManners, 'notes' | 'gathered'>,
): Flow {
  const headed = kindRule(section.kind).opening === 'heading';
  const opening = headed ? openingBlock(s, section.id, heading, sinkOf(s, section)) : null;
  return new FlowBuilder(s, section, pictures, {
    opens: opensText(section.kind),
    small: section.kind === 'copyright-page',
    ...notes,
  }).build(opening);
}

function sinkOf(s: Setter, section: Section): number {
  return section.kind === 'contents' ? Math.max(2, s.interior.opening.sink - 3) : s.interior.opening.sink;
}

export function pagesOf(s: Setter, flow: Flow, starts: Side): SectionPages {
  const { interior } = s;
  const { leading } = interior.text;
  const noteLead = interior.notes.leading;
  const rule = Math.round(leading * 0.6);
  const noteLines = (id: string): number => flow.notes.get(id)?.items.length ?? 0;
  const rows = rowsOf(interior);
  const plan = planPages(flow.blocks, {
    rows,
    starts,
    noteLines,
    noteRows: (lines) => (lines === 0 ? 0 : Math.ceil((rule + lines * noteLead) / leading)),
  });
  const { section } = flow;
  const missing: { char: string; place: Place }[] = [];
  const pages = plan.pages.map(({ used, shortfall, ...page }) => {
    const out = new SheetWriter();
    writeBody(s, flow, page, out);
    for (const { char, block } of out.missing)
      missing.push({ char, place: block === '' ? { section } : { section, block } });
    return { body: out.done(), used, shortfall };
  });
  return { section, pages, edges: edgesOf(flow, plan.pages), missing };
}

/** Baseline of grid row `row`, from the head of the page. The first baseline leaves room for an ascender. */
export const baseline = (s: Setter, row: number): number =>
  s.interior.margins.top + Math.round(s.interior.text.leading * 0.76) + row * s.interior.text.leading;

function writeBody(s: Setter, flow: Flow, page: Pick<PagePlan, 'slices' | 'notes'>, out: SheetWriter): void {
  const { interior } = s;
  const { leading } = interior.text;
  const rows = rowsOf(interior);
  page.slices.forEach((slice, i) => {
    const block = flow.blocks[slice.block] as FlowBlock;
    const edge =
      block.kind === 'break' &&
      block.atEdge !== null &&
      (i === 0 || i === page.slices.length - 1) &&
      page.slices.length > 1;
    const items = edge && block.atEdge ? block.atEdge : slice.variant.items;
    for (const item of items) {
      const inside = block.kind === 'text' ? item.row >= slice.from && item.row < slice.to : true;
      if (!inside) continue;
      const row = slice.at + item.row - (block.kind === 'text' ? slice.from : 0);
      const y =
        item.kind === 'picture' || (item.kind === 'rule' && item.fromHead)
          ? interior.margins.top + row * leading + item.dy
          : baseline(s, row) + item.dy;
      out.item(item, y);
    }
  });
  if (page.notes.length > 0) {
    const lines = page.notes.flatMap((n) => (flow.notes.get(n.id)?.items ?? []).slice(n.from, n.to));
    const foot = interior.margins.top + rows * leading;
    const lead = interior.notes.leading;
    const first = foot - lines.length * lead;
    out.item(
      { kind: 'rule', x: 0, row: 0, dy: 0, width: Math.round(s.measure / 4), thickness: 400 },
      first - Math.round(lead * 0.35),
    );
    lines.forEach((item, i) => out.item(item, first + Math.round(lead * 0.76) + i * lead));
  }
}
