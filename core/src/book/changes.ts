/**
 * Changes. Whatever is done to a book is a `Change`: a value that can be kept in a log, applied, and turned round.
 *
 * `apply` never alters the book it is given; it answers the new book together with the inverse change, made from the
 * book as it was. Undo is the inverse, applied; redo is the inverse of that. A `group` is one step for a person.
 */
import { Fragment, Slice, type Node } from 'prosemirror-model';
import { ReplaceStep, Step } from 'prosemirror-transform';
import * as z from 'zod';
import { inSentence, done, refused, type Outcome } from '../base';
import { recordSchema } from '../record';
import {
  acceptedSchema,
  indexSeeSchema,
  pictureSchema,
  sectionFromJson,
  sectionToJson,
  type Book,
  type Section,
} from './model';
import { numberingSchema } from './numbering';
import {
  outletIdSchema,
  placingAt,
  placingSchema,
  VARIANT_FIELDS,
  variantsSchema,
  withKey,
  type Placing,
} from './placing';
import { coverSchema } from './cover';
import { editionFields, editionFrom, editionsSchema, editionWith, type EditionFields } from './edition';
import { SECTION_KINDS, type SectionKind } from './kinds';
import { schema } from './schema';

/**
 * Some fields of an object. Not `.partial()`: that would fill the fields left out with their defaults, and a change of
 * the imprint would empty the title.
 */
function someOf<S extends z.ZodRawShape>(
  schema: z.ZodObject<S>,
): z.ZodType<Partial<z.infer<z.ZodObject<S>>>> {
  const shape: Record<string, z.ZodType> = {};
  for (const [key, field] of Object.entries(schema.shape))
    shape[key] = ((field instanceof z.ZodDefault ? field.unwrap() : field) as z.ZodType).optional();
  return z.object(shape) as never;
}

const sectionAttrs = z
  .object({
    kind: z.enum(SECTION_KINDS as [SectionKind, ...SectionKind[]]),
    matter: z.enum(['front', 'body', 'back']),
    parent: z.string().nullable(),
    title: z.string(),
    subtitle: z.string(),
    numbered: z.boolean(),
    number: z.number().int().min(1).max(9999).nullable(),
    titled: z.boolean(),
    starts: z.enum(['usual', 'recto', 'verso', 'any']),
    listed: z.enum(['usual', 'yes', 'no']),
    leftOut: z.array(z.string()),
  })
  .partial();

const single = [
  z.object({ type: z.literal('text'), section: z.string(), steps: z.array(z.unknown()) }),
  z.object({
    type: z.literal('insert-section'),
    index: z.number().int().nonnegative(),
    section: z.unknown(),
  }),
  z.object({ type: z.literal('remove-section'), id: z.string() }),
  z.object({ type: z.literal('move-section'), id: z.string(), index: z.number().int().nonnegative() }),
  z.object({ type: z.literal('set-section'), id: z.string(), fields: sectionAttrs }),
  z.object({ type: z.literal('set-record'), fields: someOf(recordSchema) }),
  z.object({ type: z.literal('set-numbering'), fields: someOf(numberingSchema) }),
  z.object({
    type: z.literal('set-edition'),
    id: z.string(),
    fields: someOf(editionFields) as z.ZodType<EditionFields>,
  }),
  z.object({
    type: z.literal('insert-edition'),
    index: z.number().int().nonnegative(),
    edition: z.unknown(),
  }),
  z.object({ type: z.literal('remove-edition'), id: z.string() }),
  z.object({ type: z.literal('set-editions'), editions: editionsSchema }),
  z.object({ type: z.literal('set-cover'), fields: someOf(coverSchema) }),
  z.object({ type: z.literal('set-words'), words: z.array(z.string()) }),
  z.object({ type: z.literal('set-index-see'), see: z.array(indexSeeSchema) }),
  z.object({ type: z.literal('set-reading'), sha256: z.string() }),
  z.object({
    type: z.literal('set-accepted'),
    finding: z.string().min(1).max(2_000),
    /** Null where it no longer is. */
    as: acceptedSchema.nullable(),
  }),
  z.object({ type: z.literal('set-placing'), outlet: outletIdSchema, fields: someOf(placingSchema) }),
  z.object({
    type: z.literal('set-variant'),
    outlet: outletIdSchema,
    field: z.enum(VARIANT_FIELDS),
    /** Null for what the record says. */
    value: z.union([z.string(), z.array(z.string())]).nullable(),
  }),
  z.object({
    type: z.literal('set-tick'),
    outlet: outletIdSchema,
    field: z.string().min(1).max(60),
    /** Of the text that was entered; null where it isn't entered any more. */
    digest: z.string().max(100).nullable(),
  }),
  z.object({ type: z.literal('add-pictures'), pictures: z.array(pictureSchema) }),
  z.object({ type: z.literal('remove-pictures'), ids: z.array(z.string()) }),
  z.object({ type: z.literal('set-pictures'), pictures: z.array(pictureSchema) }),
] as const;

