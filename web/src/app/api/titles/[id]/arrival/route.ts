import * as z from 'zod';
import { acceptArrival, markPutBack, readArrival } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

/** How the title's manuscript was read; null for a title that began blank. */
export const GET = titleRoute(async (_, s, { id }) => answer(await readArrival(s, id)));

const asked = z.union([
  z.object({ accept: z.literal(true) }),
  z.object({ back: z.number().int().nonnegative() }),
]);

export const PATCH = titleRoute(async (request, s, { id }) => {
  const wanted = await bodyOf(request, asked, 'Say what to accept or put back.');
  if ('accept' in wanted) await acceptArrival(s, id);
  else await markPutBack(s, id, wanted.back);
  return answer(await readArrival(s, id));
});
