/** What an outlet says of a book, in the terms that all of them share: each adapter reads its own outlet's answer into it. */
import * as z from 'zod';
import { listedAsSchema } from '../trade';

export const LISTING_STATES = [
  'waiting',
  'received',
  'with the shop',
  'held',
  'pre-order',
  'on sale',
  'withdrawn',
] as const;
export const listingStateSchema = z.enum(LISTING_STATES);
export type ListingState = z.infer<typeof listingStateSchema>;
/** States in which readers can buy or order a book. */
export const isListed = (state: ListingState): boolean => state === 'on sale' || state === 'pre-order';

/** What is longer than anybody reads is cut, and no reason to hear nothing. */
const text = (most: number) => z.string().transform((s) => s.slice(0, most));
const some = <S extends z.ZodType>(of: S, most: number) =>
  z
    .array(of)
    .transform((all) => all.slice(0, most))
    .default([]);
const words = text(4_000);
const lines = (most: number) => some(text(1_000), most);

/** What it found, beside what happened. */
export const foundSchema = z.object({
  /** Why it holds the book, and what that is about in the outlet's own word. */
  reasons: some(z.object({ about: text(60), words }), 100),
  files: some(z.object({ part: text(60), state: text(200) }), 20),
  /** Entries of the contents as it read them. */
  contents: lines(5_000),
  /** Words of which it doubts the spelling. */
  doubts: lines(100),
  /** What readers who can't see would miss. */
  barriers: lines(100),
  /** Subjects under which it really sells the book. */
  subjects: lines(20),
  /** How it stands by territory (ISO 3166-1). */
  territories: z.record(z.string().regex(/^[A-Z]{2}$/), text(200)).default({}),
  /** How it stands in each shop that it is passed on to. */
  shops: some(
    z.object({ name: text(100), state: text(60), words: words.default(''), link: text(2_000).default('') }),
    50,
  ),
  /** What it says is to be done. */
  calls: lines(20),
  /** ISBN that it gave the book; '' for none. */
  assigned: text(20).default(''),
});
export type Found = z.infer<typeof foundSchema>;
export const NOTHING_FOUND: Found = foundSchema.parse({});

export const newsSchema = z.object({
  events: some(z.object({ state: listingStateSchema, words }), 1_000),
  /** Where readers find the book; '' while they don't. */
  link: text(2_000).default(''),
  /** What the outlet shows; null where it doesn't say. */
  listed: listedAsSchema.nullable().default(null),
  found: foundSchema.default(NOTHING_FOUND),
});
export type News = z.infer<typeof newsSchema>;