export type SingleChange = z.infer<(typeof single)[number]>;
export type Change = SingleChange | { type: 'group'; label: string; changes: Change[] };
export const changeSchema: z.ZodType<Change> = z.lazy(() =>
  z.union([
    ...single,
    z.object({ type: z.literal('group'), label: z.string(), changes: z.array(changeSchema) }),
  ]),
) as z.ZodType<Change>;

/** The change that puts another text in place of a section's own. */
export const textReplaced = (
  section: Pick<Section, 'id' | 'content'>,
  by: Node | Fragment,
): SingleChange => ({
  type: 'text',
  section: section.id,
  steps: [
    new ReplaceStep(
      0,
      section.content.content.size,
      new Slice(by instanceof Fragment ? by : by.content, 0, 0),
    ).toJSON(),
  ],
});

export interface Applied {
  book: Book;
  inverse: Change;
}

/** The sections whose text a change touches. */
export function touchedSections(change: Change): string[] {
  if (change.type === 'group') return [...new Set(change.changes.flatMap(touchedSections))];
  return change.type === 'text' ? [change.section] : [];
}

export function apply(book: Book, change: Change): Outcome<Applied> {
  switch (change.type) {
    case 'group':
      return applyGroup(book, change.label, change.changes);
    case 'text':
      return applyText(book, change.section, change.steps);
    case 'insert-section': {
      let section: Section;
      try {
        section = sectionFromJson(change.section as Parameters<typeof sectionFromJson>[0]);
      } catch (e) {
        return refused('change/section', `The section can’t be inserted: ${(e as Error).message}.`);
      }
      if (book.sections.some((s) => s.id === section.id))
        return refused('change/twice', 'That section is already in the book.');
      const sections = [...book.sections];
      sections.splice(Math.min(change.index, sections.length), 0, section);
      return done({ book: { ...book, sections }, inverse: { type: 'remove-section', id: section.id } });
    }
    case 'remove-section':
      return withSection(book, change.id, (section, index) => ({
        book: { ...book, sections: book.sections.filter((s) => s !== section) },
        inverse: { type: 'insert-section', index, section: sectionToJson(section) },
      }));
    case 'move-section':
      return withSection(book, change.id, (section, index) => {
        const sections = book.sections.filter((s) => s !== section);
        sections.splice(Math.min(change.index, sections.length), 0, section);
        return { book: { ...book, sections }, inverse: { type: 'move-section', id: change.id, index } };
      });
    case 'set-section':
      return withSection(book, change.id, (section) => ({
        book: replaceSection(book, { ...section, ...change.fields }),
        inverse: { type: 'set-section', id: change.id, fields: pickOld(section, change.fields) },
      }));
    case 'set-record':
      return done({
        book: { ...book, record: { ...book.record, ...change.fields } },
        inverse: { type: 'set-record', fields: pickOld(book.record, change.fields) },
      });
    case 'set-numbering':
      return done({
        book: { ...book, numbering: { ...book.numbering, ...change.fields } },
        inverse: { type: 'set-numbering', fields: pickOld(book.numbering, change.fields) },
      });
    case 'set-edition': {
      const edition = book.editions.find((e) => e.id === change.id);
      if (!edition) return refused('change/edition', 'That edition no longer exists.');
      const changed = editionWith(edition, change.fields);
      if (!changed)
        return refused('change/edition', `The ${inSentence(edition.name)} doesn’t have that setting.`);
      const editions = book.editions.map((e) => (e === edition ? changed : e));
      return done({
        book: { ...book, editions },
        inverse: { type: 'set-edition', id: change.id, fields: pickOld(edition, change.fields) },
      });
    }
    case 'insert-edition': {
      const edition = editionFrom(change.edition);
      if (!edition) return refused('change/edition', 'The edition can’t be added: it is not whole.');
      if (book.editions.some((e) => e.id === edition.id))
        return refused('change/twice', 'That edition is already there.');
      const editions = [...book.editions];
      editions.splice(Math.min(change.index, editions.length), 0, edition);
      return done({ book: { ...book, editions }, inverse: { type: 'remove-edition', id: edition.id } });
    }
    case 'remove-edition': {
      const index = book.editions.findIndex((e) => e.id === change.id);
      const edition = book.editions[index];
      if (!edition) return refused('change/edition', 'That edition no longer exists.');
      if (book.editions.length === 1) return refused('change/edition', 'A title has one edition at least.');
      return done({
        book: { ...book, editions: book.editions.filter((e) => e !== edition) },
        inverse: { type: 'insert-edition', index, edition },
      });
    }
    case 'set-editions':
      return done({
        book: { ...book, editions: change.editions },
        inverse: { type: 'set-editions', editions: [...book.editions] },
      });
    case 'set-cover':
      return done({
        book: { ...book, cover: { ...book.cover, ...change.fields } },
        inverse: { type: 'set-cover', fields: pickOld(book.cover, change.fields) },
      });
    case 'set-words':
      return done({
        book: { ...book, words: change.words },
        inverse: { type: 'set-words', words: [...book.words] },
      });
    case 'set-index-see':
      return done({
        book: { ...book, indexSee: change.see },
        inverse: { type: 'set-index-see', see: [...book.indexSee] },
      });
    case 'set-reading':
      return done({
        book: { ...book, reading: change.sha256 },
        inverse: { type: 'set-reading', sha256: book.reading },
      });
    case 'set-accepted': {
      const { finding, as } = change;
      const before = book.accepted.find((a) => a.finding === finding) ?? null;
      const others = book.accepted.filter((a) => a !== before);
      return done({
        book: { ...book, accepted: as ? [...others, { ...as, finding }] : others },
        inverse: { type: 'set-accepted', finding, as: before },
      });
    }
    case 'set-placing': {
      const now = placingAt(book, change.outlet);
      return done({
        book: withPlacing(book, change.outlet, { ...now, ...change.fields }),
        inverse: { type: 'set-placing', outlet: change.outlet, fields: pickOld(now, change.fields) },
      });
    }
    case 'set-variant': {
      const { outlet, field, value } = change;
      const now = placingAt(book, outlet);
      const variants = variantsSchema.safeParse(withKey(now.variants, field, value));
      if (!variants.success) return refused('change/variant', 'That text doesn’t fit the field.');
      return done({
        book: withPlacing(book, outlet, { ...now, variants: variants.data }),
        inverse: { type: 'set-variant', outlet, field, value: now.variants[field] ?? null },
      });
    }
    case 'set-tick': {
      const { outlet, field, digest } = change;
      const now = placingAt(book, outlet);
      const before = Object.hasOwn(now.ticked, field) ? (now.ticked[field] ?? null) : null;
      return done({
        book: withPlacing(book, outlet, { ...now, ticked: withKey(now.ticked, field, digest) }),
        inverse: { type: 'set-tick', outlet, field, digest: before },
      });
    }
    case 'add-pictures': {
      const fresh = change.pictures.filter((p) => !book.pictures.some((x) => x.id === p.id));
      return done({
        book: { ...book, pictures: [...book.pictures, ...fresh] },
        inverse: { type: 'remove-pictures', ids: fresh.map((p) => p.id) },
      });
    }
    case 'remove-pictures': {
      const gone = book.pictures.filter((p) => change.ids.includes(p.id));
      return done({
        book: { ...book, pictures: book.pictures.filter((p) => !gone.includes(p)) },
        inverse: { type: 'add-pictures', pictures: gone },
      });
    }
    // Written by earlier releases; what others added meanwhile would go with it.
    case 'set-pictures':
      return done({
        book: { ...book, pictures: change.pictures },
        inverse: { type: 'set-pictures', pictures: [...book.pictures] },
      });
  }
}

