import * as z from 'zod';
import { commentAboutSchema } from '@pagina/core/proof';
import { addComment, closeComment } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

const added = z.object({
  id: z.string().min(8).max(64),
  edition: z.string().max(200),
  answers: z.string().max(64),
  words: z.string().trim().min(1).max(5_000),
  about: commentAboutSchema,
});
/** Adds a comment, or an answer to one. */
export const POST = titleRoute(async (request, s, { id }) => {
  const c = await bodyOf(request, added, 'Write the comment first. It may have up to 5,000 characters.');
  await addComment(s, { ...c, title: id });
  return answer({}, 201);
});

const closing = z.object({ id: z.string().max(64), closed: z.boolean() });
export const PATCH = titleRoute(async (request, s, { id }) => {
  const { id: comment, closed } = await bodyOf(request, closing, 'Say which comment is closed.');
  await closeComment(s, id, comment, closed);
  return answer({});
});
