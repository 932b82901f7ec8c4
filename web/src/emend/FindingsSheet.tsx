'use client';
/** All that the checks say of the ebook, rule by rule; each leads to its place, and is mended where it can be. */
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { bySeverity, offsetAt, type Finding, type Severity } from '@pagina/core/base';
import { mendLabel } from '@pagina/core/check';
import { EBOOK_OUTLETS } from '@pagina/core/trade';
import { groupsOf, titleOfRule, type Listed, type RuleGroup } from '@/findings/groups';
import { RuleList } from '@/findings/RuleList';
import type { Wanted } from '@/workers/ebook-check';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { OneOf } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { useEbook, useSnapshot } from './context';
import { MendDialog, type Proposed } from './MendDialog';

type Filter = 'all' | Severity;
const number = (n: number): string => n.toLocaleString('en-GB');

/** Beside the ids of outlets: what they ask further is left out, or that of all counts. */
const [STANDARDS, EVERY] = ['standards', 'every'];
const said = (name: string, refusals: number): string =>
  `The standards and ${name}${refusals > 0 ? ` (${number(refusals)})` : ''}`;

export function FindingsSheet() {
  const router = useRouter();
  const { session, goTo } = useEbook();
  const { view, findings, refusals } = useSnapshot();
  const [filter, setFilter] = useState<Filter>('all');
  const [asking, setAsking] = useState(false);
  const [proposed, setProposed] = useState<Proposed | null>(null);
  const [rules, setRules] = useState<string>(STANDARDS);
  const sorted = useMemo(
    () => bySeverity([...(findings ?? []), ...refusals.filter((f) => rules === EVERY || f.outlet === rules)]),
    [findings, refusals, rules],
  );
  const groups = useMemo(
    () =>
      groupsOf(
        sorted
          .filter((f) => filter === 'all' || f.severity === filter)
          .map((finding) => ({ finding, accepted: null })),
      ),
    [sorted, filter],
  );
  const count = (s: Severity): number => sorted.filter((f) => f.severity === s).length;
  const mendable = sorted.filter((f) => f.mend !== undefined).length;

  const show = async (f: Finding): Promise<void> => {
    const open = (sheet: string): void => router.push(`/ebooks/${session.id}/${sheet}`);
    if (!f.file || f.file === view.packagePath) return open('package');
    if (
      f.file === view.ncxPath ||
      (f.file === view.navigationPath && !view.documents.some((d) => d.path === f.file))
    )
      return open('navigation');
    if (view.sheets.includes(f.file)) return open('styles');
    const text = await session.source(f.file).catch(() => null);
    goTo({
      path: f.file,
      offset: text === null || f.line === undefined ? null : offsetAt(text, f.line, f.column ?? 1),
    });
    open('documents');
  };
  const placeOf = (f: Finding): string => {
    if (!f.file) return 'The whole ebook';
    const name = view.documents.find((d) => d.path === f.file)?.label ?? f.file;
    return f.line ? `${name}, line ${number(f.line)}` : name;
  };
  const propose = async (wanted: Wanted, label: string): Promise<void> => {
    setAsking(true);
    try {
      setProposed({ ...(await session.mendingOf(wanted)), label });
    } catch (e) {
      toast((e as Error).message);
    }
    setAsking(false);
  };

  const actions = ({ finding }: Listed) =>
    finding.mend ? (
      <Button
        className="h-7 px-2"
        disabled={asking}
        onClick={() => void propose({ what: 'finding', finding }, mendLabel(finding.mend ?? '') ?? 'Mend')}
      >
        Mend …
      </Button>
    ) : null;
  const actionsOfRule = ({ rule, findings: all }: RuleGroup) =>
    all.filter(({ finding }) => finding.mend).length > 1 ? (
      <Button
        className="h-7 px-2"
        disabled={asking}
        onClick={() => void propose({ what: 'rule', rule }, `Mend: ${titleOfRule(rule).toLowerCase()}`)}
      >
        Mend all {number(all.length)} …
      </Button>
    ) : null;

  return (
    <div className="flex h-full flex-col">
      <Toolbar label="Findings" className="gap-x-3">
        <h1 className="mr-1 font-serif text-[17px]">Findings</h1>
        <OneOf
          label="Which are shown"
          value={filter}
          choices={[
            { value: 'all', name: `All ${number(sorted.length)}` },
            { value: 'blocker', name: `Blockers ${number(count('blocker'))}` },
            { value: 'caution', name: `Cautions ${number(count('caution'))}` },
            { value: 'note', name: `Notes ${number(count('note'))}` },
          ]}
          onChoose={setFilter}
        />
        <Select
          label="Whose rules"
          value={rules}
          choices={[
            { value: STANDARDS, name: 'The standards only' },
            { value: EVERY, name: said('every outlet', refusals.length) },
            ...EBOOK_OUTLETS.map(({ id, name }) => ({
              value: id,
              name: said(name, refusals.filter((f) => f.outlet === id).length),
            })),
          ]}
          onChoose={setRules}
        />
        <span className="ml-auto" />
        {asking ? (
          <span role="status" className="text-ink-soft">
            Working out the mends …
          </span>
        ) : null}
        {mendable > 0 ? (
          <Button
            kind="primary"
            disabled={asking}
            onClick={() => void propose({ what: 'all' }, 'Mend all that can be mended')}
          >
            Mend all {number(mendable)} …
          </Button>
        ) : null}
      </Toolbar>
      <RuleList
        groups={groups}
        placeOf={placeOf}
        onShow={(f) => void show(f)}
        actions={actions}
        actionsOfRule={actionsOfRule}
        empty={
          findings === null
            ? 'Checking the ebook …'
            : sorted.length === 0
              ? 'The checks find nothing wrong with this ebook.'
              : 'None of these.'
        }
      />
      <MendDialog proposed={proposed} onClose={() => setProposed(null)} />
    </div>
  );
}
