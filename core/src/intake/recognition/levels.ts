/** Which outline level stands for parts and which for chapters, from all headings with a level together. */
import { numberedHeading } from '../../base';
import { bareNumber, isText, kindByWords, numberThenTitle, type RawBlock, type RawParagraph } from '../raw';
import type { Surroundings } from './looks';

export interface Levels {
  /** 0 where there are none; below zero where the level holds the book’s title alone. */
  part: number;
  chapter: number;
}

/** A part has next to no text of its own before its first chapter, words. */
const LITTLE = 60;

const isPart = (t: string): boolean => numberedHeading(t)?.kind === 'part';
const isChapter = (t: string): boolean =>
  numberedHeading(t)?.kind === 'chapter' ||
  bareNumber(t) !== null ||
  numberThenTitle(t) !== null ||
  kindByWords(t) !== null;

export function levelsOf(
  blocks: readonly RawBlock[],
  s: Surroundings,
  between: (from: number, to: number) => number,
): Levels {
  const [first = 0, second = 0] = [...s.outlines.keys()].sort((a, b) => a - b);
  if (!first || !second) return { part: 0, chapter: first };
  const heads = blocks.flatMap((b, at) =>
    isText(b) && b.outline > 0 && b.text.trim() !== '' ? [{ at, b }] : [],
  );
  const texts = (level: number): string[] =>
    heads.filter(({ b }) => b.outline === level).map(({ b }) => b.text.replace(/\s+/g, ' ').trim());
  const share = (list: readonly string[], test: (t: string) => boolean): number =>
    list.length ? list.filter(test).length / list.length : 0;
  const uppers = texts(first);
  const lowers = texts(second);
  const others = uppers.filter((t) => kindByWords(t) === null);
  // One heading of the first level over many of the second, before all of them, is the book's title and no part;
  // "Acknowledgements" may have its level too.
  const [only = ''] = others;
  const leads = heads[0]?.b.outline === first && kindByWords(heads[0].b.text) === null;
  if (others.length === 1 && leads && lowers.length > 1 && !isChapter(only) && !isPart(only))
    return { part: -first, chapter: second };
  const said = share(uppers, isPart) >= 0.4 || (others.length > 0 && others.every(isPart));
  const byNumbers = share(lowers, isChapter) >= 0.5 && share(uppers, isChapter) < 0.3;
  if (said || byNumbers || haveNoText(heads, first, second, between)) return { part: first, chapter: second };
  return { part: 0, chapter: first };
}

/** Whether most headings of the first level have a heading of the second right below them, with text under that. */
function haveNoText(
  heads: readonly { at: number; b: RawParagraph }[],
  first: number,
  second: number,
  between: (from: number, to: number) => number,
): boolean {
  let over = 0;
  let bare = 0;
  let children = 0;
  heads.forEach(({ at, b }, i) => {
    if (b.outline === second) children++;
    if (b.outline !== first || kindByWords(b.text) !== null) return;
    const next = heads[i + 1];
    if (next?.b.outline !== second) return;
    over++;
    if (between(at, next.at) <= LITTLE) bare++;
  });
  // Subheads often follow a chapter’s title at once; chapters are long.
  const [begin, end] = [heads[0]?.at ?? 0, heads.at(-1)?.at ?? 0];
  const each = children > 0 ? between(begin, end) / children : 0;
  return over >= 2 && bare >= over * 0.8 && each >= 1500;
}
