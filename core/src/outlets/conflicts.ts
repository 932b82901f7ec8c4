/** What the places a title goes to mean for one another. */
import type { Finding } from '../base';
import { placingAt, type Book, type Edition } from '../book';
import { checkPlacing, type PlacedAt } from '../check';
import { priceIn } from '../trade';
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
