import { readJob, stopJob } from '@pagina/data';
import { answer, refuse } from '@/server/answer';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };

export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const job = await readJob(await store(), (await params).id);
  return job ? answer(job) : refuse('There is no such work.', 404);
}
export async function DELETE(_request: Request, { params }: Context): Promise<Response> {
  await stopJob(await store(), (await params).id);
  return answer({});
}
