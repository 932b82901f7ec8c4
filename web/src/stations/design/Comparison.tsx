'use client';
/** Two designs in figures: what each makes of this very book. */
import { printingCost, lowestListPrice, paperOf, spineWidth, CURRENCY } from '@pagina/core/trade';
import type { Edition } from '@pagina/core/book';
import type { Composed } from '@/workers/messages';

const money = new Intl.NumberFormat('en-GB', { style: 'currency', currency: CURRENCY });
const share = (n: number, of: number): string => (of > 0 ? `${((100 * n) / of).toFixed(1)} %` : '0 %');

interface Column {
  name: string;
  composed: Composed | null;
}

function rowsOf(c: Composed, paper: string): [string, string][] {
  const pages = c.pages.length;
  const cost = printingCost(pages, { width: c.width * 1000, height: c.height * 1000 }, false);
  return [
    ['Pages', pages.toLocaleString('en-GB')],
    ['Spine', `${(spineWidth(pages, paperOf(paper)) / 2834.6).toFixed(1)} mm`],
    ['Printing cost a copy', cost === null ? 'not bound' : money.format(cost / 100)],
    ['Lowest list price', cost === null ? 'none' : money.format(lowestListPrice(cost) / 100)],
    ['Characters a line', String(c.characters)],
    ['Lines a page', String(c.rows)],
    ['Loose lines', share(c.report.looseLines, c.report.lines)],
    ['Hyphenated words', share(c.report.hyphenatedLines, c.report.lines)],
  ];
}

export function Comparison({ columns, edition }: { columns: readonly Column[]; edition: Edition }) {
  const filled = columns.map((c) => (c.composed ? rowsOf(c.composed, edition.paper) : null));
  const labels = filled.find((r) => r)?.map(([l]) => l) ?? [];
  return (
    <table className="w-full border-collapse text-[13px] tabular-nums" data-comparison>
      <thead>
        <tr>
          <th className="sr-only">Figure</th>
          {columns.map((c) => (
            <th key={c.name} className="column-head px-1 py-1 text-right">
              {c.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {labels.map((label, i) => (
          <tr key={label} className="border-t border-rule">
            <th scope="row" className="py-0.5 text-left font-normal text-ink-soft">
              {label}
            </th>
            {filled.map((r, k) => (
              <td key={k} className="px-1 text-right">
                {r?.[i]?.[1] ?? '…'}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
