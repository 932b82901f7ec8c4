import * as z from 'zod';
import { readTitleJson, setDeleted } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';
import { standingOf } from '@/server/standing';

export const GET = titleRoute(async (_, s, { id }) => {
  const title = await readTitleJson(s, id);
  if (!title) return problem('This title no longer exists.', 404);
  const rest = JSON.stringify({ revision: title.revision, ...(await standingOf(s, id)) });
  return new Response(`{"book":${title.book},${rest.slice(1)}`, {
    headers: { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' },
  });
});

const asked = z.object({ deleted: z.boolean() });
export const PATCH = titleRoute(async (request, s, { id }) => {
  const { deleted } = await bodyOf(request, asked, 'Say whether the title is deleted.');
  await setDeleted(s, id, deleted);
  return answer({});
});
