import * as z from 'zod';
import { allowOffers, refusalsOf, refuseOffers } from '@pagina/data';
import { answer, bodyOf, refuse } from '@/server/answer';
import { store } from '@/server/store';

/** Offers of the tidying that the author does not want. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer({ keys: await refusalsOf(await store(), (await params).id) });
}

const asked = z.object({
  keys: z.array(z.string().min(1).max(2_000)).max(5_000),
  again: z.boolean().default(false),
});

export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const parsed = asked.safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Nothing was named that could be refused.');
  const { id } = await params;
  const s = await store();
  await (parsed.data.again ? allowOffers : refuseOffers)(s, id, parsed.data.keys);
  return answer({ keys: await refusalsOf(s, id) });
}
