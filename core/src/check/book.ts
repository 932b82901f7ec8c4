/** Checks the book itself: what its pages lack, and what would embarrass its author. */
import { numberedHeading, type Finding } from '../base';
import { kindRule, type Book, type Section } from '../book';
import { designOf } from '../design';
import type { BookRecord } from '../record';
import { hasText, isFromRecord, listsFigures, makesIndex } from '../order';
import { checkBookAgreement } from './agreement';

export function checkBook(book: Book): Finding[] {
  const found = checkBookAgreement(book);
  const add = (
    rule: string,
    severity: Finding['severity'],
    message: string,
    more: Partial<Finding> = {},
  ): void => void found.push({ rule: `book/${rule}`, severity, message, ...more });
  if (!book.sections.some((s) => s.kind === 'title-page'))
    add('no-title-page', 'caution', 'The book has no title page.', {
      remedy: 'Add it from the running order.',
    });
  if (!book.sections.some((s) => s.kind === 'copyright-page'))
    add('no-copyright-page', 'caution', 'The book has no copyright page.', {
      remedy: 'Add it from the running order.',
    });
  for (const s of book.sections) found.push(...sectionFindings(s, book.record));
  found.push(...emptyNotes(book));
  return found;
}

/** A section "Notes" is filled from the others, where an edition wants the notes of the whole book there. */
function emptyNotes(book: Book): Finding[] {
  const empty = book.sections.filter((s) => s.kind === 'notes' && !hasText(s.content));
  const noted = book.sections.some((s) => s.content.lastChild?.type.name === 'noteBody');
  const gather = book.editions.filter((e) => designOf(e).notes.at === 'book');
  if (empty.length === 0 || (noted && gather.length > 0)) return [];
  return empty.map((s) => ({
    rule: 'book/empty-section',
    severity: 'caution',
    message: noted
      ? `${s.title || 'The section “Notes”'} stays empty: every edition sets its notes elsewhere.`
      : `${s.title || 'The section “Notes”'} has no text, and the book has no notes.`,
    remedy: noted
      ? 'Choose its place for the notes in Design, or delete the section.'
      : 'Delete it in the running order.',
    place: { section: s.id },
  }));
}

/** "To come", as it is marked in the trade, rows of crosses that are no numeral, and the filler text of printers (common practice). */
const PLACEHOLDER = /\b(?:TK)+K?\b|\bX{4,}\b|\[X+\]|\b[Ll]orem ipsum\b/;

/** Findings of sections that have not changed are not looked for again. */
const known = new WeakMap<Section, { record: BookRecord; found: readonly Finding[] }>();

function sectionFindings(s: Section, record: BookRecord): readonly Finding[] {
  const before = known.get(s);
  if (before?.record === record) return before.found;
  const found: Finding[] = [];
  const add = (
    rule: string,
    severity: Finding['severity'],
    message: string,
    more: Partial<Finding> = {},
  ): void => void found.push({ rule: `book/${rule}`, severity, message, ...more });
  const place = { section: s.id };
  const rule = kindRule(s.kind);
  const made =
    isFromRecord(s, record) ||
    listsFigures(s) ||
    makesIndex(s) ||
    s.kind === 'contents' ||
    s.kind === 'notes' ||
    s.kind === 'part' ||
    s.kind === 'half-title';
  if (!made && !hasText(s.content))
    add('empty-section', 'caution', `${s.title || rule.label} has no text.`, { place });
  if (s.kind === 'chapter' && !(s.title && s.titled) && !s.numbered)
    add('untitled-chapter', 'caution', 'A chapter has no title and no number.', { place });
  if (s.numbered && rule.numbered && numberedHeading(s.title))
    add(
      'doubled-number',
      'caution',
      `The title “${s.title}” includes the chapter number, which is printed too.`,
      {
        place,
      },
    );
  s.content.descendants((n) => {
    if (n.type.name === 'figure' && !(n.attrs.alt as string).trim())
      add('no-alt', 'caution', 'A picture has no alternative text.', {
        place: { section: s.id, block: n.attrs.id as string },
        why: 'Readers who can’t see it get no description, and shops ask for one.',
      });
    if (n.isText && PLACEHOLDER.test(n.text as string))
      add('placeholder', 'caution', 'Placeholder text is left in the manuscript.', { place });
  });
  known.set(s, { record, found });
  return found;
}
