import * as z from 'zod';
import { changeSchema } from '@pagina/core/book';
import { changesSince, saveChange } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

type Context = { params: Promise<{ id: string }> };
/** Of a request; spaces part them where they are kept. */
const name = z.string().regex(/^\S{1,40}$/);
const saveRequest = z.object({
  base: z.number().int().nonnegative(),
  client: z.string().min(1).max(80),
  change: changeSchema,
  request: name.optional(),
  earlier: z.array(name).max(5_000).optional(),
  final: z.boolean().optional(),
});

export async function GET(request: Request, { params }: Context): Promise<Response> {
  const since = Number(new URL(request.url).searchParams.get('since') ?? 0);
  return answer({ changes: await changesSince(await store(), (await params).id, since) });
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const parsed = saveRequest.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('The change cannot be read.');
  const saved = await saveChange(await store(), (await params).id, parsed.data);
  return saved.ok ? answer(saved.value) : refuse(saved.refusal.message, 409);
}
