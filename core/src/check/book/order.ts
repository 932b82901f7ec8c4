/** The running order: pages that a book has, their places, titles and numbers. */
import { inSentence, labelOf, numberedHeading } from '../../base';
import { kindRule, noteKinds, sectionsOf, type Section, type SectionKind } from '../../book';
import { designOf } from '../../design';
import {
  captionsListedBy,
  hasText,
  headingsOf,
  isFromRecord,
  makesIndex,
  notePlaces,
  sectionNumbers,
} from '../../order';
import type { Breach, Rule } from '../rules';
import { atSection, type BookSubject } from './subject';

const PRACTICE = 'common practice';
/** Front matter in the order of The Chicago Manual of Style, 17th ed., 1.4 (from memory). */
const FRONT: readonly SectionKind[] = [
  'half-title', 'title-page', 'copyright-page', 'dedication', 'epigraph', 'contents', 'list-of-figures', 'list-of-tables',
  'foreword', 'preface', 'introduction',
]; // prettier-ignore
/** Back matter in that order; pages about the author and the author's other books may stand anywhere. */
const BACK: readonly SectionKind[] = ['appendix', 'chronology', 'notes', 'glossary', 'bibliography', 'contributors', 'index', 'colophon']; // prettier-ignore

const nameOf = (s: Section): string => s.title || kindRule(s.kind).label;

/** Sections that stand before one that belongs before them. */
function* misplaced(
  sections: readonly Section[],
  order: readonly SectionKind[],
): Generator<[Section, Section]> {
  let furthest: Section | null = null;
  for (const s of sections) {
    const rank = order.indexOf(s.kind);
    if (rank < 0) continue;
    if (furthest && order.indexOf(furthest.kind) > rank) yield [s, furthest];
    else furthest = s;
  }
}

const wordCounts = ({ readings }: BookSubject, kind: SectionKind): { section: Section; words: number }[] =>
  readings
    .filter((r) => r.section.kind === kind)
    .map((r) => ({
      section: r.section,
      words: r.blocks.reduce((n, b) => n + (b.text.match(/[^\s\u00a0]+/g)?.length ?? 0), 0),
    }));

/** Fewer chapters, or shorter ones, have no usual length. */
const USUAL = { chapters: 6, words: 500 };
const FAR = { above: 4, below: 6 };

