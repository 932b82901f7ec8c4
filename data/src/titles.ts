/**
 * Titles and their log. Whatever is done to a book goes through `saveChange`: the change is applied to the book as it
 * stands, and change, inverse and new state are written in one short transaction.
 *
 * A client says on which revision its change stands. Structure changes are values ("this title is now X") and apply to
 * any later state or are refused in a sentence. Text steps stand on an exact text: where others have changed that
 * section since, the client is told what they did, moves its steps over it and sends again; a client that is going
 * away (`final`) has its steps moved here.
 */
import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, gt, inArray, isNull, lte, notInArray, sql, type SQL } from 'drizzle-orm';
import * as z from 'zod';
import { countWords, done, refused, type Outcome } from '@pagina/core/base';
import {
  apply,
  bookFromJson,
  emptyContent,
  moveSteps,
  sectionToJson,
  settling,
  singles,
  touchedSections,
  undoing,
  type Arrival,
  type Book,
  type BookJson,
  type Change,
  type Section,
} from '@pagina/core/book';
import { storedSize } from './files';
import { arrivals, changes, sections, titles } from './schema';
import type { Store, Tx } from './open';

const metaSchema = z.object({
  version: z.literal(1),
  record: z.unknown(),
  sections: z.array(z.record(z.string(), z.unknown())),
  numbering: z.unknown().optional(),
  editions: z.unknown(),
  pictures: z.unknown(),
  cover: z.unknown().optional(),
  words: z.unknown().optional(),
});

export interface TitleRow {
  id: string;
  name: string;
  author: string;
  words: number;
  sections: number;
  cover: string | null;
  changedAt: number;
  deletedAt: number | null;
}
export interface LoggedChange {
  revision: number;
  client: string;
  /** Names of the requests that brought it. */
  requests: string[];
  change: Change;
}
export type SaveAnswer =
  { revision: number; change: Change; lost: number } | { behind: LoggedChange[]; revision: number };

const metaOf = (book: Book): string =>
  JSON.stringify({
    version: book.version,
    record: book.record,
    numbering: book.numbering,
    sections: book.sections.map(({ content: _, ...s }) => s),
    editions: book.editions,
    pictures: book.pictures,
    cover: book.cover,
    words: book.words,
  });

/** Ids of sections whose text a change needs. */
function sectionsNeeded(change: Change): string[] {
  if (change.type === 'group') return change.changes.flatMap(sectionsNeeded);
  if (change.type === 'text') return [change.section];
  return change.type === 'remove-section' ? [change.id] : [];
}
const labelOf = (c: Change): string =>
  c.type === 'group' ? c.label : c.type === 'text' ? 'Typing' : 'Change';

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

async function writeSections(tx: Tx, title: string, list: readonly Section[]): Promise<void> {
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

const wordsOf = (list: readonly Section[]): number =>
  list.reduce((n, s) => n + countWords(s.content.textBetween(0, s.content.content.size, ' ', ' ')), 0);

export async function listTitles(store: Store, which: 'kept' | 'deleted' = 'kept'): Promise<TitleRow[]> {
  const rows = await store.db
    .select()
    .from(titles)
    .where(which === 'kept' ? isNull(titles.deletedAt) : gt(titles.deletedAt, 0))
    .orderBy(desc(titles.changedAt));
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
      changedAt: r.changedAt,
      deletedAt: r.deletedAt,
    };
  });
}

export async function setDeleted(store: Store, id: string, deleted: boolean): Promise<void> {
  await store.write((tx) =>
    tx
      .update(titles)
      .set({ deletedAt: deleted ? Date.now() : null })
      .where(eq(titles.id, id)),
  );
}

