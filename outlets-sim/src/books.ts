/**
 * What a shop knows of a book: what came, in which files, and what has happened to it by the shop's present day. A book
 * comes under a key: the same key again is the same parcel, whatever happened to the first answer.
 */
import type { FileFacts } from './filefacts';

export type State = 'received' | 'with the shop' | 'held' | 'pre-order' | 'on sale' | 'withdrawn';
export interface Event {
  state: State;
  /** Shop days. */
  day: number;
  words: string;
}
export interface ShopFile {
  part: string;
  name: string;
  sha256: string;
  size: number;
  facts: FileFacts | null;
}
/** Something that came: a book, files in place of others, or other details. */
export interface Arrival {
  day: number;
  words: string;
  /** What is wrong with the book since then; null where nobody looks at it again. */
  reasons: Reason[] | null;
}
/** Why a book is held, and what of it that is about. */
export interface Reason {
  about: string;
  words: string;
}
/** What a shop was told, by the shop's own names. */
export type Told = Readonly<Record<string, unknown>>;
export interface Book {
  reference: string;
  /** Of every sending, each with the checksums of its files in one: the newest is what is sold. */
  keys: { key: string; sum: string }[];
  told: Told;
  files: ShopFile[];
  arrivals: Arrival[];
  /** Shop day on which sale begins; null for as soon as it may. */
  release: number | null;
  /** A file that stands in for the one that is still to come. */
  provisional: boolean;
  /** Shop day on which it was taken from sale. */
  withdrawn: number | null;
  /** A number that the shop gave it. */
  assigned: { isbn: string; from: number } | null;
}
/** How long a shop looks, in days. */
export interface Review {
  begins: number;
  ends: number;
  words: { with: string; on: string };
  /** Days before a release by which the last file has to be there. */
  finalFile: number;
}

export const sumOf = (files: readonly { part: string; sha256: string }[]): string =>
  files
    .map((f) => `${f.part}:${f.sha256}`)
    .sort()
    .join(' ');

/** The book that came under this key. */
export const bookOfKey = (books: readonly Book[], key: string): Book | undefined =>
  books.find((b) => b.keys.some((k) => k.key === key));
export const bookNamed = (books: readonly Book[], reference: string): Book | undefined =>
  books.find((b) => b.reference === reference);

/** A key that names no parcel, or names one with other files. */
export function keyFault(
  books: readonly Book[],
  key: string,
  sum: string,
): { status: 400 | 409; message: string } | null {
  if (!/^[\w-]{8,100}$/.test(key)) return { status: 400, message: 'A parcel needs a key.' };
  const known = bookOfKey(books, key);
  return !known || known.keys.some((k) => k.key === key && k.sum === sum)
    ? null
    : { status: 409, message: 'That key came with another file before.' };
}

export type Coming = Pick<Book, 'told' | 'files' | 'release' | 'provisional'> & {
  key: string;
  reasons: Reason[];
};

/** Takes a parcel in, whose key is new or whose book is then answered. `replaces` is a book that the shop has: its files are changed, and it is looked at again. */
export function takeIn(
  books: Book[],
  coming: Coming,
  { day, replaces, reference }: { day: number; replaces: Book | null; reference: string },
): Book {
  const { key, reasons, ...more } = coming;
  // It may have come twice at once, and been read both times.
  const known = bookOfKey(books, key);
  if (known) return known;
  const sum = sumOf(coming.files);
  const bytes = coming.files.reduce((n, f) => n + f.size, 0);
  if (replaces) {
    replaces.keys.push({ key, sum });
    const words = `New file ${replaces.keys.length} for ${replaces.reference}, ${bytes} bytes.`;
    replaces.arrivals.push({ day, words, reasons });
    Object.assign(replaces, more, { withdrawn: null });
    return replaces;
  }
  const words = `Received as ${reference}, ${bytes} bytes.`;
  const book: Book = {
    reference,
    keys: [{ key, sum }],
    arrivals: [{ day, words, reasons }],
    withdrawn: null,
    assigned: null,
    ...more,
  };
  books.push(book);
  return book;
}

