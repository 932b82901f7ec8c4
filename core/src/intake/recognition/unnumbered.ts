/**
 * Headings without a number, a style or a known word, in manuscripts that nobody styled: lines that stand out. Where the
 * chapters are numbered, only what looks as they do heads a section besides; elsewhere the looks that most headings share
 * say what is one.
 */
import { labelOf } from '../../base';
import { isEmpty, isText, type HeadingGuess } from '../raw';
import { endsLikeSentence, MAX_WORDS, type Line, type Page } from './page';
import { guess } from './guess';

/** Score from which a line without a style is taken for a heading. */
const THRESHOLD = 2.5;
/** Most headings must look alike before looks alone make one. */
const ALIKE = 0.6;
/** Words below which nothing stands under a heading. */
const LITTLE = 40;
/** Words that no title page or dedication has under one of its lines; and blank lines that are a new page. */
const OPENS = 150;
const NEW_PAGE = 5;

/** Whether a chapter’s text stands below a line before its page ends. */
function hasText(page: Page, at: number): boolean {
  let blanks = 0;
  let i = at + 1;
  for (; i < page.blocks.length && page.between(at, i) < OPENS; i++) {
    const b = page.blocks[i];
    if (isText(b) && b.breakBefore) return false;
    blanks = isEmpty(b) ? blanks + 1 : 0;
    if (blanks >= NEW_PAGE) return false;
  }
  return page.between(at, i) >= OPENS;
}

export function unnumberedByLooks(
  page: Page,
  found: readonly HeadingGuess[],
  isListed: (at: number) => boolean,
): HeadingGuess[] {
  const heads = found.filter((g) => g.subhead === 0);
  const numbered = heads.filter((g) => g.kind === 'chapter' && g.numbered);
  const styled = [...page.s.outlines.values()].reduce((a, b) => a + b, 0) >= 2;
  const lines: Line[] = [];
  for (let at = 0; at < page.blocks.length; at++) {
    const line = isListed(at) ? null : page.line(at);
    if (line && line.p.outline === 0 && line.words > 0 && line.words <= MAX_WORDS) lines.push(line);
  }
  const taken = new Set(
    found.flatMap((g) => Array.from({ length: Math.max(1, g.span) }, (_, i) => g.at + i)),
  );
  const free = lines.filter((l) => !taken.has(l.at));
  if (numbered.length >= 3 && !haveTitlesBelow(page, numbered, free))
    return besideNumbers(page, free, heads, numbered);
  const strong = free.filter((l) => l.look >= (styled ? 3.4 : THRESHOLD));
  const first = heads[0]?.at ?? -1;
  // Before the first heading that is known stand the title page and its like, or chapters: those have text.
  const likely =
    first >= 0 ? strong.filter((l) => l.at > first || hasText(page, l.at)) : withoutTitlePage(page, strong);
  const made = likely.map((l) => byLooks(l, l.reasons.join(', ')));
  if (styled) return made;
  const all = [...made, ...alike(page, [...heads, ...made], free)];
  const chapters = [...heads, ...all].filter((g) => g.kind === 'chapter');
  return chapters.length >= 2 ? all : [...all, ...againAndAgain(page, free, [...heads, ...all])];
}

/** Words between two headings that nothing but their looks marks: chapters are long. */
const CHAPTER = 250;

/**
 * Where nothing else heads anything: short lines of one look (bold, capitals, centred) that stand apart from the text
 * again and again, far from each other.
 */
function againAndAgain(page: Page, free: readonly Line[], heads: readonly HeadingGuess[]): HeadingGuess[] {
  const looks = new Map<string, Line[]>();
  for (const l of free) {
    if (l.look < 1 || endsLikeSentence(l.text) || heads.some((g) => g.at === l.at)) continue;
    const caps = /\p{Lu}{2}/u.test(l.text) && l.text === l.text.toUpperCase();
    if (l.key === page.s.signature && !caps) continue;
    const key = `${l.key} ${caps}`;
    (looks.get(key) ?? looks.set(key, []).get(key)!).push(l);
  }
  let best: Line[] = [];
  let most = 0;
  for (const lines of looks.values()) {
    const gaps = lines
      .map((l, i) => page.between(l.at, lines[i + 1]?.at ?? page.blocks.length))
      .sort((a, b) => a - b);
    if (lines.length < 3 || (gaps[gaps.length >> 1] ?? 0) < CHAPTER || (gaps[0] ?? 0) < 20) continue;
    const worth = lines.reduce((n, l) => n + l.look, 0);
    if (worth > most) [best, most] = [lines, worth];
  }
  return best.map((l) =>
    guess(l.at, {
      title: l.text,
      score: THRESHOLD,
      reason: `${l.reasons.join(', ')}; similar lines stand above long text throughout`,
      firm: false,
    }),
  );
}

