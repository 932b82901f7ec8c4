import { impressionOf, productsOf } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { titleRoute } from '@/server/route';

/** What a file shows, page by page. */
export const GET = titleRoute<{ id: string; product: string }>(async (_, s, { id, product }) => {
  const file = (await productsOf(s, id)).find((p) => p.id === product);
  const impression = file && (await impressionOf(s, file.impression));
  return impression
    ? answer(impression)
    : problem('What this file shows wasn’t kept: it was made by an earlier Pagina. Make it again.', 404);
});
