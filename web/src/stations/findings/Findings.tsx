'use client';
/** All that was found in the title, rule by rule: each leads to its place, is mended where it can be, or stands with a reason. */
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { findingKey, type Finding } from '@pagina/core/base';
import type { Accepted, Change } from '@pagina/core/book';
import { bookMendLabel, canAccept, mendBook } from '@pagina/core/check';
import { headingsOf } from '@pagina/core/order';
import { groupsOf, titleOfRule, type Listed, type RuleGroup } from '@/findings/groups';
import { RuleList } from '@/findings/RuleList';
import { useBook, useComposed, useTitle } from '@/title/context';
import { useFound } from '@/title/findings';
import { stationOf, STATIONS, viewOfFinding } from '@/title/stations';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { OneOf } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { showStretch } from '../manuscript/highlight';
import { Accept } from './Accept';
import { chosen, countsOf, type Choice } from './chosen';

const number = (n: number): string => n.toLocaleString('en-GB');

export function Findings() {
  const { session, goTo } = useTitle();
  const { book } = useBook();
  const { composed } = useComposed();
  const router = useRouter();
  const found = useFound();
  const [choice, setChoice] = useState<Choice>({ shown: 'all', station: 'any' });
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const counts = useMemo(() => countsOf(found), [found]);
  const groups = useMemo(() => groupsOf(chosen(found, choice)), [found, choice]);

  const show = (f: Finding): void => {
    if (f.place) goTo({ section: f.place.section, block: f.place.block });
    router.push(`/titles/${session.id}/${viewOfFinding(book, f)}`);
    if (f.place?.block && f.place.offset !== undefined)
      showStretch(f.place.block, f.place.offset, f.place.offset + lengthOf(f));
  };
  const placeOf = (f: Finding): string => {
    const { place, file } = f;
    if (!place) return file ?? `Open ${STATIONS.find((s) => s.key === stationOf(f))?.name ?? 'its place'}`;
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
  /** One step of Undo for all of them. */
  const setAccepted = (findings: readonly Finding[], label: string, as: Omit<Accepted, 'finding'> | null) => {
    const keys = [...new Set(findings.filter(canAccept).map(findingKey))];
    const changes = keys.map((finding): Change => ({
      type: 'set-accepted',
      finding,
      as: as && { finding, ...as },
    }));
    return session.change(() => ({ type: 'group', label, changes }));
  };
  const accept = async (findings: readonly Finding[], reason: string): Promise<void> =>
    void (await setAccepted(findings, 'Accept a finding', { reason, at: new Date().toISOString() }));

  const actions = ({ finding: f, accepted }: Listed) => {
    const label = accepted ? null : bookMendLabel(f);
    return (
      <>
        {label ? (
          <Button className="h-7 px-2" onClick={() => void mend([f], label)}>
            {label}
          </Button>
        ) : null}
        {accepted ? (
          <Button
            className="h-7 px-2"
            onClick={() => void setAccepted([f], 'Accept a finding no longer', null)}
          >
            Accept no longer
          </Button>
        ) : canAccept(f) ? (
          <Accept many={1} onAccept={(why) => accept([f], why)} />
        ) : null}
      </>
    );
  };
  const actionsOfRule = ({ rule, findings }: RuleGroup) => {
    if (choice.shown === 'accepted') return null;
    const all = findings.map((x) => x.finding);
    const mendable = all.filter((f) => bookMendLabel(f) !== null).length;
    return (
      <>
        {mendable > 1 ? (
          <Button
            className="h-7 px-2"
            onClick={() => void mend(all, `Mend: ${titleOfRule(rule).toLowerCase()}`)}
          >
            Mend all {number(mendable)}
          </Button>
        ) : null}
        {all.some(canAccept) ? <Accept many={all.length} onAccept={(why) => accept(all, why)} /> : null}
      </>
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
      <RuleList
        groups={groups}
        placeOf={placeOf}
        onShow={show}
        actions={actions}
        actionsOfRule={actionsOfRule}
        empty={
          found.checking
            ? 'Checking the book …'
            : choice.shown === 'all' && choice.station === 'any'
              ? 'The checks find nothing wrong with this book. Read the proof before you sign it off.'
              : 'None of these.'
        }
      />
    </div>
  );
}

/** How many characters a finding is about, from its offset on. */
function lengthOf({ about = '', mend }: Finding): number {
  const words = mend === 'usual-spelling' ? (about.split(' ')[1] ?? '') : about;
  return Math.max(1, words.length || 8);
}
