/**
 * Editions: forms in which a book comes, each with fields of its own. They refer to one another by id. A form is added by
 * a member of the union here; TypeScript then points out every place that has to handle it.
 */
import * as z from 'zod';
import { moneySchema } from '../base';

const common = {
  id: z.string().min(1),
  name: z.string(),
  /** Whom it is for, in a sentence of the author's. */
  purpose: z.string().default(''),
  isbn: z.string().default(''),
  interior: z.string().default('Harrow'),
  /** What departs from the interior: parts taken from another, and single settings by their path. */
  design: z
    .object({
      from: z.record(z.string(), z.string()).default({}),
      set: z.record(z.string(), z.unknown()).default({}),
      /** Its own settings that large print stands in for, until it is taken off again. */
      before: z.record(z.string(), z.unknown()).optional(),
      /** Id of the saved design that it was taken from. */
      own: z.string().optional(),
    })
    .default({ from: {}, set: {} }),
  /** The contents page and the navigation of this edition. */
  contents: z
    .object({
      /** '' for the language's own word. */
      heading: z.string().default(''),
      /** Levels listed, 1 to 3; null for every section and no subheads. */
      levels: z.number().int().min(1).max(3).nullable().default(null),
    })
    .default({ heading: '', levels: null }),
  /** A last date in ISO form that files of this edition carry. */
  date: z.string().default(''),
};

export const printEditionSchema = z.object({
  ...common,
  form: z.literal('print'),
  /** Name of a listed trim, or a size as it was typed. */
  trim: z.string().default('5.5 × 8.5 in'),
  /** The standard that the printer's PDF claims. */
  standard: z.enum(['x-1a', 'x-4', 'plain']).default('x-1a'),
  /** What its pages are printed in; with colour, pictures are, and a page costs what a coloured one costs. */
  inks: z.enum(['black', 'colour']).default('black'),
  /** The paper, by its id in the printer's list. */
  paper: z.string().default('cream-80'),
  /** Glued into a cover of card, or sewn into boards. */
  binding: z.enum(['paperback', 'hardback']).default('paperback'),
  /** List price. */
  price: moneySchema.nullable().default(null),
});

export const reflowEditionSchema = z.object({
  ...common,
  form: z.literal('reflow'),
  /** The version of EPUB: the newest, or the one that old readers know. */
  version: z.enum(['3.3', '2.0.1']).default('3.3'),
  /** How large its pictures are: as they came, or for large or small screens. */
  pictures: z.enum(['as-they-are', 'large', 'small']).default('as-they-are'),
  /** Whose faces it is read in: the reader's, or those of its design, which then are in the file. */
  faces: z.enum(['reader', 'own']).default('reader'),
  /** Whether it states that it conforms to EPUB Accessibility, where the checks find nothing in the way. */
  conformance: z.boolean().default(true),
  /** The print edition whose folios its page list gives; null for none. Books saved by earlier versions don’t say. */
  pageList: z.string().nullable().optional(),
});

export const sampleEditionSchema = z.object({
  ...common,
  form: z.literal('sample'),
  /** The ebook that it is a sample of; null where that was removed. */
  of: z.string().nullable().default(null),
  /** How much of it: whole chapters, or hundredths of the words to a paragraph's end. */
  extent: z
    .object({ by: z.enum(['chapters', 'percent']), amount: z.number().int().min(1).max(100) })
    .default({ by: 'percent', amount: 10 }),
  /** What its last page says; '' for the words of the house. */
  closing: z.string().max(2_000).default(''),
});

export const fixedEditionSchema = z.object({
  ...common,
  form: z.literal('fixed'),
  /** The print edition whose pages it shows; null where that was removed. */
  of: z.string().nullable().default(null),
});

export type PrintEdition = z.infer<typeof printEditionSchema>;
export type ReflowEdition = Omit<z.infer<typeof reflowEditionSchema>, 'pageList'> & {
  pageList: string | null;
};
export type SampleEdition = z.infer<typeof sampleEditionSchema>;
export type FixedEdition = z.infer<typeof fixedEditionSchema>;
export type Edition = PrintEdition | ReflowEdition | SampleEdition | FixedEdition;

/** Fields of any form; a change sets some of them on an edition that has them. */
export const editionFields = printEditionSchema
  .extend(reflowEditionSchema.shape)
  .extend(sampleEditionSchema.shape)
  .omit({ id: true, form: true });
