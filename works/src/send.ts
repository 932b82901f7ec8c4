/** Sends a listing's file to its outlet and follows what becomes of it. How an outlet is spoken to is its adapter's. */
import {
  openListings,
  productsOf,
  readListing,
  readTitle,
  storedSize,
  streamStored,
  tellListing,
  type JobEnd,
  type Store,
} from '@pagina/data';
import { fileNameAt, outletNamed } from '@pagina/core/outlets';
import type { Desk } from './desk';
import { adapterOf, NotSent } from './outlets';

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
 * Sends the very file that was made and checked. The listing's id is the parcel's key, and the outlet is asked first
 * whether it has that parcel or that file already, so a lost answer or a killed process never makes two of it. The
 * checksum that comes back must be the file's. Throws `NotSent`.
 */
export async function sendListing(store: Store, id: string, stop?: AbortSignal): Promise<void> {
  const listing = await readListing(store, id);
  if (!listing) throw new NotSent('The listing no longer exists.', false);
  if (listing.reference) return;
  const { ask, send } = adapterOf(listing.outlet);
  const outlet = outletNamed(listing.outlet);
  const product = (await productsOf(store, listing.title)).find((p) => p.id === listing.product);
  const loaded = await readTitle(store, listing.title);
  const edition = loaded?.book.editions.find((e) => e.id === listing.edition);
  if (!product || !loaded || !edition)
    throw new NotSent('The file that was to be sent no longer exists.', false);
  const { sha256, size } = product;
  if ((await storedSize(store, sha256)) !== size)
    throw new NotSent('The file on the disk is not the one that was made. Make the edition again.', false);
  const name = outlet && fileNameAt(outlet, loaded.book.record, edition, '.epub');
  if (!name) throw new NotSent('The record lacks what the outlet names files by.', false);
  const bytes = () => streamStored(store, sha256) as AsyncIterable<Uint8Array>;
  const parcel = { key: listing.id, book: loaded.book, edition, name, sha256, size, bytes };
  const receipt = (await ask(parcel, stop)) ?? (await send(parcel, stop));
  if (receipt.sha256 !== sha256)
    throw new NotSent('The outlet received a different file from the one sent: the checksums differ.', true);
  const words = `Received as ${receipt.reference}, ${size} bytes.`;
  await tellListing(store, listing.id, [{ state: 'received', words }], { reference: receipt.reference });
}

/** Asks an outlet after every listing that may have news there. */
export async function followOutlet(store: Store, outlet: string): Promise<void> {
  const { poll } = adapterOf(outlet);
  for (const listing of await openListings(store, outlet)) {
    const news = await poll(listing.reference).catch(() => null);
    if (news) await tellListing(store, listing.id, news.events, news.link ? { link: news.link } : {});
  }
}
