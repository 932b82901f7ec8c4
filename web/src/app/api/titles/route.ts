import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import { freshSection, newBook } from '@pagina/core/book';
import { recordSchema } from '@pagina/core/record';
import { activeJobs, createTitle, listTitles } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

export async function GET(): Promise<Response> {
  const s = await store();
  return answer({
    titles: await listTitles(s),
    deleted: await listTitles(s, 'deleted'),
    jobs: (await activeJobs(s)).filter((j) => j.kind === 'read'),
  });
}

const blank = z.object({ title: z.string().max(400) });

/** A new title from nothing: a title page, a copyright page and one chapter. */
export async function POST(request: Request): Promise<Response> {
  const parsed = blank.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('A new title needs a name.');
  const kinds = ['title-page', 'copyright-page', 'contents', 'chapter'] as const;
  const book = newBook(
    randomUUID(),
    recordSchema.parse({ title: parsed.data.title.trim() }),
    kinds.map((kind, i) => freshSection(`s${i + 1}`, kind)),
  );
  return answer({ title: await createTitle(await store(), book) }, 201);
}
