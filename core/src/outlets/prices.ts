/** The price sheet: what a sale brings at an outlet, per territory, and which of its plans is the better one. */
import { moneyString, type Money } from '../base';
import { placingAt, type Book, type Edition } from '../book';
import {
  convertedMoney,
  equalAtPrice,
  equalAtSize,
  isOpen,
  lowestBringing,
  marketFor,
  MARKETS,
  priceIn,
  printingCost,
  rounded,
  salesUnder,
  taxIn,
  type Market,
  type Plan,
  type Ratio,
  type Sale,
  type Sold,
} from '../trade';
import { trimOf } from '../design';
import type { Outlet } from './outlet';
import { OUTLETS } from './outlets';
import { territoriesAt } from './toldlists';
import type { Facts } from './told';

export const listPriceOf = (book: Pick<Book, 'record'>, edition: Edition): Money | null =>
  edition.form === 'print' ? edition.price : book.record.price;

type Priced = Pick<Facts, 'book' | 'edition' | 'placing' | 'pages' | 'size' | 'currencies' | 'taxes'>;

/** A territory in which an outlet sells, and what one sale there brings by each plan that is open; the best first. */
export interface SaleAt {
  market: Market;
  list: Money;
  from: 'given' | 'worked out';
  /** Of an aggregator, the shop. */
  shop: string;
  sales: Sale[];
}

/** What printing a copy costs in a currency; 0 for an ebook, null where nothing is known of it. */
export function printingIn(
  { edition, pages, currencies }: Pick<Facts, 'edition' | 'pages' | 'currencies'>,
  currency: string,
): number | null {
  if (edition.form !== 'print') return 0;
  const trim = trimOf(edition.trim);
  const cost = pages && trim ? printingCost(pages, trim, edition.inks === 'colour', edition.binding) : null;
  return cost && (convertedMoney(cost, currency, currencies)?.minor ?? null);
}

/** The prices at which a plan of the author's choice, or every one, is looked at. */
const plansAt = (plans: readonly Plan[], chosen: string): readonly Plan[] => {
  const one = plans.filter((p) => p.id === chosen);
  return one.length > 0 ? one : plans;
};

/** What an outlet's sales bring by territory. `price` stands in for the list price at home, such as a library's. */
export function salesAt(outlet: Outlet, facts: Priced, price = priceAt(outlet, facts)): SaleAt[] {
  const { book, edition, placing, currencies, taxes, size } = facts;
  if (!price) return [];
  const kind = edition.form === 'print' ? 'print' : 'ebook';
  const sold = territoriesAt(outlet, book.record.territories);
  const own = kind === 'ebook' && price === book.record.price ? book.record.prices : [];
  const shops = outlet.passes.filter((s) => placing.shops?.includes(s.id) ?? true);
  const ways = outlet.passes.length > 0 ? shops : [{ name: '', plans: plansAt(outlet.plans, placing.plan) }];
  return MARKETS.filter(
    (m) =>
      (sold === null || sold.includes(m.territory)) && outlet.least.some((p) => p.currency === m.currency),
  ).flatMap((market) => {
    const list = priceIn(market.currency, { home: price, own }, kind, currencies, taxes);
    const printing = printingIn(facts, market.currency);
    if (!list || printing === null) return [];
    const sale: Sold = {
      list: list.price,
      territory: market.territory,
      tax: { rate: taxIn(market, kind, taxes), included: market.included },
      size,
      printing,
    };
    return ways.map((w) => ({
      market,
      list: list.price,
      from: list.from,
      shop: w.name,
      sales: salesUnder(w.plans, sale),
    }));
  });
}

/** The price that an outlet sells by: that of libraries, where it sells to them. */
export function priceAt(outlet: Outlet, facts: Priced): Money | null {
  const { book, edition } = facts;
  return outlet.kind === 'libraries'
    ? (book.record.libraryPrice ?? libraryPriceAt(outlet, facts))
    : listPriceOf(book, edition);
}

/** What a sale of the ebook at home is made of, at a price. */
function saleAtHome({ edition, size, taxes }: Priced, list: Money): Sold {
  const market = marketFor(list.currency);
  return {
    list,
    territory: market?.territory ?? '',
    tax: {
      rate: market ? taxIn(market, edition.form === 'print' ? 'print' : 'ebook', taxes) : 0,
      included: market?.included ?? false,
    },
    size,
    printing: 0,
  };
}

/** The lowest price for libraries at which a sale brings no less than one of the ebook does in the shops that it goes to, or in any. */
export function libraryPriceAt(outlet: Outlet, facts: Priced): Money | null {
  const { book } = facts;
  const list = book.record.price;
  const plan = outlet.plans[0];
  if (!list || !plan) return null;
  const shops = OUTLETS.filter((o) => ['shop', 'app'].includes(o.kind));
  const chosen = shops.filter((o) => placingAt(book, o.id).chosen);
  const sold = saleAtHome(facts, list);
  const sums = (chosen.length > 0 ? chosen : shops).flatMap(
    (o) => salesUnder(plansAt(o.plans, placingAt(book, o.id).plan), sold)[0]?.author ?? [],
  );
  return lowestBringing(plan, Math.max(0, ...sums), sold);
}

/** Two plans of an outlet held against each other at a price without tax: where one overtakes the other. */
export interface Comparison {
  better: Plan;
  other: Plan;
  /** Megabytes of the file beyond which the other plan is the better one; null where it never is. */
  size: Ratio | null;
  /** The price without tax at which both bring the same for this file; null where it is open to one alone. */
  price: Money | null;
}
export function comparedPlans({ sales, market: { territory } }: SaleAt, size: number): Comparison | null {
  const [a, b] = sales;
  if (!a || !b) return null;
  const price = equalAtPrice(a.plan, b.plan, a.currency, size);
  const at = price && { minor: rounded(price), currency: a.currency };
  return {
    better: a.plan,
    other: b.plan,
    size: equalAtSize(a.plan, b.plan, a.net),
    // A price at which one of the two may not be chosen says nothing.
    price: at && isOpen(a.plan, at, territory) && isOpen(b.plan, at, territory) ? at : null,
  };
}

/** The lowest list price of a printed book that pays for its printing however an outlet sells it, in its home currency. */
export function lowestAt(outlet: Outlet, facts: Priced, currency: string): Money | null {
  const printing = printingIn(facts, currency);
  if (printing === null) return null;
  const sold = { ...saleAtHome(facts, { minor: 0, currency }), printing };
  const plans = [...outlet.plans, ...outlet.passes.flatMap((s) => s.plans)];
  const each = plans.map((p) => lowestBringing(p, 0, sold));
  return each.reduce<Money | null>((most, p) => (p && (!most || p.minor > most.minor) ? p : most), null);
}

/** A sum that may be below zero, in words: "£2.04", "−£0.36". */
export function sumString(minor: number, currency: string): string {
  return `${minor < 0 ? '−' : ''}${moneyString({ minor: Math.abs(minor), currency })}`;
}
