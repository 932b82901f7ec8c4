import * as z from 'zod';
import { jobsOf, productsOf, readTitleJson, setDeleted } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { isLocal } from '@/server/local';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };

export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const s = await store();
  const title = await readTitleJson(s, id);
  if (!title) return refuse('There is no such title.', 404);
  const rest = JSON.stringify({
    revision: title.revision,
    jobs: await jobsOf(s, id),
    products: await productsOf(s, id),
  });
  const response = new Response(`{"book":${title.book},${rest.slice(1)}`, {
    headers: { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' },
  });
  // A long book is megabytes: on one's own machine compressing it takes longer than sending it.
  if (isLocal(request.headers.get('host') ?? ''))
    response.headers.set('Cache-Control', 'no-store, no-transform');
  return response;
}

export async function PATCH(request: Request, { params }: Context): Promise<Response> {
  const parsed = z.object({ deleted: z.boolean() }).safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Say whether the title is deleted.');
  await setDeleted(await store(), (await params).id, parsed.data.deleted);
  return answer({});
}
