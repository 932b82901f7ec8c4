/** Titles: a row each with everything but the text, and a row a section. */
import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, inArray, isNull, sql } from 'drizzle-orm';
import * as z from 'zod';
import { countWords } from '@pagina/core/base';
import {
  bookFromJson,
  emptyContent,
  sectionToJson,
  type Arrival,
  type Book,
  type BookJson,
  type Placing,
  type Section,
} from '@pagina/core/book';
import type { ListingState } from '@pagina/core/outlets';
import { arrivals, listings, sections, titles } from './schema';
import type { Store, Tx } from './open';

/** All of a book but its texts; what is in it is for the book's own schema to say. */
const metaSchema = z.looseObject({
  version: z.literal(1),
  sections: z.array(z.record(z.string(), z.unknown())),
});

export interface TitleRow {
  id: string;
  name: string;
  author: string;
  words: number;
  sections: number;
  cover: string | null;
  /** How it stands in the outlets, by id; those where it isn't are left out. */
  places: Record<string, ListingState>;
  changedAt: number;
  deletedAt: number | null;
}
/** What the title's own row holds of a book: everything but its id and its texts. */
export const metaOf = ({ id: _id, sections: all, ...book }: Book): string =>
  JSON.stringify({ ...book, sections: all.map(({ content: _, ...s }) => s) });

export interface NewTitle {
  book: Book;
  id?: string;
  /** How its manuscript was read; null for one that begins blank. */
  arrival?: Arrival | null;
}

/** Writes a new title within a transaction; answers its id. */
export async function insertTitle(
  tx: Tx,
  { book, id = randomUUID(), arrival = null }: NewTitle,
): Promise<string> {
  const now = Date.now();
  await tx
    .insert(titles)
    .values({ id, meta: metaOf(book), words: wordsOf(book.sections), createdAt: now, changedAt: now });
  await writeSections(tx, id, book.sections);
  if (arrival) await tx.insert(arrivals).values({ title: id, arrival: JSON.stringify(arrival) });
  return id;
}
export const createTitle = (
  store: Store,
  book: Book,
  id?: string,
  arrival: Arrival | null = null,
): Promise<string> => store.write((tx) => insertTitle(tx, { book, id, arrival }));

export async function writeSections(tx: Tx, title: string, list: readonly Section[]): Promise<void> {
  for (let i = 0; i < list.length; i += 100)
    await tx
      .insert(sections)
      .values(
        list
          .slice(i, i + 100)
          .map((s) => ({ title, id: s.id, content: JSON.stringify(sectionToJson(s).content) })),
      )
      .onConflictDoUpdate({ target: [sections.title, sections.id], set: { content: sql`excluded.content` } });
}

export const wordsOf = (list: readonly Section[]): number =>
  list.reduce((n, s) => n + countWords(s.content.textBetween(0, s.content.content.size, ' ', ' ')), 0);

export async function listTitles(store: Store, which: 'kept' | 'deleted' = 'kept'): Promise<TitleRow[]> {
  const rows = await store.db
    .select()
    .from(titles)
    .where(which === 'kept' ? isNull(titles.deletedAt) : gt(titles.deletedAt, 0))
    .orderBy(desc(titles.changedAt));
  const there = await store.db
    .select({ title: listings.title, outlet: listings.outlet, state: listings.state })
    .from(listings);
  return rows.map((r) => {
    const meta = JSON.parse(r.meta) as BookJson;
    const cover = meta.pictures?.find((p) => p.id === meta.record.cover);
    const author = (meta.record.contributors ?? [])
      .filter((c) => c.role === 'author')
      .map((c) => c.name)
      .join(', ');
    return {
      id: r.id,
      name: meta.record.title ?? '',
      author,
      words: r.words,
      sections: meta.sections.length,
      cover: cover?.sha256 ?? null,
      places: {
        ...byHand(meta),
        ...Object.fromEntries(
          there.filter((l) => l.title === r.id).map((l) => [l.outlet, l.state as ListingState]),
        ),
      },
      changedAt: r.changedAt,
      deletedAt: r.deletedAt,
    };
  });
}

/** Where the author entered it by hand. */
const byHand = ({ placing }: BookJson): Record<string, ListingState> =>
  Object.fromEntries(
    Object.entries((placing ?? {}) as Record<string, Partial<Placing>>).flatMap(([outlet, p]) =>
      p.chosen && p.state && p.state !== 'waiting' ? [[outlet, p.state]] : [],
    ),
  );

export async function setDeleted(store: Store, id: string, deleted: boolean): Promise<void> {
  await store.write((tx) =>
    tx
      .update(titles)
      .set({ deletedAt: deleted ? Date.now() : null })
      .where(eq(titles.id, id)),
  );
}

/** The book with its revision; null when there is no such title. `only` limits which sections' text is read. */
export async function load(
  tx: Tx | Store['db'],
  id: string,
  only: readonly string[] | null,
): Promise<{ book: Book; revision: number } | null> {
  const [row] = await tx.select().from(titles).where(eq(titles.id, id));
  if (!row) return null;
  const meta = metaSchema.parse(JSON.parse(row.meta));
  const texts = new Map<string, unknown>();
  if (!only || only.length > 0) {
    const rows = await tx
      .select()
      .from(sections)
      .where(only ? and(eq(sections.title, id), inArray(sections.id, [...only])) : eq(sections.title, id));
    for (const r of rows) texts.set(r.id, JSON.parse(r.content));
  }
  const blank = emptyContent('').toJSON() as unknown;
  const read = bookFromJson({
    ...meta,
    id,
    sections: meta.sections.map((s) => ({ ...s, content: texts.get(s.id as string) ?? blank })),
  });
  if (!read.ok) throw new Error(read.refusal.message);
  return { book: read.value, revision: row.revision };
}

/** A book without its texts, which take long to read and are not always needed. */
export const readTitleBare = (store: Store, id: string): Promise<{ book: Book; revision: number } | null> =>
  load(store.db, id, []);
export const readTitle = (store: Store, id: string): Promise<{ book: Book; revision: number } | null> =>
  load(store.db, id, null);

/** The revision a title stands at; null when there is no such title. */
export async function revisionOf(store: Store, id: string): Promise<number | null> {
  const [row] = await store.db.select({ revision: titles.revision }).from(titles).where(eq(titles.id, id));
  return row?.revision ?? null;
}

/** The book for a browser: its JSON as it stands in the database, neither parsed nor written again on the way. */
export async function readTitleJson(
  store: Store,
  id: string,
): Promise<{ book: string; revision: number } | null> {
  const [row] = await store.db.select().from(titles).where(eq(titles.id, id));
  if (!row) return null;
  const texts = new Map(
    (await store.db.select().from(sections).where(eq(sections.title, id))).map((r) => [r.id, r.content]),
  );
  const { sections: list, ...meta } = metaSchema.parse(JSON.parse(row.meta));
  const written = list.map((s) => {
    const content = texts.get(s.id as string);
    return content === undefined
      ? JSON.stringify(s)
      : `${JSON.stringify({ ...s, content: null }).slice(0, -'null}'.length)}${content}}`;
  });
  return {
    book: `${JSON.stringify({ ...meta, id }).slice(0, -1)},"sections":[${written.join(',')}]}`,
    revision: row.revision,
  };
}
