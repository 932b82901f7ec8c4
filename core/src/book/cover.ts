/** What the author chooses of the cover. One cover serves all editions: each sets it on its own sheet. */
import * as z from 'zod';

/**
 * How the front is put together: `bare` is the picture alone, which carries its own words; `open` sets words straight on
 * picture or ground, `band` on a band across the picture, `plate` below it, `window` around it.
 */
export const FRONTS = ['bare', 'open', 'band', 'plate', 'window'] as const;
export type Front = (typeof FRONTS)[number];

const colour = z.string().regex(/^#[0-9a-f]{6}$/);
const share = z.number().int().min(0).max(100);

export const coverSchema = z.object({
  /** Null while the author has not chosen: a picture alone, or words on a ground where there is no picture. */
  front: z.enum(FRONTS).nullable().default(null),
  /** Which part of the front picture stays where it is cut: hundredths from its left and its top. */
  focus: z.object({ x: share, y: share }).default({ x: 50, y: 50 }),
  ground: colour.default('#24414a'),
  ink: colour.default('#f6efe0'),
  accent: colour.default('#d9a441'),
  /** Family of title and author; null for that of the edition's headings. */
  family: z.string().nullable().default(null),
  letters: z.enum(['as-written', 'capitals', 'small-capitals']).default('as-written'),
  /** Size of the title in millipoints; null for as large as it fits well. */
  titleSize: z.number().int().min(12_000).max(144_000).nullable().default(null),
  /** A line above the title: "A novel", a word of praise. */
  line: z.string().max(200).default(''),
  subtitle: z.boolean().default(true),
  author: z.boolean().default(true),
  spine: z.object({ words: z.boolean(), direction: z.enum(['by-language', 'down', 'up']) }).default({
    words: true,
    direction: 'by-language',
  }),
  /** The back's text; null for the record's description. */
  back: z.string().max(6000).nullable().default(null),
  /** Whether a short life of the author stands on the back. */
  life: z.boolean().default(true),
  /** Ids of pictures: the author's portrait, the imprint's device. */
  portrait: z.string().nullable().default(null),
  device: z.string().nullable().default(null),
  barcode: z.boolean().default(true),
  /** Whether the barcode tells the edition’s list price. */
  priced: z.boolean().default(false),
});
export type CoverPlan = z.infer<typeof coverSchema>;

/** Languages whose books lie with the spine's words upwards (common practice); elsewhere they run down. */
const UPWARDS = /^(fr|es|it|pt|ca|ro)\b/;
export const spineTurn = (chosen: CoverPlan['spine']['direction'], language: string): 'down' | 'up' =>
  chosen !== 'by-language' ? chosen : UPWARDS.test(language) ? 'up' : 'down';
