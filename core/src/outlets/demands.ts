/** What an outlet asks for, and whether a title satisfies it before anything is sent. */
import type { Finding } from '../base';
import type { Book, Edition } from '../book';
import { authorsLine, bareIsbn, isbnFault } from '../record';

export interface Outlet {
  id: string;
  name: string;
  words: string;
  least: { description: number; /** Minor units. */ price: number };
}
/** Invented. */
export const OUTLETS: readonly Outlet[] = [
  {
    id: 'lanternquay',
    name: 'Lanternquay',
    words: 'An ebook shop. It looks at every book for two days before it sells it.',
    least: { description: 50, price: 99 },
  },
];

export type Standing = 'met' | 'not met' | 'optional' | 'not asked';
export interface Demand {
  name: string;
  standing: Standing;
  /** What stands there, or what is missing and what to do. */
  why: string;
  /** Station where it is put right. */
  station: 'record' | 'editions' | 'manuscript';
}

/** The file that would be sent, as far as it matters here. */
export interface MadeFile {
  revision: number;
  findings: readonly Finding[];
}

export function demandsOf(
  outlet: Outlet,
  book: Book,
  edition: Edition,
  made: MadeFile | null,
  revision: number,
): Demand[] {
  const { record } = book;
  const demand = (
    name: string,
    met: boolean,
    yes: string,
    no: string,
    station: Demand['station'] = 'record',
  ): Demand => ({ name, standing: met ? 'met' : 'not met', why: met ? yes : no, station });
  const isbn = bareIsbn(edition.isbn);
  const blockers = made?.findings.filter((f) => f.severity === 'blocker').length ?? 0;
  return [
    demand('Title', record.title !== '', record.title, 'Write the title in the record.'),
    demand('Author', authorsLine(record) !== '', authorsLine(record), 'Name an author in the record.'),
    demand(
      'Description',
      record.description.length >= outlet.least.description,
      `${record.description.length} characters`,
      `It has ${record.description.length} characters and needs ${outlet.least.description}.`,
    ),
    demand(
      'Price',
      (record.price?.minor ?? 0) >= outlet.least.price,
      record.price ? `${(record.price.minor / 100).toFixed(2)} ${record.price.currency}` : '',
      record.price
        ? `It is below ${(outlet.least.price / 100).toFixed(2)}.`
        : 'Give the ebook a list price in the record.',
    ),
    demand('Cover', record.cover !== null, 'a picture is there', 'Choose a cover in the record.'),
    isbn === ''
      ? {
          name: 'ISBN',
          standing: 'optional',
          why: 'none is given; the shop gives a number of its own',
          station: 'record',
        }
      : demand('ISBN', isbnFault(isbn) === null, edition.isbn, 'The number is mistyped.'),
    demand(
      'Ebook',
      made !== null && made.revision === revision && blockers === 0,
      'made, and the checks found no blocker',
      made === null
        ? 'Make the ebook first.'
        : blockers > 0
          ? 'The checks found what the shop would refuse.'
          : 'The book has changed since the ebook was made: make it again.',
      'editions',
    ),
    { name: 'Word-processor file', standing: 'not asked', why: '', station: 'editions' },
  ];
}
export const isReady = (demands: readonly Demand[]): boolean =>
  demands.every((d) => d.standing !== 'not met');
