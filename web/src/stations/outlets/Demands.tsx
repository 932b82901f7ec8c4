'use client';
/** What one outlet asks for, in its own order, with what was found. */
import Link from 'next/link';
import { useMemo } from 'react';
import type { Demand, DemandState } from '@pagina/core/outlets';
import { Table, type Column } from '@/ui/Table';

export const MARKS: Record<DemandState, [shape: string, colour: string]> = {
  met: ['✓', 'text-spruce'],
  live: ['●', 'text-spruce'],
  'not met': ['■', 'text-rubric'],
  optional: ['○', 'text-ink-soft'],
  'not asked': ['–', 'text-ink-soft'],
};

export function Demands({
  of: demands,
  outlet,
  title,
  onChoices,
}: {
  of: readonly Demand[];
  outlet: string;
  title: string;
  /** Opens what is chosen at this outlet. */
  onChoices: () => void;
}) {
  const columns = useMemo(
    (): Column<Demand>[] => [
      {
        id: 'asked',
        name: 'Asked for',
        heads: true,
        width: '132px',
        cell: (d) => (
          <>
            {d.name}
            {d.called !== d.name ? <span className="block text-[12px] text-ink-soft">{d.called}</span> : null}
            {d.note ? <span className="block text-[12px] text-ink-soft">{d.note}</span> : null}
          </>
        ),
        className: 'py-1 align-top',
      },
      {
        id: 'status',
        name: 'Status',
        width: '96px',
        cell: (d) => (
          <span className={MARKS[d.state][1]}>
            <span aria-hidden>{MARKS[d.state][0]}</span> {d.state}
            {d.own ? <span className="block text-[12px] text-ink-soft">its own text</span> : null}
          </span>
        ),
        className: 'whitespace-nowrap align-top py-1',
      },
      {
        id: 'why',
        name: 'Current value',
        silent: true,
        cell: (d) =>
          d.state !== 'not met' ? (
            d.why
          ) : d.station === 'outlets' ? (
            <button type="button" className="text-left underline" onClick={onChoices}>
              {d.why}
            </button>
          ) : (
            <Link className="underline" href={`/titles/${title}/${d.station}`}>
              {d.why}
            </Link>
          ),
        className: 'text-[13px] text-ink-soft align-top py-1 break-words',
      },
    ],
    [title, onChoices],
  );
  return (
    <Table
      label={`What ${outlet} asks for`}
      columns={columns}
      rows={demands}
      keyOf={(d) => d.field}
      attributesOf={(d) => ({ 'data-demand': d.name })}
    />
  );
}
