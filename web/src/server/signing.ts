/** Signs a file off, when every page was read and nothing else stands in the way. */
import { productKeyOf } from '@pagina/core/book';
import { obstaclesOf, obstacleWords, openComments, type SignOff } from '@pagina/core/proof';
import {
  commentsOf,
  impressionOf,
  productsOf,
  readMarks,
  revisionOf,
  signOff,
  type Store,
} from '@pagina/data';
import { Unanswerable } from './answer';

/** Throws `Unanswerable` with every obstacle in its sentence. */
export async function signOffFile(s: Store, title: string, product: string): Promise<SignOff> {
  const products = await productsOf(s, title);
  const file = products.find((p) => p.id === product);
  const key = file && productKeyOf(file.edition);
  if (!file || !key?.edition || key.form !== 'whole')
    throw new Unanswerable('That file no longer exists. Make the edition again.', 404);
  const [impression, read, comments, revision] = await Promise.all([
    impressionOf(s, file.impression),
    readMarks(s, title, key.edition),
    commentsOf(s, title),
    revisionOf(s, title),
  ]);
  const obstacles = obstaclesOf({
    file,
    revision: revision ?? -1,
    impression,
    read: new Set(read),
    comments: openComments(comments, key.edition).length,
  });
  const what = impression && impression.width > 0 ? 'page' : 'section';
  if (!impression || obstacles.length > 0)
    throw new Unanswerable(obstacles.map((o) => obstacleWords(o, what)).join(' '), 409);
  const signed = await signOff(s, title, {
    edition: key.edition,
    product: file.id,
    sha256: file.sha256,
    revision: file.revision,
    engine: impression.engine,
    views: impression.views.length,
    actor: 'author',
  });
  if (!signed.ok) throw new Unanswerable(signed.refusal.message, 409);
  return signed.value;
}
