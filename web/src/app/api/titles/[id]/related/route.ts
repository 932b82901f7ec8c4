import * as z from 'zod';
import { RELATIONS } from '@pagina/core/record';
import { nameIn, relativesOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** The other titles, each with what it is called and sold by, and the titles that it names. */
export const GET = titleRoute(async (_, s, { id }) => answer({ titles: await relativesOf(s, id) }));

const asked = z.object({
  others: z.array(z.object({ title: z.string(), relation: z.enum(RELATIONS).nullable() })).max(1_000),
});

/** Names this title in the records of others; `relation` is what each is to this one, null where it names it no longer. */
export const PUT = titleRoute(async (request, s, { id }) => {
  const { others } = await bodyOf(request, asked, 'Say which titles, and what they are to this one.');
  let changed = 0;
  for (const { title, relation } of others) if (await nameIn(s, title, id, relation)) changed++;
  return answer({ changed });
});
