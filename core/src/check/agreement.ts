/** Agreement: title, author and ISBN the same in the record, on the title page, in the file's own metadata and its name. A mismatch is the commonest reason for a refusal (common practice). */
import { inSentence, type Finding } from '../base';
import { onOneLine, sectionsOf, type Book, type Edition, type Section, type SectionKind } from '../book';
import { hasText } from '../order';
import { authorsLine, bareIsbn, isbnFault, ISBN_FAULTS } from '../record';
import { atSection, type BookSubject } from './book/subject';
import { likest } from './letters';
import { PRACTICE } from './practice';
import type { Rule } from './rules';

const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

const REFUSED = 'Shops compare the two and refuse the book where they differ.';

/** What the record lacks, and what the book says of itself in its own pages. */
export const RECORD_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'record/no-title',
    severity: 'blocker',
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'No shop takes a book without a title.',
    remedy: 'Write it in the record.',
    *look({ book }) {
      if (!book.record.title.trim()) yield { message: 'The record has no title yet.' };
    },
  },
  {
    name: 'record/no-author',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'Shops list books by their authors.',
    remedy: 'Add the author in the record.',
    *look({ book }) {
      if (!authorsLine(book.record)) yield { message: 'The record has no author yet.' };
    },
  },
  {
    name: 'record/year',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'The copyright page and the metadata of ebooks show it.',
    remedy: 'Use four digits in the record, such as 2026.',
    *look({ book }) {
      const { year } = book.record;
      if (year && !/^\d{4}$/.test(year)) yield { message: `The record’s year is “${year}”.` };
    },
  },
  {
    name: 'record/invalid-isbn',
    severity: 'blocker',
    profiles: ['agreement'],
    source: 'ISBN Users’ Manual, 7th ed., 5: structure and check digit (from memory)',
    why: 'A number that isn’t valid is found nowhere.',
    remedy: 'Copy it again from the list of your ISBN agency.',
    *look({ book }) {
      for (const e of book.editions) {
        const isbn = bareIsbn(e.isbn);
        const fault = isbn && isbnFault(isbn);
        if (fault)
          yield {
            message: `The ISBN of the ${inSentence(e.name)}, ${e.isbn}, is not valid. ${ISBN_FAULTS[fault]}`,
            about: e.id,
          };
      }
    },
  },
  {
    name: 'record/same-isbn',
    severity: 'blocker',
    profiles: ['agreement'],
    source: 'ISBN Users’ Manual, 7th ed.: each edition and format has a number of its own (from memory)',
    why: 'Each edition needs its own ISBN: shops and libraries tell them apart by it.',
    remedy: 'Give one of them another number.',
    *look({ book }) {
      const seen = new Map<string, Edition>();
      for (const e of book.editions) {
        const isbn = bareIsbn(e.isbn);
        if (!isbn) continue;
        const other = seen.get(isbn);
        if (other)
          yield {
            message: `The ${inSentence(e.name)} and the ${inSentence(other.name)} have the same ISBN.`,
            about: e.id,
          };
        seen.set(isbn, e);
      }
    },
  },
  {
    name: 'agree/title-page',
    severity: 'blocker',
    profiles: ['agreement'],
    source: PRACTICE,
    why: REFUSED,
    remedy: 'Change the page, or the record.',
    *look({ book }) {
      const { title } = book.record;
      for (const { section, words, lines } of writtenPages(book, 'title-page'))
        if (title && !words.includes(plain(title)))
          yield atSection(section, `The title page doesn’t show the title from the record, “${title}”.`, {
            differs: nearest(lines, title),
          });
    },
  },
  {
    name: 'agree/title-page-author',
    severity: 'blocker',
    profiles: ['agreement'],
    source: PRACTICE,
    why: REFUSED,
    remedy: 'Change the page, or the record.',
    *look({ book }) {
      const author = authorsLine(book.record);
      for (const { section, words, lines } of writtenPages(book, 'title-page'))
        if (author && !words.includes(plain(author)))
          yield atSection(section, `The title page doesn’t name ${author}.`, {
            differs: nearest(lines, author),
          });
    },
  },
  {
    name: 'agree/title-page-subtitle',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: REFUSED,
    remedy: 'Change the page, or the record.',
    *look({ book }) {
      const { subtitle } = book.record;
      for (const { section, words, lines } of writtenPages(book, 'title-page'))
        if (subtitle && !words.includes(plain(subtitle)))
          yield atSection(
            section,
            `The title page doesn’t show the subtitle from the record, “${subtitle}”.`,
            { differs: nearest(lines, subtitle) },
          );
    },
  },
  {
    name: 'agree/copyright-isbn',
    severity: 'blocker',
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'Shops look for this number on the page, and refuse the book where it is another.',
    remedy: 'Correct the page, or let it be made from the record.',
    *look({ book }) {
      const known = new Set(book.editions.map((e) => bareIsbn(e.isbn)).filter(Boolean));
      for (const { section } of writtenPages(book, 'copyright-page'))
        for (const isbn of isbnsIn(onOneLine(section.content)))
          if (known.size > 0 && !known.has(isbn))
            yield atSection(
              section,
              `The copyright page shows the ISBN ${isbn}, which no edition in the record has.`,
              { about: isbn, differs: nearest([...known], isbn, true) },
            );
    },
  },
  {
    name: 'agree/copyright-own-isbn',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'Shops look on the copyright page for the number of the very edition that they sell.',
    remedy: 'Add the number to the page, or let the page be made from the record.',
    *look({ book }) {
      for (const { section } of writtenPages(book, 'copyright-page')) {
        const shown = isbnsIn(onOneLine(section.content));
        // A number that no edition has is told of by itself.
        if (shown.length === 0 || shown.some((n) => !book.editions.some((e) => bareIsbn(e.isbn) === n)))
          continue;
        for (const e of book.editions) {
          const isbn = bareIsbn(e.isbn);
          const carries = sectionsOf(book, e.id).some((s) => s.id === section.id);
          if (isbn && carries && !shown.includes(isbn))
            yield atSection(
              section,
              `The copyright page doesn’t show the ISBN of the ${inSentence(e.name)}, ${e.isbn}.`,
              { about: e.id },
            );
        }
      }
    },
  },
  {
    name: 'agree/copyright-year',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: REFUSED,
    remedy: 'Change the page, or the record.',
    *look({ book }) {
      const { year } = book.record;
      for (const { section } of writtenPages(book, 'copyright-page')) {
        const years: string[] =
          onOneLine(section.content).match(/(?<![\d-])(?:1[6-9]|20)\d\d(?![\d-])/g) ?? [];
        if (/^\d{4}$/.test(year) && years.length > 0 && !years.includes(year))
          yield atSection(
            section,
            `The copyright page names ${listed([...new Set(years)])}; the record’s year is ${year}.`,
          );
      }
    },
  },
  {
    name: 'agree/edition-statement',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: REFUSED,
    remedy: 'Change the page, or the record.',
    *look({ book }) {
      const wanted = book.record.editionStatement.trim();
      for (const { section, words, lines } of writtenPages(book, 'copyright-page')) {
        const said = lines.map(editionIn).filter((s) => s !== null);
        if (wanted && !words.includes(plain(wanted)))
          yield atSection(
            section,
            `The copyright page doesn’t show the edition statement from the record, “${wanted}”.`,
            { about: wanted, ...(said[0] ? { differs: { found: said[0], wanted } } : {}) },
          );
        // A first edition needs no statement; any other is asked for by shops and libraries.
        const other = said.find((s) => !/^(?:first\b|1(?!\d))/i.test(s));
        if (!wanted && other)
          yield atSection(
            section,
            `The copyright page says “${other}”, but the record has no edition statement.`,
            { about: other },
          );
      }
    },
  },
  {
    name: 'agree/copyright-holder',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: REFUSED,
    remedy: 'Change the page, or the record.',
    *look({ book }) {
      const holder = book.record.copyrightHolder || authorsLine(book.record);
      for (const { section, words } of writtenPages(book, 'copyright-page'))
        if (holder && !words.includes(plain(holder)))
          yield atSection(
            section,
            `The copyright page doesn’t name ${holder}, who holds the rights by the record.`,
          );
    },
  },
];

