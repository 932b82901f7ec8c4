import * as z from 'zod';
import { accountsOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { deskAddress, outletDay } from '@/server/desk';
import { goingFrom } from '@/server/parcels';
import { titleRoute } from '@/server/route';
import { sendTo } from '@/server/sending';

export const dynamic = 'force-dynamic';

/** `?going` answers what would go where, and nothing else. */
export const GET = titleRoute(async (request, s, { id }) => {
  if (new URL(request.url).searchParams.has('going')) return answer({ going: await goingFrom(s, id) });
  const [accounts, day] = await Promise.all([accountsOf(s), outletDay()]);
  return answer({ accounts, day, desk: deskAddress() });
});

const asked = z.object({
  outlet: z.string(),
  edition: z.string(),
  product: z.string().optional(),
  unsigned: z.boolean().optional(),
  details: z.boolean().optional(),
  withdraw: z.boolean().optional(),
});

/** Sends an ebook to an outlet. */
export const POST = titleRoute(async (request, s, { id }) =>
  answer(await sendTo(s, id, await bodyOf(request, asked, 'Say which edition goes to which outlet.')), 202),
);
