/** Verse: short lines, each a paragraph or ended by a line break, set apart in prose or all that a section holds. */
import { countWords } from '../../base';
import type { RawParagraph } from '../raw';
import type { Setting } from './setting';
import type { Stretch } from './stretch';

/** Letters of a line of verse at most, and on average. */
const LINE = { most: 84, average: 56 };
/** Share of a section’s paragraphs that must be lines for it to be a poem. */
const POEM = 0.75;

export const linesOf = (p: RawParagraph): string[] =>
  p.text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);
const fits = (p: RawParagraph): boolean =>
  linesOf(p).every((l) => l.length <= LINE.most && countWords(l, 15) <= 15);
const isSpoken = (l: string): boolean => /^["\u201c\u201e\u00ab\u2018]|^[\u2013\u2014]\s/.test(l);
const endsSentence = (l: string): boolean => /[.!?]["\u201d\u2019]?$/.test(l);
const isMarked = (l: string): boolean => /[,;:.!?\u2014\u2013]["\u201d\u2019]?$/.test(l);
const isOpen = (l: string): boolean => /[,;:\u2014\u2013-]$/.test(l) || /\p{L}$/u.test(l);

/**
 * Whether a section is a poem: nearly all of it short lines that are no speech. Outside a book of poems its lines must
 * end as those of verse do: entries of a list end in nothing.
 */
export function isPoem(s: Setting, inPoetry: boolean): boolean {
  let paragraphs = 0;
  let short = 0;
  const lines: string[] = [];
  for (let at = 0; at < s.body.length; at++) {
    const p = s.text(at);
    if (!p) continue;
    paragraphs++;
    if (!fits(p)) continue;
    short++;
    lines.push(...linesOf(p));
  }
  if (lines.length < 4 || short < paragraphs * POEM) return false;
  if (share(lines, (l) => /\t/.test(l)) > 0.3 || share(lines, isSpoken) > 0.2) return false;
  const marked = share(lines, isMarked);
  return average(lines) <= LINE.average && share(lines, isOpen) >= 0.3 && (inPoetry || marked >= 0.4);
}

/** The verse that begins at `from` in prose; where lines that are alike are none, the index after them. */
export function verseAt(s: Setting, from: number): Stretch | { none: number } | null {
  const first = s.text(from);
  if (!first || !fits(first)) return null;
  const broken = linesOf(first).length > 1;
  if (!broken && !s.apart(first)) return null;
  if (first.align === 'right') return null;
  const lines = linesOf(first);
  let to = from + 1;
  let pause = 0;
  for (let n = s.next(to); n.at < s.body.length; n = s.next(n.at + 1)) {
    const p = s.text(n.at);
    // Lines of one poem look alike; stanzas of broken lines may follow one another.
    if (!p || !fits(p) || !s.alike(p, first) || (broken && linesOf(p).length < 2)) break;
    pause = Math.max(pause, n.blanks);
    lines.push(...linesOf(p));
    to = n.at + 1;
  }
  return isVerse(first, lines, broken, pause) ? { form: 'verse', from, to } : { none: to };
}

function isVerse(first: RawParagraph, lines: readonly string[], broken: boolean, pause: number): boolean {
  if (lines.length < (broken ? 2 : 3) && !(first.italic && lines.length === 2)) return false;
  if (lines.length === 2 && !first.italic && !first.indented && lines.some((l) => countWords(l, 3) < 3))
    return false;
  if (average(lines) > LINE.average || pause > 2) return false;
  if (share(lines, isSpoken) > 0.5 || share(lines, isAddress) > 0.3) return false;
  // In prose that is set apart nearly every line ends a sentence; names in a row end in nothing.
  if (share(lines, endsSentence) > 0.8 && !broken) return false;
  const marked = share(lines, isMarked);
  return broken || first.italic || marked >= 0.25;
}

/** Lines of an address, of figures and of capitals are no verse. */
const isAddress = (l: string): boolean =>
  /@|^\+?[\d\s()/-]{6,}$|\d{2,}/.test(l) || (/\p{Lu}{2}/u.test(l) && l === l.toUpperCase());

const average = (lines: readonly string[]): number =>
  lines.reduce((n, l) => n + l.length, 0) / Math.max(1, lines.length);
const share = (lines: readonly string[], test: (l: string) => boolean): number =>
  lines.filter(test).length / Math.max(1, lines.length);
