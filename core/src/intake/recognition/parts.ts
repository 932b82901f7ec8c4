/**
 * Parts in whatever words: headings of one sort that have other headings below them instead of text. A sort is what
 * carries a number, or what is set alike.
 */
import { labelOf } from '../../base';
import { kindRule } from '../../book';
import type { HeadingGuess } from '../raw';
import type { Page } from './page';

/** Words that a part may have below its title: an epigraph. */
const LITTLE = 60;

export function withParts(page: Page, heads: readonly HeadingGuess[]): HeadingGuess[] {
  const sections = heads.filter((g) => g.subhead === 0);
  if (sections.some((g) => g.kind === 'part')) return [...heads];
  const chapters = sections.filter((g) => g.kind === 'chapter' && g.span > 0);
  const own = new Map(
    chapters.map((g) => {
      const next = sections[sections.indexOf(g) + 1];
      return [g, next?.kind === 'chapter' ? page.between(g.at + g.span - 1, next.at) : Infinity];
    }),
  );
  const parts = sorts(page, chapters).find((sort) => areParts(sort, chapters, own));
  if (!parts) return [...heads];
  const all = new Set(parts);
  return heads.map((g) =>
    all.has(g)
      ? {
          ...g,
          kind: 'part' as const,
          numbered: g.numbered && kindRule('part').numbered,
          score: Math.max(g.score, 5),
          reason: `${g.reason}; it stands over chapters and has no text of its own`,
        }
      : g,
  );
}

/** Headings by what sort they are: those with a number and no word, then those of each look. */
function sorts(page: Page, chapters: readonly HeadingGuess[]): HeadingGuess[][] {
  const looks = new Map<string, HeadingGuess[]>();
  for (const g of chapters) {
    if (g.numbered) continue;
    const key = page.line(g.at)?.key ?? '';
    (looks.get(key) ?? looks.set(key, []).get(key)!).push(g);
  }
  return [chapters.filter((g) => g.numbered && labelOf(g.label)?.level === null), ...looks.values()];
}

/** Whether headings of one sort have next to no text of their own, and the others have more. */
function areParts(
  sort: readonly HeadingGuess[],
  chapters: readonly HeadingGuess[],
  own: ReadonlyMap<HeadingGuess, number>,
): boolean {
  const others = chapters.filter((g) => !sort.includes(g));
  if (sort.length < 2 || others.length < sort.length * 2) return false;
  const words = (list: readonly HeadingGuess[]): number[] =>
    list.map((g) => own.get(g) ?? 0).sort((a, b) => a - b);
  const bare = words(sort).filter((n) => n <= LITTLE).length;
  const median = (list: number[]): number => list[list.length >> 1] ?? 0;
  return bare >= sort.length * 0.8 && median(words(others)) > 8 + 3 * median(words(sort));
}
