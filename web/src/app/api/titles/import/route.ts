import { randomUUID } from 'node:crypto';
import { enqueue } from '@pagina/data';
import { answer } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';
import { besideOf, keepManuscript } from '@/server/upload';

/** A manuscript for a new title, with the files that came with it. Reading it is a job. */
export const POST = route(async (request) => {
  const s = await store();
  const beside = besideOf(request);
  const kept = await keepManuscript(s, request);
  const title = randomUUID();
  return answer({ job: await enqueue(s, 'read', { ...kept, beside, title }), title }, 202);
});
