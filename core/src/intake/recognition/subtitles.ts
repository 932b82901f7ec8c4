/**
 * A short line right below a chapter's title is its subtitle when most chapters have one that looks the same; a line
 * that other chapters lack is their first subhead, or text.
 */
import { countWords } from '../../base';
import { MAX_WORDS, signature, type Surroundings } from './looks';
import { isText, type RawBlock, type RawParagraph } from '../raw';
import type { HeadingGuess } from '../raw';

/** Share of the chapters that must have such a line, and the fewest chapters that can be compared. */
const MOST = 0.6;
const FEWEST = 3;

interface Below {
  at: number;
  key: string;
}

/** The line below a heading, when it is short and does not look like the text. */
function lineBelow(blocks: readonly RawBlock[], g: HeadingGuess, s: Surroundings): Below | null {
  for (let at = g.at + g.span; at < blocks.length; at++) {
    const b = blocks[at];
    if (!isText(b) || b.pictures.length > 0 || b.breakBefore || b.list) return null;
    const text = b.text.trim();
    if (text === '') continue;
    const apart = b.outline > 0 || signature(b) !== s.signature;
    // What begins with a dash is the attribution of an epigraph.
    if (
      !apart ||
      countWords(text, MAX_WORDS) > MAX_WORDS ||
      /^[\u2013\u2014-]/.test(text) ||
      quoted(blocks, at)
    )
      return null;
    return { at, key: `${b.outline} ${signature(b)}` };
  }
  return null;
}

/** A line with an attribution below it is an epigraph. */
function quoted(blocks: readonly RawBlock[], at: number): boolean {
  const next = blocks.slice(at + 1, at + 8).find((b) => isText(b) && b.text.trim() !== '');
  return isText(next) && /^[\u2013\u2014-]\s*\S/.test(next.text.trim());
}

export function withSubtitles(
  blocks: readonly RawBlock[],
  found: readonly HeadingGuess[],
  s: Surroundings,
): HeadingGuess[] {
  const chapters = found.filter(
    (g) => g.kind === 'chapter' && g.subhead === 0 && g.span > 0 && g.title !== '',
  );
  if (chapters.length < FEWEST) return [...found];
  const below = new Map<HeadingGuess, Below>();
  const counts = new Map<string, number>();
  // A line that opens a section itself is nobody's subtitle.
  const heads = new Set(found.filter((g) => g.subhead === 0).map((g) => g.at));
  for (const g of chapters) {
    const line = g.subtitle === '' ? lineBelow(blocks, g, s) : null;
    if (!line || heads.has(line.at)) continue;
    below.set(g, line);
    counts.set(line.key, (counts.get(line.key) ?? 0) + 1);
  }
  const [key, count] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? ['', 0];
  if (count < Math.max(FEWEST, chapters.length * MOST)) return [...found];
  const taken = new Set<number>();
  const titled = found.map((g): HeadingGuess => {
    const line = below.get(g);
    if (line?.key !== key) return g;
    taken.add(line.at);
    return {
      ...g,
      subtitle: (blocks[line.at] as RawParagraph).text.replace(/\s+/g, ' ').trim(),
      span: line.at - g.at + 1,
      reason: `${g.reason}; most chapters have a line like this below the title`,
    };
  });
  return titled.filter((g) => g.subhead === 0 || !taken.has(g.at));
}
