import * as z from 'zod';
import { answer, bodyOf, refuse } from '@/server/answer';
import { outletDay } from '@/server/outlet';

/** Moves the stand-in shop's clock forward. */
export async function POST(request: Request): Promise<Response> {
  const parsed = z.object({ days: z.number().positive().max(365) }).safeParse(await bodyOf(request));
  if (!parsed.success) return refuse('Say by how many days.');
  const day = await outletDay(parsed.data.days);
  return day === null ? refuse('The shop cannot be reached.', 502) : answer({ day });
}
