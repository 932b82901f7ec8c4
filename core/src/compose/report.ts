/** The report, counted from the pages that were made, not from what the optimiser believes of them. */
import type { Mp } from '../base';
import type { Page, Report, ReportMark } from './sheets';
import type { SectionPages } from './sectionpages';
import { PART_MASK } from './lines';
import { CUT, ENDS_IN_HYPHEN, LINE, LOOSE, nextOp, OVERFULL, TIGHT, UNDERFULL } from './sheets';

const EDGE_COUNTS = {
  widow: 'widows',
  orphan: 'orphans',
  stranded: 'strandedHeadings',
  'short-last': 'shortLastPages',
  overset: 'oversetBoxes',
  unsafe: 'unsafeBoxes',
} as const;

export function reportOf(
  pages: readonly Page[],
  parts: readonly SectionPages[],
  starts: ReadonlyMap<string, number>,
  /** Of the sheet. */
  height: Mp,
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
    underfullLines: 0,
    missingGlyphs: 0,
    lostNotes: 0,
    oversetBoxes: 0,
    unsafeBoxes: 0,
  };
  let ladder = 0;
  for (const page of pages) {
    const { ops, blocks } = page.body;
    for (let at = 0; at < ops.length; at = nextOp(ops, at)) {
      if (ops[at] !== LINE) continue;
      const block = blocks[ops[at + 3] as number];
      const flags = ops[at + 5] as number;
      const baseline = ops[at + 2] as number;
      // Whatever it is a part of: words beyond the measure or off the sheet are lost to the reader.
      if (flags & OVERFULL || baseline > height || baseline < 0) {
        report.overfullLines++;
        mark('overfull', page.index, page.section, block || undefined);
      }
      if (flags & CUT) mark('cut', page.index, page.section, block || undefined);
      if (!block || flags & PART_MASK) continue;
      report.lines++;
      if (flags & UNDERFULL) report.underfullLines++;
      const hyphen = (flags & ENDS_IN_HYPHEN) !== 0;
      ladder = hyphen ? ladder + 1 : 0;
      if (hyphen) report.hyphenatedLines++;
      report.longestHyphenLadder = Math.max(report.longestHyphenLadder, ladder);
      if (flags & LOOSE) {
        report.looseLines++;
        mark('loose', page.index, page.section, block);
      }
      if (flags & TIGHT) report.tightLines++;
    }
  }
  for (const part of parts) {
    report.missingGlyphs += part.missing.length;
    report.lostNotes += part.lostNotes;
    const start = starts.get(part.section) ?? 0;
    for (const { kind, page, block } of part.faults) {
      report[EDGE_COUNTS[kind]]++;
      mark(kind, start + page, part.section, block);
    }
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
