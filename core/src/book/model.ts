/** The book in memory, and as JSON that is parsed by Zod and carries a version. */
import { Node } from 'prosemirror-model';
import * as z from 'zod';
import { done, moneySchema, refused, type Outcome } from '../base';
import { recordSchema } from '../record';
import { coverSchema, type CoverPlan } from './cover';
import { defaultEditions, editionsSchema, type Edition } from './edition';
import { kindRule, SECTION_KINDS, type SectionKind } from './kinds';
import { numberingSchema } from './numbering';
import { outletIdSchema, placingSchema, type Placing } from './placing';
import { schema } from './schema';
import { settle } from './settle';

export const BOOK_VERSION = 1;

const sectionFields = {
  id: z.string().min(1),
  kind: z.enum(SECTION_KINDS as [SectionKind, ...SectionKind[]]),
  matter: z.enum(['front', 'body', 'back']),
  /** The part this section stands in, or null. */
  parent: z.string().nullable().default(null),
  title: z.string().default(''),
  subtitle: z.string().default(''),
  /** Shows its number where its kind is numbered. */
  numbered: z.boolean().default(true),
  /** The number that it bears where that is not the next one; those after it count on from there. */
  number: z.number().int().min(1).max(9999).nullable().default(null),
  /** Shows its title; one that is hidden still names the section in lists of the house. */
  titled: z.boolean().default(true),
  /** The side on which it starts in print; the usual one is its kind's or the interior's. */
  starts: z.enum(['usual', 'recto', 'verso', 'any']).default('usual'),
  /** Whether the contents lists it; the usual is its kind's. */
  listed: z.enum(['usual', 'yes', 'no']).default('usual'),
  /** Ids of editions that do not carry it. */
  leftOut: z.array(z.string()).default([]),
};
const sectionJson = z.object({ ...sectionFields, content: z.unknown() });

export const pictureSchema = z.object({
  id: z.string().min(1),
  name: z.string().default(''),
  type: z.enum(['image/png', 'image/jpeg', 'image/gif']),
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  /** SHA-256 of the file in the store, when there is a store. */
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  /** The file itself in base 64, when the book travels as one JSON file. */
  base64: z.string().optional(),
});
export type Picture = z.infer<typeof pictureSchema>;

export const indexSeeSchema = z.object({ term: z.string().min(1), to: z.string().min(1) });
export type IndexSee = z.infer<typeof indexSeeSchema>;

/** A caution or a note that the author has looked at and lets stand. */
export const acceptedSchema = z.object({
  /** What the finding is known by (`findingKey`). */
  finding: z.string().min(1).max(2_000),
  reason: z.string().trim().max(400),
  /** When, in ISO form. */
  at: z.string().max(40),
});
export type Accepted = z.infer<typeof acceptedSchema>;

/** Earlier versions kept the printed price with the cover: it becomes the list price of the print editions. */
function withPrintPrices(book: unknown): unknown {
  const earlier = z
    .looseObject({
      cover: z.looseObject({ price: moneySchema }),
      editions: z.array(z.looseObject({ form: z.string() })),
    })
    .safeParse(book);
  if (!earlier.success) return book;
  const { cover, editions } = earlier.data;
  return {
    ...earlier.data,
    cover: { ...cover, priced: true },
    editions: editions.map((e) => (e.form === 'print' ? { price: cover.price, ...e } : e)),
  };
}

const bookFields = z.object({
  version: z.literal(BOOK_VERSION),
  id: z.string().default('book'),
  record: recordSchema,
  numbering: numberingSchema.default(numberingSchema.parse({})),
  sections: z.array(sectionJson),
  editions: editionsSchema,
  pictures: z.array(pictureSchema).default([]),
  cover: coverSchema.default(coverSchema.parse({})),
  /** Words that are right in this book, whatever a dictionary says. */
  words: z.array(z.string()).default([]),
  /** Entries of the index that lead to another: "ebb" to "tides". */
  indexSee: z.array(indexSeeSchema).default([]),
  /** SHA-256 of the reading of the newest manuscript that was taken in; '' for the one that the book began with. */
  reading: z.string().default(''),
  accepted: z.array(acceptedSchema).default([]),
  /** By outlet. */
  placing: z.record(outletIdSchema, placingSchema).default({}),
});
const bookJson = z.preprocess(withPrintPrices, bookFields);
export type BookJson = z.input<typeof bookFields>;

