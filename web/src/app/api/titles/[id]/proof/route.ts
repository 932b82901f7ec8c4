import { commentsOf, readMarks, signOffsOf } from '@pagina/data';
import { answer } from '@/server/answer';
import { titleRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** What proofreaders did: pages of an edition that were read, and comments and sign-offs of all. */
export const GET = titleRoute(async (request, s, { id }) => {
  const edition = new URL(request.url).searchParams.get('edition') ?? '';
  const [read, comments, signOffs] = await Promise.all([
    readMarks(s, id, edition),
    commentsOf(s, id),
    signOffsOf(s, id),
  ]);
  return answer({ read, comments, signOffs });
});
