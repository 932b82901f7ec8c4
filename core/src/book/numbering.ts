/** How chapters and parts are numbered through the whole book. The numbers themselves are never kept: order makes them. */
import * as z from 'zod';

/** `usual` is what the language's books do: chapters in words in English and in figures elsewhere, parts in roman. */
const NUMBER_FORMS = ['usual', 'words', 'arabic', 'roman'] as const;
export type NumberForm = (typeof NUMBER_FORMS)[number];

const CAPTION_NUMBERS = ['none', 'through', 'by-chapter'] as const;
export type CaptionNumbers = (typeof CAPTION_NUMBERS)[number];

export const numberingSchema = z.object({
  /** Chapters count through the book, or begin again in every part. */
  count: z.enum(['continuous', 'by-part']).default('continuous'),
  chapters: z.enum(NUMBER_FORMS).default('usual'),
  parts: z.enum(NUMBER_FORMS).default('usual'),
  /** "Chapter Three", or "Three" alone. */
  chapterWord: z.boolean().default(true),
  partWord: z.boolean().default(true),
  /** Numbers before the captions of figures and tables: none, through the book, or by chapter ("2.3"). */
  figures: z.enum(CAPTION_NUMBERS).default('none'),
  tables: z.enum(CAPTION_NUMBERS).default('none'),
});
export type Numbering = z.infer<typeof numberingSchema>;
