import * as z from 'zod';
import { undo } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const parsed = z
    .object({ client: z.string().min(1).max(80), redo: z.boolean().default(false) })
    .safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Undo needs to know who asks.');
  const done = await undo(await store(), (await params).id, parsed.data.client, parsed.data.redo);
  return done.ok ? answer({ undone: done.value }) : refuse(done.refusal.message, 409);
}
