import { freshNews, newsOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { allDue } from '@/server/due';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** What outlets did, newest first, and what falls due; `?count` answers only how much of it is new. */
export const GET = route(async (request) => {
  const s = await store();
  const fresh = await freshNews(s);
  if (new URL(request.url).searchParams.has('count')) return answer({ fresh });
  const [news, due] = await Promise.all([newsOf(s), allDue(s)]);
  return answer({ fresh, news, due });
});