function applyGroup(book: Book, label: string, changes: readonly Change[]): Outcome<Applied> {
  let current = book;
  const inverses: Change[] = [];
  for (const c of changes) {
    const r = apply(current, c);
    if (!r.ok) return r;
    current = r.value.book;
    inverses.unshift(r.value.inverse);
  }
  return done({ book: current, inverse: { type: 'group', label, changes: inverses } });
}

function applyText(book: Book, id: string, stepsJson: readonly unknown[]): Outcome<Applied> {
  const section = book.sections.find((s) => s.id === id);
  if (!section) return refused('change/gone', 'The section has been deleted in the meantime.');
  let doc = section.content;
  const inverse: unknown[] = [];
  try {
    for (const json of stepsJson) {
      const step = Step.fromJSON(schema, json);
      inverse.unshift(step.invert(doc).toJSON());
      const result = step.apply(doc);
      if (!result.doc)
        return refused(
          'change/step',
          `The text has changed meanwhile: ${result.failed ?? 'it does not fit'}.`,
        );
      doc = result.doc;
    }
    doc.check();
  } catch (e) {
    return refused('change/step', `The change does not fit the text: ${(e as Error).message}.`);
  }
  return done({
    book: replaceSection(book, { ...section, content: doc }),
    inverse: { type: 'text', section: id, steps: inverse },
  });
}

function withSection(
  book: Book,
  id: string,
  f: (section: Section, index: number) => Applied,
): Outcome<Applied> {
  const index = book.sections.findIndex((s) => s.id === id);
  const section = book.sections[index];
  return section
    ? done(f(section, index))
    : refused('change/gone', 'The section has been deleted in the meantime.');
}

const replaceSection = (book: Book, section: Section): Book => ({
  ...book,
  sections: book.sections.map((s) => (s.id === section.id ? section : s)),
});

const withPlacing = (book: Book, outlet: string, placing: Placing): Book => ({
  ...book,
  placing: { ...book.placing, [outlet]: placing },
});

function pickOld<T extends object>(old: T, fields: object): Partial<T> {
  const out: Partial<T> = {};
  for (const key of Object.keys(fields) as (keyof T)[]) out[key] = old[key];
  return out;
}
