import { outletNamed } from '@pagina/core/outlets';
import { wantNews } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { textOf } from '@/server/body';
import { isSigned } from '@/server/news';
import { route } from '@/server/route';
import { store } from '@/server/store';

export const dynamic = 'force-dynamic';

/** Bytes of news: they only say that there is something to ask after. */
const MOST = 100_000;

/** An outlet says that something has happened. What it says isn't believed: it is asked. */
export const POST = route<{ outlet: string }>(async (request, { outlet }) => {
  if (!outletNamed(outlet)) return problem('Pagina doesn’t know that outlet.', 404);
  const body = await textOf(request, MOST);
  const s = await store();
  const signature = request.headers.get('outlet-signature') ?? '';
  if (!(await isSigned(s, outlet, body, signature))) return problem('The signature is wrong.', 401);
  await wantNews(s, outlet);
  return answer({});
});
