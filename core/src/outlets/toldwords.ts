/** Fields of words and facts: what is typed once in the record, in an outlet's own form. */
import { countWords } from '../base';
import { sectionsIn, type Book } from '../book';
import {
  AUDIENCE_CODE,
  AUDIENCE_NAMES,
  authorsLine,
  descriptionHtml,
  EDITION_TYPE_NAMES,
  plainDescription,
  ROLE_NAMES,
  sortNameOf,
  type BookRecord,
} from '../record';
import { paperOf } from '../trade';
import type { Asked } from './asked';
import type { Outlet } from './outlet';
import { told, type Facts, type Told } from './told';

const LANGUAGES = new Intl.DisplayNames('en-GB', { type: 'language' });
/** A tag that is none stands for itself. */
function languageName(tag: string): string {
  try {
    return LANGUAGES.of(tag) ?? tag;
  } catch {
    return tag;
  }
}

export const characters = (text: string): string =>
  text.length === 1 ? '1 character' : `${text.length.toLocaleString('en-GB')} characters`;

/** Within the limits of a field, or why not. */
function lengthFault({ least = 0, most = Infinity }: Asked, text: string, missing: string): string | null {
  if (text.trim() === '') return missing;
  if (text.length < least) return `It has ${characters(text)} and needs ${least}.`;
  return text.length > most
    ? `It has ${characters(text)}; only ${most.toLocaleString('en-GB')} are accepted. Shorten it, or give this outlet a text of its own.`
    : null;
}

/** With markup where the outlet takes it, else paragraphs alone; and what of it the outlet counts. */
export function descriptionFor(
  { markup }: Pick<Asked, 'markup'>,
  text: string,
): { text: string; counted: string } {
  const plain = plainDescription(text);
  if (!markup) return { text: plain, counted: plain };
  const marked = descriptionHtml(text);
  return { text: marked, counted: markup === 'counted' ? marked : plain };
}

/** Pages that an ebook is said to have: those of its print edition, else one for every 300 words (common practice, from memory). */
export const WORDS_A_PAGE = 300;
export function extentOf({ book, edition, pages }: Facts): { pages: number; by: 'print' | 'words' } {
  if (pages !== null) return { pages, by: 'print' };
  const words = wordsIn(book, edition.id);
  return { pages: Math.max(1, Math.ceil(words / WORDS_A_PAGE)), by: 'words' };
}
const counted = new WeakMap<object, number>();
const wordsIn = (book: Book, edition: string): number =>
  sectionsIn(book, edition).reduce((n, { content }) => {
    const known = counted.get(content) ?? countWords(content.textBetween(0, content.content.size, ' ', ' '));
    counted.set(content, known);
    return n + known;
  }, 0);

const others = ({ contributors }: BookRecord): string =>
  contributors
    .filter((c) => c.role !== 'author')
    .map((c) => `${c.name} (${ROLE_NAMES[c.role].toLowerCase()})`)
    .join('; ');

function editionText({ editionNumber, editionType, editionStatement }: BookRecord, as: Asked['as']): string {
  if (as === 'number') return String(editionNumber ?? 1);
  if (as === 'code') return editionType ?? '';
  return editionStatement || (editionType ? EDITION_TYPE_NAMES[editionType] : '');
}
function agesText({ from, to }: BookRecord['ages']): string {
  if (from === null && to === null) return '';
  if (to === null) return `${from} and up`;
  return from === to ? String(from) : `${from === null ? 'up' : from} to ${to}`;
}

/** "Marsh, Ada, Jr": the family name, and the rest. */
function inTwo(sortName: string): string[] {
  const at = sortName.indexOf(', ');
  return at < 0 ? [sortName, ''] : [sortName.slice(0, at), sortName.slice(at + 2)];
}

