/** What goes between the page and the composing worker. */
import type { Book, Edition, Section } from '@pagina/core/book';
import type { Finding } from '@pagina/core/base';
import type { PagesFacts } from '@pagina/core/check';
import type { Report, ReportMark, TextLine } from '@pagina/core/compose';
import type { Impression } from '@pagina/core/proof';
import type { CoverGeometry, PlacedPart } from '@pagina/core/cover';

export interface PageInfo {
  index: number;
  side: 'recto' | 'verso';
  label: string;
  section: string;
  blank: boolean;
  opens: boolean;
}
/** Where a block's first line stands in print: page number in the file, label, and line on the page, 1 up. */
export type PlaceInPrint = [page: number, label: string, line: number];

export interface Composed {
  edition: string;
  pages: PageInfo[];
  width: number;
  height: number;
  rows: number;
  geometry: { inside: number; outside: number; top: number; bottom: number; leading: number };
  places: Record<string, PlaceInPrint>;
  /** The folio on which a block ends, where that is not the one on which it begins. */
  ends: Record<string, string>;
  report: Report;
  /** Mean number of characters on a full line. */
  characters: number;
  marks: ReportMark[];
  milliseconds: number;
}

/** A book on its way to the worker: sections whose text it has already come without it. */
export type BookSent = Omit<Book, 'sections'> & {
  sections: (Omit<Section, 'content'> & { content: unknown })[];
};

/** A design that is looked at: its specimen is set before the book is. */
export interface Look {
  /** The sections that the specimen shows. */
  sections: string[];
  /** Another design laid beside the edition's own. */
  beside: Pick<Edition, 'interior' | 'design'> | null;
}
/** The compositions that pages are drawn from: the book's, and those of one or two specimens. */
export type Which = 'book' | 'own' | 'beside';

/** A cover's sheet is asked for with all of the book but its text. */
export interface CoverAsked {
  book: Omit<Book, 'sections'>;
  edition: string;
  pages: number;
}
export interface CoverShown {
  svg: string;
  geometry: CoverGeometry;
  parts: PlacedPart[];
  findings: Finding[];
}

/** A page at a width in pixels of the screen, of the composition that is known by its generation. */
export interface DrawAsked {
  id: number;
  of: Which;
  page: number;
  width: number;
  /** Whether its text is wanted as well. */
  readable: boolean;
  generation: number;
}

/** What the composing worker tells the checking one: the book as it comes, and its pages as they are set; null for none. */
export type ToChecker = { type: 'book'; book: BookSent } | { type: 'pages'; facts: PagesFacts | null };

export type ToWorker =
  | { type: 'book'; book: BookSent; edition: string }
  | { type: 'checker'; port: MessagePort }
  | { type: 'find'; id: number; words: string }
  | { type: 'impression'; id: number }
  | ({ type: 'cover'; id: number } & CoverAsked)
  | { type: 'look'; look: Look | null }
  /** An edition as it is about to be: shown before it is saved. */
  | { type: 'try'; edition: Edition }
  | ({ type: 'draw' } & DrawAsked);

/** Where words stand on the pages: lines of a page, counted through its body. */
export interface FoundOnPage {
  page: number;
  lines: number[];
  before: string;
  shown: string;
  after: string;
}

export type FromWorker =
  | { type: 'composed'; composed: Composed; generation: number }
  | { type: 'specimen'; which: 'own' | 'beside'; specimen: Composed; generation: number }
  | { type: 'beside'; composed: Composed }
  | { type: 'refused'; message: string; which: Which }
  | { type: 'drawn'; id: number; picture: ImageBitmap; lines: TextLine[] }
  | { type: 'not-drawn'; id: number }
  | { type: 'cover'; id: number; cover: CoverShown | { message: string } }
  | { type: 'found'; id: number; places: FoundOnPage[] }
  /** Of the book’s pages as they are set now; null where there are none. */
  | { type: 'impression'; id: number; impression: Impression | null };
