/** The bibliographic record of a title: typed once, used on the title page, in every file and in every shop. */
import * as z from 'zod';

export const ROLES = ['author', 'editor', 'translator', 'illustrator', 'foreword'] as const;
export type Role = (typeof ROLES)[number];
/** MARC relator codes, as EPUB's `role` refinement wants them (id.loc.gov/vocabulary/relators). */
export const RELATOR: Record<Role, string> = {
  author: 'aut',
  editor: 'edt',
  translator: 'trl',
  illustrator: 'ill',
  foreword: 'aui',
};

export const contributorSchema = z.object({
  name: z.string(),
  role: z.enum(ROLES),
  sortName: z.string().default(''),
});
export type Contributor = z.infer<typeof contributorSchema>;

export const recordSchema = z.object({
  title: z.string().default(''),
  subtitle: z.string().default(''),
  contributors: z.array(contributorSchema).default([]),
  imprint: z.string().default(''),
  place: z.string().default(''),
  year: z.string().default(''),
  copyrightHolder: z.string().default(''),
  /** BCP 47. */
  language: z.string().default('en'),
  description: z.string().default(''),
  keywords: z.array(z.string()).default([]),
  /** List price of the ebook in minor units of the currency, so that money is never a fraction. */
  price: z
    .object({ minor: z.number().int().nonnegative(), currency: z.string().length(3) })
    .nullable()
    .default(null),
  /** Id of the cover picture among the book's pictures. */
  cover: z.string().nullable().default(null),
});
export type BookRecord = z.infer<typeof recordSchema>;

export const emptyRecord = (): BookRecord => recordSchema.parse({});
