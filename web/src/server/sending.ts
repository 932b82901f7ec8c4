/** Begins to send an edition of a title to an outlet, when all that the outlet asks for is met, or to take it from sale. */
import { isReady, outletNamed } from '@pagina/core/outlets';
import { enqueue, openListing, type Store } from '@pagina/data';
import { Unanswerable } from './answer';
import { deskOf, editionFor, inFileFault, readyAt, type Ready } from './parcels';

export interface Asked {
  outlet: string;
  edition: string;
  /** The file; the one that would go by itself where none is named. */
  product?: string;
  /** Sends a file that wasn’t signed off all the same. */
  unsigned?: boolean;
  /** Sends what has changed of the record, and no file. */
  details?: boolean;
  /** Takes the book from sale. */
  withdraw?: boolean;
}
export interface Begun {
  listing: string;
  /** Null where one is on its way already. */
  job: string | null;
}

/** Throws `Unanswerable`. */
export async function sendTo(s: Store, title: string, asked: Asked): Promise<Begun> {
  const outlet = outletNamed(asked.outlet);
  if (!outlet) throw new Unanswerable('Pagina doesn’t know that outlet.');
  const desk = await deskOf(s, title);
  const edition = desk && editionFor(outlet, desk.book, asked.edition);
  if (!desk || !edition)
    throw new Unanswerable(`The title no longer has an edition that ${outlet.name} sells.`, 404);
  if (!desk.accounts[outlet.id]?.connected)
    throw new Unanswerable(`Enter the key of your account at ${outlet.name} in Imprint first.`, 409);
  const ready = await readyAt(s, title, desk, outlet, edition, asked.product);
  const { listing, product, demands, conflict, changes } = ready;
  if (asked.withdraw) return withdraw(s, title, ready);
  if (conflict) throw new Unanswerable(conflict, 409);
  if (asked.details) {
    // The files stay as they are: what is asked of them was asked when they went.
    const refused = demands.find((d) => d.state === 'not met' && d.station !== 'editions');
    if (refused) throw new Unanswerable(`${refused.name}: ${refused.why}`, 409);
    if (!listing || !changes)
      throw new Unanswerable(`${outlet.name} doesn’t have the book yet. Send the file first.`, 409);
    if (ready.job) throw new Unanswerable('Something is being sent. Wait until it has arrived.', 409);
    const inFile = inFileFault(edition, changes.inFile);
    if (inFile) throw new Unanswerable(inFile, 409);
    const has = desk.products.find((p) => p.sha256 === listing.delivered);
    if (has)
      await openListing(s, {
        title,
        outlet: outlet.id,
        edition: edition.id,
        product: has.id,
        beside: listing.beside,
      });
    return begin(s, title, listing.id, ready);
  }
  const missing = demands.find((d) => d.state === 'not met');
  if (!isReady(demands) || !product)
    throw new Unanswerable(`${missing?.name ?? 'Ebook'}: ${missing?.why ?? 'Make the ebook first.'}`, 409);
  if (!ready.signedOff && asked.unsigned !== true)
    throw new Unanswerable(
      'This file isn’t signed off. Sign it off in Proof, or say that it goes all the same.',
      409,
    );
  if (ready.job && listing?.product !== product.id)
    throw new Unanswerable(`Another file is on its way to ${outlet.name}. Wait until it has arrived.`, 409);
  const { id } = await openListing(s, {
    title,
    outlet: outlet.id,
    edition: edition.id,
    product: product.id,
    beside: ready.beside,
  });
  return begin(s, title, id, ready);
}

async function begin(s: Store, title: string, listing: string, { job }: Ready): Promise<Begun> {
  return { listing, job: job ? null : await enqueue(s, 'send', { listing }, title) };
}

async function withdraw(s: Store, title: string, { outlet, listing, job }: Ready): Promise<Begun> {
  if (!listing || listing.delivered === '' || listing.state === 'withdrawn')
    throw new Unanswerable(`${outlet.name} doesn’t sell the book.`, 409);
  if (job)
    throw new Unanswerable(`Something is on its way to ${outlet.name}. Wait until it has arrived.`, 409);
  return { listing: listing.id, job: await enqueue(s, 'withdraw', { listing: listing.id }, title) };
}
