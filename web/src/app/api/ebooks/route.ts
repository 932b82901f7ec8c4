import { createEbook, listEbooks } from '@pagina/data';
import { answer, Unanswerable } from '@/server/answer';
import { route } from '@/server/route';
import { store } from '@/server/store';
import { fileName, keepBody } from '@/server/upload';

const MOST_BYTES = 300_000_000;

/** Ebooks that were opened as they are. */
export const GET = route(async () => answer({ ebooks: await listEbooks(await store()) }));

/** An EPUB, kept whole. Anything in it may be wrong, but that it is a container. */
export const POST = route(async (request) => {
  const s = await store();
  const name = fileName(request.headers.get('x-file-name'), 'Ebook.epub');
  const { sha256 } = await keepBody(s, request, MOST_BYTES);
  const made = await createEbook(s, { name, sha256 });
  if (!made.ok) {
    const why =
      made.refusal.code === 'zip/broken'
        ? 'It isn’t an EPUB, or it is too damaged to open.'
        : made.refusal.message;
    throw new Unanswerable(why, 415);
  }
  return answer({ ebook: made.value }, 201);
});
