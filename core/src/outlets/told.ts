/**
 * What an outlet is told in one field, in the outlet's own form: the text that goes there or is copied there, and what is
 * wrong with it by the outlet's limits. Ledger, copying sheet and parcels say the same, since all take it from here.
 */
import { amountString, exponentOf, moneyString, type Finding, type Money } from '../base';
import { type Book, type Edition, type Placing } from '../book';
import type { CurrencyTable, ListedAs, Taxes } from '../trade';
import type { Account } from './links';

/** The file that would be sent, as far as it matters here. */
export interface MadeFile {
  /** The newest revision of the book whose file it is. */
  upTo: number;
  /** Milliseconds since 1970. */
  madeAt: number;
  findings: readonly Finding[];
  /** A file that was signed off can be sent however the book has changed since. */
  signedOff?: boolean;
}

/** All that decides what an outlet is told. */
export interface Facts {
  book: Book;
  edition: Edition;
  placing: Placing;
  revision: number;
  /** Newest files by what they are made of (`productKeyOf`). */
  made: Readonly<Record<string, MadeFile | undefined>>;
  /** Pages of the print edition that goes with it; null while none is made. */
  pages: number | null;
  /** Bytes of the ebook; 0 while none is made. */
  size: number;
  account: Account | null;
  /** What the outlet lists, once the book is on sale there; null before. */
  live: ListedAs | null;
  currencies: CurrencyTable;
  taxes: Taxes;
}

export interface Told {
  /** What goes into the outlet's field; '' for nothing. */
  text: string;
  /** Where each entry has a box of its own, the entries. */
  parts?: readonly string[];
  /** What the ledger shows in place of a long text. */
  shown?: string;
  /** Why the outlet would not take it, and what to do; null where it would. */
  fault: string | null;
  station: 'record' | 'editions' | 'outlets' | 'design';
}

export const told = (text: string, fault: string | null, more: Partial<Told> = {}): Told => ({
  text,
  fault,
  station: 'record',
  ...more,
});

/** A price as shops' forms take it: figures alone. */
export const typed = (money: Money): string => amountString(money);
export const shownPrice = (money: Money): string =>
  exponentOf(money.currency) === 0 ? `${money.minor} ${money.currency}` : moneyString(money);
