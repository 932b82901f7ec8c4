/** A remark on a page, and what it is about. */
import * as z from 'zod';

/** What a comment is about: a line of a page, or a document of an ebook. Its place moves with the words it quotes. */
export const commentAboutSchema = z.object({
  /** Of the view on which it was written. */
  mark: z.string().max(64),
  label: z.string().max(200),
  /** Path of a document; '' for a page. */
  path: z.string().max(1000),
  /** Words that were pointed at; '' for the page as a whole. */
  quote: z.string().max(500),
  place: z.object({ section: z.string(), block: z.string(), offset: z.number() }).nullable(),
});
export type CommentAbout = z.infer<typeof commentAboutSchema>;

export interface Comment {
  id: string;
  edition: string;
  /** The comment that it answers; '' for none. */
  answers: string;
  words: string;
  about: CommentAbout;
  actor: string;
  /** Milliseconds since 1970. */
  at: number;
  closedAt: number | null;
}

/** Comments that nobody has closed; answers go with what they answer. */
export const openComments = (all: readonly Comment[], edition: string): Comment[] =>
  all.filter((c) => c.edition === edition && c.answers === '' && c.closedAt === null);
