/** The bibliographic record of a title: typed once, used on the title page, in every file and in every shop. */
import * as z from 'zod';
import { moneySchema } from '../base';
import { CLAUSES } from './clauses';
import { relatedSchema } from './related';
import { AUDIENCES, EDITION_TYPES, ROLES, type Role } from './codes';

const contributorSchema = z.object({
  name: z.string(),
  role: z.enum(ROLES),
  sortName: z.string().default(''),
  /** A short life, for the page about the author. */
  life: z.string().default(''),
  /** Id of their portrait among the book's pictures; it stands above the life. */
  portrait: z.string().nullable().default(null),
});
export type Contributor = z.infer<typeof contributorSchema>;
/** One of whom nothing is known but the name. */
export const contributor = (name: string, role: Role): Contributor => contributorSchema.parse({ name, role });

const age = z.number().int().min(0).max(99).nullable();

export const recordSchema = z.object({
  title: z.string().default(''),
  subtitle: z.string().default(''),
  contributors: z.array(contributorSchema).default([]),
  /** The series and the bare number of this book in it: "2", "0.5"; '' for none. */
  series: z.string().default(''),
  volume: z.string().default(''),
  /** A publisher's collection that it belongs to without a number. */
  collection: z.string().default(''),
  imprint: z.string().default(''),
  /** The house behind the imprint; '' where that is the imprint itself. */
  publisher: z.string().default(''),
  /** Web address of the imprint or the book. */
  web: z.string().default(''),
  place: z.string().default(''),
  year: z.string().default(''),
  /** Day of publication in ISO form. */
  published: z.string().default(''),
  /** As it is printed: "Second edition, revised". '' for a book that appears for the first time and says nothing of it. */
  editionStatement: z.string().default(''),
  editionNumber: z.number().int().min(1).max(999).nullable().default(null),
  editionType: z.enum(EDITION_TYPES).nullable().default(null),
  copyrightHolder: z.string().default(''),
  /** What the copyright page says beyond its facts. */
  clauses: z.array(z.enum(CLAUSES)).default(['rights-reserved']),
  /** A paragraph of the author's own on the copyright page. */
  ownClause: z.string().default(''),
  related: z.array(relatedSchema).default([]),
  /** Titles of the author's other books that aren't kept here, for the page "also by". */
  alsoBy: z.array(z.string()).default([]),
  /** BCP 47. */
  language: z.string().default('en'),
  description: z.string().default(''),
  /** For lists and for shops that take few characters. */
  shortDescription: z.string().default(''),
  keywords: z.array(z.string()).default([]),
  /** Codes of Thema, the main one first. */
  subjects: z.array(z.string()).default([]),
  audience: z.enum(AUDIENCES).default('general'),
  /** Readers' ages in years, both included; null for no bound. */
  ages: z.object({ from: age, to: age }).default({ from: null, to: null }),
  adult: z.boolean().default(false),
  publicDomain: z.boolean().default(false),
  /** Countries in which it may be sold, by ISO 3166-1; null for the whole world. */
  territories: z
    .array(z.string().regex(/^[A-Z]{2}$/))
    .nullable()
    .default(null),
  /** List price of the ebook. */
  price: moneySchema.nullable().default(null),
  /** List prices of the ebook in other currencies, where the author sets them; the rest are worked out. */
  prices: z.array(moneySchema).default([]),
  /** What a library pays for the ebook; null for a suggested one. */
  libraryPrice: moneySchema.nullable().default(null),
  /** What the ebook costs one who buys the printed book too; null where it isn't offered. */
  bundlePrice: moneySchema.nullable().default(null),
  /** Id of the cover picture among the book's pictures. */
  cover: z.string().nullable().default(null),
});
export type BookRecord = z.infer<typeof recordSchema>;
