import * as z from 'zod';
import { enqueue, jobsOf } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

/** Has an edition made. While it is being made already, that job is answered. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const parsed = z.object({ edition: z.string().min(1) }).safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Say which edition to make.');
  const { id } = await params;
  const s = await store();
  const waiting = (await jobsOf(s, id)).find(
    (j) =>
      (j.state === 'queued' || j.state === 'running') &&
      (j.payload as { edition?: string }).edition === parsed.data.edition,
  );
  return answer({ job: waiting?.id ?? (await enqueue(s, 'make', parsed.data, id)) }, 202);
}
