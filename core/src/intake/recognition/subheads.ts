/**
 * Subheads that no style marks: lines in bold, italic or larger type, or with a number of several figures, that stand in
 * the text again and again. Lines of one look are judged together, so that a signboard in bold capitals stays text.
 */
import { countWords, decimalDepth, labelOf } from '../../base';
import { isCaptionText, isEmpty, isText, type HeadingGuess, type RawBlock } from '../raw';
import { guess } from './guess';
import { signature } from './looks';
import { endsLikeSentence, type Line, type Page } from './page';

const LONGEST = 14;
/** What the lines of one look must earn together. */
const LEAST = 1.2;
/** Words of a short sentence that brings in what is shown below it. */
const SHORT = 26;

interface Found {
  line: Line;
  depth: number;
}

export function subheadsOf(
  page: Page,
  heads: readonly HeadingGuess[],
  isListed: (at: number) => boolean,
): HeadingGuess[] {
  const taken = new Set<number>();
  for (const g of heads) for (let i = 0; i < Math.max(1, g.span); i++) taken.add(g.at + i);
  const first = heads.find((g) => g.subhead === 0)?.at ?? -1;
  if (first < 0) return [];
  const classes = new Map<string, Found[]>();
  for (let at = first + 1; at < page.blocks.length; at++) {
    if (taken.has(at) || isListed(at)) continue;
    const line = page.line(at);
    if (!line || line.p.outline > 0 || line.words === 0 || line.words > LONGEST) continue;
    const depth = decimalDepth(line.text)?.depth ?? 0;
    if (!depth && !stands(page, line)) continue;
    if (isCaptionText(line.text)) continue;
    const key = line.key;
    (classes.get(key) ?? classes.set(key, []).get(key)!).push({ line, depth });
  }
  const good = [...classes.values()]
    .map((c) => c.filter(({ line, depth }) => mayHead(page, line, depth > 0)))
    .filter((c) => c.length > 0);
  const accepted = good.filter((c) => worth(page, c, classes.get(c[0]!.line.key)!) >= LEAST);
  const numbers = sectionNumbers(page, heads, (at) => taken.has(at) || isListed(at));
  const ranks = [...new Set(accepted.filter((c) => !c.some((f) => f.depth)).map((c) => c[0]!.line))].sort(
    byRank,
  );
  const styled = Math.max(0, ...heads.map((g) => g.subhead));
  const known = new Set(numbers.map((g) => g.at));
  const found = accepted.flat().filter(({ line }) => !known.has(line.at));
  const titled = found.map(({ line, depth }) => {
    const rank = ranks.findIndex((r) => r.key === line.key);
    const level = depth > 0 ? depth - 1 : Math.max(1, rank + 1 + styled);
    return guess(line.at, {
      subhead: Math.min(3, Math.max(1, level)) as 1 | 2 | 3,
      title: line.text,
      score: 5,
      reason: depth > 0 ? 'a decimal number before a title' : 'similar lines stand above text throughout',
    });
  });
  return [...numbers, ...titled];
}

const byRank = (a: Line, b: Line): number =>
  b.p.size - a.p.size || Number(b.p.bold) - Number(a.p.bold) || Number(a.p.italic) - Number(b.p.italic);

/** In type that the text around it does not have. */
const stands = (page: Page, { p, text }: Line): boolean =>
  (p.bold && page.s.bold < 0.3) ||
  (page.s.size > 0 && p.size >= page.s.size * 1.1) ||
  (p.italic && p.align !== 'centre' && !p.indented && !signature(p).startsWith(page.s.signature)) ||
  /head|title|sub/i.test(p.style) ||
  (/\p{Lu}{3}/u.test(text) && text === text.toUpperCase() && p.align !== 'centre');

