import { bookToJson } from '@pagina/core/book';
import { bookAt } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { titleRoute } from '@/server/route';

/** The book as it was at a revision. */
export const GET = titleRoute<{ id: string; revision: string }>(async (_, s, { id, revision }) => {
  if (!/^\d{1,12}$/.test(revision)) return problem('That version doesn’t exist.', 404);
  const then = await bookAt(s, id, Number(revision));
  return then.ok ? answer({ book: bookToJson(then.value) }) : problem(then.refusal.message, 404);
});