export type Section = Omit<z.infer<typeof sectionJson>, 'content'> & { content: Node };
export interface Book {
  version: typeof BOOK_VERSION;
  id: string;
  record: z.infer<typeof recordSchema>;
  numbering: z.infer<typeof numberingSchema>;
  sections: readonly Section[];
  editions: readonly Edition[];
  pictures: readonly Picture[];
  cover: CoverPlan;
  words: readonly string[];
  indexSee: readonly IndexSee[];
  reading: string;
  /** Cautions and notes that stand, each with a reason. */
  accepted: readonly Accepted[];
  /** By outlet. */
  placing: Readonly<Record<string, Placing>>;
}

/** A book of these sections, with the usual editions and numbers. */
export const newBook = (
  id: string,
  record: Book['record'],
  sections: readonly Section[],
  pictures: readonly Picture[] = [],
): Book => ({
  version: BOOK_VERSION,
  id,
  record,
  numbering: numberingSchema.parse({}),
  sections,
  editions: defaultEditions(),
  pictures,
  cover: coverSchema.parse({}),
  words: [],
  indexSee: [],
  reading: '',
  accepted: [],
  placing: {},
});

/** An empty section: one empty paragraph. */
export const emptyContent = (blockId: string): Node =>
  schema.node('doc', null, [schema.node('paragraph', { id: blockId })]);
/** Pages to be laid out: one without a picture and without words. */
const emptyPages = (pageId: string): Node =>
  schema.node('doc', null, [schema.node('picturePage', { id: pageId })]);

/** A section without text, with what its kind implies. */
export function freshSection(id: string, kind: Section['kind'], fields: Partial<Section> = {}): Section {
  const rule = kindRule(kind);
  const content = kind === 'picture-pages' ? emptyPages(`${id}-1`) : emptyContent(`${id}-1`);
  return {
    id,
    kind,
    matter: rule.matter,
    parent: null,
    title: '',
    subtitle: '',
    numbered: rule.numbered,
    number: null,
    titled: true,
    starts: 'usual',
    listed: 'usual',
    leftOut: [],
    content,
    ...fields,
  };
}

/** Reads a section's content and checks it against the schema; throws RangeError when it does not fit. */
export function contentFromJson(json: unknown): Node {
  const doc = Node.fromJSON(schema, json);
  doc.check();
  return doc;
}

export function sectionFromJson(json: z.input<typeof sectionJson>): Section {
  const s = sectionJson.parse(json);
  return { ...s, content: contentFromJson(s.content) };
}
export const sectionToJson = (s: Section): z.infer<typeof sectionJson> => ({
  ...s,
  content: s.content.toJSON() as unknown,
});

export function bookFromJson(json: unknown): Outcome<Book> {
  const parsed = bookJson.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return refused(
      'book/shape',
      `This is not a book file: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}.`,
    );
  }
  try {
    return done({ ...parsed.data, sections: settle(parsed.data.sections.map(sectionFromJson)) });
  } catch (e) {
    return refused(
      'book/content',
      `The book file contains text that Pagina can’t read: ${(e as Error).message}.`,
    );
  }
}
export const bookToJson = (book: Book): BookJson => ({
  ...book,
  sections: book.sections.map(sectionToJson),
  editions: [...book.editions],
  pictures: [...book.pictures],
  words: [...book.words],
  indexSee: [...book.indexSee],
  accepted: [...book.accepted],
  placing: { ...book.placing },
});

export const carries = (section: Section, edition: string): boolean => !section.leftOut.includes(edition);
export const sectionsOf = (book: Book, edition: string): Section[] =>
  book.sections.filter((s) => carries(s, edition));
/** How many parts a section stands in. */
export function depthOf(book: Pick<Book, 'sections'>, section: Section): number {
  let depth = 0;
  for (let p = section.parent; p; p = book.sections.find((s) => s.id === p)?.parent ?? null) depth++;
  return depth;
}
