/** What the places a title goes to mean for one another. */
import type { Finding } from '../base';
import { placingAt, type Book, type Edition } from '../book';
import { checkPlacing, type PlacedAt } from '../check';
import { priceIn } from '../trade';
import { editionAt, editionsFor } from './editionat';
import { factsOf, type KnownFile } from './facts';
import { outletsOf, type Imprint } from './imprint';
import type { Outlet } from './outlet';
import { listPriceOf, lowestAt } from './prices';
import type { Facts } from './told';

/** An outlet with the edition that is meant for it; `listed` where it has it already. */
export interface Meant {
  outlet: Outlet;
  edition: Edition;
  facts: Facts;
  listed: boolean;
}

function placedAt({ outlet, edition, facts }: Meant): PlacedAt {
  const placing = placingAt(facts.book, outlet.id);
  const list = listPriceOf(facts.book, edition);
  return {
    id: outlet.id,
    name: outlet.name,
    edition,
    exclusiveUntil: outlet.exclusive > 0 ? placing.exclusiveUntil : '',
    passes: outlet.passes.filter((s) => placing.shops?.includes(s.id) ?? true),
    adds: outlet.adds,
    lowest: edition.form === 'print' && list ? lowestAt(outlet, facts, list.currency) : null,
    list,
    preorder: placing.preorder ? outlet.preorder : null,
  };
}

/** Of the outlets to which a title goes, or where it is listed. `today` is an ISO day. */
export function conflictsOf(book: Book, meant: readonly Meant[], today: string): Finding[] {
  const goes = ({ outlet, edition, listed }: Meant): boolean =>
    listed || (placingAt(book, outlet.id).chosen && editionAt(outlet, book) === edition);
  const placed = meant.filter(goes);
  const home = book.record.price;
  const facts = placed.find((m) => m.edition.form !== 'print')?.facts;
  const prices = (home && facts ? book.record.prices : []).flatMap((given) => {
    const there =
      home && facts && priceIn(given.currency, { home, own: [] }, 'ebook', facts.currencies, facts.taxes);
    return there ? [{ given, worth: there.price }] : [];
  });
  return checkPlacing({ book, placed: placed.map(placedAt), prices, today });
}

/** Conflicts in whose way an edition isn't sent: those of ebooks in the way of ebooks, those of printed books in the way of these. */
export function inTheWayOf(edition: Edition, book: Book, meant: readonly Meant[], today: string): Finding[] {
  const isPrint = edition.form === 'print';
  const alike = meant.filter((m) => (m.edition.form === 'print') === isPrint);
  return conflictsOf(book, alike, today).filter((f) => f.severity === 'blocker');
}

/**
 * Outlets with the edition that is meant for each, and with whatever else they have. `sent` is one that is about to go, and
 * counts as there.
 */
export function meantOf(
  book: Book,
  files: readonly KnownFile[],
  listings: readonly { outlet: string; edition: string; delivered: string }[],
  imprint: Imprint,
  sent: { outlet: string; edition: string } | null = null,
): Meant[] {
  return outletsOf(imprint).flatMap((outlet) =>
    editionsFor(outlet, book).flatMap((edition): Meant[] => {
      const is = (l: { outlet: string; edition: string }): boolean =>
        l.outlet === outlet.id && l.edition === edition.id;
      const listed = listings.some((l) => is(l) && l.delivered !== '') || (sent !== null && is(sent));
      if (!listed && editionAt(outlet, book) !== edition) return [];
      // Whether a file is up to date is nothing to a conflict.
      const facts = factsOf({ outlet, book, edition, revision: 0, files, imprint });
      return [{ outlet, edition, facts, listed }];
    }),
  );
}
