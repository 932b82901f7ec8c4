/** The job that makes a file of an edition. */
import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { bookToJson, productKeyOf, MANUSCRIPT } from '@pagina/core/book';
import { fileStem } from '@pagina/core/record';
import {
  accountsOf,
  changedAt,
  filePath,
  insertProduct,
  keepFile,
  linksAt,
  readTitle,
  type JobEnd,
} from '@pagina/data';
import { endOf, keepImpression, type Desk } from './desk';

export async function makeEdition({ store, job, folder, task }: Desk): Promise<JobEnd> {
  const { edition: id } = job.payload as { edition: string };
  const { title } = job;
  const loaded = title ? await readTitle(store, title) : null;
  const { edition: editionId, form, outlet } = productKeyOf(id);
  const edition = loaded?.book.editions.find((e) => e.id === editionId);
  if (!loaded || !title || !(edition || editionId === null))
    return { state: 'failed', error: 'That title or edition no longer exists.' };
  const { book, revision } = loaded;
  const ending = !edition ? 'docx' : edition.form === 'print' ? 'pdf' : 'epub';
  const suffix = form === 'whole' ? '' : `-${outlet ? fileStem(outlet) : form}`;
  const name = `${fileStem(book.record.title)}-${fileStem(edition?.name ?? MANUSCRIPT)}${suffix}.${ending}`;
  const pictures: Record<string, string> = {};
  for (const p of book.pictures) if (p.sha256) pictures[p.id] = filePath(store, p.sha256);
  const out = join(folder, 'made');
  const answer = await task({
    kind: 'make',
    book: bookToJson(book),
    modified: new Date(await changedAt(store, title, revision)).toISOString(),
    edition: id,
    pictures,
    out,
    name,
    links: outlet ? await linksAt(store, outlet) : {},
    affiliate: outlet ? ((await accountsOf(store))[outlet]?.affiliate ?? '') : '',
  });
  if (answer.type !== 'made') return endOf(answer);
  const { sha256, size } = await keepFile(store, createReadStream(out));
  const { pages, findings } = answer;
  const impression = await keepImpression(store, answer.impression);
  const product = randomUUID();
  return {
    state: 'done',
    result: { product },
    also: (tx) =>
      insertProduct(tx, product, {
        title,
        edition: id,
        name,
        sha256,
        size,
        revision,
        pages,
        findings,
        impression,
      }),
  };
}
