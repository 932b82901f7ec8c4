import * as z from 'zod';
import { jobsOf, productsOf, readTitleJson, setDeleted } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };

export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const s = await store();
  const title = await readTitleJson(s, id);
  if (!title) return refuse('There is no such title.', 404);
  const rest = JSON.stringify({
    revision: title.revision,
    jobs: await jobsOf(s, id),
    products: await productsOf(s, id),
  });
  return new Response(`{"book":${title.book},${rest.slice(1)}`, {
    headers: { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' },
  });
}

export async function PATCH(request: Request, { params }: Context): Promise<Response> {
  const parsed = z.object({ deleted: z.boolean() }).safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Say whether the title is deleted.');
  await setDeleted(await store(), (await params).id, parsed.data.deleted);
  return answer({});
}
