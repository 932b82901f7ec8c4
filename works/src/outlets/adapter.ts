/**
 * How an outlet is spoken to. What it asks for and its terms are data (core/outlets); an adapter is its protocol: it packs
 * a parcel, sends it, and asks what became of it, each over a line with limits of its own. Errors are `NotSent`.
 */
import type { FilePart, News, ToldFields } from '@pagina/core/outlets';
import type { ListedAs } from '@pagina/core/trade';
import type { Line } from './line';

export interface ParcelFile {
  part: FilePart;
  /** What it is called, by the outlet’s rule. */
  name: string;
  sha256: string;
  /** Bytes. */
  size: number;
  /** The file as it comes from the disk, from a byte on. */
  bytes: (from?: number) => AsyncIterable<Uint8Array>;
}

/** What goes to an outlet: the very files that were made and checked, and the facts of the book beside them. */
export interface Parcel {
  /** The outlet knows the parcel by it, however often it comes. */
  key: string;
  /** The key of the parcel that the outlet took before it; '' for none. */
  previous: string;
  /** The outlet's own name for what this replaces; '' for a book that it doesn't have yet. */
  replaces: string;
  /** What goes into each of its fields, in its own form. */
  told: ToldFields;
  /** What readers will see there. */
  listed: ListedAs;
  /** List prices by currency, as decimal amounts; the one at home first. */
  prices: readonly { currency: string; amount: string }[];
  /** The first is the one that was read in proof. */
  files: readonly ParcelFile[];
  /** Whether its file stands in for a final one that follows. */
  provisional: boolean;
  /** ISO day on which a pre-order ends and sale begins; '' for as soon as may be. */
  onSale: string;
  /** Where the outlet may tell of news; '' for nowhere. */
  news: string;
  /** Of the book: what was told at one isn't told again at it. */
  revision: number;
  /** The record as an ONIX message. */
  onix: (notification: '03' | '04' | '05') => string;
}
export interface Receipt {
  /** The outlet's own name for the parcel. */
  reference: string;
  /** Of the files that arrived. */
  sha256s: readonly string[];
}

export interface OutletAdapter {
  /** The receipt of a parcel of this key that the outlet has already, with these files or others; null where it has none. */
  ask(parcel: Parcel, line: Line): Promise<Receipt | null>;
  /** `share` is told how much of the files has gone, from 0 to 1. */
  send(parcel: Parcel, line: Line, share?: (done: number) => void): Promise<Receipt>;
  /** Tells what is listed differently from now on, without files. Telling it twice changes nothing. */
  revise(reference: string, parcel: Parcel, line: Line): Promise<void>;
  /** Takes a book from sale. */
  withdraw(reference: string, parcel: Parcel, line: Line): Promise<void>;
  /** What became of a parcel; null where the outlet says nothing of it. */
  poll(reference: string, line: Line): Promise<News | null>;
}

/** What goes into a field that has one box; '' for nothing. */
export const boxOf = ({ told }: Parcel, field: keyof ToldFields): string => told[field]?.[0] ?? '';
export const boxesOf = ({ told }: Parcel, field: keyof ToldFields): readonly string[] => told[field] ?? [];
