/** What a check, a reader or the typesetter has to tell the author, always with where and what to do. */
export type Severity = 'blocker' | 'caution' | 'note';

/** A place in the book: a section, or a block of it, or a character of that block. */
export interface Place {
  section: string;
  block?: string;
  offset?: number;
}

export interface Finding {
  /** Stable name of the rule, such as `contents/dead-target`. */
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
  /** The words that it is about, with some around them. */
  words?: string;
  /** What a mend of it has to know: a path, a property, a prefix. */
  about?: string;
  /** Name of the mend that would put it right without a person. */
  mend?: string;
  /** Two texts that should be the same, to be shown letter by letter. */
  differs?: { found: string; wanted: string };
  /** Id of the outlet that asks for it, where it is no standard’s. */
  outlet?: string;
}

/**
 * What a finding is known by from one check to the next: its rule, its place, and what it is about. Lines and columns move
 * with the text and are left out.
 */
export const findingKey = ({ rule, place, file, about, message, words = '' }: Finding): string =>
  [rule, place?.section ?? '', place?.block ?? '', file ?? '', about ?? message + words].join('\u0001');

const WEIGHT: Record<Severity, number> = { blocker: 0, caution: 1, note: 2 };

/**
 * Worst first. Within a severity those of one file come together, from its beginning to its end; files, and what belongs
 * to none, in the order in which they were found.
 */
export function bySeverity(findings: readonly Finding[]): Finding[] {
  const files = new Map<string, number>();
  for (const [n, f] of findings.entries())
    if (f.file !== undefined && !files.has(f.file)) files.set(f.file, n);
  const place = (f: Finding, n: number): number => (f.file === undefined ? n : (files.get(f.file) ?? n));
  return findings
    .map((f, n) => ({ f, at: place(f, n) }))
    .sort(
      (a, b) =>
        WEIGHT[a.f.severity] - WEIGHT[b.f.severity] ||
        a.at - b.at ||
        (a.f.line ?? 0) - (b.f.line ?? 0) ||
        (a.f.column ?? 0) - (b.f.column ?? 0),
    )
    .map(({ f }) => f);
}
