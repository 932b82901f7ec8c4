/** One section composed alone: flow, plan, and bodies of pages. Numbers and heads come later, so it can be kept. */
import type { Picture, Section } from '../book';
import { kindRule } from '../book';
import { rowsOf } from '../design';
import type { Heading } from '../order';
import { FlowBuilder } from './blocks';
import type { Placed, Side } from './composition';
import type { Flow, FlowBlock } from './flow';
import { openingBlock } from './opening';
import { planPages } from './pages';
import type { Fault, PagePlan } from './pagestate';
import type { Setter } from './setter';

export interface SectionPages {
  flow: Flow;
  plans: readonly PagePlan[];
  bodies: readonly (readonly Placed[])[];
  faults: readonly Fault[];
}

/** Flow of a section whose text the author wrote. */
export function textFlow(
  s: Setter,
  section: Section,
  heading: Heading,
  pictures: ReadonlyMap<string, Picture>,
): Flow {
  const rule = kindRule(section.kind);
  const chapter = rule.opening === 'heading';
  const opening = chapter ? openingBlock(s, section.id, heading, sinkOf(s, section)) : null;
  return new FlowBuilder(
    s,
    section,
    pictures,
    section.kind === 'chapter' ||
      section.kind === 'prologue' ||
      section.kind === 'epilogue' ||
      section.kind === 'interlude',
    section.kind === 'copyright-page',
  ).build(opening);
}

function sinkOf(s: Setter, section: Section): number {
  return section.kind === 'contents' ? Math.max(2, s.interior.opening.sink - 3) : s.interior.opening.sink;
}

export function pagesOf(s: Setter, flow: Flow, starts: Side): SectionPages {
  const { interior } = s;
  const { leading } = interior.text;
  const noteLead = interior.note.leading;
  const rule = Math.round(leading * 0.6);
  const noteLines = (id: string): number => flow.notes.get(id)?.items.length ?? 0;
  const rows = rowsOf(interior);
  const plan = planPages(flow.blocks, {
    rows,
    starts,
    noteLines,
    noteRows: (lines) => (lines === 0 ? 0 : Math.ceil((rule + lines * noteLead) / leading)),
  });
  const bodies = plan.pages.map((page) => placePage(s, flow, page));
  return { flow, plans: plan.pages, bodies, faults: plan.faults };
}

/** Baseline of grid row `row`, from the head of the page. The first baseline leaves room for an ascender. */
export const baseline = (s: Setter, row: number): number =>
  s.interior.margins.top + Math.round(s.interior.text.leading * 0.76) + row * s.interior.text.leading;

function placePage(s: Setter, flow: Flow, page: PagePlan): Placed[] {
  const { interior } = s;
  const { leading } = interior.text;
  const rows = rowsOf(interior);
  const placed: Placed[] = [];
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
        item.kind === 'picture' ? interior.margins.top + row * leading + item.dy : baseline(s, row) + item.dy;
      placed.push({ item, y });
    }
  });
  if (page.notes.length > 0) {
    const lines = page.notes.flatMap((n) => (flow.notes.get(n.id)?.items ?? []).slice(n.from, n.to));
    const foot = interior.margins.top + rows * leading;
    const lead = interior.note.leading;
    const first = foot - lines.length * lead;
    placed.push({
      item: { kind: 'rule', x: 0, row: 0, dy: 0, width: Math.round(s.measure / 4), thickness: 400 },
      y: first - Math.round(lead * 0.35),
    });
    lines.forEach((item, i) => placed.push({ item, y: first + Math.round(lead * 0.76) + i * lead }));
  }
  return placed;
}