/** Numbers without a word, with a title of another type below each before any text: parts of titled sections. */
function haveTitlesBelow(page: Page, numbered: readonly HeadingGuess[], free: readonly Line[]): boolean {
  const strong = free.filter((l) => l.look >= THRESHOLD);
  const over = numbered.filter((g) =>
    strong.some(
      (l) => l.at > g.at && l.page && l.key !== page.line(g.at)?.key && page.between(g.at, l.at) <= LITTLE,
    ),
  );
  return over.length >= numbered.length * 0.6 && numbered.every((g) => labelOf(g.label)?.level === null);
}

const byLooks = (line: Line, reason: string): HeadingGuess =>
  guess(line.at, { title: line.text, score: line.look, reason, firm: false });

/** Unnumbered sections among numbered chapters: they look as the chapters’ headings do, and have text of their own. */
function besideNumbers(
  page: Page,
  free: readonly Line[],
  heads: readonly HeadingGuess[],
  numbered: readonly HeadingGuess[],
): HeadingGuess[] {
  const keys = new Map<string, { n: number; page: number; blanks: number }>();
  for (const g of numbered) {
    const line = page.line(g.at);
    if (!line) continue;
    const k = keys.get(line.key) ?? { n: 0, page: 0, blanks: Infinity };
    k.n++;
    if (line.page || line.blanks >= 3) k.page++;
    k.blanks = Math.min(k.blanks, line.blanks);
    keys.set(line.key, k);
  }
  const places = [...heads.map((g) => g.at)].sort((a, b) => a - b);
  const first = numbered[0]?.at ?? 0;
  const sections = free
    .filter((l) => {
      if (l.at < first || l.look < 1 || endsLikeSentence(l.text)) return false;
      const like = keys.get(l.key);
      const begins = l.page || l.blanks >= 3;
      if (!begins && !(like && like.page < like.n / 2 && l.blanks > 0)) return false;
      if (!like && l.look < THRESHOLD) return false;
      const next = places.find((at) => at > l.at) ?? page.blocks.length;
      return page.between(l.at, next) >= LITTLE;
    })
    .map((l) => byLooks(l, `${l.reasons.join(', ')}, as the numbered headings`));
  return [...sections, ...overChapters(page, free, numbered)];
}

/** Lines of one look that stand, more than once, on a page of their own right before a numbered chapter: parts. */
function overChapters(page: Page, free: readonly Line[], numbered: readonly HeadingGuess[]): HeadingGuess[] {
  const looks = new Map<string, Line[]>();
  for (const l of free) {
    const next = numbered.find((g) => g.at > l.at);
    const apart = l.page || l.blanks >= 3;
    if (!next || !apart || l.look < 2 || page.between(l.at, next.at) > LITTLE || endsLikeSentence(l.text))
      continue;
    (looks.get(l.key) ?? looks.set(l.key, []).get(l.key)!).push(l);
  }
  return [...looks.values()]
    .filter((lines) => lines.length >= 2)
    .flat()
    .map((l) => byLooks(l, `${l.reasons.join(', ')}, right before a chapter`));
}

/**
 * Large centred lines on the first page are the book's title, not a chapter: where nothing is firm, a first line with
 * hardly any text below it is the title.
 */
function withoutTitlePage(page: Page, found: readonly Line[]): Line[] {
  let from = 0;
  while (from + 1 < found.length) {
    const [a, b] = [found[from] as Line, found[from + 1] as Line];
    if (from > 0 && a.page) break;
    if (page.between(a.at, b.at) > LITTLE) break;
    from++;
    if (b.page) break;
  }
  const above = found[0] ? page.between(-1, found[0].at) > 0 && from === 0 : false;
  return above ? [...found] : found.slice(from);
}

/** A line that looks just as most headings do is one, whatever its words are. */
function alike(page: Page, heads: readonly HeadingGuess[], free: readonly Line[]): HeadingGuess[] {
  const sections = heads.filter((g) => g.subhead === 0 && g.span > 0 && g.kind === 'chapter');
  if (sections.length < 3) return [];
  const counts = new Map<string, number>();
  for (const g of sections) {
    const key = page.line(g.at)?.key ?? '';
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const [key, count] = [...counts].sort((a, b) => b[1] - a[1])[0] as [string, number];
  if (key === page.s.signature || count < sections.length * ALIKE) return [];
  const known = new Set(heads.map((g) => g.at));
  const first = Math.min(...sections.map((g) => g.at));
  const more = free.filter(
    (l) => l.key === key && !known.has(l.at) && l.at > first && !endsLikeSentence(l.text),
  );
  const apart = more.filter((l) => l.page || l.blanks >= 2);
  // Where nearly all lines of such type begin a page, the few that don’t are headings too.
  const all = more.length - apart.length <= Math.max(1, (count + apart.length) * 0.25);
  const others = all
    ? more.filter((l) => !apart.includes(l) && l.look >= 1 && page.between(l.at, page.blocks.length) > 0)
    : [];
  return [...apart, ...others].map((l) =>
    guess(l.at, {
      title: l.text,
      score: THRESHOLD,
      reason: 'it looks like the other headings',
      firm: false,
    }),
  );
}
