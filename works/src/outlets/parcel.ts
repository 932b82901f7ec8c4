/** Packs what goes to an outlet: files from the disk, the cover in its pixels, and what the book's record says in its own form. */
import { amountString } from '@pagina/core/base';
import { editionOf, placingAt, type Book } from '@pagina/core/book';
import { writeOnix } from '@pagina/core/onix';
import {
  besideDigest,
  factsOf,
  filesTo,
  outletNamed,
  priceAt,
  salesAt,
  territoriesAt,
  toldFields,
  type Facts,
  type FileTo,
  type Outlet,
} from '@pagina/core/outlets';
import { listedAs } from '@pagina/core/trade';
import {
  accountsOf,
  coverJpeg,
  imprintOf,
  keepBytes,
  NoCover,
  productsOf,
  readTitle,
  storedSize,
  streamStored,
  type Listing,
  type Product,
  type Store,
} from '@pagina/data';
import { type Parcel, type ParcelFile } from './adapter';
import { NotSent } from './notsent';

/** What is packed for an outlet, and what it was packed of. */
export interface Packed {
  parcel: Parcel;
  outlet: Outlet;
  facts: Facts;
  /** The file that is listed, and all that were made of the title. */
  product: MadeOf;
  made: readonly MadeOf[];
  /** Checksum of what goes beside it. */
  beside: string;
}

/** A file that was made. */
type MadeOf = Pick<Product, 'id' | 'sha256' | 'size'>;

/**
 * Throws `NotSent` where something that was to go no longer exists, or isn't what was made. Without `files` it holds what is
 * told alone.
 */
export async function packed(
  store: Store,
  listing: Listing,
  { files: withFiles = true }: { files?: boolean } = {},
): Promise<Packed> {
  const [made, loaded, accounts, imprint] = await Promise.all([
    productsOf(store, listing.title),
    readTitle(store, listing.title),
    accountsOf(store),
    imprintOf(store),
  ]);
  const outlet = outletNamed(listing.outlet);
  const product = made.find((p) => p.id === listing.product);
  const edition = loaded && editionOf(loaded.book, listing.edition);
  if (!outlet || !product || !loaded || !edition)
    throw new NotSent('The file that was to be sent no longer exists.', false);
  const { book, revision } = loaded;
  const account = accounts[outlet.id] ?? null;
  const facts = factsOf({ outlet, book, edition, revision, files: made, account, imprint });
  const placing = placingAt(book, outlet.id);
  const provisional = placing.preorder && product.signedOffAt === null;
  const newest = (key: string): Product | undefined => made.find((p) => p.edition === key);
  const files: ParcelFile[] = [];
  for (const [i, file] of (withFiles ? filesTo(outlet, facts) : []).entries())
    files.push(
      file.product === ''
        ? await coverOf(store, listing.title, book, outlet, file)
        : await fileOf(store, file, i === 0 ? product : newest(file.product)),
    );
  const parcel: Parcel = {
    key: keyOf(listing.id, listing.deliveries),
    previous: listing.deliveries === 0 ? '' : keyOf(listing.id, listing.deliveries - 1),
    // A book that was entered there by hand is the same book.
    replaces: listing.reference || placing.number,
    told: toldFields(outlet, facts),
    listed: listedAs(book, edition, outlet),
    prices: pricesOf(outlet, facts),
    files,
    provisional,
    onSale: placing.preorder ? book.record.published : '',
    news: process.env.PORT ? `http://127.0.0.1:${process.env.PORT}/api/outlets/news/${outlet.id}` : '',
    revision,
    onix: (notification) =>
      writeOnix(bookAt(outlet, facts), {
        sent: new Date().toISOString(),
        only: { edition: edition.id, notification },
        pages: facts.pages === null ? {} : { [edition.id]: facts.pages },
      }),
  };
  return { parcel, outlet, facts, product, made, beside: besideDigest(outlet, facts, provisional) };
}

const keyOf = (listing: string, number: number): string => (number === 0 ? listing : `${listing}-${number}`);

const named = ({ name }: FileTo): string => {
  if (name === null) throw new NotSent('The record lacks what the outlet names files by.', false);
  return name;
};

async function fileOf(store: Store, file: FileTo, product: Product | undefined): Promise<ParcelFile> {
  if (!product) throw new NotSent('The file that was to be sent no longer exists.', false);
  const { sha256, size } = product;
  if ((await storedSize(store, sha256)) !== size)
    throw new NotSent('The file on the disk is not the one that was made. Make the edition again.', false);
  return { part: file.part, name: named(file), sha256, size, bytes: fromDisk(store, sha256) };
}

async function coverOf(
  store: Store,
  title: string,
  book: Book,
  { cover }: Outlet,
  file: FileTo,
): Promise<ParcelFile> {
  const jpeg = await coverJpeg(store, title, book, cover).catch((e: unknown) => {
    throw e instanceof NoCover ? new NotSent(e.message, false) : e;
  });
  const { sha256, size } = await keepBytes(store, jpeg);
  return { part: 'cover', name: named(file), sha256, size, bytes: fromDisk(store, sha256) };
}

const fromDisk =
  (store: Store, sha256: string): ParcelFile['bytes'] =>
  (from) =>
    streamStored(store, sha256, from) as AsyncIterable<Uint8Array>;

/** A list price for every currency in which the outlet sells the book, the one at home first. */
function pricesOf(outlet: Outlet, facts: Facts): Parcel['prices'] {
  const home = priceAt(outlet, facts);
  const lists = [...(home ? [home] : []), ...salesAt(outlet, facts).map((s) => s.list)];
  const seen = new Set<string>();
  return lists.flatMap((price) => {
    if (seen.has(price.currency)) return [];
    seen.add(price.currency);
    return [{ currency: price.currency, amount: amountString(price) }];
  });
}

/** The book as this outlet is told of it. */
function bookAt(outlet: Outlet, facts: Facts): Book {
  const { book, placing } = facts;
  const record = { ...book.record, ...placing.variants };
  return {
    ...book,
    record: {
      ...record,
      territories: territoriesAt(outlet, record.territories)?.slice() ?? null,
      price: priceAt(outlet, facts),
      prices: [],
    },
  };
}
