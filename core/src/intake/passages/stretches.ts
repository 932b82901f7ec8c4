/** The stretches of a section in order: letters first, since their lines are short too; then lists, verse, quotations. */
import type { SectionKind } from '../../book';
import { isBreakText, isDisplayed, isText, type RawBlock } from '../raw';
import { letterAt } from './letters';
import { listAt } from './lists';
import { epigraphAt, quotationAt } from './quotations';
import { Setting } from './setting';
import type { Stretch } from './stretch';
import { isPoem, verseAt } from './verse';

/** Sections whose entries are short and indented by nature. */
const ENTRIES: ReadonlySet<SectionKind> = new Set([
  'bibliography',
  'glossary',
  'index',
  'notes',
  'contents',
  'copyright-page',
  'title-page',
  'also-by',
]);

/** What the whole manuscript says. */
export interface Whole {
  blocks: readonly RawBlock[];
  /** Many of its sections are poems. */
  poetry: boolean;
}

/** Whether a manuscript is a book of poems, by the bodies of its sections. */
export function isPoetry(bodies: readonly (readonly RawBlock[])[]): boolean {
  const poems = bodies.filter((body) => isPoem(new Setting(body, () => false, []), true));
  return poems.length >= 3 && poems.length >= bodies.length * 0.3;
}

export function stretchesOf(
  body: readonly RawBlock[],
  kind: SectionKind,
  isHead: (at: number) => boolean,
  whole: Whole,
): Stretch[] {
  const decided: (boolean | undefined)[] = [];
  const s = new Setting(
    body,
    // A style that names what a paragraph is decides by itself, as a break sign does. Asked again and again.
    (at) => {
      const b = body[at];
      return (decided[at] ??= isHead(at) || (isText(b) && (isBreakText(b.text) || isStyled(b.style))));
    },
    whole.blocks,
  );
  const out: Stretch[] = [];
  if (ENTRIES.has(kind)) return out;
  const epigraph = epigraphAt(s, kind === 'epigraph');
  if (epigraph) out.push(epigraph);
  let at = epigraph?.to ?? 0;
  if (isPoem(s, whole.poetry)) return [...out, ...poem(s, at)];
  /** Up to here lines that are alike were looked at, and are no verse. */
  let prose = 0;
  while (at < body.length) {
    const verse = at < prose || !s.text(at) ? null : verseAt(s, at);
    if (verse && 'none' in verse) prose = verse.none;
    const found = s.text(at)
      ? (letterAt(s, at) ?? listAt(s, at) ?? (verse && 'form' in verse ? verse : quotationAt(s, at)))
      : null;
    if (found) out.push(found);
    at = found?.to ?? at + 1;
  }
  return out;
}

const isStyled = (style: string): boolean =>
  isDisplayed({ style, align: 'left' }) ||
  /attribution|block text|zitat|citation|brief|gedicht|lyric|code|preformatted|caption/i.test(style);

/** All lines of a poem, from the first to the last; what stands between in a style of its own parts them. */
function poem(s: Setting, from: number): Stretch[] {
  const out: Stretch[] = [];
  let start = -1;
  for (let at = from; at <= s.body.length; at++) {
    const text = at < s.body.length && s.text(at);
    if (text && start < 0) start = at;
    if (text || s.isBlank(at)) continue;
    if (start >= 0) {
      let to = at;
      while (s.isBlank(to - 1)) to--;
      out.push({ form: 'verse', from: start, to });
    }
    start = -1;
  }
  return out;
}
