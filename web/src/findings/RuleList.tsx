'use client';
/** Findings rule by rule, each with its place and what can be done about it. Long lists are drawn as far as they are seen. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { format } from 'date-fns';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import type { Finding } from '@pagina/core/base';
import { letters } from '@pagina/core/check';
import { Button } from '@/ui/Button';
import { SeverityMark } from '@/ui/SeverityMark';
import { rowsOf, SOME, titleOfRule, type FindingRow, type Listed, type RuleGroup } from './groups';

const number = (n: number): string => n.toLocaleString('en-GB');
/** About the height of a row, in pixels, until it is drawn. */
const ROW = 44;

export function RuleList({
  groups,
  placeOf,
  onShow,
  actions,
  actionsOfRule,
  empty,
}: {
  groups: readonly RuleGroup[];
  placeOf: (f: Finding) => string;
  onShow: (f: Finding) => void;
  actions: (one: Listed) => ReactNode;
  actionsOfRule: (group: RuleGroup) => ReactNode;
  empty: ReactNode;
}) {
  const [whole, setWhole] = useState<ReadonlySet<string>>(new Set());
  const rows = useMemo(() => rowsOf(groups, whole), [groups, whole]);
  const scroller = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    getItemKey: (i) => rows[i]?.key ?? i,
    overscan: 12,
  });

  const row = (r: FindingRow): ReactNode => {
    const { group } = r;
    if (r.type === 'more')
      return (
        <div className="border-b border-rule py-1.5 pl-[94px]">
          <Button kind="quiet" className="h-7 px-2" onClick={() => setWhole(new Set([...whole, group.rule]))}>
            Show the other {number(group.findings.length - SOME)}
          </Button>
        </div>
      );
    if (r.type === 'rule')
      return (
        <div className="grid grid-cols-[90px_1fr_auto] items-baseline gap-x-3 border-b border-edge pt-5 pb-1.5">
          <SeverityMark severity={group.severity} />
          <span className="min-w-0">
            <h2 className="font-serif text-[17px] leading-6">
              {titleOfRule(group.rule)} <span className="text-ink-soft">{number(group.findings.length)}</span>
            </h2>
            <Why of={(group.findings[0] as Listed).finding} />
          </span>
          <span className="flex gap-1">{actionsOfRule(group)}</span>
        </div>
      );
    const alone = r.type === 'single';
    const one = group.findings[alone ? 0 : r.index] as Listed;
    const { finding: f, accepted } = one;
    return (
      <div
        data-finding={f.rule}
        className={`grid grid-cols-[90px_1fr_220px_230px] items-baseline gap-x-3 border-b border-rule ${alone ? 'pt-5 pb-2' : 'py-0.5'}`}
      >
        <span>{alone ? <SeverityMark severity={f.severity} /> : null}</span>
        <span className="min-w-0 [overflow-wrap:anywhere]">
          {alone ? <h2 className="font-serif text-[17px] leading-6">{titleOfRule(f.rule)}</h2> : null}
          {f.message}
          {f.words ? <span className="block font-serif text-ink-soft italic">{f.words}</span> : null}
          {f.differs ? <LetterByLetter {...f.differs} /> : null}
          {alone ? <Why of={f} /> : null}
          {accepted ? (
            <span className="block text-[13px] text-ink-soft">
              Accepted{accepted.at ? ` on ${format(accepted.at, 'd MMMM yyyy')}` : ''}: {accepted.reason}
            </span>
          ) : null}
        </span>
        <button
          type="button"
          className="min-w-0 truncate text-left text-[13px] text-spruce underline"
          onClick={() => onShow(f)}
        >
          {placeOf(f)}
        </button>
        <span className="flex justify-end gap-1">{actions(one)}</span>
      </div>
    );
  };

  return (
    <div
      ref={scroller}
      className="min-h-0 flex-1 overflow-auto px-6 pb-6"
      tabIndex={0}
      role="region"
      aria-label="All findings"
    >
      {rows.length === 0 ? (
        <p className="py-4 text-ink-soft">{empty}</p>
      ) : (
        <div className="relative max-w-[1180px]" style={{ height: list.getTotalSize() }}>
          {list.getVirtualItems().map((item) => (
            <div
              key={item.key}
              data-index={item.index}
              ref={list.measureElement}
              className="absolute top-0 right-0 left-0"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              {row(rows[item.index] as FindingRow)}
            </div>
          ))}
        </div>
      )}
    </div>
  );
}

const Why = ({ of }: { of: Finding }) => (
  <span className="block text-[13px] text-ink-soft">{[of.why, of.remedy].filter(Boolean).join(' ')}</span>
);

/** Two texts that should be the same: letters that are too many struck out, letters that lack underlined. */
const LetterByLetter = ({ found, wanted }: { found: string; wanted: string }) => (
  <span className="block font-serif" data-letters>
    {letters(found, wanted).map((l, i) =>
      l.how === 'same' ? (
        <span key={i}>{l.text}</span>
      ) : l.how === 'found' ? (
        <del key={i} className="text-rubric">
          {l.text}
        </del>
      ) : (
        <ins key={i} className="text-spruce decoration-2 underline-offset-2">
          {l.text}
        </ins>
      ),
    )}
  </span>
);
