/** Where readers find a title: the addresses that outlets gave, and those that were typed by hand. */
import { editionOf, placingAt, type Book } from '../book';
import { editionAt } from './editionat';
import { outletsOf, type Imprint } from './imprint';
import { isWebAddress, withCode, type Account } from './links';
import { isListed, type Found, type ListingState } from './news';

export interface ShopLink {
  /** Of the shop, or of the one that an aggregator passed the book on to. */
  shop: string;
  address: string;
  /** What is sold there. */
  edition: string;
}
/** What is known of a listing here. */
export interface ListedAt {
  outlet: string;
  edition: string;
  state: ListingState;
  link: string;
  found: Pick<Found, 'shops'>;
}

/** In the order of the outlets. */
export function shopLinks(
  book: Pick<Book, 'placing' | 'editions'>,
  listings: readonly ListedAt[],
  imprint: Imprint,
  accounts: Readonly<Record<string, Pick<Account, 'affiliate'> | undefined>> = {},
): ShopLink[] {
  return outletsOf(imprint).flatMap((outlet) => {
    const code = (Object.hasOwn(accounts, outlet.id) ? accounts[outlet.id]?.affiliate : '') ?? '';
    const links: ShopLink[] = [];
    const add = (shop: string, address: string, edition: string): void => {
      if (isWebAddress(address) && !links.some((l) => l.address === address))
        links.push({ shop, address, edition });
    };
    for (const l of listings) {
      if (l.outlet !== outlet.id || !isListed(l.state)) continue;
      const edition = editionOf(book, l.edition)?.name ?? '';
      const shops = l.found.shops.filter((s) => s.state === 'on sale' && s.link !== '');
      for (const s of shops) add(s.name, s.link, edition);
      if (shops.length === 0) add(outlet.name, withCode(outlet, l.link, code), edition);
    }
    const { state, link } = placingAt(book, outlet.id);
    if (state === 'on sale' && links.length === 0)
      add(outlet.name, withCode(outlet, link, code), editionAt(outlet, book)?.name ?? '');
    return links;
  });
}
