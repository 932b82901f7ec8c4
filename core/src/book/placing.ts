/** How a title is placed at one outlet: the author's choices there, what it is told otherwise than the record says, and what came of it. */
import * as z from 'zod';

/** What an outlet may be told otherwise than the record says: a variant stands for itself until it is removed. */
export const variantsSchema = z
  .object({
    title: z.string(),
    subtitle: z.string(),
    description: z.string(),
    shortDescription: z.string(),
    keywords: z.array(z.string()),
    subjects: z.array(z.string()),
  })
  .partial();
export type Variants = z.infer<typeof variantsSchema>;
export type VariantField = keyof Variants;
export const VARIANT_FIELDS = Object.keys(variantsSchema.shape) as [VariantField, ...VariantField[]];

/** A map with one key set, or without it where the value is null. */
export function withKey<T extends object>(map: T, key: string, value: unknown): T {
  const others = Object.fromEntries(Object.entries(map).filter(([k]) => k !== key)) as T;
  return value === null ? others : { ...others, [key]: value };
}

/** What outlets are known by. */
export const outletIdSchema = z.string().regex(/^[a-z][a-z0-9-]{0,60}$/);

/** Where a book is at an outlet that is filled in by hand. */
export const HAND_STATES = ['waiting', 'with the shop', 'held', 'on sale'] as const;

export const placingSchema = z.object({
  /** Whether the title goes there. */
  chosen: z.boolean().default(false),
  /** Id of the edition that goes there; '' for the first that the outlet sells. */
  edition: z.string().default(''),
  /** The outlet's plan by which a sale is shared; '' for the one that brings most. */
  plan: z.string().default(''),
  /** Shops of an aggregator that it is passed to, by id; null for all. */
  shops: z.array(z.string()).nullable().default(null),
  protection: z.boolean().default(false),
  lending: z.boolean().default(false),
  /** Hundredths of the book that may be copied or printed. */
  copies: z.number().int().min(0).max(100).default(0),
  /** Hundredths of the book that may be read before it is bought; null for what the outlet shows of itself. */
  preview: z.number().int().min(0).max(100).nullable().default(null),
  /** Sold nowhere else until that day (ISO); '' for none. */
  exclusiveUntil: z.string().default(''),
  preorder: z.boolean().default(false),
  /** Whether the author has declared to hold the rights. */
  rights: z.boolean().default(false),
  variants: variantsSchema.default({}),
  /** What the outlet calls the book by; the address where it is sold; a number that it assigned; where it stands. */
  number: z.string().max(200).default(''),
  link: z.string().max(2_000).default(''),
  assigned: z.string().max(20).default(''),
  state: z.enum(HAND_STATES).default('waiting'),
  /** Fields of the copying sheet that are done, each with a digest of the text that was entered. */
  ticked: z.record(z.string(), z.string()).default({}),
});
export type Placing = z.infer<typeof placingSchema>;

const NONE = placingSchema.parse({});
export const placingAt = (
  book: { readonly placing: Readonly<Record<string, Placing>> },
  outlet: string,
): Placing => (Object.hasOwn(book.placing, outlet) ? book.placing[outlet] : undefined) ?? NONE;
