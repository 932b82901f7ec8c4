import * as z from 'zod';
import { commandSchema } from '@pagina/core/emend';
import { saveCommand } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { ebookCache, ebookRoute, orSay, told } from '@/server/emended';

const schema = z.object({
  base: z.number().int().min(0),
  client: z.string().max(100),
  request: z.string().max(100),
  command: commandSchema,
});

/** Something to be done to the ebook. */
export const POST = ebookRoute(async (request, s, { row }) => {
  const asked = await bodyOf(request, schema, 'Pagina doesn’t know how to do that.', 20_000_000);
  return answer(told(orSay(await saveCommand(s, ebookCache, row.id, asked))));
});
