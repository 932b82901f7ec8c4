import { randomUUID } from 'node:crypto';
import * as z from 'zod';
import { acceptArrival, enqueue, markPutBack, readArrival } from '@pagina/data';
import { answer, problem } from '@/server/answer';
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

const again = z.object({ changes: z.enum(['accept', 'reject']) });

/** The same files read once more for a new title, with tracked changes taken for made or taken back. */
export const POST = titleRoute(async (request, s, { id }) => {
  const { changes } = await bodyOf(request, again, 'Say whether tracked changes are accepted or rejected.');
  const [main, ...beside] = (await readArrival(s, id))?.arrival.source ?? [];
  if (!main) return problem('The manuscript is no longer available. Import it again.', 404);
  const title = randomUUID();
  return answer({ job: await enqueue(s, 'read', { ...main, beside, changes, title }), title }, 202);
});
