import { bookToJson } from '@pagina/core/book';
import { bookAt } from '@pagina/data';
import { answer, refuse } from '@/server/answer';
import { titleRoute } from '@/server/route';

/** The book as it was at a revision. */
export const GET = titleRoute<{ id: string; revision: string }>(async (_, s, { id, revision }) => {
  if (!/^\d{1,12}$/.test(revision)) return refuse('That version does not exist.', 404);
  const then = await bookAt(s, id, Number(revision));
  return then.ok ? answer({ book: bookToJson(then.value) }) : refuse(then.refusal.message, 404);
});
