/**
 * Parts in whatever words: headings of one sort that have other headings below them instead of text. A sort is what
 * carries a number, or what is set alike.
 */
import { kindRule } from '../../book';
import type { HeadingGuess } from '../raw';
import { labelOf } from './labels';
import type { Page } from './page';

/** Words that a part may have below its title: an epigraph. */
const LITTLE = 60;

export function withParts(page: Page, heads: readonly HeadingGuess[]): HeadingGuess[] {
  const sections = heads.filter((g) => g.subhead === 0);
  if (sections.some((g) => g.kind === 'part')) return [...heads];
  const chapters = sections.filter((g) => g.kind === 'chapter' && g.span > 0);
  const isBare = (g: HeadingGuess): boolean => {
    const next = sections[sections.indexOf(g) + 1];
    return next?.kind === 'chapter' && page.between(g.at + g.span - 1, next.at) <= LITTLE;
  };
  const bare = new Set(chapters.filter(isBare));
  const parts = sorts(page, chapters).find((sort) => areParts(sort, chapters, bare));
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

function areParts(
  sort: readonly HeadingGuess[],
  chapters: readonly HeadingGuess[],
  bare: ReadonlySet<HeadingGuess>,
): boolean {
  const others = chapters.length - sort.length;
  const without = sort.filter((g) => bare.has(g)).length;
  const amongOthers = bare.size - without;
  return (
    sort.length >= 2 &&
    others >= sort.length * 2 &&
    without >= sort.length * 0.8 &&
    amongOthers < others / 2
  );
}
