/**
 * What an outlet is told in one field, in the outlet's own form: the text that goes there or is copied there, and what is
 * wrong with it by the outlet's limits. Ledger, copying sheet and parcels say the same, since all take it from here.
 */
import { digestOf, type Finding } from '../base';
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
  /** SHA-256. */
  sha256: string;
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
  /** Of a field with a file: what tells this one from another. */
  file?: string;
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

/** What is copied, each into a box of its own. */
export const textsOf = ({ text, parts }: Told): string[] => (parts ?? [text]).filter((t) => t !== '');

/** Tells what was entered from what would be entered now; `file` is what a field with a file depends on. */
export const digestOfTold = (t: Told): string => digestOf([...textsOf(t), t.file ?? ''].join('\n'));