/** Pages of a kind that the author wrote, with their words compared as `plain` has them. */
function* writtenPages(
  book: Book,
  kind: SectionKind,
): Generator<{ section: Section; words: string; lines: string[] }> {
  for (const section of book.sections)
    if (section.kind === kind && hasText(section.content)) {
      const lines = [section.title];
      section.content.forEach((b) => void lines.push(b.textContent));
      yield { section, words: plain(`${section.title} ${onOneLine(section.content)}`), lines };
    }
}

/** The words that were meant for the wanted ones, beside them; turned round where the list holds what is wanted. */
export function nearest(lines: readonly string[], words: string, turned = false): Finding['differs'] {
  const line = likest(lines, words);
  if (line === null) return undefined;
  return turned ? { found: words, wanted: line } : { found: line, wanted: words };
}

const EDITIONS = [
  /\b(?:(?:first|second|third|fourth|fifth|sixth|seventh|eighth|ninth|tenth|\d+(?:st|nd|rd|th)|revised|enlarged|expanded|updated|corrected|anniversary|large.print|new|illustrated)[ ,]+(?:and +)?)+edition\b/i,
  /\b\d+\.[ ,]+(?:\p{L}+[ ,]+){0,4}Auflage\b/iu,
  /\b\d+(?:e|ème|ª|\.ª|a)[ ,]+(?:édition|edición|edizione|edição)(?!\p{L})/iu,
];
/** "Second edition", "3rd revised edition", "2., überarbeitete Auflage"; null where a line names none. */
const editionIn = (line: string): string | null =>
  EDITIONS.map((pattern) => pattern.exec(line)?.[0] ?? null).find((said) => said !== null) ?? null;

/** Numbers in a text that look like an ISBN of thirteen digits. */
const isbnsIn = (text: string): string[] =>
  [...text.matchAll(/97[89][\d\s\u2010-\u2015-]{10,14}/g)].map((m) => bareIsbn(m[0]).slice(0, 13));
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) as string}`;
