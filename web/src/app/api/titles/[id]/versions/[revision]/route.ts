import { bookToJson } from '@pagina/core/book';
import { bookAt } from '@pagina/data';
import { answer, refuse } from '@/server/answer';
import { store } from '@/server/store';

/** The book as it was at a revision. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; revision: string }> },
): Promise<Response> {
  const { id, revision } = await params;
  const then = await bookAt(await store(), id, Number(revision));
  return then.ok ? answer({ book: bookToJson(then.value) }) : refuse(then.refusal.message, 404);
}
