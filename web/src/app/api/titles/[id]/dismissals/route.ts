import * as z from 'zod';
import { allowOffers, dismissalsOf, dismissOffers } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

/** Offers of the tidying that the author does not want. */
export const GET = titleRoute(async (_, s, { id }) => answer({ keys: await dismissalsOf(s, id) }));

const asked = z.object({
  keys: z.array(z.string().min(1).max(2_000)).max(5_000),
  again: z.boolean().default(false),
});
const MOST_BYTES = 12_000_000;

export const POST = titleRoute(async (request, s, { id }) => {
  const { keys, again } = await bodyOf(request, asked, 'Name the suggestions to dismiss.', MOST_BYTES);
  await (again ? allowOffers : dismissOffers)(s, id, keys);
  return answer({ keys: await dismissalsOf(s, id) });
});