export type EditionFields = Partial<
  Omit<PrintEdition, 'id' | 'form'> & Omit<ReflowEdition, 'id' | 'form'> & Omit<SampleEdition, 'id' | 'form'>
>;

/** What belongs to one title alone: everything else of an edition can be kept and used for others. */
const TITLES_OWN = { id: true, name: true, isbn: true, date: true } as const;
/** The choices of an edition without what belongs to its title. */
export const editionChoicesSchema = z.discriminatedUnion('form', [
  printEditionSchema.omit({ ...TITLES_OWN, price: true }),
  reflowEditionSchema.omit({ ...TITLES_OWN, pageList: true }),
  sampleEditionSchema.omit({ ...TITLES_OWN, of: true }),
  fixedEditionSchema.omit({ ...TITLES_OWN, of: true }),
]);
export type EditionChoices = z.infer<typeof editionChoicesSchema>;
export const choicesOfEdition = (edition: Edition): EditionChoices => editionChoicesSchema.parse(edition);

const oneEdition = z.discriminatedUnion('form', [
  printEditionSchema,
  reflowEditionSchema,
  sampleEditionSchema,
  fixedEditionSchema,
]);
type Parsed = z.infer<typeof oneEdition>;

/** An ebook that doesn’t say gets the folios of the first print edition in the list. */
const withPageLists = (editions: readonly Parsed[]): Edition[] => {
  const first = editions.find((e) => e.form === 'print')?.id ?? null;
  return editions.map((e) =>
    e.form === 'reflow' ? { ...e, pageList: e.pageList === undefined ? first : e.pageList } : e,
  );
};
export const editionsSchema = z.array(oneEdition).transform(withPageLists);

/** An edition as a change brings it; null for anything that is none. */
export function editionFrom(value: unknown): Edition | null {
  const parsed = editionsSchema.safeParse([value]);
  return parsed.success ? (parsed.data[0] ?? null) : null;
}

/** An edition as a change leaves it; null when its form has no such fields, or a value doesn’t fit. */
export function editionWith(edition: Edition, fields: EditionFields): Edition | null {
  if (!Object.keys(fields).every((key) => key in edition)) return null;
  return editionFrom({ ...edition, ...fields });
}

type Editions = { readonly editions: readonly Edition[] };

export const editionOf = (book: Editions, id: string | null): Edition | undefined =>
  book.editions.find((e) => e.id === id);
export const isPrint = (e: Edition): e is PrintEdition => e.form === 'print';
export const isReflow = (e: Edition): e is ReflowEdition => e.form === 'reflow';
export const isFixed = (e: Edition): e is FixedEdition => e.form === 'fixed';
export const isSample = (e: Edition): e is SampleEdition => e.form === 'sample';

/** The ebook that a sample is taken from. */
export function sampledEbook(book: Editions, sample: SampleEdition): ReflowEdition | undefined {
  const e = editionOf(book, sample.of);
  return e && isReflow(e) ? e : undefined;
}

/** The print edition of that id. */
export function printOf(book: Editions, id: string | null): PrintEdition | undefined {
  const e = editionOf(book, id);
  return e && isPrint(e) ? e : undefined;
}

/** The print edition whose pages stand for an edition: itself, the one whose folios an ebook gives, or whose pages it shows. */
export function pagesOf(book: Editions, id: string): PrintEdition | undefined {
  const e = editionOf(book, id);
  if (!e) return undefined;
  return printOf(book, isReflow(e) ? e.pageList : isFixed(e) ? e.of : id);
}

/** The print edition to show for whichever edition is chosen: `pagesOf` it, or else the first one. */
export const shownBy = (book: Editions, id: string): PrintEdition | undefined =>
  pagesOf(book, id) ?? book.editions.find(isPrint);

const DEFAULTS = [
  { id: 'paperback', name: 'Paperback', purpose: 'For readers who buy it on paper.', form: 'print' },
  { id: 'ebook', name: 'Ebook', purpose: 'For shops of ebooks.', form: 'reflow' },
] as const;
/** A paperback, and an ebook that gives its folios. */
export const defaultEditions = (): Edition[] => editionsSchema.parse(DEFAULTS);
