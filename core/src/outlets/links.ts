/**
 * Links to books in a shop. The manuscript keeps such a link by its ISBN; which address it becomes is the outlet's for which
 * a file is made, for a shop sells no book that leads to another. A file made for no outlet shows the words alone.
 */
import { forOutlet, sectionsIn, type Book, type Section } from '../book';
import { bareIsbn, isbnFault } from '../record';
import type { Outlet } from './outlet';
import { outletNamed } from './outlets';

/** What the imprint has with an outlet. */
export interface Account {
  affiliate: string;
  /** Milliseconds since 1970. */
  changedAt: number;
}

/** A code as it may stand in an address (the unreserved characters of RFC 3986 §2.3). */
export const isAffiliateCode = (code: string): boolean => /^[\w.~-]{0,60}$/.test(code);

/** The address of a book at an outlet; null when the ISBN isn’t valid. */
export function bookAddressAt(outlet: Outlet, isbn: string, affiliate: string): string | null {
  if (isbnFault(isbn)) return null;
  const address = outlet.bookAddress.replace('{isbn}', bareIsbn(isbn));
  return affiliate && outlet.affiliate
    ? address + outlet.affiliate.replace('{code}', encodeURIComponent(affiliate))
    : address;
}

/** Whether an edition carries links to books in a shop. */
export const linksToShops = (book: Book, edition: string): boolean =>
  sectionsIn(book, edition).some(hasShopLink);

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

/** The id of the file that an outlet is sent: its own where links lead there, else the edition's that all are sent. */
export const fileFor = (book: Book, edition: string, outlet: string): string =>
  linksToShops(book, edition) && outletNamed(outlet) ? forOutlet(edition, outlet) : edition;
