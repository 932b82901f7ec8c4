/** What the places a title goes to mean for one another. */
import type { Finding } from '../base';
import { placingAt, type Book, type Edition } from '../book';
import { checkPlacing, type PlacedAt } from '../check';
import { priceIn } from '../trade';
import { editionsFor, factsOf, type KnownFile } from './facts';
import type { Outlet } from './outlet';
import { OUTLETS } from './outlets';
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
  const placed = meant.filter((m) => m.listed || placingAt(book, m.outlet.id).chosen);
  const home = book.record.price;
  const facts = placed.find((m) => m.edition.form !== 'print')?.facts;
  const prices = (home && facts ? book.record.prices : []).flatMap((given) => {
    const there =
      home && facts && priceIn(given.currency, { home, own: [] }, 'ebook', facts.currencies, facts.taxes);
    return there ? [{ given, worth: there.price }] : [];
  });
  return checkPlacing({ book, placed: placed.map(placedAt), prices, today });
}

/** Those of them in whose way an edition isn't sent. */
export const inTheWayOf = (edition: string, conflicts: readonly Finding[]): Finding[] =>
  conflicts.filter((f) => f.severity === 'blocker' && f.about?.split(' ')[1] === edition);

/**
 * Outlets with the edition that is meant for each: the first that it sells, and whatever it has. `sent` is one that is about
 * to go, and counts as there.
 */
export function meantOf(
  book: Book,
  files: readonly KnownFile[],
  listings: readonly { outlet: string; edition: string; delivered: string }[],
  sent: { outlet: string; edition: string } | null = null,
): Meant[] {
  return OUTLETS.flatMap((outlet) =>
    editionsFor(outlet, book).flatMap((edition, i): Meant[] => {
      const is = (l: { outlet: string; edition: string }): boolean =>
        l.outlet === outlet.id && l.edition === edition.id;
      const listed = listings.some((l) => is(l) && l.delivered !== '') || (sent !== null && is(sent));
      if (i > 0 && !listed) return [];
      return [{ outlet, edition, facts: factsOf({ outlet, book, edition, revision: 0, files }), listed }];
    }),
  );
}
