/** One section composed alone: flow, plan, and bodies of pages. Numbers and heads come later, so it can be kept. */
import type { Place } from '../base';
import type { Picture, Section } from '../book';
import { kindRule, opensText, picturesAbove } from '../book';
import { rowsOf } from '../design';
import type { Heading } from '../order';
import { FlowBuilder } from './blocks';
import type { Side } from './sheets';
import { edgesOf } from './pages';
import type { SectionPages } from './sectionpages';
import { lies } from './blocks';
import { heldRows } from './pages';
import type { Flow, FlowBlock, Item } from './lines';
import type { FlowManners } from './blocks';
import { openingBlock } from './blocks';
import type { KeptParagraphs } from './blocks';
import { planPages } from './pages';
import type { PagePlan } from './pages';
import type { Setter } from './blocks';
import { SheetWriter } from './sheets';

/** Flow of a section whose text the author wrote. */
export function textFlow(
  s: Setter,
  section: Section,
  heading: Heading,
  pictures: ReadonlyMap<string, Picture>,
  manners: Pick<FlowManners, 'notes' | 'gathered' | 'words' | 'kept'>,
): Flow {
  const headed = kindRule(section.kind).opening === 'heading';
  const above = picturesAbove(section);
  // A picture above the title takes the place of its white.
  const sink = above.length > 0 ? UNDER_PICTURE : sinkOf(s, section);
  const opening = headed ? openingBlock(s, section.id, heading, sink) : null;
  return new FlowBuilder(s, section, pictures, {
    opens: opensText(section.kind),
    small: section.kind === 'copyright-page',
    ...manners,
  }).build(opening, opening ? above : []);
}

/** Rows between a picture and the title below it. */
const UNDER_PICTURE = 2;

function sinkOf(s: Setter, section: Section): number {
  return section.kind === 'contents' ? Math.max(2, s.interior.opening.sink - 3) : s.interior.opening.sink;
}

export function pagesOf(
  s: Setter,
  flow: Flow,
  starts: Side,
  kept: KeptParagraphs | null = null,
): SectionPages {
  const { interior } = s;
  const noteLines = (id: string): number => flow.notes.get(id)?.items.length ?? 0;
  const rows = rowsOf(interior);
  const shape = { rows, starts, noteLines, noteRows: (lines: number) => noteRowsOf(s, lines) };
  const plan = planPages(flow.blocks, shape, kept?.trail);
  const { section } = flow;
  const missing: { char: string; place: Place }[] = [];
  const pages = plan.pages.map(({ used, shortfall, ...page }, i) => {
    const out = new SheetWriter();
    const side = (i % 2 === 0) === (starts === 'recto') ? 'recto' : 'verso';
    writeBody(s, flow, page, side, out);
    for (const { char, block } of out.missing)
      missing.push({ char, place: block === '' ? { section } : { section, block } });
    const [first] = page.floats.map((f) => flow.blocks[f]?.stands);
    const covered = first === 'edges' || first === 'spread';
    return { body: out.done(), used, shortfall, covered, bleeds: covered };
  });
  const placed = new Map<string, number>();
  for (const { notes } of plan.pages)
    for (const n of notes) placed.set(n.id, (placed.get(n.id) ?? 0) + n.to - n.from);
  const lostNotes = [...flow.notes.values()].filter(
    (n) => flow.called.has(n.id) && (placed.get(n.id) ?? 0) < n.items.length,
  ).length;
  return { section, pages, faults: edgesOf(flow, plan.pages), missing, lostNotes };
}

/** Rows that notes of so many lines take at the foot, their rule included. */
const noteRowsOf = ({ interior: { text, notes } }: Setter, lines: number): number =>
  lines === 0 ? 0 : Math.ceil((Math.round(text.leading * 0.6) + lines * notes.leading) / text.leading);

/** Baseline of grid row `row`, from the head of the page. The first baseline leaves room for an ascender. */
export const baseline = (s: Setter, row: number): number =>
  s.interior.margins.top + Math.round(s.interior.text.leading * 0.76) + row * s.interior.text.leading;

function writeBody(
  s: Setter,
  flow: Flow,
  page: Pick<PagePlan, 'slices' | 'notes' | 'floats'>,
  side: Side,
  out: SheetWriter,
): void {
  const { interior } = s;
  const { leading } = interior.text;
  const rows = rowsOf(interior);
  const put = (item: Item, row: number): void => {
    if (item.kind === 'picture' && item.over) {
      const { x, y } = lies(item, interior, side);
      return out.item({ ...item, x }, y);
    }
    const top = item.kind === 'picture' || (item.kind === 'rule' && item.fromHead);
    out.item(item, (top ? interior.margins.top + row * leading : baseline(s, row)) + item.dy);
  };
  const floats = page.floats.map((f) => flow.blocks[f] as FlowBlock);
  /** Rows of the pictures at the head; the text begins below them. */
  let down = 0;
  for (const f of floats.filter((b) => b.stands !== 'foot')) {
    for (const item of f.best.items) put(item, down + item.row);
    down += heldRows(f);
  }
  page.slices.forEach((slice, i) => {
    const block = flow.blocks[slice.block] as FlowBlock;
    const edge =
      block.kind === 'break' &&
      block.atEdge !== null &&
      (i === 0 || i === page.slices.length - 1) &&
      page.slices.length > 1;
    const items = edge && block.atEdge ? block.atEdge : slice.variant.items;
    if (slice.again)
      for (const item of block.again?.items ?? [])
        put(item, down + slice.at - (block.again?.rows ?? 0) + item.row);
    for (const item of items) {
      const inside = block.kind === 'text' ? item.row >= slice.from && item.row < slice.to : true;
      if (!inside) continue;
      put(item, down + slice.at + item.row - (block.kind === 'text' ? slice.from : 0));
    }
  });
  const noteCount = page.notes.reduce((n, x) => n + x.to - x.from, 0);
  let up = rows - noteRowsOf(s, noteCount);
  for (const f of floats.filter((b) => b.stands === 'foot').reverse()) {
    up -= f.best.rows;
    for (const item of f.best.items) put(item, up + item.row);
    up -= 1;
  }
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
