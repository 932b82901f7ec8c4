import * as z from 'zod';
import { changeSchema } from '@pagina/core/book';
import { changesSince, saveChange } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

/** Of a request; spaces separate them where they are kept. */
const name = z.string().regex(/^\S{1,40}$/);
const asked = z.object({
  base: z.number().int().nonnegative(),
  client: z.string().min(1).max(80),
  change: changeSchema,
  request: name.optional(),
  earlier: z.array(name).max(5_000).optional(),
  final: z.boolean().optional(),
});
/** A whole book may be pasted. */
const MOST_BYTES = 60_000_000;

export const GET = titleRoute(async (request, s, { id }) => {
  const since = Number(new URL(request.url).searchParams.get('since') ?? 0);
  if (!Number.isSafeInteger(since) || since < 0) return problem('The revision must be a number.');
  return answer({ changes: await changesSince(s, id, since) });
});

export const POST = titleRoute(async (request, s, { id }) => {
  const saved = await saveChange(
    s,
    id,
    await bodyOf(request, asked, 'The change can’t be read.', MOST_BYTES),
  );
  return saved.ok ? answer(saved.value) : problem(saved.refusal.message, 409);
});
