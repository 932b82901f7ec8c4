/** Sends a listing's parcel to its outlet and follows what becomes of it. How an outlet is spoken to is its adapter's. */
import { editionOf, placingAt, type SingleChange } from '@pagina/core/book';
import { outletNamed } from '@pagina/core/outlets';
import {
  deliveredTo,
  keyAt,
  newsAsked,
  openListings,
  readListing,
  readTitleBare,
  revisedAt,
  saveChange,
  tellingListing,
  tellListing,
  withdrawnFrom,
  type JobEnd,
  type Listing,
  type Store,
} from '@pagina/data';
import { deliver, type Ledger } from './deliver';
import type { Desk } from './desk';
import { adapterOf, AGAIN, lineAt, NotSent, type Line } from './outlets';
import { packed } from './outlets/parcel';

/** The lease is renewed, and a wish to stop heard, this often, in milliseconds. */
const BEAT = 1_000;

export interface SendOptions {
  stop?: AbortSignal;
  /** Is told how much of the files has gone, from 0 to 1. */
  share?: (done: number) => void;
}

/** Sends a parcel, or takes a book from sale, trying again where that may help, until it is asked to stop. */
export async function sendJob({ store, job, report }: Desk): Promise<JobEnd> {
  const { listing } = job.payload as { listing: string };
  const stop = new AbortController();
  const name = outletNamed((await readListing(store, listing))?.outlet ?? '')?.name ?? 'the outlet';
  let stage = job.kind === 'send' ? `Sending to ${name}` : `Withdrawing from ${name}`;
  let done = 0;
  const beat = async (): Promise<void> => {
    if (!(await report(stage, done))) stop.abort();
  };
  await beat();
  const heart = setInterval(() => void beat().catch(() => undefined), BEAT);
  const work = job.kind === 'send' ? sendListing : withdrawListing;
  try {
    for (let tries = 0; ; tries++) {
      if (stop.signal.aborted) return { state: 'stopped' };
      try {
        await work(store, listing, { stop: stop.signal, share: (share) => (done = share) });
        return { state: 'done', result: { listing } };
      } catch (e) {
        if (stop.signal.aborted) return { state: 'stopped' };
        const wait = AGAIN[tries];
        if (!(e instanceof NotSent) || !e.again || wait === undefined)
          return { state: 'failed', error: (e as Error).message };
        stage = `${e.message} Trying again`;
        await pause(Math.max(wait, e.after), stop.signal);
      }
    }
  } finally {
    clearInterval(heart);
  }
}

/** Until the time is over, or it is asked to stop. */
const pause = (ms: number, stop: AbortSignal): Promise<void> =>
  new Promise((done) => {
    const timer = setTimeout(done, ms);
    stop.addEventListener('abort', () => {
      clearTimeout(timer);
      done();
    });
  });

async function lineOf(store: Store, outlet: string, { stop }: SendOptions): Promise<Line> {
  const key = await keyAt(store, outlet);
  if (key === null)
    throw new NotSent(
      `Pagina has no key for your account at ${outletNamed(outlet)?.name ?? 'that outlet'}. Enter it in Imprint.`,
      false,
    );
  return lineAt(outlet, key, stop);
}

/** Brings an outlet up to date with a listing. Throws `NotSent`. */
export async function sendListing(store: Store, id: string, options: SendOptions = {}): Promise<void> {
  const begun = await readListing(store, id);
  if (!begun) throw new NotSent('The listing no longer exists.', false);
  const line = await lineOf(store, begun.outlet, options);
  const what = await deliver(ledgerOf(store, id), adapterOf(begun.outlet), line, options.share);
  if (what === 'told') await followListing(store, id, options);
}

function ledgerOf(store: Store, id: string): Ledger {
  return {
    async parcel() {
      const listing = await readListing(store, id);
      if (!listing) throw new NotSent('The listing no longer exists.', false);
      return { listing, packed: await packed(store, listing) };
    },
    delivered: (d) => deliveredTo(store, id, d),
    telling: () => tellingListing(store, id),
    revised: (r) => revisedAt(store, id, r),
  };
}

/** Takes a book from sale. Throws `NotSent`. */
export async function withdrawListing(store: Store, id: string, options: SendOptions = {}): Promise<void> {
  const listing = await readListing(store, id);
  if (!listing?.reference || listing.state === 'withdrawn') return;
  const line = await lineOf(store, listing.outlet, options);
  // Whatever has become of its files.
  const { parcel } = await packed(store, listing, { files: false });
  await adapterOf(listing.outlet).withdraw(listing.reference, parcel, line);
  await withdrawnFrom(store, id, 'Withdrawn. Readers keep the copies they bought.');
}

/** Asks an outlet after the listings that may have news there. */
export async function followOutlet(
  store: Store,
  outlet: string,
  which: 'moving' | 'settled' = 'moving',
  options: SendOptions = {},
): Promise<void> {
  for (const { id } of await openListings(store, outlet, which)) await followListing(store, id, options);
}

async function followListing(store: Store, id: string, options: SendOptions = {}): Promise<void> {
  const listing = await readListing(store, id);
  if (!listing?.reference) return;
  await newsAsked(store, id);
  const news = await lineOf(store, listing.outlet, options)
    .then((line) => adapterOf(listing.outlet).poll(listing.reference, line))
    .catch(() => null);
  if (!news) return;
  await tellListing(store, id, news, listing.changedAt);
  if (news.found.assigned) await takeNumber(store, listing, news.found.assigned);
}

/**
 * A number that an outlet gave the book becomes the edition's own, if it has none: so it stands on the copyright page, and
 * the files that were made before are no longer the book's.
 */
async function takeNumber(
  store: Store,
  { title, edition: id, outlet }: Listing,
  isbn: string,
): Promise<void> {
  const loaded = await readTitleBare(store, title);
  const edition = loaded && editionOf(loaded.book, id);
  if (!loaded || !edition || placingAt(loaded.book, outlet).assigned === isbn) return;
  const name = outletNamed(outlet)?.name ?? outlet;
  const changes: SingleChange[] = [{ type: 'set-placing', outlet, fields: { assigned: isbn } }];
  if (edition.isbn === '') changes.push({ type: 'set-edition', id, fields: { isbn } });
  const label = `ISBN assigned by ${name}`;
  await saveChange(store, title, {
    base: loaded.revision,
    client: 'works',
    actor: 'outlet',
    change: { type: 'group', label, changes },
  });
}
