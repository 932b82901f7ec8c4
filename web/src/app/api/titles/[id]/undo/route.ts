import * as z from 'zod';
import { undo } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

const client = z.string().min(1).max(80);
const asked = z.object({
  client,
  redo: z.boolean().default(false),
  known: z.number().int().nonnegative().optional(),
  others: z.array(client).max(500).optional(),
});

export const POST = titleRoute(async (request, s, { id }) => {
  const done = await undo(s, id, await bodyOf(request, asked, 'Undo needs to know who asks.'));
  return done.ok ? answer({ undone: done.value }) : problem(done.refusal.message, 409);
});
