/** An outlet is data; how one is spoken to is its adapter's, and one without an adapter is filled in by hand. */
import type { Money } from '../base';
import type { SectionKind } from '../book';
import type { Binding, EbookDemands, EbookOutlet, ListedField, Plan } from '../trade';
import type { Asked, OutletField } from './asked';

/** What an outlet sells: an ebook, fixed pages, a printed book, or an ebook that it makes of a word-processor file. */
export type Sells = 'reflow' | 'fixed' | 'print' | 'word';

/** What a file in a parcel is: the JPEG of the cover is made for the outlet, the others are files of the title. */
export type FilePart = 'ebook' | 'word' | 'pages' | 'cover sheet' | 'cover' | 'sample';

/** A shop to which an aggregator passes books on, or a channel by which a printer sells them. */
export interface PassedTo {
  id: string;
  name: string;
  /** How it shares a sale, before the aggregator takes its part. */
  plans: readonly Plan[];
  words: string;
  /** The version of EPUB that it takes alone; null for any. */
  version: '2.0.1' | null;
}

export interface Outlet extends Omit<EbookOutlet, 'ebook'> {
  /** What it asks of an ebook beyond the standard; null where it sells none. */
  ebook: EbookDemands | null;
  kind: 'shop' | 'aggregator' | 'printer' | 'libraries' | 'app';
  words: string;
  sells: readonly Sells[];
  /** Whether it offers a connection, once an account is given its key; one without is filled in by hand in its own pages. */
  reached: 'connection' | 'hand';
  asks: readonly Asked[];
  /** What it shows readers of a book, and tells back by its connection. */
  takes: readonly ListedField[];
  /** How long it looks at a book in days, and after changes of which fields it does so again; others are taken over at once. */
  review: { days: number; after: readonly OutletField[] };
  /** Files that go to it in one parcel, the one that is read in proof first. */
  files: readonly FilePart[];
  /** It says “needs action” of books for which nothing is to be done (common practice). */
  cries?: boolean;
  /** Least prices by currency: it sells in these and no others. */
  least: readonly Money[];
  /** Territories where it sells (ISO 3166-1); null for all of them. */
  territories: readonly string[] | null;
  plans: readonly Plan[];
  /** Plans that it has announced, from an ISO day on, and what changes by them; soonest first. */
  later?: readonly { from: string; plans: readonly Plan[]; words: string }[];
  passes: readonly PassedTo[];
  /** Height of the cover in pixels, by width to height, and the longest side that it takes. */
  cover: { height: number; least: number; ratio: number };
  /** Days of exclusivity that it offers; 0 for none. */
  exclusive: number;
  /** How many days ahead a pre-order may begin, and by when its last file has to be there. */
  preorder: { least: number; most: number; file: number } | null;
  /** Hundredths of a book that may be previewed, and what is shown where the author says nothing. */
  preview: { most: number; own: number } | null;
  adult: 'taken' | 'refused' | 'shown to adults';
  /** Pages that it adds itself at the end of a book, and the kinds of section that they repeat; null for none. */
  adds: { words: string; kinds: readonly SectionKind[] } | null;
  /** It gives books a number where they have none, within hours. */
  assigns: { hours: number } | null;
  /** Days in which it looks over a new account. */
  account: { days: number; needs: readonly ('payment' | 'tax' | 'address')[] };
  /** A group of fields that opens when all needed ones before it are filled in, by the first of them. */
  steps: readonly Asked['field'][];
  print: { bindings: readonly Binding[] } | null;
  terms: string;
  /** Where the outlet sells a book: `{isbn}` stands for its thirteen digits. */
  bookAddress: string;
  /** What is added to an address for one who leads readers there: `{code}` stands for their code. Null where none is taken. */
  affiliate: string | null;
}

export const sellsEbooks = (o: Outlet): o is Outlet & EbookOutlet => o.ebook !== null;
