/**
 * Lanternquay, an invented ebook shop. A parcel is received at once, comes before a reviewer after half a day, and is
 * held with reasons or put on sale after two and a half. Days are the shop's own: its clock is moved by hand.
 */
import { createHash } from 'node:crypto';
import { readEpub } from './epub';

export interface Slip {
  title: string;
  authors: string[];
  isbn: string;
  description: string;
  language: string;
  /** Minor units. */
  price: number;
  currency: string;
  /** Of the file. */
  name: string;
  sha256: string;
  size: number;
}
export type State = 'received' | 'with the shop' | 'held' | 'on sale';
export interface Parcel {
  reference: string;
  key: string;
  sha256: string;
  slip: Slip;
  /** Shop days. */
  arrived: number;
  reasons: string[];
}
export interface Event {
  state: State;
  day: number;
  words: string;
}
export interface ShopState {
  day: number;
  parcels: Parcel[];
}

const REVIEW_BEGINS = 0.5;
const REVIEW_ENDS = 2.5;
const LEAST_PRICE = 99;
const LEAST_DESCRIPTION = 50;

export type Receipt =
  { status: 200 | 201; reference: string; sha256: string } | { status: 400 | 409 | 422; message: string };

const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Files are shelved under their titles: Latin letters and figures, hyphens between. A long title may be cut. */
function isShelved(name: string, title: string): boolean {
  const latin = (s: string): string =>
    s
      .normalize('NFKD')
      .toLowerCase()
      .replace(/\p{M}/gu, '')
      .replace(/[^a-z0-9]/g, '');
  const shelved = latin(title);
  const given = latin(name.replace(/\.epub$/, ''));
  return /^[a-z0-9-]+\.epub$/.test(name) && (shelved === '' || (given !== '' && shelved.startsWith(given)));
}

/** Takes a parcel in. The same key again is the same parcel, whatever happened to the first answer. */
export function receive(shop: ShopState, key: string, slip: Slip, file: Uint8Array): Receipt {
  if (!/^[\w-]{8,100}$/.test(key)) return { status: 400, message: 'A parcel needs a key.' };
  const sha256 = createHash('sha256').update(file).digest('hex');
  const known = shop.parcels.find((p) => p.key === key);
  if (known)
    return known.sha256 === sha256
      ? { status: 200, reference: known.reference, sha256 }
      : { status: 409, message: 'That key came with another file before.' };
  if (sha256 !== slip.sha256 || file.length !== slip.size)
    return {
      status: 422,
      message: `The file arrived damaged: ${file.length} bytes with the checksum ${sha256}.`,
    };
  const reference = `LQ-${String(shop.parcels.length + 1).padStart(5, '0')}`;
  shop.parcels.push({ reference, key, sha256, slip, arrived: shop.day, reasons: reasonsAgainst(slip, file) });
  return { status: 201, reference, sha256 };
}

function reasonsAgainst(slip: Slip, file: Uint8Array): string[] {
  const reasons: string[] = [];
  const facts = readEpub(file);
  if (facts.fault) return [`The ebook cannot be opened: ${facts.fault}.`];
  if (plain(facts.title) !== plain(slip.title))
    reasons.push(`The ebook calls itself “${facts.title}”, the slip “${slip.title}”.`);
  for (const a of slip.authors)
    if (!facts.authors.some((f) => plain(f) === plain(a)))
      reasons.push(`The ebook does not name ${a} as author.`);
  if (slip.isbn && facts.identifier !== `urn:isbn:${slip.isbn}`)
    reasons.push(`The ebook carries ${facts.identifier}, the slip the ISBN ${slip.isbn}.`);
  if (!isShelved(slip.name, slip.title))
    reasons.push(`The file is called ${slip.name}; we shelve files under their titles.`);
  if (!facts.cover) reasons.push('The ebook has no cover.');
  if (slip.description.length < LEAST_DESCRIPTION)
    reasons.push(`The description has ${slip.description.length} characters; it needs ${LEAST_DESCRIPTION}.`);
  if (slip.price < LEAST_PRICE) reasons.push('The price is below 0.99.');
  return reasons;
}

/** What has happened to a parcel by the shop's present day. */
export function eventsOf(shop: ShopState, p: Parcel): Event[] {
  const events: Event[] = [
    { state: 'received', day: p.arrived, words: `Received as ${p.reference}, ${p.slip.size} bytes.` },
  ];
  if (shop.day >= p.arrived + REVIEW_BEGINS)
    events.push({ state: 'with the shop', day: p.arrived + REVIEW_BEGINS, words: 'A reviewer has it.' });
  if (shop.day >= p.arrived + REVIEW_ENDS)
    events.push(
      p.reasons.length > 0
        ? { state: 'held', day: p.arrived + REVIEW_ENDS, words: p.reasons.join(' ') }
        : { state: 'on sale', day: p.arrived + REVIEW_ENDS, words: 'It is on sale.' },
    );
  return events;
}
export const linkOf = (p: Parcel): string => `https://lanternquay.example/book/${p.reference.toLowerCase()}`;
