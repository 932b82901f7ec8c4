import { fileFor } from '@pagina/core/outlets';
import { productsOf, readTitle } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { titleRoute } from '@/server/route';
import { filesToSend } from '@/server/signed';

export const dynamic = 'force-dynamic';

/** The files of an edition that can go to an outlet: the newest, and the newest that is what was signed off. */
export const GET = titleRoute(async (request, s, { id }) => {
  const query = new URL(request.url).searchParams;
  const [edition, outlet] = [query.get('edition'), query.get('outlet')];
  const loaded = edition && outlet ? await readTitle(s, id) : null;
  if (!loaded || !edition || !outlet) return problem('Say which edition goes to which outlet.');
  const kind = fileFor(loaded.book, edition, outlet);
  return answer({ files: await filesToSend(s, await productsOf(s, id), kind) });
});
