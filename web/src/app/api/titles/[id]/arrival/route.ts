import * as z from 'zod';
import { acceptArrival, markPutBack, readArrival } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

/** How the title's manuscript was read; null for a title that began blank. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(await readArrival(await store(), (await params).id));
}

const asked = z.union([
  z.object({ accept: z.literal(true) }),
  z.object({ back: z.number().int().nonnegative() }),
]);

export async function PATCH(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const parsed = asked.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Nothing was asked for that can be done here.');
  const { id } = await params;
  const s = await store();
  if ('accept' in parsed.data) await acceptArrival(s, id);
  else await markPutBack(s, id, parsed.data.back);
  return answer(await readArrival(s, id));
}
