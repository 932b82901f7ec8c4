/** Signs a file off, when every page was read and nothing else stands in the way. */
import { attachedTo, productKeyOf } from '@pagina/core/book';
import { obstaclesOf, obstacleWords, openComments, outdated, type SignOff } from '@pagina/core/proof';
import {
  commentsOf,
  impressionOf,
  productsOf,
  readMarks,
  readTitle,
  signOff,
  type Product,
  type Store,
} from '@pagina/data';
import { Unanswerable } from './answer';

/** Files that are proofed one by one: of the pages or the ebook as a whole, and what goes with them to the printer. */
const SIGNED = new Set(['whole', 'cover', 'attached-cover', 'attached-pages']);

/** Pages that an edition has by its files; 0 where no file of the book as it is tells. */
function pagesBy(products: readonly Product[], edition: string, revision: number): number {
  const supplied = products.find((p) => p.edition === attachedTo(edition, 'attached-pages'));
  return supplied?.pages ?? products.find((p) => p.edition === edition && p.upTo === revision)?.pages ?? 0;
}

/** Throws `Unanswerable` with every obstacle in its sentence. */
export async function signOffFile(s: Store, title: string, product: string): Promise<SignOff> {
  const products = await productsOf(s, title);
  const file = products.find((p) => p.id === product);
  const key = file && productKeyOf(file.edition);
  if (!file || !key?.edition || !SIGNED.has(key.form))
    throw new Unanswerable('That file no longer exists. Make the edition again.', 404);
  const [impression, read, comments, loaded] = await Promise.all([
    impressionOf(s, file.impression),
    readMarks(s, title, file.edition),
    commentsOf(s, title),
    readTitle(s, title),
  ]);
  if (!loaded) throw new Unanswerable('This title no longer exists.', 404);
  const { book, revision } = loaded;
  const obstacles = obstaclesOf({
    file,
    outdated: outdated(file, { book, revision, pages: pagesBy(products, key.edition, revision) }),
    impression,
    read: new Set(read),
    comments: openComments(comments, file.edition).length,
  });
  const what = impression && impression.width > 0 ? 'page' : 'section';
  if (!impression || obstacles.length > 0)
    throw new Unanswerable(obstacles.map((o) => obstacleWords(o, what)).join(' '), 409);
  const signed = await signOff(s, title, {
    edition: file.edition,
    product: file.id,
    sha256: file.sha256,
    // What someone else made is signed off for the book as it is now.
    revision,
    engine: impression.engine,
    views: impression.views.length,
    actor: 'author',
  });
  if (!signed.ok) throw new Unanswerable(signed.refusal.message, 409);
  return signed.value;
}
