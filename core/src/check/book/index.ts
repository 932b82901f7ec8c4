/**
 * Checks the book itself: what its pages lack, and what would embarrass its author. Rules of a section look at its text
 * alone, so that only sections that have changed are read again.
 */
import type { Node } from 'prosemirror-model';
import { bySeverity, type Finding } from '../../base';
import type { Book } from '../../book';
import { RECORD_RULES } from '../agreement';
import { runRules, type Rule } from '../rules';
import type { PagesFacts } from './facts';
import { FIGURE_RULES } from './figures';
import { HEADING_RULES } from './headings';
import { BOOK_LANGUAGE_RULES, LANGUAGE_RULES } from './languages';
import { NOTE_RULES } from './notes';
import { ORDER_RULES } from './order';
import { DETAIL_RULES } from './record';
import { PAGE_RULES, type PagesSubject } from './pages';
import type { Reading } from './reading';
import { ADDRESS_RULES, REFERENCE_RULES } from './references';
import { SIGN_RULES } from './signs';
import { SPELLING_RULES } from './spellings';
import { bookSubject, type BookSubject } from './subject';
import { WORDING_RULES } from './wording';

export const SECTION_RULES: readonly Rule<Reading>[] = [
  ...HEADING_RULES,
  ...WORDING_RULES,
  ...NOTE_RULES,
  ...ADDRESS_RULES,
  ...LANGUAGE_RULES,
];
export const BOOK_RULES: readonly Rule<BookSubject>[] = [
  ...RECORD_RULES,
  ...DETAIL_RULES,
  ...BOOK_LANGUAGE_RULES,
  ...ORDER_RULES,
  ...REFERENCE_RULES,
  ...FIGURE_RULES,
  ...SIGN_RULES,
  ...SPELLING_RULES,
];
export const PAGES_RULES: readonly Rule<PagesSubject>[] = PAGE_RULES;

/** Findings of texts that have not changed are not looked for again. */
const known = new WeakMap<Node, { by: string; found: Finding[] }>();

function sectionFindings(reading: Reading): Finding[] {
  const { section, language } = reading;
  const by = [section.id, section.kind, language].join(' ');
  const before = known.get(section.content);
  if (before?.by === by) return before.found;
  const found = runRules(SECTION_RULES, reading);
  known.set(section.content, { by, found });
  return found;
}

/** Worst first, and each severity in the order of the book. */
export function inOrder(book: Pick<Book, 'sections'>, findings: readonly Finding[]): Finding[] {
  const index = new Map(book.sections.map((s, i) => [s.id, i]));
  const at = (f: Finding): number => (f.place ? (index.get(f.place.section) ?? -1) : -1);
  return bySeverity(
    findings
      .map((f, n) => ({ f, n }))
      .sort((a, b) => at(a.f) - at(b.f) || a.n - b.n)
      .map(({ f }) => f),
  );
}

export function checkBook(book: Book): Finding[] {
  const subject = bookSubject(book);
  return inOrder(book, [...runRules(BOOK_RULES, subject), ...subject.readings.flatMap(sectionFindings)]);
}

/** What the set pages of a print edition show. */
export const checkPages = (book: Book, facts: PagesFacts): Finding[] =>
  inOrder(book, runRules(PAGES_RULES, { book, facts }));

export { pagesFacts, type PagesFacts } from './facts';
