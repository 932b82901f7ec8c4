/** What proofreaders leave behind: pages that were read, comments, and files that were signed off. */
import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import { done, refused, type Outcome } from '@pagina/core/base';
import {
  impressionSchema,
  type Comment,
  type CommentAbout,
  type Impression,
  type SignOff,
} from '@pagina/core/proof';
import { readStored } from './files';
import type { Store } from './open';
import { comments, products, readViews, signOffs, titles } from './schema';

/** Marks of an edition’s pages that were read. */
export async function readMarks(store: Store, title: string, edition: string): Promise<string[]> {
  const rows = await store.db
    .select({ mark: readViews.mark })
    .from(readViews)
    .where(and(eq(readViews.title, title), eq(readViews.edition, edition)));
  return rows.map((r) => r.mark);
}

/** Rows that go into one statement. */
const BATCH = 200;

/** Marks pages as read, or as unread again. */
export function markRead(
  store: Store,
  {
    title,
    edition,
    marks,
    read,
  }: { title: string; edition: string; marks: readonly string[]; read: boolean },
  actor = 'author',
): Promise<void> {
  const at = Date.now();
  return store.write(async (tx) => {
    for (let i = 0; i < marks.length; i += BATCH) {
      const some = marks.slice(i, i + BATCH);
      if (read)
        await tx
          .insert(readViews)
          .values(some.map((mark) => ({ title, edition, mark, actor, at })))
          .onConflictDoNothing();
      else
        await tx
          .delete(readViews)
          .where(
            and(eq(readViews.title, title), eq(readViews.edition, edition), inArray(readViews.mark, some)),
          );
    }
  });
}

/** Of every edition, oldest first. */
export async function commentsOf(store: Store, title: string): Promise<Comment[]> {
  const rows = await store.db
    .select()
    .from(comments)
    .where(eq(comments.title, title))
    .orderBy(asc(comments.at));
  return rows.map(({ title: _, ...c }) => ({ ...c, about: JSON.parse(c.about) as CommentAbout }));
}

/** Adds a comment, or an answer to one, once: an id that is known already is not added again. */
export function addComment(
  store: Store,
  c: { id: string; title: string; edition: string; answers: string; words: string; about: CommentAbout },
): Promise<void> {
  return store.write(async (tx) => {
    await tx
      .insert(comments)
      .values({ ...c, about: JSON.stringify(c.about), at: Date.now() })
      .onConflictDoNothing();
  });
}

/** Closes a comment, or opens it again. */
export function closeComment(store: Store, title: string, id: string, closed: boolean): Promise<void> {
  return store.write(async (tx) => {
    await tx
      .update(comments)
      .set({ closedAt: closed ? Date.now() : null })
      .where(and(eq(comments.title, title), eq(comments.id, id)));
  });
}

/** Newest first; those that were undone are left out. */
export async function signOffsOf(store: Store, title: string): Promise<SignOff[]> {
  const rows = await store.db
    .select()
    .from(signOffs)
    .where(and(eq(signOffs.title, title), isNull(signOffs.withdrawnAt)))
    .orderBy(desc(signOffs.at));
  return rows.map(({ title: _, withdrawnAt: __, ...s }) => s);
}

/** Errors: `title/gone`, `proof/changed` where the book or the file is no longer what was looked at. */
export function signOff(
  store: Store,
  title: string,
  of: Omit<SignOff, 'id' | 'at'>,
): Promise<Outcome<SignOff>> {
  return store.write(async (tx): Promise<Outcome<SignOff>> => {
    const [row] = await tx.select({ revision: titles.revision }).from(titles).where(eq(titles.id, title));
    if (!row) return refused('title/gone', 'This title no longer exists.');
    const [file] = await tx.select().from(products).where(eq(products.id, of.product));
    if (!file || file.title !== title || file.sha256 !== of.sha256 || row.revision !== of.revision)
      return refused('proof/changed', 'The book has changed since the file was made. Make it again.');
    const [known] = await tx
      .select()
      .from(signOffs)
      .where(and(eq(signOffs.product, of.product), isNull(signOffs.withdrawnAt)));
    if (known) return done(known);
    const signed = { ...of, id: randomUUID(), at: Date.now() };
    await tx.insert(signOffs).values({ ...signed, title });
    return done(signed);
  });
}

/** Undoes a sign-off. The file stays. */
export function withdrawSignOff(store: Store, title: string, id: string): Promise<void> {
  return store.write(async (tx) => {
    await tx
      .update(signOffs)
      .set({ withdrawnAt: Date.now() })
      .where(and(eq(signOffs.title, title), eq(signOffs.id, id), isNull(signOffs.withdrawnAt)));
  });
}

/** What a file shows; null where no impression was taken, or it can’t be read. */
export async function impressionOf(store: Store, sha256: string): Promise<Impression | null> {
  if (sha256 === '') return null;
  try {
    const json = gunzipSync(await readStored(store, sha256)).toString('utf8');
    return impressionSchema.parse(JSON.parse(json));
  } catch {
    return null;
  }
}