/** Changes what is shown. `again` names what the shop looks at the book again for. */
export function changeTold(
  book: Book,
  told: Told,
  { day, again, reasons }: { day: number; again: readonly string[]; reasons: () => Reason[] },
): void {
  const names = [...new Set([...Object.keys(told), ...Object.keys(book.told)])];
  const changed = names.filter((n) => JSON.stringify(told[n] ?? '') !== JSON.stringify(book.told[n] ?? ''));
  if (changed.length === 0 && book.withdrawn === null) return;
  book.told = told;
  book.withdrawn = null;
  // What is held is looked at again whatever is changed: that may have been the reason.
  const held = (book.arrivals.filter((x) => x.reasons !== null).at(-1)?.reasons ?? []).length > 0;
  const looks = held || changed.some((n) => again.includes(n));
  book.arrivals.push({
    day,
    words: `Change ${book.arrivals.length}: ${changed.join(', ')}.${looks ? ' We look at the book again.' : ' It is shown.'}`,
    reasons: looks ? reasons() : null,
  });
}

/** What has happened by a day. A review ends where something else arrives. */
export function eventsOf(book: Book, day: number, review: Review): Event[] {
  const events: Event[] = [];
  let ends = Infinity;
  for (const { day: came, words, reasons } of [...book.arrivals].reverse()) {
    if (reasons) {
      const during: Event[] = [{ state: 'received', day: came, words }];
      const passed = (at: number): boolean => at <= day && at < ends;
      if (passed(came + review.begins))
        during.push({ state: 'with the shop', day: came + review.begins, words: review.words.with });
      if (passed(came + review.ends))
        during.push(...ending(book, came + review.ends, reasons, passed, review));
      events.unshift(...during);
      ends = came;
    } else events.push({ state: 'received', day: came, words });
  }
  events.sort((a, b) => a.day - b.day);
  const plain = new Set(book.arrivals.filter((a) => a.reasons === null).map((a) => a.words));
  // What nobody looks at leaves the book where it is.
  for (const [i, e] of events.entries()) if (plain.has(e.words)) e.state = events[i - 1]?.state ?? e.state;
  if (book.withdrawn !== null)
    events.push({
      state: 'withdrawn',
      day: book.withdrawn,
      words: 'Withdrawn. Readers keep the copies they bought.',
    });
  return events;
}
function ending(
  { release, provisional }: Book,
  at: number,
  reasons: Reason[],
  passed: (at: number) => boolean,
  review: Review,
): Event[] {
  if (reasons.length > 0) return [{ state: 'held', day: at, words: reasons.map((r) => r.words).join(' ') }];
  const on: Event = { state: 'on sale', day: at, words: review.words.on };
  if (release === null || release <= at) return [on];
  const events: Event[] = [
    { state: 'pre-order', day: at, words: 'Readers can order it. Sale begins at midnight of its day.' },
  ];
  const due = release - review.finalFile;
  if (provisional && passed(due))
    return [
      ...events,
      { state: 'held', day: due, words: 'The final file did not come in time. The orders were cancelled.' },
    ];
  if (passed(release)) events.push({ ...on, day: release });
  return events;
}

/** Whether readers can buy or order it. A book that is looked at again is sold meanwhile. */
export function isListed(book: Book, day: number, review: Review): boolean {
  const events = eventsOf(book, day, review);
  const last = events
    .map((e) => e.state)
    .filter((s) => s === 'on sale' || s === 'pre-order' || s === 'withdrawn' || s === 'held')
    .at(-1);
  return (
    last === 'on sale' ||
    last === 'pre-order' ||
    (last === 'held' && events.some((e) => e.state === 'on sale'))
  );
}
/** Why it is held now; none where it isn't. */
export function heldFor(book: Book, day: number, review: Review): Reason[] {
  const state = eventsOf(book, day, review).at(-1)?.state;
  const looked = book.arrivals.filter((a) => a.reasons !== null).at(-1);
  if (state !== 'held' || !looked?.reasons) return [];
  return looked.reasons.length > 0
    ? looked.reasons
    : [{ about: 'file', words: 'The final file did not come in time. The orders were cancelled.' }];
}

/** A day that is announced can't be moved in the last days before it; null where it isn't. */
export function lateChange(
  { release }: Book,
  to: number | null,
  day: number,
  { finalFile }: Review,
): string | null {
  if (release === null || release === to || release <= day || release - day > finalFile) return null;
  return `The first day of sale is fixed from ${finalFile} days before.`;
}
