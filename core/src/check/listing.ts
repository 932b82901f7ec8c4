/** Agreement of what an outlet lists with the record: it was told once, and the record may have changed since. */
import { moneyString, type Finding } from '../base';
import type { Book, Edition } from '../book';
import { listedAs, listedDifferently, LISTED_FIELDS, type ListedAs, type ListedField } from '../trade';
import { PRACTICE } from './practice';
import { runRules, type Rule } from './rules';

export interface ListingSubject {
  book: Pick<Book, 'record' | 'placing'>;
  edition: Edition;
  outlet: { id: string; name: string };
  /** What the outlet lists: as it was told, or as it said since. */
  listed: ListedAs;
  /** When a file that is newer than the one it has was signed off, and that file’s name; null for none. */
  newer: { name: string } | null;
}

/** Fields by which a shop finds a book, and those that it shows beside it. */
const CALLED: Record<ListedField, [called: string, severity: Finding['severity']]> = {
  title: ['title', 'blocker'],
  subtitle: ['subtitle', 'caution'],
  authors: ['author', 'blocker'],
  isbn: ['ISBN', 'blocker'],
  editionStatement: ['edition statement', 'caution'],
  description: ['description', 'caution'],
  keywords: ['keywords', 'note'],
  language: ['language', 'caution'],
  price: ['price', 'caution'],
};

/** A field of a listing in words. */
export function listedValue(listed: ListedAs, field: ListedField): string {
  if (field === 'price') return listed.price ? moneyString(listed.price) : '';
  const value = listed[field] ?? '';
  return typeof value === 'string' ? value : value.join(', ');
}
/** As much of a value as a sentence carries. */
const LONG = 80;

const fieldRule = (field: ListedField): Rule<ListingSubject> => {
  const [called, severity] = CALLED[field];
  return {
    name: `listing/${called.replace(' ', '-').toLowerCase()}`,
    severity,
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'Readers and shops take a book whose details differ from place to place for two books.',
    remedy: 'Send the changed details in Outlets, or put the record back.',
    *look({ book, edition, outlet, listed }) {
      const now = listedAs(book, edition, { id: outlet.id, takes: [field] });
      if (!listedDifferently(listed, now).includes(field)) return;
      const [found, wanted] = [listedValue(listed, field), listedValue(now, field)];
      const short = found.length <= LONG && wanted.length <= LONG;
      yield {
        message: !short
          ? `${outlet.name} lists another ${called} than the record has.`
          : `${outlet.name} lists ${found ? `the ${called} “${found}”` : `no ${called}`}; the record has ${wanted ? `“${wanted}”` : 'none'}.`,
        about: `${outlet.id} ${edition.id}`,
        outlet: outlet.id,
        ...(found && wanted ? { differs: { found, wanted } } : {}),
      };
    },
  };
};

export const LISTING_RULES: readonly Rule<ListingSubject>[] = [
  ...LISTED_FIELDS.map(fieldRule),
  {
    name: 'listing/file',
    severity: 'caution',
    profiles: ['agreement'],
    source: PRACTICE,
    why: 'Readers who buy the book there get the older file.',
    remedy: 'Send the newer file in Outlets.',
    *look({ edition, outlet, newer }) {
      if (newer)
        yield {
          message: `${outlet.name} has an older file than the one that was signed off last, ${newer.name}.`,
          about: `${outlet.id} ${edition.id}`,
          outlet: outlet.id,
        };
    },
  },
];

export const checkListing = (subject: ListingSubject): Finding[] => runRules(LISTING_RULES, subject);
