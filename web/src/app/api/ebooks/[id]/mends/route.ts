import * as z from 'zod';
import { askedChangeSchema } from '@pagina/core/emend';
import { saveAsked } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { ebookCache, ebookRoute, orSay, told } from '@/server/emended';

const schema = z.object({
  base: z.number().int().min(0),
  client: z.string().max(100),
  request: z.string().max(100),
  label: z.string().min(1).max(200),
  asked: z.array(askedChangeSchema).min(1).max(200_000),
});

/** Mends that the checking worker has worked out and shown: one step of Undo. */
export const POST = ebookRoute(async (request, s, { row }) => {
  const mends = await bodyOf(request, schema, 'That isn’t a change to an ebook.', 100_000_000);
  return answer(told(orSay(await saveAsked(s, ebookCache, row.id, mends))));
});
