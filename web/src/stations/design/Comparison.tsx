'use client';
/** Two designs in figures: what each makes of this very book. */
import { useLengths, type Lengths } from '@/title/lengths';
import { moneyString } from '@pagina/core/base';
import { printingCost, lowestListPrice, paperOf, spineWidth } from '@pagina/core/trade';
import type { PrintEdition } from '@pagina/core/book';
import { Table } from '@/ui/Table';
import type { Composed } from '@/workers/messages';

const share = (n: number, of: number): string => (of > 0 ? `${((100 * n) / of).toFixed(1)} %` : '0 %');

interface Column {
  name: string;
  composed: Composed | null;
}

function rowsOf(
  c: Composed,
  { paper, inks, binding }: PrintEdition,
  say: Lengths['say'],
): [string, string][] {
  const pages = c.pages.length;
  const cost = printingCost(
    pages,
    { width: c.width * 1000, height: c.height * 1000 },
    inks === 'colour',
    binding,
  );
  return [
    ['Pages', pages.toLocaleString('en-GB')],
    ['Spine', say(spineWidth(pages, paperOf(paper), binding))],
    ['Printing cost a copy', cost === null ? 'not bound' : moneyString(cost)],
    ['Lowest list price', cost === null ? 'none' : moneyString(lowestListPrice(cost))],
    ['Characters a line', String(c.characters)],
    ['Lines a page', String(c.rows)],
    ['Loose lines', share(c.report.looseLines, c.report.lines)],
    ['Hyphenated words', share(c.report.hyphenatedLines, c.report.lines)],
  ];
}

export function Comparison({ columns, edition }: { columns: readonly Column[]; edition: PrintEdition }) {
  const { say } = useLengths();
  const filled = columns.map((c) => (c.composed ? rowsOf(c.composed, edition, say) : null));
  const labels = filled.find((r) => r)?.map(([label]) => label) ?? [];
  return (
    <div data-comparison>
      <Table
        className="text-[13px] tabular-nums [&_td]:px-1 [&_th]:px-1"
        keyOf={(row) => row.label}
        rows={labels.map((label, i) => ({ label, figures: filled.map((r) => r?.[i]?.[1] ?? '…') }))}
        columns={[
          {
            id: 'figure',
            name: 'Figure',
            silent: true,
            heads: true,
            cell: (r) => r.label,
            className: 'py-0.5 text-ink-soft',
          },
          ...columns.map((c, i) => ({
            id: `design-${i}`,
            name: c.name,
            right: true,
            cell: (r: { figures: string[] }) => r.figures[i],
          })),
        ]}
      />
    </div>
  );
}
