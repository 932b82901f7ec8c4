/** Sends a listing's file to its outlet and follows what becomes of it. The outlet is spoken to by its protocol alone. */
import type { Book, Edition } from '@pagina/core/book';
import { bareIsbn } from '@pagina/core/record';
import {
  openListings,
  productsOf,
  readListing,
  readStored,
  readTitle,
  tellListing,
  type Listing,
  type ListingState,
  type Store,
} from '@pagina/data';

export const outletAddress = (): string =>
  process.env.OUTLET_ADDRESS ?? `http://127.0.0.1:${process.env.OUTLET_PORT ?? 4180}`;

/** What went wrong, in a sentence; `again` when trying later may help. */
export class NotSent extends Error {
  constructor(
    message: string,
    readonly again: boolean,
  ) {
    super(message);
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
 * Sends the very file that was made and checked. The listing's id is the parcel's key, so a second try after a lost answer
 * or a killed process is the same parcel to the outlet. The checksum that comes back must be the file's.
 */
export async function sendListing(store: Store, id: string): Promise<void> {
  const listing = await readListing(store, id);
  if (!listing) throw new NotSent('The listing is no longer there.', false);
  if (listing.reference) return;
  const product = (await productsOf(store, listing.title)).find((p) => p.id === listing.product);
  const loaded = await readTitle(store, listing.title);
  const edition = loaded?.book.editions.find((e) => e.id === listing.edition);
  if (!product || !loaded || !edition)
    throw new NotSent('The file that was to be sent is no longer there.', false);
  const bytes = await readStored(store, product.sha256);
  const slip = new TextEncoder().encode(
    `${slipOf(loaded.book, edition, { sha256: product.sha256, size: product.size })}\n`,
  );
  const body = new Uint8Array(slip.length + bytes.length);
  body.set(slip);
  body.set(bytes, slip.length);
  let answer: Response;
  try {
    answer = await fetch(`${outletAddress()}/parcels`, {
      method: 'POST',
      headers: { 'Parcel-Key': listing.id },
      body,
    });
  } catch {
    throw new NotSent('The outlet cannot be reached.', true);
  }
  const receipt = (await answer.json()) as { reference?: string; sha256?: string; message?: string };
  if (!answer.ok || !receipt.reference)
    throw new NotSent(receipt.message ?? 'The outlet did not take it.', answer.status >= 500);
  if (receipt.sha256 !== product.sha256)
    throw new NotSent('The outlet received another file than was sent: its checksum differs.', true);
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
  const answer = await fetch(`${outletAddress()}/parcels/${encodeURIComponent(listing.reference)}`);
  if (!answer.ok) return;
  const { events, link } = (await answer.json()) as {
    events: { state: ListingState; day: number; words: string }[];
    link: string;
  };
  await tellListing(
    store,
    listing.id,
    events.map(({ state, words }) => ({ state, words })),
    link ? { link } : {},
  );
}
