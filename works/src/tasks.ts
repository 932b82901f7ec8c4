/** What goes between the job runner and the child process that does the work. Files go by path, not through the pipe. */
import type { Finding } from '@pagina/core/base';
import type { Arrival, Attached, BookJson } from '@pagina/core/book';
import type { Fit } from '@pagina/core/trade';

export type Task =
  | {
      kind: 'read';
      files: { path: string; name: string }[];
      changes: 'accept' | 'reject';
      folder: string;
    }
  | {
      kind: 'make';
      book: BookJson;
      /** When the book was last changed, in ISO form. */
      modified: string;
      /** A `ProductKey`, as one id. */
      edition: string;
      /** The imprint's code at the outlet for which the file is made. */
      affiliate: string;
      /** Addresses that the outlet gave to books, by their thirteen digits. */
      links: Record<string, string>;
      pictures: Record<string, string>;
      out: string;
      name: string;
    }
  /** Checks a PDF that someone else made for a print edition. */
  | {
      kind: 'attach';
      book: BookJson;
      edition: string;
      what: Attached;
      path: string;
      /** Pages of the file that is attached as the edition’s pages; null where Pagina sets them. */
      attachedPages: number | null;
      /** A path that is free. */
      out: string;
    };

/** Compiles what making a file needs, by making a small one. */
export type ToChild = Task | { kind: 'warm-up' };

/** What a child says on standard error before it ends itself over its memory. */
export const TOO_FAT = 'pagina: over the memory limit';

export type FromChild =
  /** It has nothing to do, and holds so much memory. */
  | { type: 'idle'; megabytes: number }
  | { type: 'progress'; stage: string; share: number }
  | { type: 'refused'; message: string }
  | { type: 'read'; book: BookJson; pictures: Record<string, string>; arrival: Arrival }
  /** `impression` is the path of the file’s impression, compressed; null where none is taken. */
  | { type: 'made'; pages: number; findings: Finding[]; impression: string | null }
  | { type: 'attached'; pages: number; fit: Fit; findings: Finding[]; impression: string | null };
