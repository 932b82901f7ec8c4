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

/** "Ada Marsh", "Ada Marsh and Tom Pell", "A, B and C": the authors as a title page names them. */
export function authorsLine(record: BookRecord): string {
  const names = record.contributors.filter((c) => c.role === 'author').map((c) => c.name);
  if (names.length < 2) return names[0] ?? '';
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}

/** "Marsh, Ada": the given sort name, else the last word first. */
export function sortNameOf(c: Contributor): string {
  if (c.sortName) return c.sortName;
  const words = c.name.trim().split(/\s+/);
  return words.length < 2 ? c.name.trim() : `${words.at(-1)}, ${words.slice(0, -1).join(' ')}`;
}

/** A name a file can carry everywhere: "The Salt Ledger" → "the-salt-ledger". */
export function fileStem(title: string): string {
  const s = title
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();
  return (
    s
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 60) || 'untitled'
  );
}
