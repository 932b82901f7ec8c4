/**
 * A design: every habit of a printed book by the book's anatomy. Lengths are millipoints, letter spacing is thousandths
 * of an em, rows are lines of the text's grid. An interior is a design with a name; an edition takes one, may take any
 * part of it from another, and changes single settings.
 */
import * as z from 'zod';
import { inches, pt } from '../base';
import { FAMILY_NAMES } from './families';

const length = (least: number, most: number) => z.number().int().min(least).max(most);
const rows = (least: number, most: number) => z.number().int().min(least).max(most);
const family = z.enum(FAMILY_NAMES as [string, ...string[]]);

export const lineStyle = z.object({
  /** The family of the text, or the one for headings beside it. */
  face: z.enum(['text', 'display']),
  size: length(pt(5), pt(120)),
  cut: z.enum(['roman', 'italic', 'bold', 'bold-italic']),
  letters: z.enum(['typed', 'small-capitals', 'capitals']),
  spacing: z.number().int().min(-60).max(600),
  align: z.enum(['left', 'centre', 'right']),
});
export type LineStyle = z.infer<typeof lineStyle>;

const contentsLevel = z.object({
  indent: length(0, pt(144)),
  cut: lineStyle.shape.cut,
  letters: lineStyle.shape.letters,
});

export const designSchema = z.object({
  /** Null where the trim and the extent suggest the margin. */
  page: z.object({
    inside: length(pt(18), inches(4)).nullable(),
    outside: length(pt(18), inches(4)).nullable(),
    top: length(pt(18), inches(4)).nullable(),
    bottom: length(pt(18), inches(4)).nullable(),
  }),
  text: z.object({
    family,
    display: family,
    size: length(pt(6), pt(36)),
    leading: length(pt(7), pt(60)),
    paragraphs: z.enum(['indent', 'space']),
    indent: length(0, pt(72)),
    set: z.enum(['justified', 'ragged']),
    hyphens: z.boolean(),
    figures: z.enum(['old-style', 'lining']),
    /** The word space in thousandths of an em; null for the face's own. */
    wordSpace: z.number().int().min(120).max(400).nullable(),
    /** Stretch and shrink of a word space, in thousandths of an em. */
    stretch: z.number().int().min(40).max(500),
    shrink: z.number().int().min(20).max(160),
    /** How much wider or narrower the letters of a justified line may be drawn, in thousandths. */
    glyphScaling: z.number().int().min(0).max(20),
  }),
  opening: z.object({
    start: z.enum(['recto', 'any']),
    /** Rows from the head of the type area to the first line of the heading. */
    sink: rows(0, 24),
    number: lineStyle,
    /** How chapters are numbered where the book itself says nothing. */
    numberForm: z.enum(['usual', 'words', 'arabic', 'roman']),
    numberWord: z.boolean(),
    title: lineStyle,
    subtitle: lineStyle,
    ornament: z.string().max(24),
    ornamentAt: z.enum(['above', 'between', 'below']),
    rules: z.enum(['none', 'above', 'below', 'both']),
    /** Rows from the last line of the heading to the text. */
    gap: rows(1, 16),
    words: z.enum(['drop-capital', 'small-capitals', 'plain']),
    dropLines: rows(2, 4),
    /** Opening words in small capitals. */
    openingWords: z.number().int().min(0).max(12),
  }),
  titlePage: z.object({
    sink: rows(0, 24),
    title: lineStyle,
    subtitle: lineStyle,
    author: lineStyle,
    imprint: lineStyle,
    ornament: z.string().max(24),
    rule: z.boolean(),
  }),
  partPage: z.object({
    sink: rows(0, 30),
    number: lineStyle,
    title: lineStyle,
    subtitle: lineStyle,
    ornament: z.string().max(24),
  }),
  breaks: z.object({
    sign: z.string().max(24),
    /** Id of a picture that stands in the place of the sign; '' for none. */
    picture: z.string(),
    /** How text begins again after a break. */
    resume: z.enum(['flush', 'indent', 'small-capitals']),
  }),
  quotation: z.object({
    inset: z.enum(['both', 'left', 'none']),
    cut: z.enum(['roman', 'italic']),
    size: length(pt(6), pt(36)),
  }),
  verse: z.object({ inset: length(0, pt(144)), cut: z.enum(['roman', 'italic']) }),
  subheads: z.object({ first: lineStyle, second: lineStyle, third: lineStyle }),
  pictures: z.object({ caption: lineStyle, frame: z.boolean() }),
  heads: z.object({
    verso: z.enum(['title', 'author', 'part', 'none']),
    recto: z.enum(['section', 'title', 'none']),
    line: lineStyle,
    rule: z.boolean(),
    folio: z.enum(['head', 'foot-centre', 'foot-fore-edge', 'none']),
    /** The folio where a section opens. */
    opening: z.enum(['foot', 'none']),
  }),
  contents: z.object({
    set: z.enum(['ranged', 'centred']),
    leader: z.enum(['dots', 'rule', 'none']),
    /** Numbers of chapters stand before their titles. */
    numbers: z.boolean(),
    first: contentsLevel,
    second: contentsLevel,
    third: contentsLevel,
  }),
  notes: z.object({
    /** Where footnotes stand: at the foot of the page, after the section, in the section "Notes". */
    at: z.enum(['foot', 'section', 'book']),
    /** Where endnotes stand; one that finds no section "Notes" stands after its own. */
    ends: z.enum(['together', 'section', 'book']),
    size: length(pt(5), pt(30)),
    leading: length(pt(6), pt(48)),
  }),
  index: z.object({
    /** What stands between terms of different letters: the letter, or a blank line. */
    letters: z.boolean(),
    columns: z.number().int().min(1).max(3),
  }),
});
export type Design = z.infer<typeof designSchema>;
export type Part = keyof Design;
export const PARTS = Object.keys(designSchema.shape) as Part[];

/** Names of the parts as people say them. */
export const PART_NAMES: Record<Part, string> = {
  page: 'Margins',
  text: 'Text',
  opening: 'Openings',
  titlePage: 'Title page',
  partPage: 'Part pages',
  breaks: 'Breaks',
  quotation: 'Quotations',
  verse: 'Verse',
  subheads: 'Subheads',
  pictures: 'Pictures',
  heads: 'Heads and folios',
  contents: 'Contents page',
  notes: 'Notes',
  index: 'Index',
};

/** The setting at a path such as "opening.title.size". */
export function settingAt(design: Design, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], design);
}

/** The design with one setting changed; null where there is no such setting or the value does not fit it. */
export function withSetting(design: Design, path: string, value: unknown): Design | null {
  const keys = path.split('.');
  const part = keys[0] as Part;
  if (!(part in designSchema.shape) || settingAt(design, path) === undefined) return null;
  const put = (at: unknown, [key, ...rest]: string[]): unknown =>
    key === undefined ? value : { ...(at as object), [key]: put((at as Record<string, unknown>)[key], rest) };
  const read = designSchema.shape[part].safeParse(put(design[part], keys.slice(1)));
  return read.success ? { ...design, [part]: read.data } : null;
}
