import * as z from 'zod';
import { wantNews } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { outletDay } from '@/server/desk';
import { store } from '@/server/store';
import { route } from '@/server/route';

const asked = z.object({ days: z.number().positive().max(365) });

/** Moves the stand-in shop's clock forward. */
export const POST = route(async (request) => {
  const { days } = await bodyOf(request, asked, 'Say by how many days, up to 365.');
  const day = await outletDay(days);
  if (day !== null) await wantNews(await store());
  return day === null ? problem('The shop can’t be reached.', 502) : answer({ day });
});
