/** The title that stands on the line below a number, and the subtitle that is styled as one. */
import { countWords, labelOf } from '../../base';
import { isText, kindByWords, type HeadingGuess, type RawParagraph } from '../raw';
import type { Evidence } from './contents';
import { signature } from './looks';
import { endsLikeSentence, MAX_WORDS, type Line, type Page } from './page';

/** Share of the headings without a title that must have a plain line below before one is taken for a title. */
const MOST = 0.6;
/** Words of the longest title that is set as its number is. */
const LONGEST = 30;

/** Headings in order; each without a title gets the one on the line below it, where one stands there. */
export function titleLines(page: Page, heads: readonly HeadingGuess[], evidence: Evidence): HeadingGuess[] {
  const taken = new Set(heads.map((g) => g.at));
  const weak = new Map<HeadingGuess, Line>();
  const bare = heads.filter((g) => g.numbered && g.title === '' && g.span > 0);
  const out = new Map<HeadingGuess, HeadingGuess>();
  for (const g of bare) {
    const below = lineBelow(page, g, taken);
    if (!below) continue;
    const own = page.blocks[g.at] as RawParagraph;
    if (isTitle(page, own, below, evidence)) out.set(g, withTitle(g, below));
    else if (isPlainTitle(page, below)) weak.set(g, below);
  }
  if (weak.size + out.size >= bare.length * MOST && weak.size > 1)
    for (const [g, line] of weak) out.set(g, withTitle(g, line));
  const used = new Set([...out.values()].map((g) => g.at + g.span - 1));
  return heads.flatMap((g) => {
    const titled = out.get(g) ?? g;
    // A line that became a title heads nothing itself.
    return used.has(g.at) && !out.has(g) && !g.numbered ? [] : [subtitled(page, titled, taken)];
  });
}

const withTitle = (g: HeadingGuess, line: Line): HeadingGuess => ({
  ...g,
  title: line.text,
  span: line.at - g.at + 1,
  reason: `${g.reason}; its title is on the line below`,
});

function lineBelow(page: Page, g: HeadingGuess, taken: ReadonlySet<number>): Line | null {
  const at = page.next(g.at + g.span);
  const line = at < 0 ? null : page.line(at);
  if (!line || line.p.list) return null;
  const own = page.blocks[g.at] as RawParagraph;
  const alike = signature(line.p) === signature(own) && signature(own) !== page.s.signature;
  if (line.words > (alike ? LONGEST : MAX_WORDS)) return null;
  const label = labelOf(line.text);
  // A number by itself is the first section of a chapter, not its title.
  if (label && label.level === null && label.title === '') return null;
  if (label?.level && taken.has(at)) return null;
  if (taken.has(at) && (label?.level || kindByWords(line.text))) return null;
  return line;
}

function isTitle(page: Page, own: RawParagraph, line: Line, evidence: Evidence): boolean {
  const { p } = line;
  const body = page.s.signature;
  if (/^["\u201c\u2018\u2013\u2014-]/.test(line.text) && line.words > 3 && p.outline === 0) return false;
  if (/title/i.test(p.style)) return true;
  if (p.outline > 0) return p.outline >= own.outline || own.outline === 0;
  if (evidence.names(line.text)) return true;
  const alike = signature(p) === signature(own) && signature(own) !== body;
  if (alike) return true;
  return (
    line.look >= 0.9 &&
    (p.align === own.align || p.bold || p.size > page.s.size) &&
    !endsLikeSentence(line.text)
  );
}

/** A few words like a title, in the type of the text, with text below. */
function isPlainTitle(page: Page, line: Line): boolean {
  const next = page.next(line.at + 1);
  const below = page.blocks[next];
  return (
    line.words <= 9 &&
    !/[.,;:!?\u2026\u201d"]$/.test(line.text) &&
    // A place and a year say when it happens.
    !/\b1[5-9]\d{2}$|\b20\d{2}$/.test(line.text) &&
    /^[\p{Lu}\p{N}]/u.test(line.text) &&
    isText(below) &&
    countWords(below.text, 12) >= 12
  );
}

function subtitled(page: Page, g: HeadingGuess, taken: ReadonlySet<number>): HeadingGuess {
  if (g.span === 0 || g.subhead > 0) return g;
  const at = page.next(g.at + g.span);
  const below = page.blocks[at];
  if (at < 0 || taken.has(at) || !isText(below) || !/subtitle|untertitel|sous-titre/i.test(below.style))
    return g;
  return { ...g, subtitle: below.text.replace(/\s+/g, ' ').trim(), span: at - g.at + 1 };
}