/** The book with its revision; null when there is no such title. `only` limits which sections' text is read. */
async function load(
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

export const readTitle = (store: Store, id: string): Promise<{ book: Book; revision: number } | null> =>
  load(store.db, id, null);

/** The revision a title stands at; null when there is no such title. */
export async function revisionOf(store: Store, id: string): Promise<number | null> {
  const [row] = await store.db.select({ revision: titles.revision }).from(titles).where(eq(titles.id, id));
  return row?.revision ?? null;
}

/** The book for a browser: its JSON as it stands in the database, neither parsed nor written anew on the way. */
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

export async function changesSince(
  store: Store | Tx | Store['db'],
  id: string,
  revision: number,
): Promise<LoggedChange[]> {
  const db = 'db' in store ? store.db : store;
  const rows = await db
    .select()
    .from(changes)
    .where(and(eq(changes.title, id), gt(changes.revision, revision)))
    .orderBy(asc(changes.revision));
  return rows.map((r) => ({
    revision: r.revision,
    client: r.client,
    requests: r.requests.split(' '),
    change: JSON.parse(r.change) as Change,
  }));
}

/** Text steps of a section in a list of changes, in order. */
function stepsIn(list: readonly LoggedChange[], section: string): unknown[] {
  const of = (c: Change): unknown[] =>
    c.type === 'group' ? c.changes.flatMap(of) : c.type === 'text' && c.section === section ? c.steps : [];
  return list.flatMap((l) => of(l.change));
}

export interface SaveRequest {
  base: number;
  change: Change;
  client: string;
  /** The person who does it. */
  actor?: string;
  /** Its name, and those of earlier requests of unknown fate that held the first of the same steps. */
  request?: string;
  earlier?: readonly string[];
  /** The client cannot answer any more: move its steps here rather than send it what it missed. */
  final?: boolean;
}

/**
 * Saves a change on top of what has been saved since `base`. Typing that others' typing is in the way of is answered with
 * what it missed; so is typing that is here already, since its answer was lost. Errors: `title/gone` and what `apply` refuses.
 */
export function saveChange(
  store: Store,
  id: string,
  { base, change, client, actor = AUTHOR, final, request, earlier = [] }: SaveRequest,
): Promise<Outcome<SaveAnswer>> {
  const own = request === undefined ? [] : [request, ...earlier];
  return store.write(async (tx): Promise<Outcome<SaveAnswer>> => {
    const touched = touchedSections(change);
    let moved = change;
    let lost = 0;
    if (touched.length > 0) {
      const since = await changesSince(tx, id, base);
      const inTheWay = since.filter((l) => touched.some((s) => stepsIn([l], s).length > 0));
      if (inTheWay.length > 0) {
        const behind = done({ behind: since, revision: since.at(-1)?.revision ?? base });
        if (!final || change.type !== 'text') return behind;
        const over = moveOver(change.steps, inTheWay, change.section, own);
        if (over.steps.length === 0) return behind;
        lost = over.lost;
        moved = { ...change, steps: over.steps };
      }
    }
    const missing = await missingFile(store, change);
    if (missing) return missing;
    const saved = await write(tx, id, moved, { client, actor, requests: own });
    return saved.ok ? done({ ...saved.value, lost }) : saved;
  });
}

/** A refusal where a change adds a picture whose file is not in the store. */
async function missingFile(store: Store, change: Change): Promise<Outcome<never> | null> {
  for (const c of singles(change)) {
    if (c.type !== 'add-pictures' && c.type !== 'set-pictures') continue;
    for (const p of c.pictures)
      if (p.sha256 && (await storedSize(store, p.sha256)) === null)
        return refused('picture/missing', 'The picture’s file did not arrive. Add the picture again.');
  }
  return null;
}

/** Steps over what is in their way; of those that came by one of the requests `own` the first ones are there already. */
function moveOver(
  steps: readonly unknown[],
  inTheWay: readonly LoggedChange[],
  section: string,
  own: readonly string[],
): { steps: unknown[]; lost: number } {
  let left = [...steps];
  let lost = 0;
  for (const l of inTheWay) {
    const theirs = stepsIn([l], section);
    if (l.requests.some((r) => own.includes(r))) left = left.slice(theirs.length);
    else {
      const moved = moveSteps(
        left,
        theirs.map((step) => ({ step })),
      );
      left = moved.steps;
      lost += moved.lost;
    }
  }
  return { steps: left, lost };
}

/** Who does a change, and what it stands for in the log. */
interface Entry {
  client: string;
  actor: string;
  requests?: readonly string[];
  undoes?: number;
  redoes?: number;
}

async function write(
  tx: Tx,
  id: string,
  asked: Change,
  { client, actor, requests = [], undoes, redoes }: Entry,
): Promise<Outcome<{ revision: number; change: Change }>> {
  const loaded = await load(tx, id, sectionsNeeded(asked));
  if (!loaded) return gone();
  const tried = apply(loaded.book, asked);
  if (!tried.ok) return tried;
  // Two moves from two windows can contradict each other: what settles them is part of the change.
  const settled = settling(tried.value.book);
  const change: Change =
    settled.length === 0
      ? asked
      : { type: 'group', label: labelOf(asked), changes: [...partsOf(asked), ...settled] };
  const applied = settled.length === 0 ? tried : apply(loaded.book, change);
  if (!applied.ok) return applied;
  const { book, inverse } = applied.value;
  const before = new Map(loaded.book.sections.map((s) => [s.id, s]));
  const changed = book.sections.filter((s) => before.get(s.id)?.content !== s.content);
  const removed = loaded.book.sections.filter((s) => !book.sections.some((b) => b.id === s.id));
  await writeSections(tx, id, changed);
  for (const s of removed)
    await tx.delete(sections).where(and(eq(sections.title, id), eq(sections.id, s.id)));
  const revision = loaded.revision + 1;
  const now = Date.now();
  const words = wordsOf(changed) - wordsOf(changed.flatMap((s) => before.get(s.id) ?? [])) - wordsOf(removed);
  await tx
    .update(titles)
    .set({ meta: metaOf(book), revision, words: sql`${titles.words} + ${words}`, changedAt: now })
    .where(eq(titles.id, id));
  await tx.insert(changes).values({
    title: id,
    revision,
    client,
    actor,
    requests: requests.join(' '),
    change: JSON.stringify(change),
    inverse: JSON.stringify(inverse),
    label: labelOf(change),
    at: now,
    undoes,
    redoes,
  });
  return done({ revision, change });
}
const gone = (): Outcome<never> => refused('title/gone', 'This title no longer exists.');
const partsOf = (c: Change): Change[] => (c.type === 'group' ? c.changes : [c]);

export interface UndoRequest {
  client: string;
  actor?: string;
  redo?: boolean;
  /** The latest revision that the client knew of: what came after is not what it meant. */
  known?: number;
  /** Clients that are open elsewhere: what they did is theirs to undo. */
  others?: readonly string[];
}

type Row = typeof changes.$inferSelect;

/**
 * Undoes the person's last change that is not undone, leaving out what was done in other windows that are still open.
 * `redo` redoes the last one undone, unless something new was done since. What others did in between
 * stays. Answers null when there is nothing to do. It works over reloads, since it reads the log.
 */
export function undo(
  store: Store,
  id: string,
  { client, actor = AUTHOR, redo = false, known, others = [] }: UndoRequest,
): Promise<Outcome<{ revision: number; change: Change; label: string } | null>> {
  return store.write(async (tx) => {
    const own = and(
      eq(changes.actor, actor),
      others.length > 0 ? notInArray(changes.client, [...others]) : undefined,
      known === undefined ? undefined : lte(changes.revision, known),
    );
    const row = await target(tx, id, redo, own);
    if (!row) return done(null);
    const later = await tx
      .select({
        revision: changes.revision,
        change: changes.change,
        undoes: changes.undoes,
        redoes: changes.redoes,
      })
      .from(changes)
      .where(and(eq(changes.title, id), gt(changes.revision, row.revision)))
      .orderBy(asc(changes.revision));
    const change = JSON.parse(row.change) as Change;
    const inverse = JSON.parse(row.inverse) as Change;
    const needed = [...sectionsNeeded(inverse), ...sectionsNeeded(change)];
    const loaded = await load(tx, id, needed);
    if (!loaded) return gone();
    const log = later.map((l) => ({
      revision: l.revision,
      change: JSON.parse(l.change) as Change,
      reverses: l.undoes ?? l.redoes,
    }));
    const back = undoing(loaded.book, change, inverse, log);
    if (!back.ok) return back;
    const saved = await write(tx, id, back.value, {
      client,
      actor,
      ...(redo ? { redoes: row.revision } : { undoes: row.revision }),
    });
    if (!saved.ok) return saved;
    await tx
      .update(changes)
      .set({ undone: 1 })
      .where(and(eq(changes.title, id), eq(changes.revision, row.revision)));
    return done({ ...saved.value, label: row.label });
  });
}
/** The row that undo or redo is about, of a person's own. */
async function target(tx: Tx, title: string, redo: boolean, own: SQL | undefined): Promise<Row | undefined> {
  const last = async (more: SQL | undefined): Promise<Row | undefined> =>
    (
      await tx
        .select()
        .from(changes)
        .where(and(eq(changes.title, title), own, more))
        .orderBy(desc(changes.revision))
        .limit(1)
    )[0];
  if (!redo) return last(and(isNull(changes.undoes), eq(changes.undone, 0)));
  const undoneLast = await last(and(gt(changes.undoes, 0), eq(changes.undone, 0)));
  // Anything new closes the way forward, for good: also when it has been undone itself since.
  const newest = await last(and(isNull(changes.undoes), isNull(changes.redoes)));
  return undoneLast && newest && newest.revision > undoneLast.revision ? undefined : undoneLast;
}
/** The one person who uses the program so far. */
export const AUTHOR = 'author';
