/**
 * Links to books in a shop. The manuscript keeps such a link by its ISBN; which address it becomes is the outlet's for which
 * a file is made, for a shop sells no book that leads to another. A file made for no outlet shows the words alone.
 */
import { editionOf, forOutlet, MANUSCRIPT, placingAt, sectionsIn, type Book, type Section } from '../book';
import { isFromRecord } from '../order';
import { bareIsbn, isbnFault, otherBooks } from '../record';
import type { Outlet } from './outlet';
import { editionAt } from './editionat';
import { OUTLETS, outletNamed } from './outlets';

/** What the imprint has with an outlet. */
export interface Account {
  affiliate: string;
  /** When the code was set, in milliseconds since 1970. */
  changedAt: number;
  /** Whether the account’s key is known, so that the outlet is reached by its connection. */
  connected: boolean;
}

/** A code as it may stand in an address (the unreserved characters of RFC 3986 §2.3). */
export const isAffiliateCode = (code: string): boolean => /^[\w.~-]{0,60}$/.test(code);

/** Web addresses alone: nothing else may stand behind a link that strangers follow. */
export function isWebAddress(address: string): boolean {
  try {
    return /^https?:$/.test(new URL(address).protocol);
  } catch {
    return false;
  }
}

/** With the code of one who leads readers there, where the outlet takes one and the address has none yet. */
export function withCode(outlet: Outlet, address: string, code: string): string {
  if (!code || !outlet.affiliate || /[?#]/.test(address)) return address;
  return address + outlet.affiliate.replace('{code}', encodeURIComponent(code));
}

/** Whether an address is an outlet's own. */
export function isAddressAt(outlet: Pick<Outlet, 'hosts'>, address: string): boolean {
  return isWebAddress(address) && outlet.hosts.includes(new URL(address).hostname);
}

/**
 * The address of a book at an outlet; null when the ISBN isn’t valid. `known` are addresses that the outlet itself gave to
 * books, by their thirteen digits: the others are found there by their ISBN.
 */
export function bookAddressAt(
  outlet: Outlet,
  isbn: string,
  affiliate: string,
  known: Readonly<Record<string, string>> = {},
): string | null {
  if (isbnFault(isbn)) return null;
  const digits = bareIsbn(isbn);
  const given = Object.hasOwn(known, digits) ? (known[digits] ?? '') : '';
  const address = isAddressAt(outlet, given) ? given : outlet.bookAddress.replace('{isbn}', digits);
  return withCode(outlet, address, affiliate);
}

/** Whether an edition carries links to books in a shop. */
export const linksToShops = (book: Book, edition: string): boolean =>
  sectionsIn(book, edition).some(
    (s) =>
      hasShopLink(s) ||
      (s.kind === 'also-by' &&
        isFromRecord(s, book.record) &&
        otherBooks(book.record).some((b) => b.isbn !== '')),
  );

const known = new WeakMap<Section['content'], boolean>();
function hasShopLink({ content }: Section): boolean {
  const before = known.get(content);
  if (before !== undefined) return before;
  let found = false;
  content.descendants((n) => {
    found ||= n.marks.some((m) => m.type.name === 'link' && m.attrs.kind === 'shop');
    return !found;
  });
  known.set(content, found);
  return found;
}

/** The id of the word-processor file that an outlet is sent; an outlet of the author's own gets the manuscript as it is. */
export const wordFileFor = (outlet: string): string =>
  outletNamed(outlet) ? forOutlet(MANUSCRIPT, outlet) : MANUSCRIPT;

/** Files that are made for the outlets to which a title goes, and for no others. */
export function filesForOutlets(book: Book): string[] {
  return OUTLETS.filter((o) => placingAt(book, o.id).chosen).flatMap((o) => {
    const edition = editionAt(o, book);
    if (!edition) return [];
    if (o.files.includes('word')) return [wordFileFor(o.id)];
    const file = o.files.includes('ebook') ? fileFor(book, edition.id, o.id) : edition.id;
    return file === edition.id ? [] : [file];
  });
}

/** The id of the file that an outlet is sent: an ebook of its own where links lead there, else the edition's that all are sent. */
export const fileFor = (book: Book, edition: string, outlet: string): string =>
  editionOf(book, edition)?.form !== 'print' && linksToShops(book, edition) && outletNamed(outlet)
    ? forOutlet(edition, outlet)
    : edition;
