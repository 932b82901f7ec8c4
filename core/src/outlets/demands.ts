/** What an outlet asks for, and whether a title satisfies it before anything is sent. */
import { moneyString, type Finding, type Money } from '../base';
import type { Book, Edition } from '../book';
import { authorsLine, bareIsbn, isbnFault } from '../record';
import { fileNameAt } from './filenames';
import { linksToShops, type Account } from './links';
import type { Outlet } from './outlets';

export type DemandState = 'met' | 'not met' | 'optional' | 'not asked';
export interface Demand {
  name: string;
  state: DemandState;
  /** What was found, or what is missing and what to do. */
  why: string;
  /** Station where it is put right. */
  station: 'record' | 'editions' | 'manuscript';
}

/** The file that would be sent, as far as it matters here. */
export interface MadeFile {
  revision: number;
  /** Milliseconds since 1970. */
  madeAt: number;
  findings: readonly Finding[];
  /** A file that was signed off can be sent however the book has changed since. */
  signedOff?: boolean;
}

export function demandsOf(
  outlet: Outlet,
  book: Book,
  edition: Edition,
  /** The file of `fileFor`. */
  made: MadeFile | null,
  revision: number,
  account: Account | null,
): Demand[] {
  const { record } = book;
  const demand = (
    name: string,
    met: boolean,
    yes: string,
    no: string,
    station: Demand['station'] = 'record',
  ): Demand => ({ name, state: met ? 'met' : 'not met', why: met ? yes : no, station });
  const isbn = bareIsbn(edition.isbn);
  const blockers = made?.findings.filter((f) => f.severity === 'blocker').length ?? 0;
  const links = linksToShops(book, edition.id);
  const refused = made?.findings.find((f) => f.outlet === outlet.id);
  const current = made !== null && (made.signedOff === true || made.revision === revision);
  const older = links && made !== null && account !== null && made.madeAt < account.changedAt;
  return [
    demand('Title', record.title !== '', record.title, 'Write the title in the record.'),
    demand('Author', authorsLine(record) !== '', authorsLine(record), 'Name an author in the record.'),
    demand(
      'Description',
      record.description.length >= outlet.least.description,
      `${record.description.length} characters`,
      `It has ${record.description.length} characters and needs ${outlet.least.description}.`,
    ),
    priceDemand(outlet, record.price, demand),
    demand(
      'Cover',
      record.cover !== null || book.cover.front !== null,
      record.cover ? 'a picture is set' : 'set from the record’s words',
      'Choose a picture in the record, or have a cover set in Design.',
    ),
    isbn === ''
      ? {
          name: 'ISBN',
          state: 'optional',
          why: 'none given; the shop assigns its own number',
          station: 'record',
        }
      : demand('ISBN', isbnFault(isbn) === null, edition.isbn, 'The number is not a valid ISBN.'),
    demand(
      'Ebook',
      current && blockers === 0 && !older && !refused,
      links
        ? `made for ${outlet.name}, where its links lead; the checks found no blocker`
        : 'made, and the checks found no blocker',
      made === null
        ? links
          ? `It links to books in a shop: make the ebook for ${outlet.name}.`
          : 'Make the ebook first.'
        : blockers > 0
          ? 'The checks found something the shop would refuse.'
          : refused
            ? [refused.message, refused.remedy].filter(Boolean).join(' ')
            : older
              ? 'The affiliate code has changed since the ebook was made: make it again.'
              : 'The book has changed since the ebook was made: make it again.',
      'editions',
    ),
    nameDemand(outlet, book, edition, demand),
    { name: 'Word-processor file', state: 'not asked', why: '', station: 'editions' },
  ];
}
export const isReady = (demands: readonly Demand[]): boolean => demands.every((d) => d.state !== 'not met');

const NAMED_BY = {
  isbn: 'Files are named by ISBN there. Give the edition one.',
  title: 'Files are named by title there. Write the title in the record.',
  'title-author': 'Files are named by title and author there. Write both in the record.',
} as const;
function nameDemand(
  outlet: Outlet,
  { record }: Book,
  edition: Edition,
  demand: (name: string, met: boolean, yes: string, no: string) => Demand,
): Demand {
  const name = fileNameAt(outlet, record, edition, '.epub');
  return demand('File name', name !== null, name ?? '', NAMED_BY[outlet.fileName]);
}

/** A list price in a currency in which the outlet sells, and not below its least. */
function priceDemand(
  outlet: Outlet,
  price: Money | null,
  demand: (name: string, met: boolean, yes: string, no: string) => Demand,
): Demand {
  if (!price) return demand('Price', false, '', 'Give the ebook a list price in the record.');
  const least = outlet.least.prices.find((p) => p.currency === price.currency);
  const sold = outlet.least.prices.map((p) => p.currency).join(', ');
  return demand(
    'Price',
    least !== undefined && price.minor >= least.minor,
    moneyString(price),
    least ? `It is below ${moneyString(least)}.` : `${outlet.name} sells in ${sold} only.`,
  );
}
