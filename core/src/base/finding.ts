/** What a check, a reader or the typesetter has to tell the author, always with where and what to do. */
export type Severity = 'blocker' | 'caution' | 'note';

/** A place in the book: a section, or a block of it, or a character of that block. */
export interface Place {
  section: string;
  block?: string;
  offset?: number;
}

export interface Finding {
  /** Stable name of the rule, such as `epub/nav-missing`. */
  rule: string;
  /** *blocker* breaks a standard's must, or the shop refuses; *caution* a should; *note* advice. */
  severity: Severity;
  message: string;
  /** Why it matters, in one sentence. */
  why?: string;
  /** What to do about it, in one sentence. */
  remedy?: string;
  file?: string;
  line?: number;
  column?: number;
  place?: Place;
  /** Name of the mend that would put it right without a person. */
  mend?: string;
}

const WEIGHT: Record<Severity, number> = { blocker: 0, caution: 1, note: 2 };

/** Worst first; within a severity the order in which they were found. */
export function bySeverity(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => WEIGHT[a.severity] - WEIGHT[b.severity]);
}
