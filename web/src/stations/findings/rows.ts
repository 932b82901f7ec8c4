/** The list of findings as rows: a head for each rule, and its findings below it, the first few unless all are asked for. */
import type { Finding, Severity } from '@pagina/core/base';
import type { Judged } from '@pagina/core/check';
import { stationOf, type StationKey } from '@/title/stations';

export type Shown = 'all' | Severity | 'accepted';
export interface Choice {
  shown: Shown;
  /** Where they are mended. */
  station: StationKey | 'any';
}
/** Findings of a rule shown at first. */
export const SOME = 6;

export interface RuleGroup {
  rule: string;
  severity: Severity;
  findings: { finding: Finding; reason: string | null; at: string }[];
}
export type FindingRow =
  | { type: 'rule'; key: string; group: RuleGroup }
  /** Alone of its rule: what the head would say is said beside it. */
  | { type: 'single'; key: string; group: RuleGroup }
  | { type: 'finding'; key: string; group: RuleGroup; index: number }
  | { type: 'more'; key: string; group: RuleGroup };

/** Rules in the order in which their first finding comes. */
export function groupsOf({ open, accepted }: Judged, { shown, station }: Choice): RuleGroup[] {
  const all =
    shown === 'accepted'
      ? accepted.map(({ finding, as }) => ({ finding, reason: as.reason, at: as.at }))
      : open.map((finding) => ({ finding, reason: null, at: '' }));
  const groups = new Map<string, RuleGroup>();
  for (const one of all) {
    const { rule, severity } = one.finding;
    if (shown !== 'all' && shown !== 'accepted' && severity !== shown) continue;
    if (station !== 'any' && stationOf(one.finding) !== station) continue;
    const group = groups.get(rule);
    if (group) group.findings.push(one);
    else groups.set(rule, { rule, severity, findings: [one] });
  }
  return [...groups.values()];
}

export const rowsOf = (groups: readonly RuleGroup[], whole: ReadonlySet<string>): FindingRow[] =>
  groups.flatMap((group): FindingRow[] => {
    const { rule, findings } = group;
    if (findings.length === 1) return [{ type: 'single', key: rule, group }];
    const many = whole.has(rule) ? findings.length : Math.min(findings.length, SOME);
    return [
      { type: 'rule', key: rule, group },
      ...findings
        .slice(0, many)
        .map((_f, index): FindingRow => ({ type: 'finding', key: `${rule} ${index}`, group, index })),
      ...(many < findings.length ? [{ type: 'more' as const, key: `${rule} more`, group }] : []),
    ];
  });

/** How many wait at each station, and of each severity. */
export function countsOf({ open, accepted }: Judged): {
  shown: Record<Shown, number>;
  stations: ReadonlyMap<StationKey, number>;
} {
  const shown = { all: open.length, blocker: 0, caution: 0, note: 0, accepted: accepted.length };
  const stations = new Map<StationKey, number>();
  for (const f of open) {
    shown[f.severity]++;
    const at = stationOf(f);
    stations.set(at, (stations.get(at) ?? 0) + 1);
  }
  return { shown, stations };
}
