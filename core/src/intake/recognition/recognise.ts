/**
 * Recognition: which paragraphs head a part, a chapter or another section, decided paragraph by paragraph with a score,
 * a reason in words and how sure it is. Styles and outline levels count most; where there are none, looks and words do.
 */
import { countWords, numberedHeading } from '../../base';
import { kindRule, type SectionKind } from '../../book';
import { emptyBefore, looks, MAX_WORDS, signature, surroundings, type Surroundings } from './looks';
import { isText, type RawBlock, type RawParagraph } from '../raw';
import type { HeadingGuess } from '../raw';
import { withSubtitles } from './subtitles';
import { bareNumber, kindByWords, numberThenTitle } from '../raw';

/** Score from which a paragraph without a heading style is taken for a heading. */
const THRESHOLD = 2.5;

function nextText(blocks: readonly RawBlock[], at: number): number {
  for (let i = at + 1; i < blocks.length; i++) {
    const b = blocks[i];
    if (!isText(b)) return -1;
    if (b.pictures.length) return -1;
    if (b.text.trim() !== '') return b.breakBefore ? -1 : i;
  }
  return -1;
}

/** Which outline level stands for parts and which for chapters, from all headings with a level together. */
interface Levels {
  part: number;
  chapter: number;
}
function levelsOf(blocks: readonly RawBlock[], s: Surroundings): Levels {
  const levels = [...s.outlines.keys()].sort((a, b) => a - b);
  const texts = (level: number): string[] =>
    blocks
      .filter((b): b is RawParagraph => isText(b) && b.outline === level && b.text.trim() !== '')
      .map((b) => b.text.trim());
  const share = (level: number, test: (t: string) => boolean): number => {
    const all = texts(level);
    return all.length ? all.filter(test).length / all.length : 0;
  };
  const first = levels[0] ?? 0;
  const second = levels[1] ?? 0;
  const isPart = (t: string): boolean => numberedHeading(t)?.kind === 'part';
  const isChapter = (t: string): boolean =>
    numberedHeading(t)?.kind === 'chapter' ||
    bareNumber(t) !== null ||
    numberThenTitle(t) !== null ||
    kindByWords(t) !== null;
  if (first && second) {
    const others = texts(first).filter((t) => kindByWords(t) === null);
    const parts = share(first, isPart) >= 0.4 || (others.length > 0 && others.every(isPart));
    // One heading of the first level alone over many of the second is the book's title, not a part.
    const [only = ''] = texts(first);
    const title = texts(first).length === 1 && texts(second).length > 1 && !isChapter(only) && !isPart(only);
    const byNumbers = share(second, isChapter) >= 0.5 && share(first, isChapter) < 0.3;
    if (title) return { part: -first, chapter: second };
    if (parts || byNumbers) return { part: first, chapter: second };
  }
  return { part: 0, chapter: first };
}

export function recogniseHeadings(blocks: readonly RawBlock[]): HeadingGuess[] {
  const s = surroundings(blocks);
  const levels = levelsOf(blocks, s);
  const found: HeadingGuess[] = [];
  for (let at = 0; at < blocks.length; at++) {
    const b = blocks[at];
    if (!isText(b)) continue;
    const guess = b.text.trim() === '' || /^toc\b/i.test(b.style) ? null : guessAt(blocks, at, s, levels);
    const said = b.opens === '' ? guess : saidByFile(b.opens, at, guess);
    if (!said) continue;
    found.push(said);
    at += Math.max(0, said.span - 1);
  }
  return withSubtitles(blocks, withoutTitlePage(blocks, withLikes(blocks, found, s), s), s);
}

/** Most headings must look alike before looks alone make one. */
const ALIKE = 0.6;

