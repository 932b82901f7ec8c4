/** Checks the book itself: what its pages lack, and what would embarrass its author. */
import type { Node } from 'prosemirror-model';
import { numberedHeading, type Finding } from '../base';
import { altOf, kindRule, noteKinds, sectionsOf, showsPicture, type Book, type Section } from '../book';
import { designOf } from '../design';
import type { BookRecord } from '../record';
import { captionsListedBy, hasText, isFromRecord, makesIndex, notePlaces } from '../order';
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
  found.push(...emptyNotes(book), ...deadPlaces(book));
  return found;
}

/** A section "Notes" is filled from the others, where an edition wants the notes of the whole book there. */
function emptyNotes(book: Book): Finding[] {
  const empty = book.sections.filter((s) => s.kind === 'notes' && !hasText(s.content));
  if (empty.length === 0) return [];
  const noted = book.sections.some((s) => noteKinds(s.content).size > 0);
  const gathers = book.editions.some((e) => {
    const places = notePlaces(sectionsOf(book, e.id), designOf(e).notes);
    return book.sections.some((s) =>
      [...noteKinds(s.content).values()].some((k) => places[k] === 'elsewhere'),
    );
  });
  if (gathers) return [];
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

/** Where a text leads to within the book, and which places it has itself. */
interface Pointed {
  targets: { target: string; block: string }[];
  ids: Set<string>;
}
const pointed = new WeakMap<Node, Pointed>();

function pointedIn(content: Node): Pointed {
  let known = pointed.get(content);
  if (!known) {
    const found: Pointed = (known = { targets: [], ids: new Set() });
    let block = '';
    content.descendants((n) => {
      if (typeof n.attrs.id === 'string') found.ids.add(n.attrs.id);
      if (n.isTextblock) block = n.attrs.id as string;
      if (n.type.name === 'reference') found.targets.push({ target: n.attrs.target as string, block });
      const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'place');
      if (link) found.targets.push({ target: link.attrs.target as string, block });
    });
    pointed.set(content, found);
  }
  return known;
}

/** Links and cross-references to places that have gone. */
function deadPlaces(book: Book): Finding[] {
  const ids = book.sections.map((s) => pointedIn(s.content).ids);
  const dead = (target: string): boolean => {
    const [section = '', block = ''] = target.split('#');
    if (block === '') return !book.sections.some((s) => s.id === section);
    return !ids.some((there) => there.has(block));
  };
  return book.sections.flatMap((s) =>
    pointedIn(s.content)
      .targets.filter(({ target }) => dead(target))
      .map(({ block }) => ({
        rule: 'book/dead-place',
        severity: 'caution' as const,
        message: 'A link or cross-reference leads to a place that is no longer in the book.',
        remedy: 'Choose another place, or make it plain text.',
        place: { section: s.id, block },
      })),
  );
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
    captionsListedBy(s) !== null ||
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
    if (showsPicture(n) && !n.attrs.decorative && altOf(n) === '')
      add('no-alt', 'caution', 'A picture has no alternative text.', {
        place: { section: s.id, block: n.attrs.id as string },
        why: 'Readers who can’t see it get no description, and shops ask for one.',
        remedy: 'Describe it, or mark it as decorative.',
      });
    if (n.isText && PLACEHOLDER.test(n.text as string))
      add('placeholder', 'caution', 'Placeholder text is left in the manuscript.', { place });
  });
  known.set(s, { record, found });
  return found;
}
