import { bookToJson, type BookJson } from '@pagina/core/book';
import { bookAt, enqueue, readArrival, readJob, readStored, readTitle, type Store } from '@pagina/data';
import { answer, problem } from '@/server/answer';
import { titleRoute } from '@/server/route';
import { keepManuscript } from '@/server/upload';

/** A manuscript for a title that exists already. Reading it is a job; nothing of the title changes by it. */
export const POST = titleRoute(async (request, s, { id }) => {
  const kept = await keepManuscript(s, request);
  return answer({ job: await enqueue(s, 'reread', { ...kept, title: id }, id) }, 202);
});

/** What was read, by the job that read it, and the manuscript that was read before. */
export const GET = titleRoute(async (request, s, { id }) => {
  const job = await readJob(s, new URL(request.url).searchParams.get('job') ?? '');
  const reading = job?.title === id ? (job.result as { reading?: string } | null)?.reading : undefined;
  if (!reading) return problem('That manuscript is no longer available. Import it again.', 404);
  return answer({ ...(await readBook(s, reading)), sha256: reading, before: await manuscriptBefore(s, id) });
});

const readBook = async (s: Store, sha256: string): Promise<{ book: BookJson }> =>
  JSON.parse(new TextDecoder().decode(await readStored(s, sha256))) as { book: BookJson };

/** The book of the manuscript that was read before; null for a title that began blank. */
async function manuscriptBefore(s: Store, id: string): Promise<BookJson | null> {
  const now = await readTitle(s, id);
  if (now?.book.reading) return (await readBook(s, now.book.reading)).book;
  if ((await readArrival(s, id)) === null) return null;
  const then = await bookAt(s, id, 0);
  return then.ok ? bookToJson(then.value) : null;
}
