/** How a rule is written: a name, and a function from what it looks at to findings. Every message says what to do. */
import type { Finding, Severity } from '../base';

export interface Breach {
  message: string;
  why?: string;
  remedy?: string;
  file?: string;
  line?: number;
  column?: number;
  place?: Finding['place'];
}
export interface Rule<T> {
  name: string;
  severity: Severity;
  /** Where the rule is written down. */
  source: string;
  look(subject: T): Iterable<Breach>;
}

export function runRules<T>(rules: readonly Rule<T>[], subject: T): Finding[] {
  const findings: Finding[] = [];
  for (const r of rules)
    for (const breach of r.look(subject)) findings.push({ rule: r.name, severity: r.severity, ...breach });
  return findings;
}
