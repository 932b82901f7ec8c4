/** Begins to send an edition of a title to an outlet, when all that the outlet asks for is met. */
import { formatISO } from 'date-fns';
import { editionOf, isReflow } from '@pagina/core/book';
import {
  changesAt,
  demandsOf,
  factsOf,
  fileFor,
  inTheWayOf,
  isReady,
  meantOf,
  outletNamed,
} from '@pagina/core/outlets';
import {
  accountsOf,
  enqueue,
  imprintOf,
  jobsOf,
  listingsOf,
  openListing,
  productsOf,
  readTitle,
  type Store,
} from '@pagina/data';
import { Unanswerable } from './answer';
import { signedAs } from './signed';

export interface Asked {
  outlet: string;
  edition: string;
  /** The file; the newest where none is named. */
  product?: string;
  /** Sends a file that wasn’t signed off all the same. */
  unsigned?: boolean;
  /** Sends what has changed of the record, and no file. */
  details?: boolean;
}

/** Answers the listing and the job that sends it; null where one is on its way already. Throws `Unanswerable`. */
export async function sendTo(
  s: Store,
  title: string,
  asked: Asked,
): Promise<{ listing: string; job: string | null }> {
  const outlet = outletNamed(asked.outlet);
  if (!outlet) throw new Unanswerable('Pagina doesn’t know that outlet.');
  const loaded = await readTitle(s, title);
  const edition = loaded && editionOf(loaded.book, asked.edition);
  if (!loaded || !edition || !isReflow(edition))
    throw new Unanswerable('The title no longer has that ebook.', 404);
  const file = fileFor(loaded.book, edition.id, outlet.id);
  const products = await productsOf(s, title);
  const product =
    products.find((p) => p.edition === file && (asked.product === undefined || p.id === asked.product)) ??
    null;
  const signedOff = product !== null && (await signedAs(s, products, product)).at !== null;
  const account = (await accountsOf(s))[outlet.id] ?? null;
  const imprint = await imprintOf(s);
  const { book, revision } = loaded;
  const facts = factsOf({ outlet, book, edition, revision, files: products, account, imprint });
  const made = { ...facts.made, [file]: product ? { ...product, signedOff } : undefined };
  const under = (await jobsOf(s, title)).filter(
    (j) => j.kind === 'send' && (j.state === 'queued' || j.state === 'running'),
  );
  const begin = async (listing: string): Promise<{ listing: string; job: string | null }> => ({
    listing,
    job: under.some((j) => (j.payload as { listing: string }).listing === listing)
      ? null
      : await enqueue(s, 'send', { listing }, title),
  });
  const there = (await listingsOf(s, title)).find((l) => l.outlet === outlet.id && l.edition === edition.id);
  const demands = demandsOf(outlet, { ...facts, made });
  if (asked.details) {
    // The file stays as it is: what is asked of it was asked when it went.
    const refused = demands.find((d) => d.state === 'not met' && d.station !== 'editions');
    if (refused) throw new Unanswerable(`${refused.name}: ${refused.why}`, 409);
    const has = there?.delivered ? products.find((p) => p.sha256 === there.delivered) : undefined;
    if (!there || !has)
      throw new Unanswerable(`${outlet.name} doesn’t have the book yet. Send the file first.`, 409);
    if (under.length > 0) throw new Unanswerable('Something is being sent. Wait until it has arrived.', 409);
    if (changesAt(outlet, loaded.book, edition, there, there.delivered).inFile.length > 0)
      throw new Unanswerable('The ebook contains details that have changed. Make it again and send it.', 409);
    await openListing(s, { title, outlet: outlet.id, edition: edition.id, product: has.id });
    return begin(there.id);
  }
  const sent = { outlet: outlet.id, edition: edition.id };
  const meant = meantOf(book, products, await listingsOf(s, title), imprint, sent);
  const [conflict] = inTheWayOf(edition, book, meant, today());
  if (conflict) throw new Unanswerable([conflict.message, conflict.remedy].filter(Boolean).join(' '), 409);
  const missing = demands.find((d) => d.state === 'not met');
  if (!isReady(demands) || !product)
    throw new Unanswerable(`${missing?.name ?? 'Ebook'}: ${missing?.why ?? 'Make the ebook first.'}`, 409);
  if (!signedOff && asked.unsigned !== true)
    throw new Unanswerable(
      'This file isn’t signed off. Sign it off in Proof, or say that it goes all the same.',
      409,
    );
  const onItsWay = there && under.some((j) => (j.payload as { listing: string }).listing === there.id);
  if (onItsWay && there.product !== product.id)
    throw new Unanswerable(`Another file is on its way to ${outlet.name}. Wait until it has arrived.`, 409);
  const listing = await openListing(s, {
    title,
    outlet: outlet.id,
    edition: edition.id,
    product: product.id,
  });
  return begin(listing.id);
}

const today = (): string => formatISO(new Date(), { representation: 'date' });
