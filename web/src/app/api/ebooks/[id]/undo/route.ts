import * as z from 'zod';
import { undoEbook } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { ebookCache, ebookRoute, orSay, told } from '@/server/emended';

const schema = z.object({ base: z.number().int().min(0), client: z.string().max(100), redo: z.boolean() });

/** Undoes or redoes; null where there is nothing to do. */
export const POST = ebookRoute(async (request, s, { row }) => {
  const asked = await bodyOf(request, schema, 'Say whether to undo or redo.');
  const saved = orSay(await undoEbook(s, ebookCache, row.id, asked));
  return answer({ saved: saved && told(saved) });
});
