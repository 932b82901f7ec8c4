/**
 * How a rule is written: a name, where it is written down, why it matters, what to do about it, and a function from what it
 * looks at to breaches.
 */
import type { Finding, Severity } from '../base';

export interface Breach {
  /** One sentence: what is wrong. */
  message: string;
  file?: string;
  line?: number;
  column?: number;
  place?: Finding['place'];
  /** The words that it is about, with some around them. */
  words?: string;
  /** In place of what the rule says for all. */
  why?: string;
  remedy?: string;
  /** What a mend of it has to know: a path, a property, a prefix. */
  about?: string;
  /** Two texts that should be the same, to be shown letter by letter. */
  differs?: Finding['differs'];
  /** Id of the outlet that asks for it. */
  outlet?: string;
  /** False where this one cannot be mended without guessing. */
  mend?: false;
}
/** What a rule belongs to: the book itself, its agreement with the record, a version of EPUB, accessibility, outlets, printing. */
export type Profile =
  'book' | 'agreement' | 'EPUB 3.3' | 'EPUB 2.0.1' | 'accessibility' | 'outlets' | 'print';

export interface Rule<T> {
  name: string;
  severity: Severity;
  /** Both versions of EPUB where it is left out. */
  profiles?: readonly Profile[];
  /** Where the rule is written down. */
  source: string;
  why?: string;
  remedy?: string;
  /** Name of the mend that puts it right without a person. */
  mend?: string;
  look(subject: T): Iterable<Breach>;
}

export function runRules<T>(rules: readonly Rule<T>[], subject: T): Finding[] {
  const findings: Finding[] = [];
  for (const { name, severity, why, remedy, mend, look } of rules)
    for (const { mend: canBe, ...breach } of look(subject))
      findings.push({
        rule: name,
        severity,
        ...(why ? { why } : {}),
        ...(remedy ? { remedy } : {}),
        ...(mend && canBe !== false ? { mend } : {}),
        ...breach,
      });
  return findings;
}

/** A rule as lists show it. */
export interface RuleRow {
  name: string;
  severity: Severity;
  profiles: readonly Profile[];
  source: string;
  mend: string | null;
}
export const ruleRow = (r: Rule<never>): RuleRow => ({
  name: r.name,
  severity: r.severity,
  profiles: r.profiles ?? ['EPUB 3.3', 'EPUB 2.0.1'],
  source: r.source,
  mend: r.mend ?? null,
});
