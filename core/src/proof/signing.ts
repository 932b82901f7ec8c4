/** Signing off: what stands in its way, and what a sign-off keeps. */
import type { Finding } from '../base';
import type { Impression } from './impression';

export interface SignOff {
  id: string;
  edition: string;
  /** The file that was signed off, by its id and its checksum. */
  product: string;
  sha256: string;
  revision: number;
  engine: number;
  /** Pages, or documents of an ebook, all of which were read. */
  views: number;
  actor: string;
  /** Milliseconds since 1970. */
  at: number;
}

export type Obstacle =
  | { kind: 'not made' }
  /** The book has changed since the file was made. */
  | { kind: 'older' }
  | { kind: 'blockers'; count: number }
  /** Pages that are not marked as read, by their numbers in the file, 0 up. */
  | { kind: 'unread'; views: number[] }
  | { kind: 'comments'; count: number };

export interface ToSign {
  file: { revision: number; findings: readonly Finding[] } | null;
  /** Of the title as it stands. */
  revision: number;
  impression: Impression | null;
  read: ReadonlySet<string>;
  /** Comments that are not closed. */
  comments: number;
}

/** Empty when the file can be signed off. */
export function obstaclesOf({ file, revision, impression, read, comments }: ToSign): Obstacle[] {
  if (!file || !impression) return [{ kind: 'not made' }];
  const found: Obstacle[] = [];
  if (file.revision !== revision) found.push({ kind: 'older' });
  const blockers = file.findings.filter((f) => f.severity === 'blocker').length;
  if (blockers > 0) found.push({ kind: 'blockers', count: blockers });
  const views = impression.views.flatMap((v, i) => (read.has(v.mark) ? [] : [i]));
  if (views.length > 0) found.push({ kind: 'unread', views });
  if (comments > 0) found.push({ kind: 'comments', count: comments });
  return found;
}

const counted = (n: number, one: string, many: string): string => (n === 1 ? `1 ${one}` : `${n} ${many}`);

/** `what` is what is read: pages, or sections of an ebook. */
export function obstacleWords(o: Obstacle, what: 'page' | 'section'): string {
  switch (o.kind) {
    case 'not made':
      return 'The file hasn’t been made yet.';
    case 'older':
      return 'The book has changed since the file was made. Make it again.';
    case 'blockers':
      return `The checks found ${counted(o.count, 'blocker', 'blockers')} in the file.`;
    case 'unread':
      return `${counted(o.views.length, `${what} isn’t`, `${what}s aren’t`)} marked as read.`;
    case 'comments':
      return `${counted(o.count, 'comment is', 'comments are')} still open.`;
  }
}
