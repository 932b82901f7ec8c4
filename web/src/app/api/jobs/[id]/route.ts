import { readJob, stopJob } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const GET = route<{ id: string }>(async (_, { id }) => {
  const job = await readJob(await store(), id);
  return job ? answer(job) : problem('That job no longer exists.', 404);
});
export const DELETE = route<{ id: string }>(async (_, { id }) => {
  await stopJob(await store(), id);
  return answer({});
});