/** Null for a field that is none of these. */
export function wordsTold(outlet: Outlet, asked: Asked, facts: Facts): Told | null {
  const { book, edition, placing } = facts;
  const { record } = book;
  const { variants } = placing;
  const line = (text: string, missing: string, more: Partial<Told> = {}): Told =>
    told(text, lengthFault(asked, text, missing), more);
  switch (asked.field) {
    case 'title':
      return line(variants.title ?? record.title, 'Write the title in the record.');
    case 'subtitle':
      return line(variants.subtitle ?? record.subtitle, 'The record has no subtitle.');
    case 'series':
      return line(record.series, 'The book is in no series.');
    case 'volume': {
      const bare = /^\d+(?:[.,]\d+)?$/.test(record.volume);
      return told(
        record.volume,
        record.volume === ''
          ? 'The book has no number in a series.'
          : bare
            ? null
            : `“${record.volume}” isn’t a bare number.`,
      );
    }
    case 'edition':
      return line(editionText(record, asked.as), 'The record says nothing of the edition.');
    case 'authors': {
      const authors = record.contributors.filter((c) => c.role === 'author');
      const missing = 'Name an author in the record.';
      if (asked.as !== 'two') return line(authorsLine(record), missing);
      const sorted = authors.map(sortNameOf);
      // A box for the family name, one for the rest.
      return line(sorted.join('; '), missing, { parts: sorted.flatMap(inTwo) });
    }
    case 'contributors':
      return line(others(record), 'The record names none.');
    case 'imprint':
      return line(
        record.imprint || record.publisher || authorsLine(record),
        'Name the imprint in the record.',
      );
    case 'language':
      return line(record.language, 'Choose the language in the record.', {
        shown: languageName(record.language),
      });
    case 'published':
      return line(record.published, 'Set the day of publication in the record.');
    case 'description': {
      const { text, counted: counts } = descriptionFor(asked, variants.description ?? record.description);
      const fault =
        text === ''
          ? `It has ${characters('')} and needs ${Math.max(asked.least ?? 1, 1)}.`
          : lengthFault(asked, counts, '');
      return told(text, fault, { shown: characters(counts) });
    }
    case 'shortDescription':
      return line(
        variants.shortDescription ?? record.shortDescription,
        'Write the short description in the record.',
      );
    case 'audience':
      return told(
        asked.as === 'code' ? AUDIENCE_CODE[record.audience] : AUDIENCE_NAMES[record.audience],
        null,
      );
    case 'ages':
      return line(agesText(record.ages), 'The record gives no ages.');
    case 'adult':
      return told(
        record.adult ? 'Yes' : 'No',
        record.adult && outlet.adult === 'refused'
          ? `${outlet.name} doesn’t sell books with adult content.`
          : null,
        record.adult && outlet.adult === 'shown to adults' ? { shown: 'Yes: shown to adults only' } : {},
      );
    case 'publicDomain':
      return told(record.publicDomain ? 'Yes' : 'No', null);
    case 'rights':
      return told(placing.rights ? 'Yes' : '', placing.rights ? null : 'Declare that you hold the rights.', {
        station: 'outlets',
      });
    case 'pages': {
      const { pages, by } = extentOf(facts);
      return told(String(pages), null, {
        shown: by === 'print' ? `${pages}, as printed` : `${pages}: one for every ${WORDS_A_PAGE} words`,
      });
    }
    case 'trim':
      return edition.form === 'print' ? told(edition.trim, null) : told('', 'Choose a print edition.');
    case 'paper':
      return edition.form === 'print'
        ? told(paperOf(edition.paper).name, null)
        : told('', 'Choose a print edition.');
    case 'binding': {
      if (edition.form !== 'print') return told('', 'Choose a print edition.');
      const taken = outlet.print?.bindings.includes(edition.binding) ?? true;
      return told(
        edition.binding === 'hardback' ? 'Hardback' : 'Paperback',
        taken ? null : `${outlet.name} doesn’t bind a ${edition.binding}.`,
      );
    }
    default:
      return null;
  }
}