/** What a single line must be: text stands below it, it is no sentence, no speech and no line of a letter or a poem. */
function mayHead(page: Page, { at, text, p, words }: Line, numbered: boolean): boolean {
  const asks = /[?!]$/.test(text) && (p.bold || numbered);
  if ((endsLikeSentence(text) && !asks) || /[,;:]$/.test(text) || (/\.$/.test(text) && words > 1))
    return false;
  if (/^["\u201c\u2018\u201e\u00ab\u2013\u2014-]/.test(text) || p.align === 'right' || p.pictures.length > 0)
    return false;
  if (!/^[\p{Lu}\p{N}(\u00bf\u00a1]/u.test(text) || p.inline.some((n) => n.type.name === 'lineBreak'))
    return false;
  const below = after(page, at);
  if (!below) return false;
  if (!isText(below)) return true;
  return (
    below.outline > 0 ||
    (countWords(below.text, 8) >= 8 && /^[^\p{Ll}]/u.test(below.text.trim())) ||
    signature(below) !== signature(p)
  );
}

function after(page: Page, at: number): RawBlock | null {
  for (let i = at + 1; i < page.blocks.length; i++)
    if (!isEmpty(page.blocks[i])) return page.blocks[i] as RawBlock;
  return null;
}
function beforeText(page: Page, at: number): string {
  for (let i = at - 1; i >= 0; i--) {
    const b = page.blocks[i];
    if (!isEmpty(b)) return isText(b) ? b.text.trim() : '';
  }
  return '';
}

/** What all lines of one look earn together as subheads; `all` has those too that may not be one. */
function worth(page: Page, good: readonly Found[], all: readonly Found[]): number {
  const { line } = good[0] as Found;
  const { p } = line;
  const share = (test: (f: Found) => boolean, of: readonly Found[] = good): number =>
    of.filter(test).length / of.length;
  const caps = (f: Found): boolean =>
    /\p{Lu}{2}/u.test(f.line.text) && f.line.text === f.line.text.toUpperCase();
  let n = 0;
  if (p.bold) n += 1.2;
  if (page.s.size > 0 && p.size >= page.s.size * 1.1) n += 1.2;
  if (p.italic && !p.bold) n += 0.4;
  n += 3 * share((f) => f.depth > 0);
  n += 0.6 * share(caps) * (p.align === 'centre' ? -1.3 : 1);
  if (/head|title|sub/i.test(p.style)) n += 1;
  else if (p.style !== '' && !/^(normal|standard|body|text|default)/i.test(p.style)) n += 0.4;
  n += good.length >= 4 ? 1 : good.length >= 2 ? 0.6 : -0.6;
  if (p.align === 'centre') n -= share((f) => f.line.blanks > 0) > 0.7 ? 0.2 : 0.8;
  if (p.indented) n -= 1;
  n += 0.4 * share((f) => f.line.blanks > 0);
  // What does not hold for one line of a look speaks against all of them.
  n -= 2.2 * (1 - good.length / all.length);
  n -= 1.2 * share((f) => brings(beforeText(page, f.line.at)));
  if (good.length === 1 && p.align !== 'centre' && countWords(beforeText(page, line.at)) > SHORT) n += 0.6;
  return n;
}

/** A colon, or one short sentence: what follows is shown, not said. */
const brings = (text: string): boolean =>
  /:$/.test(text) || (text !== '' && countWords(text, SHORT) < SHORT && !/[?]$/.test(text));

/** Numbers by themselves that count the sections of a chapter: they run from 1 in most chapters that have any. */
function sectionNumbers(
  page: Page,
  heads: readonly HeadingGuess[],
  isOut: (at: number) => boolean,
): HeadingGuess[] {
  const chapters = heads.filter((g) => g.kind === 'chapter' && g.subhead === 0);
  const out: HeadingGuess[] = [];
  let counted = 0;
  chapters.forEach((g, i) => {
    const end = chapters[i + 1]?.at ?? page.blocks.length;
    const run: Line[] = [];
    for (let at = g.at + Math.max(1, g.span); at < end; at++) {
      const line = isOut(at) ? null : page.line(at);
      const label = line && line.words === 1 ? labelOf(line.text) : null;
      if (line && label?.level === null && label.title === '' && label.number === run.length + 1)
        run.push(line);
    }
    if (run.length < 2) return;
    counted++;
    for (const line of run)
      out.push(
        guess(line.at, {
          subhead: 1,
          title: line.text,
          score: 5,
          reason: 'it numbers a section of its chapter',
        }),
      );
  });
  return counted >= 2 || chapters.length === 1 ? out : [];
}
