/** The job that checks a PDF made elsewhere and keeps it with its edition. */
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { attachedTo, bookToJson, type Attached } from '@pagina/core/book';
import { filePath, insertProduct, productsOf, readTitle, storedSize, type JobEnd } from '@pagina/data';
import { endOf, keepImpression, type Desk } from './desk';

export async function attachFile({ store, job, folder, task }: Desk): Promise<JobEnd> {
  const { of, what, sha256, name } = job.payload as {
    of: string;
    what: Attached;
    sha256: string;
    name: string;
  };
  const { title } = job;
  const loaded = title ? await readTitle(store, title) : null;
  const size = await storedSize(store, sha256);
  if (!loaded || !title || size === null)
    return { state: 'failed', error: 'That title or file no longer exists.' };
  const { book, revision } = loaded;
  const pages = (await productsOf(store, title)).find((p) => p.edition === attachedTo(of, 'attached-pages'));
  const answer = await task({
    kind: 'attach',
    book: bookToJson(book),
    edition: of,
    what,
    path: filePath(store, sha256),
    attachedPages: pages?.pages ?? null,
    out: join(folder, 'attached'),
  });
  if (answer.type !== 'attached') return endOf(answer);
  const { fit, findings } = answer;
  const impression = await keepImpression(store, answer.impression);
  const product = randomUUID();
  const edition = attachedTo(of, what);
  return {
    state: 'done',
    result: { product },
    also: (tx) =>
      insertProduct(tx, product, {
        title,
        edition,
        name,
        sha256,
        size,
        revision,
        pages: answer.pages,
        findings,
        fit,
        impression,
      }),
  };
}
