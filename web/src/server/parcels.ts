/** What would go from a title to an outlet now, and what is in its way: the summary before sending, and the sending itself, ask here. */
import { formatISO } from 'date-fns';
import { inSentence } from '@pagina/core/base';
import { placingAt, type Book, type Edition } from '@pagina/core/book';
import {
  besideDigest,
  changesAt,
  demandsOf,
  editionAt,
  editionsFor,
  factsOf,
  filesTo,
  inTheWayOf,
  meantOf,
  moveFault,
  OUTLETS,
  OUTLET_FIELDS,
  type Account,
  type ChangesAt,
  type Demand,
  type Facts,
  type Imprint,
  type Outlet,
} from '@pagina/core/outlets';
import {
  accountsOf,
  imprintOf,
  jobsOf,
  listingsOf,
  productsOf,
  readTitle,
  type Job,
  type Listing,
  type Product,
  type Store,
} from '@pagina/data';
import { filesToSend, signedAs } from './signed';

/** A title with all that decides what its outlets are sent. */
export interface Desk {
  book: Book;
  revision: number;
  products: Product[];
  listings: Listing[];
  imprint: Imprint;
  accounts: Record<string, Account>;
  jobs: Job[];
}
export async function deskOf(s: Store, title: string): Promise<Desk | null> {
  const [loaded, products, listings, imprint, accounts, jobs] = await Promise.all([
    readTitle(s, title),
    productsOf(s, title),
    listingsOf(s, title),
    imprintOf(s),
    accountsOf(s),
    jobsOf(s, title),
  ]);
  return loaded && { ...loaded, products, listings, imprint, accounts, jobs };
}

export interface Ready {
  outlet: Outlet;
  edition: Edition;
  facts: Facts;
  demands: Demand[];
  listing: Listing | null;
  /** The sending or withdrawing that is under way. */
  job: Job | null;
  product: Product | null;
  signedOff: boolean;
  /** It stands in for a final file that is due. */
  provisional: boolean;
  beside: string;
  /** What the outlet has differently; null where it has nothing yet. */
  changes: ChangesAt | null;
  /** Another outlet, or the outlet's own rule, is in the way. */
  conflict: string | null;
}

const isUnderWay = (job: Job): boolean => job.state === 'queued' || job.state === 'running';
const today = (): string => formatISO(new Date(), { representation: 'date' });

/** `product` is the file that is meant; else the newest while it is the book's, or the newest that was signed off. */
export async function readyAt(
  s: Store,
  title: string,
  desk: Desk,
  outlet: Outlet,
  edition: Edition,
  chosen?: string,
): Promise<Ready> {
  const { book, revision, products, listings, imprint, accounts, jobs } = desk;
  const account = accounts[outlet.id] ?? null;
  const listing = listings.find((l) => l.outlet === outlet.id && l.edition === edition.id) ?? null;
  const facts = factsOf({ outlet, book, edition, revision, files: products, account, imprint });
  const kind = filesTo(outlet, facts)[0]?.product ?? edition.id;
  let product = products.find((p) => p.edition === kind && p.id === chosen) ?? null;
  if (!product && chosen === undefined) {
    const files = await filesToSend(s, products, kind);
    product =
      !files || files.newest.product.upTo === revision
        ? (files?.newest.product ?? null)
        : (files.signed ?? files.newest).product;
  }
  const signedOff = product !== null && (await signedAs(s, products, product)).at !== null;
  const made = { ...facts.made, [kind]: product ? { ...product, signedOff } : undefined };
  const now = { ...facts, made };
  const provisional = placingAt(book, outlet.id).preorder && !signedOff;
  const beside = besideDigest(outlet, now, provisional);
  const meant = meantOf(book, products, listings, imprint, { outlet: outlet.id, edition: edition.id });
  const [against] = inTheWayOf(edition, book, meant, today());
  const has = listing !== null && listing.delivered !== '' && listing.state !== 'withdrawn';
  const same = has && listing.beside === beside ? (product?.sha256 ?? null) : null;
  return {
    outlet,
    edition,
    facts: now,
    demands: demandsOf(outlet, now),
    listing,
    job:
      jobs.find((j) => isUnderWay(j) && (j.payload as { listing?: string }).listing === listing?.id) ?? null,
    product,
    signedOff,
    provisional,
    beside,
    changes: has ? changesAt(outlet, now, listing, same) : null,
    conflict: against
      ? [against.message, against.remedy].filter(Boolean).join(' ')
      : listing && moveFault(outlet, listing, book.record.published, today()),
  };
}

/** One outlet in the summary of what goes where. */
export interface Going {
  outlet: string;
  edition: string;
  product: string | null;
  files: { part: string; name: string }[];
  size: number;
  signedOff: boolean;
  provisional: boolean;
  /** What goes: files, changed fields alone, or nothing since it has all. */
  what: 'files' | 'details' | 'nothing';
  details: string[];
  /** About how many days it looks; 0 where it takes things over at once. */
  days: number;
  /** Why nothing can go; null where it can. */
  why: string | null;
}

/** Why changed details can't go alone: the file has them too. */
export function inFileFault(edition: Edition, inFile: ChangesAt['inFile']): string | null {
  if (inFile.length === 0) return null;
  const fields = new Intl.ListFormat('en-GB').format(inFile.map((f) => inSentence(OUTLET_FIELDS[f])));
  return `The ${inSentence(edition.name)} contains the old ${fields}: make it again, then send it.`;
}

/** Every outlet with a connection where the title is placed. */
export async function goingFrom(s: Store, title: string): Promise<Going[]> {
  const desk = await deskOf(s, title);
  if (!desk) return [];
  const { book, accounts } = desk;
  const going: Going[] = [];
  for (const outlet of OUTLETS) {
    const edition = placingAt(book, outlet.id).chosen ? editionAt(outlet, book) : null;
    if (!edition || !accounts[outlet.id]?.connected) continue;
    const r = await readyAt(s, title, desk, outlet, edition);
    const sends = !r.changes?.has;
    const what = sends ? 'files' : r.changes && r.changes.details.length > 0 ? 'details' : 'nothing';
    // What is asked of files was asked when they went.
    const missing = r.demands.find((d) => d.state === 'not met' && (sends || d.station !== 'editions'));
    going.push({
      outlet: outlet.id,
      edition: edition.id,
      product: r.product?.id ?? null,
      files: filesTo(outlet, r.facts).map(({ part, name }) => ({ part, name: name ?? '' })),
      size: r.product?.size ?? 0,
      signedOff: r.signedOff,
      provisional: r.provisional,
      what,
      details: r.changes?.details ?? [],
      days: r.changes && !r.changes.reviewed ? 0 : outlet.review.days,
      why: r.job
        ? 'Something is being sent there already.'
        : what === 'nothing'
          ? null
          : (r.conflict ??
            (missing ? `${missing.name}: ${missing.why}` : null) ??
            (what === 'details' ? inFileFault(edition, r.changes?.inFile ?? []) : null)),
    });
  }
  return going;
}

/** The edition that is named, if the outlet sells it. */
export const editionFor = (outlet: Outlet, book: Book, id: string): Edition | null =>
  editionsFor(outlet, book).find((e) => e.id === id) ?? null;
