import * as z from 'zod';
import { enqueue, jobsOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

const asked = z.object({ edition: z.string().min(1).max(200) });

/** Has an edition made. While it is being made already, that job is answered. */
export const POST = titleRoute(async (request, s, { id }) => {
  const payload = await bodyOf(request, asked, 'Say which edition to make.');
  const waiting = (await jobsOf(s, id)).find(
    (j) =>
      (j.state === 'queued' || j.state === 'running') &&
      (j.payload as { edition?: string }).edition === payload.edition,
  );
  return answer({ job: waiting?.id ?? (await enqueue(s, 'make', payload, id)) }, 202);
});
