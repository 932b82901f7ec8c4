/** The bibliographic record of a title: typed once, used on the title page, in every file and in every shop. */
import * as z from 'zod';
import { moneySchema } from '../base';
import { CLAUSES } from './clauses';

const ROLES = ['author', 'editor', 'translator', 'illustrator', 'foreword'] as const;
export type Role = (typeof ROLES)[number];
/** MARC relator codes, as EPUB's `role` refinement wants them (id.loc.gov/vocabulary/relators). */
export const RELATOR: Record<Role, string> = {
  author: 'aut',
  editor: 'edt',
  translator: 'trl',
  illustrator: 'ill',
  foreword: 'aui',
};

const contributorSchema = z.object({
  name: z.string(),
  role: z.enum(ROLES),
  sortName: z.string().default(''),
  /** A short life, for the page about the author. */
  life: z.string().default(''),
});
export type Contributor = z.infer<typeof contributorSchema>;

export const recordSchema = z.object({
  title: z.string().default(''),
  subtitle: z.string().default(''),
  contributors: z.array(contributorSchema).default([]),
  imprint: z.string().default(''),
  place: z.string().default(''),
  year: z.string().default(''),
  /** As it is printed: "Second edition, revised". '' for a book that appears for the first time and says nothing of it. */
  editionStatement: z.string().default(''),
  copyrightHolder: z.string().default(''),
  /** What the copyright page says beyond its facts. */
  clauses: z.array(z.enum(CLAUSES)).default(['rights-reserved']),
  /** A paragraph of the author's own on the copyright page. */
  ownClause: z.string().default(''),
  /** Titles of the author's other books, for the page "also by". */
  alsoBy: z.array(z.string()).default([]),
  /** BCP 47. */
  language: z.string().default('en'),
  description: z.string().default(''),
  keywords: z.array(z.string()).default([]),
  /** List price of the ebook. */
  price: moneySchema.nullable().default(null),
  /** Id of the cover picture among the book's pictures. */
  cover: z.string().nullable().default(null),
});
export type BookRecord = z.infer<typeof recordSchema>;
