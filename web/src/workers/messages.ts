/** What goes between the page and the composing worker. */
import type { Book, Section } from '@pagina/core/book';
import type { Report, ReportMark } from '@pagina/core/compose';

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
  report: Report;
  marks: ReportMark[];
  missing: { char: string; section: string; block?: string }[];
  milliseconds: number;
}

/** A book on its way to the worker: sections whose text it has already come without it. */
export type BookSent = Omit<Book, 'sections'> & {
  sections: (Omit<Section, 'content'> & { content: unknown })[];
};

export type ToWorker =
  | { type: 'book'; book: BookSent; edition: string }
  | { type: 'draw'; id: number; page: number; width: number; ink: string; generation: number };

/** A line of text under the picture of a page, for selecting and for screen readers; points from the page's top left. */
export interface TextLine {
  x: number;
  y: number;
  size: number;
  width: number;
  text: string;
  block: string;
  offset: number;
}

export type FromWorker =
  | { type: 'composed'; composed: Composed; generation: number }
  | { type: 'refused'; message: string }
  | { type: 'drawn'; id: number; picture: ImageBitmap; lines: TextLine[] }
  | { type: 'not-drawn'; id: number };
