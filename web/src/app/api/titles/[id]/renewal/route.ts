import { enqueue, readJob, readStored } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { titleRoute } from '@/server/route';
import { keepManuscript } from '@/server/upload';

/** A manuscript for a title that exists already. Reading it is a job; nothing of the title changes by it. */
export const POST = titleRoute(async (request, s, { id }) => {
  const kept = await keepManuscript(s, request);
  return answer({ job: await enqueue(s, 'reread', { ...kept, title: id }, id) }, 202);
});

/** What was read, by the job that read it. */
export const GET = titleRoute(async (request, s, { id }) => {
  const job = await readJob(s, new URL(request.url).searchParams.get('job') ?? '');
  const reading = job?.title === id ? (job.result as { reading?: string } | null)?.reading : undefined;
  if (!reading) return problem('That manuscript is no longer available. Import it again.', 404);
  return answer(JSON.parse(new TextDecoder().decode(await readStored(s, reading))));
});
