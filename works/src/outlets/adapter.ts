/**
 * How an outlet is spoken to. What it asks for and its terms are data (core/outlets); an adapter is its protocol: it packs
 * a parcel, sends it, and asks what became of it, each within the outlet's own limits. Errors are `NotSent`.
 */
import type { ListedAs } from '@pagina/core/trade';

/** What goes to an outlet: the very file that was made and checked, and the facts of the book beside it. */
export interface Parcel {
  /** The outlet knows the parcel by it, however often it comes. */
  key: string;
  /** The outlet's own name for what this replaces; '' for a book that it doesn't have yet. */
  replaces: string;
  listed: ListedAs;
  /** What the file is called, by the outlet’s rule. */
  name: string;
  sha256: string;
  /** Bytes. */
  size: number;
  /** The file, as it comes from the disk. */
  bytes: () => AsyncIterable<Uint8Array>;
}
export interface Receipt {
  /** The outlet's own name for the parcel. */
  reference: string;
  /** Of the file that arrived; '' where the outlet does not say. */
  sha256: string;
}
export interface News {
  events: { state: 'received' | 'with the shop' | 'held' | 'on sale'; words: string }[];
  /** Where the book is sold; '' while it is not. */
  link: string;
  /** What the outlet lists by now; null where it doesn't say. */
  listed: ListedAs | null;
}

export interface OutletAdapter {
  /** Waits between tries to send, in milliseconds. */
  readonly again: readonly number[];
  /** The receipt of a parcel of this key that the outlet has already, with this file or another; null where it has none. */
  ask(parcel: Parcel, stop?: AbortSignal): Promise<Receipt | null>;
  send(parcel: Parcel, stop?: AbortSignal): Promise<Receipt>;
  /** Tells what is listed differently from now on, without a file. */
  revise(reference: string, listed: ListedAs, stop?: AbortSignal): Promise<void>;
  /** What became of a parcel; null where the outlet says nothing of it. */
  poll(reference: string): Promise<News | null>;
}

/** What went wrong, in a sentence; `again` when trying later may help. */
export class NotSent extends Error {
  constructor(
    message: string,
    readonly again: boolean,
  ) {
    super(message);
  }
}
