import * as z from 'zod';
import { attachedTo } from '@pagina/core/book';
import { enqueue, forgetProducts, productsOf } from '@pagina/data';
import { answer, Unanswerable } from '@/server/answer';
import { bodyOf } from '@/server/body';
import { titleRoute } from '@/server/route';
import { bareName, fileName, keepBody } from '@/server/upload';

/** Bytes of a PDF for print: a picture book’s pages fit. */
const MOST = 1_000_000_000;
const what = z.enum(['attached-cover', 'attached-pages']);
const asked = z.object({ of: z.string().min(1).max(200), what });

const queryOf = (request: Request): z.infer<typeof asked> => {
  const query = Object.fromEntries(new URL(request.url).searchParams);
  const parsed = asked.safeParse(query);
  if (!parsed.success) throw new Unanswerable('Say what the file is for.');
  return parsed.data;
};

/** Keeps a PDF that someone else made, and has it checked against its edition. */
export const POST = titleRoute(async (request, s, { id }) => {
  const query = queryOf(request);
  const name = fileName(request.headers.get('x-file-name'), 'cover.pdf');
  const { sha256 } = await keepBody(s, request, MOST);
  const payload = { ...query, edition: attachedTo(query.of, query.what), sha256, name };
  return answer({ job: await enqueue(s, 'attach', payload, id) }, 202);
});

const again = asked.extend({
  /** A file that was taken away and is put back; the one that is attached where it is left out. */
  file: z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), name: z.string().max(300) }).optional(),
});

/** Checks the file that is attached again, against the edition as it is now. */
export const PUT = titleRoute(async (request, s, { id }) => {
  const { file, ...query } = await bodyOf(request, again, 'Say which file is checked again.');
  const edition = attachedTo(query.of, query.what);
  const attached = file ?? (await productsOf(s, id)).find((p) => p.edition === edition);
  if (!attached) throw new Unanswerable('No file is attached any more.', 404);
  const payload = { ...query, edition, sha256: attached.sha256, name: bareName(attached.name) };
  return answer({ job: await enqueue(s, 'attach', payload, id) }, 202);
});

/** Takes the file away from its edition. */
export const DELETE = titleRoute(async (request, s, { id }) => {
  const query = queryOf(request);
  const edition = attachedTo(query.of, query.what);
  // What was signed off stays: somebody may have to send it, or to show what was sent.
  if ((await productsOf(s, id)).some((p) => p.edition === edition && p.signedOffAt !== null))
    throw new Unanswerable('A signed-off file can’t be removed. Undo the sign-off in Proof first.', 409);
  await forgetProducts(s, id, edition);
  return answer({});
});
