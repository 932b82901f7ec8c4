/** Sends a listing's file to its outlet and follows what becomes of it. How an outlet is spoken to is its adapter's. */
import {
  deliveredTo,
  openListings,
  productsOf,
  readListing,
  readTitle,
  revisedAt,
  storedSize,
  streamStored,
  tellListing,
  type JobEnd,
  type Store,
} from '@pagina/data';
import { calledInListings } from '@pagina/core/check';
import { fileNameAt, outletNamed } from '@pagina/core/outlets';
import { listedAs, listedDifferently } from '@pagina/core/trade';
import type { Desk } from './desk';
import { adapterOf, NotSent, type Parcel } from './outlets';

/** The lease is renewed, and a wish to stop heard, this often, in milliseconds. */
const BEAT = 1_000;

/** Sends a parcel, trying again where that may help, until it is asked to stop. */
export async function sendJob({ store, job, report }: Desk): Promise<JobEnd> {
  const { listing } = job.payload as { listing: string };
  const stop = new AbortController();
  let stage = 'Sending the parcel';
  const beat = async (): Promise<void> => {
    if (!(await report(stage, 0))) stop.abort();
  };
  await beat();
  const heart = setInterval(() => void beat().catch(() => undefined), BEAT);
  try {
    const { again } = adapterOf((await readListing(store, listing))?.outlet ?? '');
    for (let tries = 0; ; tries++) {
      if (stop.signal.aborted) return { state: 'stopped' };
      try {
        await sendListing(store, listing, stop.signal);
        return { state: 'done', result: { listing } };
      } catch (e) {
        if (stop.signal.aborted) return { state: 'stopped' };
        const wait = again[tries];
        if (!(e instanceof NotSent) || !e.again || wait === undefined)
          return { state: 'failed', error: (e as Error).message };
        stage = `${e.message} Trying again`;
        await new Promise((r) => setTimeout(r, wait));
      }
    }
  } finally {
    clearInterval(heart);
  }
}

/**
 * Brings an outlet up to date with a listing: sends the very file that was made and checked where it has another or none,
 * and what has changed of the record where it has the file. Parcels are counted, and the outlet is asked first whether it
 * has this one already, so a lost answer or a killed process never makes two of it. The checksum that comes back must be
 * the file's. Throws `NotSent`.
 */
export async function sendListing(store: Store, id: string, stop?: AbortSignal): Promise<void> {
  const listing = await readListing(store, id);
  if (!listing) throw new NotSent('The listing no longer exists.', false);
  const adapter = adapterOf(listing.outlet);
  const outlet = outletNamed(listing.outlet);
  const made = await productsOf(store, listing.title);
  const product = made.find((p) => p.id === listing.product);
  const loaded = await readTitle(store, listing.title);
  const edition = loaded?.book.editions.find((e) => e.id === listing.edition);
  if (!outlet || !product || !loaded || !edition)
    throw new NotSent('The file that was to be sent no longer exists.', false);
  const listed = listedAs(loaded.book, edition, outlet);
  if (listing.delivered === product.sha256) {
    const changed = listing.listed ? listedDifferently(listing.listed, listed) : [];
    if (changed.length === 0) return;
    await adapter.revise(listing.reference, listed, stop);
    const words = `Sent again: ${changed.map(calledInListings).join(', ')}.`;
    const again = changed.some((f) => outlet.review.after.includes(f));
    await revisedAt(store, id, { words, listed, again });
    await followListing(store, id);
    return;
  }
  const { sha256, size } = product;
  if ((await storedSize(store, sha256)) !== size)
    throw new NotSent('The file on the disk is not the one that was made. Make the edition again.', false);
  const name = fileNameAt(outlet, loaded.book.record, edition, '.epub');
  if (!name) throw new NotSent('The record lacks what the outlet names files by.', false);
  const parcel: Parcel = {
    key: listing.deliveries === 0 ? id : `${id}-${listing.deliveries}`,
    replaces: listing.reference,
    listed,
    name,
    sha256,
    size,
    bytes: () => streamStored(store, sha256) as AsyncIterable<Uint8Array>,
  };
  const there = await adapter.ask(parcel, stop);
  const receipt = there ?? (await adapter.send(parcel, stop));
  const earlier = there && made.find((p) => p.sha256 === there.sha256);
  if (receipt.sha256 !== sha256 && !earlier)
    throw new NotSent('The outlet received a different file from the one sent: the checksums differ.', true);
  // It may have come with what the record said then.
  if (there?.sha256 === sha256) await adapter.revise(there.reference, listed, stop);
  const taken = earlier ?? product;
  await deliveredTo(store, id, {
    ...receipt,
    product: taken.id,
    words: `Received as ${receipt.reference}, ${taken.size} bytes.`,
    listed,
  });
  // A parcel whose answer was lost had arrived after all, and a newer file was chosen since.
  if (receipt.sha256 !== sha256) await sendListing(store, id, stop);
}

/** Asks an outlet after every listing that may have news there. */
export async function followOutlet(store: Store, outlet: string): Promise<void> {
  for (const { id } of await openListings(store, outlet)) await followListing(store, id);
}

async function followListing(store: Store, id: string): Promise<void> {
  const listing = await readListing(store, id);
  if (!listing) return;
  const news = await adapterOf(listing.outlet)
    .poll(listing.reference)
    .catch(() => null);
  if (!news) return;
  const { events, link, listed } = news;
  const more = { since: listing.changedAt, ...(link ? { link } : {}), ...(listed ? { listed } : {}) };
  await tellListing(store, id, events, more);
}
