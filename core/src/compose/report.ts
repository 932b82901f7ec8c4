/** The report, counted from the pages that were made, not from what the optimiser believes of them. */
import { Kind } from './breakpoints';
import type { Page, Report, ReportMark } from './composition';
import type { LineItem } from './flow';
import { lineSpace } from './setline';
import type { SectionPages } from './section';

const MIN_LAST_ROWS = 4;

export function reportOf(
  pages: readonly Page[],
  parts: readonly SectionPages[],
  starts: ReadonlyMap<string, number>,
): { report: Report; marks: ReportMark[] } {
  const marks: ReportMark[] = [];
  const mark = (kind: ReportMark['kind'], page: number, section: string, block?: string): void =>
    void marks.push({ kind, page, place: { section, block } });
  const report: Report = {
    pages: pages.length,
    lines: 0,
    hyphenatedLines: 0,
    longestHyphenLadder: 0,
    overfullLines: 0,
    looseLines: 0,
    tightLines: 0,
    widows: 0,
    orphans: 0,
    strandedHeadings: 0,
    shortLastPages: 0,
    unlevelSpreads: 0,
  };
  let ladder = 0;
  for (const page of pages) {
    for (const { item } of page.body) {
      if (item.kind !== 'line' || item.paragraph.block === '') continue;
      report.lines++;
      const { line } = item;
      const hyphen = line.kind === Kind.hyphen || (line.kind === Kind.dash && endsInHyphen(item));
      ladder = hyphen ? ladder + 1 : 0;
      if (hyphen) report.hyphenatedLines++;
      report.longestHyphenLadder = Math.max(report.longestHyphenLadder, ladder);
      const space = lineSpace(item);
      if (space.overfull) {
        report.overfullLines++;
        mark('overfull', page.index, page.section, item.paragraph.block);
      }
      if (item.align === 'justify' && space.count > 0 && space.mean > sizeOf(item) / 3) {
        report.looseLines++;
        mark('loose', page.index, page.section, item.paragraph.block);
      }
      if (line.ratio < -0.9) report.tightLines++;
    }
  }
  for (const part of parts) {
    const start = starts.get(part.flow.section) ?? 0;
    countEdges(part, start, report, mark);
  }
  for (let i = 1; i + 1 < pages.length; i += 2) {
    const left = pages[i] as Page;
    const right = pages[i + 1] as Page;
    if (left.blank || right.blank || left.section !== right.section || right.last || left.last) continue;
    if (left.shortfall !== right.shortfall) {
      report.unlevelSpreads++;
      mark('unlevel', i + 1, right.section);
    }
  }
  return { report, marks };
}

const endsInHyphen = (item: LineItem): boolean => {
  const piece = item.paragraph.pieces[item.line.to];
  return piece?.kind === 'word' && /[-\u2010]$/.test(piece.text);
};

type Mark = (kind: ReportMark['kind'], page: number, section: string, block?: string) => void;

/** Widows, orphans, stranded headings and short last pages of a section, from where its slices were put. */
function countEdges(part: SectionPages, start: number, report: Report, mark: Mark): void {
  const section = part.flow.section;
  part.plans.forEach((plan, p) => {
    const lastPage = p === part.plans.length - 1;
    for (const [i, slice] of plan.slices.entries()) {
      const block = part.flow.blocks[slice.block];
      if (!block) continue;
      const rows = slice.variant.rows;
      const id = block.place.block;
      if (block.kind === 'text' && rows > 1) {
        if (slice.from === 0 && slice.to === 1) {
          report.orphans++;
          mark('orphan', start + p, section, id);
        }
        if (slice.to === rows && slice.from === rows - 1) {
          report.widows++;
          mark('widow', start + p, section, id);
        }
      }
      if (block.heading && block.keep > 0 && slice.to === rows && !lastPage) {
        const after = plan.slices.slice(i + 1).reduce((n, s) => n + s.to - s.from, 0);
        if (after < block.keep) {
          report.strandedHeadings++;
          mark('stranded', start + p, section, id);
        }
      }
    }
    if (lastPage && p > 0 && plan.used < MIN_LAST_ROWS) {
      report.shortLastPages++;
      mark('short-last', start + p, section);
    }
  });
}

const sizeOf = (item: LineItem): number => {
  for (const p of item.paragraph.pieces) if (p.kind === 'word') return p.style.spec.size;
  return 1;
};
