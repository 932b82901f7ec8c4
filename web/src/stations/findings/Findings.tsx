'use client';
/** All that was found in the title, rule by rule: each leads to its place, is mended where it can be, or stands with a reason. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { format } from 'date-fns';
import { useRouter } from 'next/navigation';
import { useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { findingKey, type Finding } from '@pagina/core/base';
import type { Change } from '@pagina/core/book';
import { bookMendLabel, canAccept, mendBook } from '@pagina/core/check';
import { headingsOf } from '@pagina/core/order';
import { showStretch } from '../manuscript/highlight';
import { useBook, useComposed, useTitle } from '@/title/context';
import { titleOfRule, useFound } from '@/title/findings';
import { STATIONS, viewOfFinding } from '@/title/stations';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { SeverityMark } from '@/ui/SeverityMark';
import { OneOf } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { Accept } from './Accept';
import { countsOf, groupsOf, rowsOf, SOME, type Choice, type FindingRow, type RuleGroup } from './rows';

const number = (n: number): string => n.toLocaleString('en-GB');
const ROW = 44;

export function Findings() {
  const { session, goTo } = useTitle();
  const { book } = useBook();
  const { composed } = useComposed();
  const router = useRouter();
  const found = useFound();
  const [choice, setChoice] = useState<Choice>({ shown: 'all', station: 'any' });
  const [whole, setWhole] = useState<ReadonlySet<string>>(new Set());
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const counts = useMemo(() => countsOf(found), [found]);
  const groups = useMemo(() => groupsOf(found, choice), [found, choice]);
  const rows = useMemo(() => rowsOf(groups, whole), [groups, whole]);
  const scroller = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    getItemKey: (i) => rows[i]?.key ?? i,
    overscan: 12,
  });

  const show = (f: Finding): void => {
    if (f.place) goTo({ section: f.place.section, block: f.place.block });
    router.push(`/titles/${session.id}/${viewOfFinding(book, f)}`);
    if (f.place?.block && f.place.offset !== undefined)
      showStretch(f.place.block, f.place.offset, f.place.offset + lengthOf(f));
  };
  const placeOf = ({ place, file }: Finding): string => {
    if (!place) return file ?? '';
    const label = headings.get(place.section)?.label ?? '';
    const folio = place.block ? composed?.places[place.block]?.[1] : undefined;
    return folio ? `${label}, page ${folio}` : label;
  };
  const mend = async (findings: readonly Finding[], label: string): Promise<void> => {
    await session.flush();
    const done = await session.change((b) => mendBook(b, findings, label));
    if (!done) return void toast('The text has changed since; the list is being updated.');
    toast(findings.length > 1 ? `${number(findings.length)} mended.` : 'Mended.', {
      action: { label: 'Undo', onClick: () => void session.undo() },
    });
  };
  const accept = async (findings: readonly Finding[], reason: string): Promise<void> => {
    const at = new Date().toISOString();
    const keys = [...new Set(findings.filter(canAccept).map(findingKey))];
    const changes = keys.map((finding): Change => ({
      type: 'set-accepted',
      finding,
      as: { finding, reason, at },
    }));
    await session.change(() => ({ type: 'group', label: 'Accept a finding', changes }));
  };
  const lookAgain = (findings: readonly Finding[]): void => {
    const keys = [...new Set(findings.map(findingKey))];
    const changes = keys.map((finding): Change => ({ type: 'set-accepted', finding, as: null }));
    void session.change(() => ({ type: 'group', label: 'Accept a finding no longer', changes }));
  };

  const row = (r: FindingRow) => {
    const all = r.group.findings.map((x) => x.finding);
    if (r.type === 'more')
      return (
        <div className="border-b border-rule py-1.5 pl-[102px]">
          <Button
            kind="quiet"
            className="h-7 px-2"
            onClick={() => setWhole(new Set([...whole, r.group.rule]))}
          >
            Show the other {number(all.length - SOME)}
          </Button>
        </div>
      );
    if (r.type === 'rule')
      return (
        <RuleHead
          group={r.group}
          mendable={choice.shown === 'accepted' ? 0 : all.filter((f) => bookMendLabel(f) !== null).length}
          onMend={() => void mend(all, `Mend: ${titleOfRule(r.group.rule).toLowerCase()}`)}
          onAccept={choice.shown === 'accepted' || !all.some(canAccept) ? null : (why) => accept(all, why)}
        />
      );
    const alone = r.type === 'single';
    const { finding: f, reason, at } = r.group.findings[alone ? 0 : r.index] as RuleGroup['findings'][number];
    const label = reason === null ? bookMendLabel(f) : null;
    return (
      <div
        data-finding={f.rule}
        className={`grid grid-cols-[90px_1fr_220px_230px] items-baseline gap-x-3 border-b border-rule ${alone ? 'pt-5 pb-2' : 'py-0.5'}`}
      >
        <span>{alone ? <SeverityMark severity={f.severity} /> : null}</span>
        <span className="min-w-0">
          {alone ? <h2 className="font-serif text-[17px] leading-6">{titleOfRule(f.rule)}</h2> : null}
          {f.message}
          {f.words ? <span className="block font-serif text-ink-soft italic">{f.words}</span> : null}
          {alone ? <Why of={f} /> : null}
          {reason !== null ? (
            <span className="block text-[13px] text-ink-soft">
              Accepted{at ? ` on ${format(at, 'd MMMM yyyy')}` : ''}: {reason}
            </span>
          ) : null}
        </span>
        <button
          type="button"
          className="min-w-0 truncate text-left text-[13px] text-spruce underline"
          onClick={() => show(f)}
        >
          {placeOf(f) ||
            `Open ${STATIONS.find((s) => s.key === viewOfFinding(book, f))?.name ?? 'its place'}`}
        </button>
        <span className="flex justify-end gap-1">
          {label ? (
            <Button className="h-7 px-2" onClick={() => void mend([f], label)}>
              {label}
            </Button>
          ) : null}
          {reason !== null ? (
            <Button className="h-7 px-2" onClick={() => lookAgain([f])}>
              Accept no longer
            </Button>
          ) : canAccept(f) ? (
            <Accept many={1} onAccept={(why) => accept([f], why)} />
          ) : null}
        </span>
      </div>
    );
  };

  return (
    <div className="flex h-full flex-col">
      <Toolbar label="Findings" className="gap-x-3">
        <h1 className="mr-1 font-serif text-[17px]">Findings</h1>
        <OneOf
          label="Which are shown"
          value={choice.shown}
          choices={[
            { value: 'all', name: `All ${number(counts.shown.all)}` },
            { value: 'blocker', name: `Blockers ${number(counts.shown.blocker)}` },
            { value: 'caution', name: `Cautions ${number(counts.shown.caution)}` },
            { value: 'note', name: `Notes ${number(counts.shown.note)}` },
            { value: 'accepted', name: `Accepted ${number(counts.shown.accepted)}` },
          ]}
          onChoose={(shown) => setChoice({ ...choice, shown })}
        />
        <Select
          label="Where they are mended"
          value={choice.station}
          choices={[
            { value: 'any', name: 'At every station' },
            ...STATIONS.filter((s) => counts.stations.has(s.key) || s.key === choice.station).map((s) => ({
              value: s.key,
              name: `${s.name} (${number(counts.stations.get(s.key) ?? 0)})`,
            })),
          ]}
          onChoose={(station) => setChoice({ ...choice, station: station as Choice['station'] })}
        />
      </Toolbar>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto px-6 pb-6"
        tabIndex={0}
        aria-label="All findings"
      >
        {rows.length === 0 ? (
          <p className="py-4 text-ink-soft">
            {found.checking
              ? 'Checking the book …'
              : choice.shown === 'all' && choice.station === 'any'
                ? 'The checks find nothing wrong with this book. Read the proof before you sign it off.'
                : 'None of these.'}
          </p>
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
    </div>
  );
}

/** How many characters a finding is about, from its offset on. */
function lengthOf({ about = '', mend }: Finding): number {
  const words = mend === 'usual-spelling' ? (about.split(' ')[1] ?? '') : about;
  return Math.max(1, words.length || 8);
}

const Why = ({ of }: { of: Finding }) => (
  <span className="block text-[13px] text-ink-soft">{[of.why, of.remedy].filter(Boolean).join(' ')}</span>
);

function RuleHead({
  group: { rule, severity, findings },
  mendable,
  onMend,
  onAccept,
}: {
  group: RuleGroup;
  mendable: number;
  onMend: () => void;
  onAccept: ((reason: string) => Promise<void>) | null;
}) {
  const first = findings[0]?.finding;
  return (
    <div className="grid grid-cols-[90px_1fr_auto] items-baseline gap-x-3 border-b border-edge pt-5 pb-1.5">
      <SeverityMark severity={severity} />
      <span className="min-w-0">
        <h2 className="font-serif text-[17px] leading-6">
          {titleOfRule(rule)} <span className="text-ink-soft">{number(findings.length)}</span>
        </h2>
        {first ? <Why of={first} /> : null}
      </span>
      <span className="flex gap-1">
        {mendable > 1 ? (
          <Button className="h-7 px-2" onClick={onMend}>
            Mend all {number(mendable)}
          </Button>
        ) : null}
        {onAccept && findings.length > 1 ? <Accept many={findings.length} onAccept={onAccept} /> : null}
      </span>
    </div>
  );
}
