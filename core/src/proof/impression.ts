/**
 * What a file shows, page by page or, for flowing text, document by document: a mark of all that is seen there, and the
 * words line by line with their places. It is kept with the file, so that a later one can be held against it long after the
 * book and the typesetting engine have changed.
 */
import * as z from 'zod';

const view = z.object({
  /** Equal for two pages exactly when nothing that is seen on them differs. */
  mark: z.string(),
  /** The same for what the author sees to alone: the words as they are set and the pictures, wherever they stand. */
  matter: z.string(),
  /** Folio of a page, or heading of a document. */
  label: z.string(),
  /** Path of a document in its ebook; '' for a page. */
  path: z.string(),
  /** Lines of a page, or blocks of a document. */
  words: z.array(z.string()),
  /**
   * For each line of a page where it stands: left edge, baseline, width and size in points, and 1 for a head or folio.
   * Empty for a document, whose reader breaks the lines.
   */
  places: z.array(z.tuple([z.number(), z.number(), z.number(), z.number(), z.number()])),
});
export const impressionSchema = z.object({
  version: z.literal(1),
  /** Of the typesetting; 0 for a file that Pagina did not set. */
  engine: z.number(),
  /** Of every page, in points; 0 where there are none. */
  width: z.number(),
  height: z.number(),
  views: z.array(view),
});
export type View = z.infer<typeof view>;
export type Impression = z.infer<typeof impressionSchema>;
