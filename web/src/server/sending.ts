/** Begins to send an edition of a title to an outlet, when all that the outlet asks for is met. */
import { editionOf, isReflow } from '@pagina/core/book';
import { demandsOf, fileFor, isReady, outletNamed } from '@pagina/core/outlets';
import { accountsOf, enqueue, jobsOf, openListing, productsOf, readTitle, type Store } from '@pagina/data';
import { Unanswerable } from './answer';

/** Answers the listing and the job that sends it; null where one is on its way already. Throws `Unanswerable`. */
export async function sendTo(
  s: Store,
  title: string,
  outletId: string,
  editionId: string,
): Promise<{ listing: string; job: string | null }> {
  const outlet = outletNamed(outletId);
  if (!outlet) throw new Unanswerable('Pagina doesn’t know that outlet.');
  const loaded = await readTitle(s, title);
  const edition = loaded && editionOf(loaded.book, editionId);
  if (!loaded || !edition || !isReflow(edition))
    throw new Unanswerable('The title no longer has that ebook.', 404);
  const file = fileFor(loaded.book, edition.id, outlet.id);
  const product = (await productsOf(s, title)).find((p) => p.edition === file) ?? null;
  const account = (await accountsOf(s))[outlet.id] ?? null;
  const demands = demandsOf(outlet, loaded.book, edition, product, loaded.revision, account);
  const missing = demands.find((d) => d.state === 'not met');
  if (!isReady(demands) || !product)
    throw new Unanswerable(`${missing?.name ?? 'Ebook'}: ${missing?.why ?? 'Make the ebook first.'}`, 409);
  const listing = await openListing(s, {
    title,
    outlet: outlet.id,
    edition: edition.id,
    product: product.id,
  });
  const sending = (await jobsOf(s, title)).some(
    (j) =>
      j.kind === 'send' &&
      (j.state === 'queued' || j.state === 'running') &&
      (j.payload as { listing: string }).listing === listing.id,
  );
  return {
    listing: listing.id,
    job: sending ? null : await enqueue(s, 'send', { listing: listing.id }, title),
  };
}
