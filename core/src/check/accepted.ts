/** Findings that the author lets stand, apart from those that wait. */
import { findingKey, type Finding } from '../base';
import type { Accepted, Book } from '../book';

export interface Judged {
  /** What still waits. */
  open: Finding[];
  accepted: { finding: Finding; as: Accepted }[];
}

/** Blockers can't be accepted: a shop would refuse the book all the same. */
export const canAccept = (f: Finding): boolean => f.severity !== 'blocker';

export function judged(book: Pick<Book, 'accepted'>, findings: readonly Finding[]): Judged {
  const known = new Map(book.accepted.map((a) => [a.finding, a]));
  const out: Judged = { open: [], accepted: [] };
  for (const finding of findings) {
    const as = known.size > 0 && canAccept(finding) ? known.get(findingKey(finding)) : undefined;
    if (as) out.accepted.push({ finding, as });
    else out.open.push(finding);
  }
  return out;
}
