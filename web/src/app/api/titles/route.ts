import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import { defaultEditions, emptyContent, type Book, type Section } from '@pagina/core/book';
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
  const section = (id: string, kind: Section['kind'], matter: Section['matter']): Section => ({
    id,
    kind,
    matter,
    parent: null,
    title: '',
    subtitle: '',
    numbered: kind === 'chapter',
    leftOut: [],
    content: emptyContent(`${id}-1`),
  });
  const book: Book = {
    version: 1,
    id: randomUUID(),
    record: recordSchema.parse({ title: parsed.data.title.trim() }),
    sections: [
      section('s1', 'title-page', 'front'),
      section('s2', 'copyright-page', 'front'),
      section('s3', 'contents', 'front'),
      section('s4', 'chapter', 'body'),
    ],
    editions: defaultEditions(),
    pictures: [],
  };
  return answer({ title: await createTitle(await store(), book) }, 201);
}
