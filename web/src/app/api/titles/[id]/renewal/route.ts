import { enqueue, readJob, readStored } from '@pagina/data';
import { answer, refuse } from '@/server/answer';
import { store } from '@/server/store';
import { keepManuscript } from '@/server/upload';

type Context = { params: Promise<{ id: string }> };

/** A manuscript for a title that is there already. Reading it is a job; nothing of the title changes by it. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const s = await store();
  const kept = await keepManuscript(s, request);
  if (kept instanceof Response) return kept;
  return answer({ job: await enqueue(s, 'reread', { ...kept, title: id }, id) }, 202);
}

/** What was read, by the job that read it. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const s = await store();
  const job = await readJob(s, new URL(request.url).searchParams.get('job') ?? '');
  const reading = job?.title === id ? (job.result as { reading?: string } | null)?.reading : undefined;
  if (!reading) return refuse('That manuscript is no longer at hand. Bring it in again.', 404);
  return answer(JSON.parse(new TextDecoder().decode(await readStored(s, reading))));
}
