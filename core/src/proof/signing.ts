/** Signing off: what stands in its way, and what a sign-off keeps. */
import type { Finding } from '../base';
import { printOf, productKeyOf, type Book } from '../book';
import { fitOf, outgrown, type Fit } from '../trade';
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

/** What is read one after the other: pages, sections of an ebook, or the sheet of a cover. */
export type Viewed = 'page' | 'section' | 'sheet';

export type Obstacle =
  | { kind: 'not made' }
  /** The file is no longer the edition’s: why, in a sentence. */
  | { kind: 'outdated'; why: string }
  | { kind: 'blockers'; count: number }
  /** Pages that are not marked as read, by their numbers in the file, 0 up. */
  | { kind: 'unread'; views: number[] }
  | { kind: 'comments'; count: number };

export interface ToSign {
  file: { findings: readonly Finding[] } | null;
  /** What `outdated` says of the file. */
  outdated: string | null;
  impression: Impression | null;
  read: ReadonlySet<string>;
  /** Comments that are not closed. */
  comments: number;
}

/**
 * Why a file is no longer its edition’s; null while it is. What Pagina made is of one revision of the book; what someone
 * else made fits the edition until that changes. `pages` are those of the edition, 0 while they are not known.
 */
export function outdated(
  file: { edition: string; upTo: number; fit: Fit | null },
  now: { book: Book; revision: number; pages: number },
): string | null {
  if (!file.fit)
    return file.upTo === now.revision ? null : 'The book has changed since the file was made. Make it again.';
  const { edition: id, form } = productKeyOf(file.edition);
  const edition = id === null ? undefined : printOf(now.book, id);
  if (!edition) return 'The edition no longer exists.';
  return outgrown(file.fit, fitOf(edition, now.pages), form === 'attached-cover' ? 'cover' : 'interior');
}

/** Empty when the file can be signed off. */
export function obstaclesOf({ file, outdated: why, impression, read, comments }: ToSign): Obstacle[] {
  if (!file || !impression) return [{ kind: 'not made' }];
  const found: Obstacle[] = [];
  if (why !== null) found.push({ kind: 'outdated', why });
  const blockers = file.findings.filter((f) => f.severity === 'blocker').length;
  if (blockers > 0) found.push({ kind: 'blockers', count: blockers });
  const views = impression.views.flatMap((v, i) => (read.has(v.mark) ? [] : [i]));
  if (views.length > 0) found.push({ kind: 'unread', views });
  if (comments > 0) found.push({ kind: 'comments', count: comments });
  return found;
}

const counted = (n: number, one: string, many: string): string => (n === 1 ? `1 ${one}` : `${n} ${many}`);

export function obstacleWords(o: Obstacle, what: Viewed): string {
  switch (o.kind) {
    case 'not made':
      return 'The file hasn’t been made yet.';
    case 'outdated':
      return o.why;
    case 'blockers':
      return `The checks found ${counted(o.count, 'blocker', 'blockers')} in the file.`;
    case 'unread':
      return `${counted(o.views.length, `${what} isn’t`, `${what}s aren’t`)} marked as read.`;
    case 'comments':
      return `${counted(o.count, 'comment is', 'comments are')} still open.`;
  }
}
