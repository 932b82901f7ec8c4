/** Parts of the .docx library's tree: what a paragraph looks like, its bookmarks and its words. */
import { SECTION_KINDS, type SectionKind } from '../../book';
import { ENTRY, FORMULA, LANGUAGE, MARK, RANGE } from './docx-xml';
import type { RawParagraph } from '../raw';
import type { El } from './docx-tree';

export const MONO = /courier|consolas|mono|menlo|typewriter/i;

/** Whether nine tenths of a paragraph's letters look so, and the largest size that any of them has. */
export function looksOfRuns(e: El): { bold: boolean; italic: boolean; size: number; monospace: boolean } {
  let letters = 0;
  let bold = 0;
  let italic = 0;
  let mono = 0;
  let size = 0;
  const walk = (x: El, run: El | null): void => {
    if (x.type === 'text') {
      const n = (x.value ?? '').trim().length;
      letters += n;
      if (run?.isBold || run?.isUnderline) bold += n;
      if (run?.isItalic) italic += n;
      if (run?.font && MONO.test(run.font)) mono += n;
      if (n > 0 && run?.fontSize) size = Math.max(size, run.fontSize);
    }
    for (const c of x.children ?? []) walk(c, x.type === 'run' ? x : run);
  };
  walk(e, null);
  const most = (n: number): boolean => letters > 0 && n >= letters * 0.9;
  return { bold: most(bold), italic: most(italic), monospace: most(mono), size };
}

/** The kind of section that a file of ours says begins here: "section_about_author_12". */
export function kindOf(anchors: readonly string[]): SectionKind | '' {
  for (const name of anchors) {
    const kind = /^section_([a-z_]+)_\d+$/.exec(name)?.[1]?.replaceAll('_', '-');
    if (kind && (SECTION_KINDS as string[]).includes(kind)) return kind as SectionKind;
  }
  return '';
}

/** Names of bookmarks in a paragraph, without the marks of our own and the one where editing stopped. */
export function bookmarksIn(e: El): string[] {
  const own =
    e.type === 'bookmarkStart' &&
    e.name &&
    !e.name.startsWith(MARK) &&
    !e.name.startsWith(ENTRY) &&
    !e.name.startsWith(FORMULA) &&
    !e.name.startsWith(RANGE) &&
    !e.name.startsWith(LANGUAGE) &&
    e.name !== '_GoBack';
  return [...(own ? [e.name as string] : []), ...(e.children ?? []).flatMap(bookmarksIn)];
}

export const wordsIn = (e: El): string =>
  e.type === 'text' ? (e.value ?? '') : e.type === 'tab' ? ' ' : (e.children ?? []).map(wordsIn).join('');

export function alignment(a: string): RawParagraph['align'] {
  if (a === 'center') return 'centre';
  if (a === 'right' || a === 'end') return 'right';
  return a === 'both' || a === 'distribute' ? 'justify' : 'left';
}
