/** Words looked for in the texts of an ebook. */
import type { DocumentText } from './source';

export interface Match {
  path: string;
  /** Characters of the document. */
  from: number;
  to: number;
  before: string;
  shown: string;
  after: string;
}

/** Matches at most: who finds more looks for something longer. */
export const MOST_MATCHES = 500;
const AROUND = 40;
/** Before a match there is less, so that the match itself is in sight. */
const BEFORE = 22;

/** Any white space matches any other, capitals match small letters, and one quotation mark or dash another of its kind. */
export function patternOf(words: string): RegExp | null {
  const sought = words.trim();
  if (sought === '') return null;
  const source = sought
    .replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')
    .replace(/['‘’]/g, "['‘’]")
    .replace(/["“”„]/g, '["“”„]')
    .replace(/\s+/g, '[\\s\\u00a0]+');
  return new RegExp(source, 'giu');
}

export function matchesOf(words: string, texts: readonly DocumentText[]): Match[] {
  const pattern = patternOf(words);
  if (!pattern) return [];
  const found: Match[] = [];
  for (const { path, text } of texts)
    for (const m of text.matchAll(pattern)) {
      const [from, to] = [m.index, m.index + m[0].length];
      found.push({
        path,
        from,
        to,
        before: oneLine(text.slice(Math.max(0, from - BEFORE), from)).replace(
          from > BEFORE ? /^\S*\s/ : '',
          '',
        ),
        shown: oneLine(m[0]),
        after: oneLine(text.slice(to, to + AROUND)),
      });
      if (found.length >= MOST_MATCHES) return found;
    }
  return found;
}
const oneLine = (s: string): string => s.replace(/\s+/g, ' ');
