import * as z from 'zod';
import { saveTyping } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { ebookCache, ebookRoute, orSay, told } from '@/server/emended';

const text = z.string().max(20_000_000);
const schema = z.object({
  base: z.number().int().min(0),
  client: z.string().max(100),
  request: z.string().max(100),
  edits: z
    .array(
      z.object({
        op: z.literal('edit'),
        path: z.string().max(2_000),
        at: z.number().int().min(0),
        removed: text,
        inserted: text,
      }),
    )
    .min(1)
    .max(5_000),
});

/** What was typed. */
export const POST = ebookRoute(async (request, s, { row }) => {
  const typing = await bodyOf(request, schema, 'That isn’t a change to an ebook.', 50_000_000);
  return answer(told(orSay(await saveTyping(s, ebookCache, row.id, typing))));
});
