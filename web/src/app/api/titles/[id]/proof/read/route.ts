import * as z from 'zod';
import { markRead } from '@pagina/data';
import { answer } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

/** Pages of the longest book that can be set, and more. */
const MOST = 50_000;
const asked = z.object({
  edition: z.string().max(200),
  marks: z.array(z.string().regex(/^[0-9a-f]{16}$/)).max(MOST),
  read: z.boolean(),
});

/** Marks pages as read, or as unread again. */
export const POST = titleRoute(async (request, s, { id }) => {
  await markRead(s, { title: id, ...(await bodyOf(request, asked, 'Say which pages were read.')) });
  return answer({});
});