export const ORDER_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'order/no-title-page',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Readers and shops look for the title and the author on a page of their own.',
    remedy: 'Add it from the running order.',
    *look({ book }) {
      if (!book.sections.some((s) => s.kind === 'title-page'))
        yield { message: 'The book has no title page.' };
    },
  },
  {
    name: 'order/no-copyright-page',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Shops ask who holds the rights, and compare the ISBN on this page with the listing.',
    remedy: 'Add it from the running order.',
    *look({ book }) {
      if (!book.sections.some((s) => s.kind === 'copyright-page'))
        yield { message: 'The book has no copyright page.' };
    },
  },
  {
    name: 'order/out-of-order',
    severity: 'caution',
    profiles: ['book'],
    source: 'The Chicago Manual of Style, 17th ed., 1.4 (from memory)',
    why: 'Readers, librarians and reviewers know where these pages are by their order.',
    remedy: 'Move it in the running order.',
    *look({ book }) {
      for (const [matter, order] of [
        ['front', FRONT],
        ['back', BACK],
      ] as const) {
        const own = book.sections.filter((s) => s.matter === matter && s.parent === null);
        for (const [s, after] of misplaced(own, order))
          yield atSection(
            s,
            `${nameOf(s)} stands after ${inSentence(nameOf(after))}; it usually comes before.`,
          );
      }
    },
  },
  {
    name: 'order/empty-section',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'It prints as an empty page, and shops send back ebooks with empty chapters.',
    remedy: 'Write it in Manuscript, or delete it in the running order.',
    *look({ book }) {
      for (const s of book.sections) {
        const made =
          isFromRecord(s, book.record) ||
          captionsListedBy(s) !== null ||
          makesIndex(s) ||
          s.kind === 'contents' ||
          s.kind === 'notes' ||
          s.kind === 'part' ||
          s.kind === 'half-title';
        if (!made && !hasText(s.content)) yield atSection(s, `${nameOf(s)} has no text.`);
      }
      yield* emptyNotes(book);
    },
  },
  {
    name: 'order/empty-part',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    remedy: 'Move chapters into it, or delete it.',
    *look({ book }) {
      for (const s of book.sections)
        if (s.kind === 'part' && !book.sections.some((x) => x.parent === s.id))
          yield atSection(s, `${nameOf(s)} holds no chapters.`);
    },
  },
  {
    name: 'order/untitled-chapter',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'The contents and the navigation of ebooks have nothing to show for it.',
    remedy: 'Give it a title, or let it show its number.',
    *look({ book }) {
      for (const s of book.sections)
        if (s.kind === 'chapter' && !(s.title && s.titled) && !s.numbered)
          yield atSection(s, 'A chapter has no title and no number.');
    },
  },
  {
    name: 'order/doubled-number',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Its number appears twice: once from the title, once from the book’s own numbering.',
    remedy: 'Take the number out of the title.',
    mend: 'title-alone',
    *look({ book }) {
      for (const s of book.sections)
        if (s.numbered && kindRule(s.kind).numbered && numberedHeading(s.title))
          yield atSection(s, `The title “${s.title}” includes the chapter number, which is printed too.`);
    },
  },
  {
    name: 'order/number-twice',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Readers can’t tell which of the two is meant.',
    remedy: 'Give one of them another number in the running order.',
    *look({ book }) {
      for (const { section, number, before } of chapterNumbers(book.sections, book))
        if (before?.number === number)
          yield atSection(
            section,
            `${nameOf(before.section)} and ${inSentence(nameOf(section))} are both chapter ${number}.`,
          );
    },
  },
  {
    name: 'order/number-missing',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Readers think that a chapter is lost.',
    remedy: 'Look for the chapter in the manuscript, or correct the number.',
    *look({ book }) {
      for (const { section, number, before } of chapterNumbers(book.sections, book))
        if (before && number !== before.number && number !== before.number + 1 && number !== 1)
          yield atSection(section, `Chapter ${number} follows chapter ${before.number}.`);
    },
  },
  {
    name: 'order/doubled-title',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Entries of the contents can’t be told apart.',
    remedy: 'Give one of them another title, unless both are meant.',
    *look({ book }) {
      const seen = new Map<string, Section>();
      for (const s of book.sections) {
        if (!s.titled || s.title.trim() === '' || s.kind === 'interlude') continue;
        const key = `${s.parent ?? ''}/${s.title.trim().toLowerCase()}`;
        const other = seen.get(key);
        if (other) yield atSection(s, `Two sections are called “${s.title}”.`, { about: s.title });
        else seen.set(key, s);
      }
    },
  },
  {
    name: 'order/chapter-length',
    severity: 'note',
    profiles: ['book'],
    source: PRACTICE,
    why: 'A chapter far off the usual length is often two that were not divided, or a piece of one.',
    remedy: 'Look whether a heading was missed or taken for one.',
    *look(subject) {
      const chapters = wordCounts(subject, 'chapter');
      const middle = chapters.map((c) => c.words).sort((a, b) => a - b)[chapters.length >> 1] ?? 0;
      if (chapters.length < USUAL.chapters || middle < USUAL.words) return;
      const headings = headingsOf(subject.book.sections, subject.book);
      for (const { section, words } of chapters) {
        if (words === 0 || (words < middle * FAR.above && words * FAR.below > middle)) continue;
        const label = headings.get(section.id)?.label || nameOf(section);
        yield atSection(
          section,
          `${label} has ${words.toLocaleString('en-GB')} words; half of the chapters have ${words > middle ? 'fewer' : 'more'} than ${middle.toLocaleString('en-GB')}.`,
          { about: label },
        );
      }
    },
  },
];

interface Numbered {
  section: Section;
  number: number;
  before: Numbered | null;
}
/** Numbers that chapters bear in their titles or by themselves, each with the one before it in its row. */
function* chapterNumbers(
  sections: readonly Section[],
  { numbering }: BookSubject['book'],
): Generator<Numbered> {
  const own = sectionNumbers(sections, numbering.count);
  const last = new Map<string, Numbered>();
  for (const section of sections) {
    if (section.kind !== 'chapter') continue;
    const typed = section.titled && !section.numbered ? labelOf(section.title) : null;
    const number =
      own.get(section.id) ?? (typed && typed.doubt === 0 && typed.level === 'chapter' ? typed.number : null);
    if (number === null || number === undefined) continue;
    const row = numbering.count === 'by-part' ? (section.parent ?? '') : '';
    const here: Numbered = { section, number, before: last.get(row) ?? null };
    last.set(row, { ...here, before: null });
    yield here;
  }
}

/** A section "Notes" is filled from the others, where an edition wants the notes of the whole book there. */
function* emptyNotes(book: BookSubject['book']): Generator<Breach> {
  const empty = book.sections.filter((s) => s.kind === 'notes' && !hasText(s.content));
  if (empty.length === 0) return;
  const noted = book.sections.some((s) => noteKinds(s.content).size > 0);
  const gathers = book.editions.some((e) => {
    const set = notePlaces(sectionsOf(book, e.id), designOf(e).notes);
    return book.sections.some((s) => [...noteKinds(s.content).values()].some((k) => set[k] === 'elsewhere'));
  });
  if (gathers) return;
  for (const s of empty)
    yield noted
      ? atSection(s, `${nameOf(s)} stays empty: every edition sets its notes elsewhere.`, {
          remedy: 'Choose its place for the notes in Design, or delete the section.',
        })
      : atSection(s, `${nameOf(s)} has no text, and the book has no notes.`, {
          remedy: 'Delete it in the running order.',
        });
}
