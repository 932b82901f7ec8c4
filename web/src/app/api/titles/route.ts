import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import { freshSection, newBook } from '@pagina/core/book';
import { recordSchema } from '@pagina/core/record';
import { withHouse } from '@pagina/core/outlets';
import { activeJobs, createTitle, imprintOf, listTitles } from '@pagina/data';
import { bookTitle } from '@/forms/lines';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

export const GET = route(async () => {
  const s = await store();
  return answer({
    titles: await listTitles(s),
    deleted: await listTitles(s, 'deleted'),
    jobs: (await activeJobs(s)).filter((j) => j.kind === 'read'),
  });
});

const blank = z.object({ title: bookTitle });

/** A new title from nothing: a title page, a copyright page and one chapter. */
export const POST = route(async (request) => {
  const { title } = await bodyOf(request, blank, 'Send the title of the book.');
  const kinds = ['title-page', 'copyright-page', 'contents', 'chapter'] as const;
  const id = randomUUID();
  const book = newBook(
    id,
    recordSchema.parse({ title }),
    kinds.map((kind, i) => freshSection(`s${i + 1}`, kind)),
  );
  const s = await store();
  const { house } = await imprintOf(s);
  return answer({ title: await createTitle(s, withHouse(book, house), id) }, 201);
});
