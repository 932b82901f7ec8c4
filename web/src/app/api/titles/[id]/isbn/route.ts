import * as z from 'zod';
import { editionOf } from '@pagina/core/book';
import { isbnBlock, isbnsOfTitle, nextIsbn, readTitle } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';

export const dynamic = 'force-dynamic';

/** What is known of the numbers of a title's editions, and how many of the block are free. */
export const GET = titleRoute(async (_, s, { id }) => {
  const loaded = await readTitle(s, id);
  if (!loaded) return problem('This title no longer exists.', 404);
  const [editions, block] = await Promise.all([isbnsOfTitle(s, id, loaded.book), isbnBlock(s)]);
  return answer({ editions, block: block.length, free: block.filter((r) => r.use === null).length });
});

const asked = z.object({ edition: z.string() });

/** Takes the next free number of the imprint's block for an edition; the edition gets it by a change of its own. */
export const POST = titleRoute(async (request, s, { id }) => {
  const { edition: of } = await bodyOf(request, asked, 'Say which edition.');
  const loaded = await readTitle(s, id);
  const edition = loaded && editionOf(loaded.book, of);
  if (!edition) return problem('That edition no longer exists.', 404);
  if (edition.isbn !== '') return problem('The edition has an ISBN already.', 409);
  const number = await nextIsbn(s, id, edition.id);
  return number ? answer({ number }) : problem('The block has no free ISBN left. Add more in Imprint.', 409);
});
