/**
 * Lanternquay, an invented ebook shop. A parcel is received at once, comes before a reviewer after half a day, and is
 * held with reasons or put on sale after two and a half. Days are the shop's own: its clock is moved by hand.
 */
import { createHash } from 'node:crypto';
import { readEpub, type EpubFacts } from './epub';

/** What the shop is told of a book, and shows. */
export interface Details {
  title: string;
  subtitle: string;
  authors: string[];
  isbn: string;
  editionStatement: string;
  description: string;
  keywords: string[];
  language: string;
  /** Minor units. */
  price: number;
  currency: string;
}
export interface Slip extends Details {
  /** Of the file. */
  name: string;
  sha256: string;
  size: number;
}
export type State = 'received' | 'with the shop' | 'held' | 'on sale';
/** Something that came: a book, a file in its place, or other details. */
export interface Arrival {
  /** Shop days. */
  day: number;
  words: string;
  /** What is wrong with the book since then; null where nobody looks at it again. */
  reasons: string[] | null;
}
export interface Parcel {
  reference: string;
  /** Of every sending: the newest is the file that is sold. */
  keys: { key: string; sha256: string }[];
  slip: Slip;
  facts: EpubFacts;
  arrivals: Arrival[];
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
  | { status: 200 | 201; reference: string; sha256: string }
  | { status: 400 | 404 | 409 | 422; message: string };

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

const sha256Of = (p: Parcel): string => p.keys.at(-1)?.sha256 ?? '';
export const receiptOf = (p: Parcel): { reference: string; sha256: string } => ({
  reference: p.reference,
  sha256: sha256Of(p),
});

/** The parcel that has come under this key. */
export const parcelOf = (shop: ShopState, key: string | null): Parcel | undefined =>
  shop.parcels.find((p) => p.keys.some((k) => k.key === key));

/**
 * Takes a parcel in. The same key again is the same parcel, whatever happened to the first answer. `replaces` is the
 * reference of a book that the shop has: the file and the details are changed, and looked at again.
 */
export function receive(
  shop: ShopState,
  key: string,
  slip: Slip,
  file: Uint8Array,
  replaces: string | null = null,
): Receipt {
  if (!/^[\w-]{8,100}$/.test(key)) return { status: 400, message: 'A parcel needs a key.' };
  const sha256 = createHash('sha256').update(file).digest('hex');
  const known = parcelOf(shop, key);
  if (known)
    return known.keys.some((k) => k.key === key && k.sha256 === sha256)
      ? { status: 200, reference: known.reference, sha256 }
      : { status: 409, message: 'That key came with another file before.' };
  if (sha256 !== slip.sha256 || file.length !== slip.size)
    return {
      status: 422,
      message: `The file arrived damaged: ${file.length} bytes with the checksum ${sha256}.`,
    };
  const wrong = wrongDetails(slip);
  if (wrong) return { status: 400, message: wrong };
  const facts = readEpub(file);
  const reasons = reasonsAgainst(slip, facts);
  if (replaces !== null) {
    const parcel = shop.parcels.find((p) => p.reference === replaces);
    if (!parcel) return { status: 404, message: `We have no book ${replaces}.` };
    parcel.keys.push({ key, sha256 });
    const words = `New file ${parcel.keys.length} for ${replaces}, ${slip.size} bytes.`;
    parcel.arrivals.push({ day: shop.day, words, reasons });
    Object.assign(parcel, { slip, facts });
    return { status: 200, reference: replaces, sha256 };
  }
  const reference = `LQ-${String(shop.parcels.length + 1).padStart(5, '0')}`;
  const words = `Received as ${reference}, ${slip.size} bytes.`;
  shop.parcels.push({
    reference,
    keys: [{ key, sha256 }],
    slip,
    facts,
    arrivals: [{ day: shop.day, words, reasons }],
  });
  return { status: 201, reference, sha256 };
}

/** Details by which the shop knows a book: it looks at the book again where they change. */
const LOOKED_AT: readonly (keyof Details)[] = ['title', 'subtitle', 'authors', 'isbn', 'language'];
const TEXTS: readonly (keyof Details)[] = [
  'title',
  'subtitle',
  'isbn',
  'editionStatement',
  'description',
  'language',
  'currency',
];
function wrongDetails(d: Details): string | null {
  for (const field of TEXTS) if (typeof d[field] !== 'string') return `The slip lacks “${field}”.`;
  for (const field of ['authors', 'keywords'] as const)
    if (!Array.isArray(d[field]) || !d[field].every((x) => typeof x === 'string'))
      return `The slip’s “${field}” must be a list of words.`;
  return Number.isInteger(d.price) && d.price >= 0 ? null : 'The slip’s price must be a whole number.';
}

/** Changes what the shop shows of a book. */
export function revise(
  shop: ShopState,
  parcel: Parcel,
  details: Details,
): { status: 200 } | { status: 400; message: string } {
  const wrong = wrongDetails(details);
  if (wrong) return { status: 400, message: wrong };
  const names = Object.keys(details) as (keyof Details)[];
  const changed = names.filter((f) => JSON.stringify(details[f]) !== JSON.stringify(parcel.slip[f]));
  if (changed.length === 0) return { status: 200 };
  parcel.slip = { ...parcel.slip, ...details };
  const again = changed.some((f) => LOOKED_AT.includes(f));
  parcel.arrivals.push({
    day: shop.day,
    words: `Change ${parcel.arrivals.length}: ${changed.join(', ')}.${again ? ' We look at the book again.' : ' It is shown.'}`,
    reasons: again ? reasonsAgainst(parcel.slip, parcel.facts) : null,
  });
  return { status: 200 };
}

function reasonsAgainst(slip: Slip, facts: EpubFacts): string[] {
  const reasons: string[] = [];
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

/** What has happened to a parcel by the shop's present day. A review ends where something else arrives. */
export function eventsOf(shop: ShopState, { arrivals }: Parcel): Event[] {
  const events: Event[] = [];
  let ends = Infinity;
  for (const { day, words, reasons } of [...arrivals].reverse()) {
    if (reasons) {
      const during: Event[] = [{ state: 'received', day, words }];
      const passed = (after: number): boolean => day + after <= shop.day && day + after < ends;
      if (passed(REVIEW_BEGINS))
        during.push({ state: 'with the shop', day: day + REVIEW_BEGINS, words: 'A reviewer has it.' });
      if (passed(REVIEW_ENDS))
        during.push({
          state: reasons.length > 0 ? 'held' : 'on sale',
          day: day + REVIEW_ENDS,
          words: reasons.length > 0 ? reasons.join(' ') : 'It is on sale.',
        });
      events.unshift(...during);
      ends = day;
    } else events.push({ state: 'received', day, words });
  }
  events.sort((a, b) => a.day - b.day);
  const plain = new Set(arrivals.filter((a) => a.reasons === null).map((a) => a.words));
  // What nobody looks at leaves the book where it is.
  for (const [i, e] of events.entries()) if (plain.has(e.words)) e.state = events[i - 1]?.state ?? e.state;
  return events;
}
/** Where it is sold; '' before it is. A book that is looked at again is sold meanwhile. */
export const linkOf = (shop: ShopState, p: Parcel): string =>
  eventsOf(shop, p).some((e) => e.state === 'on sale')
    ? `https://lanternquay.example/book/${p.reference.toLowerCase()}`
    : '';
