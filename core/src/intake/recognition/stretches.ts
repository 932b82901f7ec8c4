/** What stretches of a manuscript are, seen as wholes: blank lines, pages before the first heading, a heading's own lines. */
import { countWords } from '../../base';
import type { SectionKind } from '../../book';
import { isEmpty, isText, type RawBlock, type RawManuscript, type RawParagraph } from '../raw';
import type { HeadingGuess } from '../raw';
import { COPYRIGHT_WORDS } from '../raw';

/** Blank paragraphs between most paragraphs are spacing; here and there they are breaks. */
export function emptiesAreSpacing(blocks: readonly RawBlock[]): boolean {
  let pairs = 0;
  let apart = 0;
  let last = -1;
  blocks.forEach((b, i) => {
    if (!isText(b) || isEmpty(b)) return;
    if (last >= 0) {
      pairs++;
      if (i - last > 1) apart++;
    }
    last = i;
  });
  return pairs > 0 && apart / pairs > 0.4;
}

/** A picture directly above a heading belongs to what follows: the index from which the heading's section starts. */
export function withPictureAbove(blocks: readonly RawBlock[], at: number): number {
  let from = at;
  for (let i = at - 1; i >= 0; i--) {
    const b = blocks[i];
    if (isEmpty(b)) continue;
    if (isText(b) && b.pictures.length > 0 && b.text.trim() === '') from = i;
    else break;
  }
  return from;
}

/** A title is plain text: a note called from it is called at the end of the first paragraph below. */
export function withCallsOf(heading: readonly RawBlock[], body: readonly RawBlock[]): readonly RawBlock[] {
  const calls = heading.flatMap((b) => (isText(b) ? b.inline.filter((n) => n.type.name === 'note') : []));
  const at = calls.length === 0 ? -1 : body.findIndex((b) => isText(b) && b.text.trim() !== '');
  const first = body[at];
  return isText(first) ? body.with(at, { ...first, inline: [...first.inline, ...calls] }) : body;
}

/** A heading's own lines, as they were typed. */
export const typedLines = (blocks: readonly RawBlock[], h: HeadingGuess): string =>
  blocks
    .slice(h.at, h.at + h.span)
    .filter(isText)
    .map((b) => b.text.replace(/\s+/g, ' ').trim())
    .filter(Boolean)
    .join(' / ');

export function numberWordsOf(m: RawManuscript, h: HeadingGuess): string {
  const line = (m.blocks[h.at] as RawParagraph).text.trim();
  return line.split(/\s+/).slice(0, h.numberWords).join(' ');
}

export function pageKind(page: readonly RawBlock[], first: boolean): { kind: SectionKind; reason: string } {
  const texts = page.filter(isText).filter((b) => b.text.trim() !== '');
  const all = texts.map((b) => b.text).join('\n');
  const words = countWords(all);
  if (
    texts.length > 2 &&
    texts.filter((b) => /^toc\b/i.test(b.style) || /[.\u2026\t]\s*\d+$/.test(b.text.trim())).length >
      texts.length / 2
  )
    return { kind: 'contents', reason: 'lines that end in page numbers' };
  if (COPYRIGHT_WORDS.test(all)) return { kind: 'copyright-page', reason: 'the words of a copyright page' };
  if (first && words <= 60) return { kind: 'title-page', reason: 'a few lines on the first page' };
  if (words <= 30 && /^(for|to|in memory of|à|pour|für|para|per)\b/i.test(all.trim()))
    return { kind: 'dedication', reason: 'a short page that begins like a dedication' };
  if (words <= 90 && /(^|\n)\s*[\u2014\u2013-]\s*\S/.test(all))
    return { kind: 'epigraph', reason: 'a quotation with its source' };
  if (words <= 25 && texts.every((b) => b.align === 'centre' || b.italic))
    return { kind: 'dedication', reason: 'a few centred words on a page of their own' };
  return { kind: 'plain', reason: 'a page before the first heading' };
}