/** In a manuscript without styles, a line that looks just as its headings do is one, whatever its words are. */
function withLikes(
  blocks: readonly RawBlock[],
  found: readonly HeadingGuess[],
  s: Surroundings,
): HeadingGuess[] {
  const heads = found.filter((g) => g.subhead === 0 && g.span > 0);
  if (s.outlines.size > 0 || heads.length < 3) return [...found];
  const counts = new Map<string, number>();
  for (const g of heads) {
    const key = signature(blocks[g.at] as RawParagraph);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const [key, count] = [...counts].sort((a, b) => b[1] - a[1])[0] as [string, number];
  if (key === s.signature || count < heads.length * ALIKE) return [...found];
  const taken = new Set(found.flatMap((g) => Array.from({ length: g.span }, (_, i) => g.at + i)));
  const more: HeadingGuess[] = [];
  blocks.forEach((b, at) => {
    if (!isText(b) || taken.has(at) || b.list || signature(b) !== key) return;
    const text = b.text.replace(/\s+/g, ' ').trim();
    const above = emptyBefore(blocks, at);
    const apart = b.breakBefore || above.breaks || above.lines >= 2;
    if (text === '' || countWords(text) > MAX_WORDS || !apart) return;
    more.push({
      at,
      kind: 'chapter',
      subhead: 0,
      title: text,
      subtitle: '',
      span: 1,
      numberWords: 0,
      numbered: false,
      score: THRESHOLD,
      reason: 'it looks like the other headings',
      firm: false,
    });
  });
  return [...found, ...more].sort((a, b) => a.at - b.at);
}

/** A file that says what begins here is believed; what it says has a heading only where one stands. */
function saidByFile(kind: SectionKind, at: number, guess: HeadingGuess | null): HeadingGuess {
  const reason = `the file says that this is a ${kindRule(kind).label.toLowerCase()}`;
  const headed = kindRule(kind).opening === 'heading' || kind === 'part';
  if (guess && headed && guess.subhead === 0)
    // "Chapter" is said of much that has a name of its own.
    return {
      ...guess,
      kind: kind === 'chapter' ? guess.kind : kind,
      score: guess.score + 3,
      reason,
      firm: true,
    };
  return {
    at,
    kind,
    subhead: 0,
    title: '',
    subtitle: '',
    span: 0,
    numberWords: 0,
    numbered: false,
    score: 10,
    reason,
    firm: true,
  };
}

/**
 * Large centred lines on the first page are the book's title, not a chapter: what is known by looks alone counts only
 * after the first firm heading; and where nothing is firm, a first line with hardly any text below it is the title.
 */
function withoutTitlePage(
  blocks: readonly RawBlock[],
  found: readonly HeadingGuess[],
  s: Surroundings,
): HeadingGuess[] {
  const firm = found.find((g) => g.firm && g.subhead === 0);
  if (firm) {
    const styled = [...s.outlines.values()].reduce((a, b) => a + b, 0) >= 2;
    return found.filter((g) => g.firm || (g.at > firm.at && (!styled || g.score >= 3.4)));
  }
  const [first, second] = found;
  if (!first || !second) return [...found];
  const above = blocks.slice(0, first.at).some((b) => isText(b) && b.text.trim() !== '');
  const below = blocks
    .slice(first.at + first.span, second.at)
    .reduce((n, b) => n + (isText(b) ? countWords(b.text) : 99), 0);
  return !above && below <= 40 ? found.slice(1) : [...found];
}

/** Characters: no heading that a style does not name is longer. */
const LONG = 400;

function guessAt(
  blocks: readonly RawBlock[],
  at: number,
  s: Surroundings,
  levels: Levels,
): HeadingGuess | null {
  const b = blocks[at] as RawParagraph;
  const styled = b.outline > 0;
  // Nearly all of a text.
  if (!styled && b.text.length > LONG && !/title/i.test(b.style)) return null;
  const text = b.text.replace(/\s+/g, ' ').trim();
  const heading = numberedHeading(text);
  const byWords = kindByWords(text);
  const look = looks(blocks, at, s);
  const base = {
    at,
    subhead: 0 as const,
    subtitle: '',
    span: 1,
    numberWords: 0,
    numbered: false,
    firm: true,
  };
  if (styled && b.outline === -levels.part) return null;
  if (styled && levels.chapter > 0 && b.outline > levels.chapter && !heading) {
    const level = Math.min(3, b.outline - levels.chapter) as 1 | 2 | 3;
    return {
      ...base,
      kind: 'chapter',
      subhead: level,
      title: text,
      score: 9,
      reason: `heading style of level ${b.outline}, below the chapters`,
    };
  }
  if (byWords && (styled || look.score >= 1 || b.style.toLowerCase().includes('title'))) {
    return {
      ...base,
      kind: byWords,
      title: text,
      score: styled ? 10 : 5 + look.score,
      reason: `the words “${text}”${styled ? ' in a heading style' : ''}`,
    };
  }
  if (heading && (styled || look.score >= 0.8 || heading.rest === '')) {
    // A sentence can begin with "Part of" or "Chapter seven was …": a long rest in running text is no title.
    if (!styled && countWords(heading.rest) > 9) return null;
    return titled(
      blocks,
      {
        ...base,
        kind: heading.kind,
        title: heading.rest,
        numbered: true,
        numberWords: countWords(text) - countWords(heading.rest),
        score: (styled ? 10 : 6) + look.score,
        reason: `“${numberPart(text, heading.rest)}” is the number of a ${heading.kind}`,
      },
      s,
    );
  }
  if (styled) {
    const kind = b.outline === levels.part ? 'part' : 'chapter';
    const alone = bareNumber(text);
    const split = numberThenTitle(text);
    if (alone !== null)
      return titled(
        blocks,
        {
          ...base,
          kind,
          title: '',
          numbered: true,
          numberWords: countWords(text),
          score: 10,
          reason: 'a number in a heading style',
        },
        s,
      );
    if (split)
      return titled(
        blocks,
        {
          ...base,
          kind,
          title: split.title,
          numbered: true,
          numberWords: 1,
          score: 10,
          reason: 'a number and a title in a heading style',
        },
        s,
      );
    return titled(
      blocks,
      { ...base, kind, title: text, score: 9, reason: `heading style of level ${b.outline}` },
      s,
    );
  }
  const alone = bareNumber(text);
  if (alone !== null && look.score >= 1.2)
    return titled(
      blocks,
      {
        ...base,
        kind: 'chapter',
        title: '',
        numbered: true,
        numberWords: countWords(text),
        score: 3 + look.score,
        reason: `a number alone: ${look.reasons.join(', ')}`,
      },
      s,
    );
  if (look.score >= THRESHOLD) {
    const split = numberThenTitle(text);
    return titled(
      blocks,
      {
        ...base,
        firm: split !== null,
        kind: 'chapter',
        title: split?.title ?? text,
        numbered: split !== null,
        numberWords: split ? 1 : 0,
        score: look.score,
        reason: look.reasons.join(', '),
      },
      s,
    );
  }
  return null;
}

/** "Chapter One" of "Chapter One: The Boat". */
const numberPart = (text: string, rest: string): string =>
  text.slice(0, text.length - rest.length).replace(/[\s:.\u2013\u2014-]+$/, '');

/** Takes a title line that stands apart below its number line, and a subtitle that is styled as one. */
function titled(blocks: readonly RawBlock[], g: HeadingGuess, s: Surroundings): HeadingGuess {
  let out = g;
  const step = (): RawParagraph | null => {
    const next = nextText(blocks, out.at + out.span - 1);
    return next < 0 ? null : (blocks[next] as RawParagraph);
  };
  const own = blocks[g.at] as RawParagraph;
  const below = step();
  if (below && out.title === '' && g.numbered) {
    const next = nextText(blocks, out.at);
    const look = looks(blocks, next, s);
    const styledAlike = below.outline > 0 && below.outline >= own.outline;
    const alike = signature(below) === signature(own) && signature(own) !== s.signature;
    const looksAlike =
      alike || (look.score >= 0.9 && (below.align === own.align || below.bold || below.size > s.size));
    if (
      (styledAlike || looksAlike || /title/i.test(below.style)) &&
      !numberedHeading(below.text) &&
      bareNumber(below.text) === null &&
      countWords(below.text) <= MAX_WORDS
    )
      out = {
        ...out,
        title: below.text.replace(/\s+/g, ' ').trim(),
        span: next - out.at + 1,
        reason: `${out.reason}; its title is on the line below`,
      };
  }
  const sub = step();
  if (sub && /subtitle|untertitel|sous-titre/i.test(sub.style)) {
    const next = nextText(blocks, out.at + out.span - 1);
    out = { ...out, subtitle: sub.text.trim(), span: next - out.at + 1 };
  }
  return out;
}
