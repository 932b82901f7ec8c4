/** Findings as rows of a list: a head for each rule, and its findings below it, the first few unless all are asked for. */
import type { Finding, Severity } from '@pagina/core/base';

export interface Listed {
  finding: Finding;
  /** Why it stands, and since when, where it was accepted. */
  accepted: { reason: string; at: string } | null;
}
export interface RuleGroup {
  rule: string;
  severity: Severity;
  findings: Listed[];
}
export type FindingRow =
  | { type: 'rule'; key: string; group: RuleGroup }
  /** Alone of its rule: what the head would say is said beside it. */
  | { type: 'single'; key: string; group: RuleGroup }
  | { type: 'finding'; key: string; group: RuleGroup; index: number }
  | { type: 'more'; key: string; group: RuleGroup };

/** Findings of a rule shown at first. */
export const SOME = 6;

/** Rules in the order in which their first finding comes. */
export function groupsOf(listed: readonly Listed[]): RuleGroup[] {
  const groups = new Map<string, RuleGroup>();
  for (const one of listed) {
    const { rule, severity } = one.finding;
    const key = `${rule} ${severity}`;
    const group = groups.get(key);
    if (group) group.findings.push(one);
    else groups.set(key, { rule, severity, findings: [one] });
  }
  return [...groups.values()];
}

export const rowsOf = (groups: readonly RuleGroup[], whole: ReadonlySet<string>): FindingRow[] =>
  groups.flatMap((group): FindingRow[] => {
    const { rule, severity, findings } = group;
    const key = `${rule} ${severity}`;
    if (findings.length === 1) return [{ type: 'single', key, group }];
    const many = whole.has(rule) ? findings.length : Math.min(findings.length, SOME);
    return [
      { type: 'rule', key, group },
      ...findings
        .slice(0, many)
        .map((_f, index): FindingRow => ({ type: 'finding', key: `${key} ${index}`, group, index })),
      ...(many < findings.length ? [{ type: 'more' as const, key: `${key} more`, group }] : []),
    ];
  });

/** "Repeated word" of `wording/repeated-word`. */
export function titleOfRule(rule: string): string {
  const words = rule.slice(rule.indexOf('/') + 1).replaceAll('-', ' ');
  const said = words.replace(/\b(?:ncx|isbn|alt|svg|css|id|ids|xml|zip)\b/g, (w) => KNOWN[w] ?? w);
  return said.charAt(0).toUpperCase() + said.slice(1);
}
const KNOWN: Record<string, string> = {
  ncx: 'NCX',
  isbn: 'ISBN',
  alt: 'alternative text',
  svg: 'SVG',
  css: 'CSS',
  xml: 'XML',
};
