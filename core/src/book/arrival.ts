/**
 * How a manuscript arrived: what was found in it and why, and an account of every word. Kept beside the title, so that
 * what was decided can be looked at and put right later.
 */
import * as z from 'zod';

const setAsideSchema = z.object({
  rule: z.string(),
  text: z.string(),
  words: z.number(),
  /** Section in whose text it stood; null where it stood in none. */
  section: z.string().nullable(),
  /** Put back into the text by the author. */
  back: z.boolean().default(false),
});

export const arrivalSchema = z.object({
  version: z.literal(1),
  /** Name of the file. */
  name: z.string(),
  wordsIn: z.number(),
  wordsOut: z.number(),
  pictures: z.number(),
  notes: z.number(),
  links: z.number(),
  rows: z.array(
    z.object({
      section: z.string(),
      /** The lines of the manuscript that were taken for its heading, or its first words. */
      typed: z.string(),
      reason: z.string(),
      /** 0 up; from 8 on there is hardly a doubt. */
      score: z.number(),
      /** What its heading looks like, in style, form and wording: rows with the same were read alike. */
      look: z.string().default(''),
    }),
  ),
  setAside: z.array(setAsideSchema),
  /** Remarks in the margin of the file, which are no text of the book. */
  comments: z.array(z.object({ by: z.string(), text: z.string(), at: z.string() })).default([]),
  /** The files it was read from, by their SHA-256, so that they can be read again. */
  source: z.array(z.object({ sha256: z.string(), name: z.string() })).default([]),
  /** What was cleaned, how often. */
  tidied: z.record(z.string(), z.number()),
  findings: z.array(
    z.object({
      rule: z.string(),
      severity: z.enum(['blocker', 'caution', 'note']),
      message: z.string(),
      remedy: z.string().optional(),
    }),
  ),
});
export type Arrival = z.infer<typeof arrivalSchema>;
