/** Sends a listing's file to its outlet and follows what becomes of it. The outlet is spoken to by its protocol alone. */
import { Readable } from 'node:stream';
import * as z from 'zod';
import type { Book, Edition } from '@pagina/core/book';
import { bareIsbn } from '@pagina/core/record';
import {
  openListings,
  productsOf,
  readListing,
  readTitle,
  storedSize,
  streamStored,
  tellListing,
  type JobEnd,
  type Listing,
  type Product,
  type Store,
} from '@pagina/data';
import type { Desk } from './desk';
import { callOutlet, mayPass, NotSent, type CallLimits } from './outlet-call';

/** Waits between tries to send, in milliseconds. */
const SEND_AGAIN = [500, 2_000, 8_000];
/** The lease is renewed, and a wish to stop heard, this often, in milliseconds. */
const BEAT = 1_000;
/** A parcel may be large and the line slow. */
const PARCEL: CallLimits = { time: 300_000, most: 1_000_000 };
const NEWS: CallLimits = { time: 10_000, most: 1_000_000 };

const receiptSchema = z.object({
  reference: z.string().min(1).max(200).optional(),
  sha256: z.string().optional(),
  message: z.string().max(2_000).optional(),
});
const newsSchema = z.object({
  events: z.array(
    z.object({
      state: z.enum(['received', 'with the shop', 'held', 'on sale']),
      words: z.string().max(4_000),
    }),
  ),
  link: z.string().max(2_000).default(''),
});

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
    for (let tries = 0; ; tries++) {
      if (stop.signal.aborted) return { state: 'stopped' };
      try {
        await sendListing(store, listing, stop.signal);
        return { state: 'done', result: { listing } };
      } catch (e) {
        if (stop.signal.aborted) return { state: 'stopped' };
        const wait = SEND_AGAIN[tries];
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

function slipOf(book: Book, edition: Edition, file: { sha256: string; size: number }): string {
  const { record } = book;
  return JSON.stringify({
    title: record.title,
    authors: record.contributors.filter((c) => c.role === 'author').map((c) => c.name),
    isbn: bareIsbn(edition.isbn),
    description: record.description,
    language: record.language,
    price: record.price?.minor ?? 0,
    currency: record.price?.currency ?? '',
    ...file,
  });
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
  const product = (await productsOf(store, listing.title)).find((p) => p.id === listing.product);
  const loaded = await readTitle(store, listing.title);
  const edition = loaded?.book.editions.find((e) => e.id === listing.edition);
  if (!product || !loaded || !edition)
    throw new NotSent('The file that was to be sent no longer exists.', false);
  if ((await storedSize(store, product.sha256)) !== product.size)
    throw new NotSent('The file on the disk is not the one that was made. Make the edition again.', false);
  const there = await callOutlet(
    `/parcels?key=${encodeURIComponent(listing.id)}&sha256=${product.sha256}`,
    {},
    { stop, limits: NEWS },
  );
  if (there.status !== 404) return took(store, listing, product, there.status, there.json);
  const slip = `${slipOf(loaded.book, edition, { sha256: product.sha256, size: product.size })}\n`;
  const answer = await callOutlet(
    '/parcels',
    {
      method: 'POST',
      headers: { 'Parcel-Key': listing.id },
      body: parcel(store, slip, product),
      duplex: 'half',
    },
    { stop, limits: PARCEL },
  );
  return took(store, listing, product, answer.status, answer.json);
}

/** The slip's line and the file after it, as they come from the disk. */
function parcel(store: Store, slip: string, { sha256 }: Product): ReadableStream<Uint8Array> {
  async function* bytes(): AsyncGenerator<Uint8Array> {
    yield new TextEncoder().encode(slip);
    for await (const chunk of streamStored(store, sha256)) yield chunk as Uint8Array;
  }
  return Readable.toWeb(Readable.from(bytes())) as ReadableStream<Uint8Array>;
}

/** Takes the outlet's receipt down. */
async function took(
  store: Store,
  listing: Listing,
  product: Product,
  status: number,
  json: unknown,
): Promise<void> {
  const parsed = receiptSchema.safeParse(json);
  const receipt = parsed.success ? parsed.data : {};
  if (status >= 400 || !receipt.reference)
    throw new NotSent(receipt.message ?? 'The outlet did not take the parcel.', mayPass(status));
  if (receipt.sha256 !== product.sha256)
    throw new NotSent('The outlet received a different file from the one sent: the checksums differ.', true);
  await tellListing(
    store,
    listing.id,
    [{ state: 'received', words: `Received as ${receipt.reference}, ${product.size} bytes.` }],
    { reference: receipt.reference },
  );
}

/** Asks after every listing that may have news. */
export async function followListings(store: Store): Promise<void> {
  for (const listing of await openListings(store)) await follow(store, listing).catch(() => undefined);
}

async function follow(store: Store, listing: Listing): Promise<void> {
  const answer = await callOutlet(`/parcels/${encodeURIComponent(listing.reference)}`, {}, { limits: NEWS });
  if (answer.status !== 200) return;
  const { events, link } = newsSchema.parse(answer.json);
  await tellListing(
    store,
    listing.id,
    events.map(({ state, words }) => ({ state, words })),
    link ? { link } : {},
  );
}
