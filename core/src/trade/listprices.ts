/**
 * List prices in other currencies, from the one that the author gives. The tax that it includes at home comes off, the rest
 * is converted, the other territory's tax is added where prices there include it, and the sum goes to the nearest price of
 * the local habit. A price that the author gives in a currency comes before all this.
 */
import type { Money } from '../base';
import { byHabit, converted, habitAtLeast, type CurrencyTable } from './currencies';
import { marketFor, taxIn, type Taxes } from './markets';
import { over, ratio, times, type Ratio } from './ratio';
import type { Plan } from './terms';
import { saleUnder, type Sold } from './sale';

const TEN_THOUSAND = 10_000;

export interface ListPrices {
  home: Money;
  /** In other currencies, as the author gives them. */
  own: readonly Money[];
}
export interface PriceIn {
  price: Money;
  from: 'given' | 'worked out';
}

/** What tax multiplies a price of this currency by. */
function taxed(currency: string, kind: 'ebook' | 'print', taxes: Taxes): Ratio {
  const m = marketFor(currency);
  return ratio(TEN_THOUSAND + (m?.included ? taxIn(m, kind, taxes) : 0), TEN_THOUSAND);
}

/** The list price in a currency; null where neither the author nor the table says. */
export function priceIn(
  currency: string,
  { home, own }: ListPrices,
  kind: 'ebook' | 'print',
  table: CurrencyTable,
  taxes: Taxes = {},
): PriceIn | null {
  const given = [home, ...own].find((p) => p.currency === currency);
  if (given) return { price: given, from: 'given' };
  const exact = converted(home, currency, table);
  if (!exact) return null;
  const price = byHabit(
    times(over(exact, taxed(home.currency, kind, taxes)), taxed(currency, kind, taxes)),
    currency,
  );
  return { price, from: 'worked out' };
}

/** More steps of a price than any book costs. */
const MOST_STEPS = 2_000;

/**
 * The lowest price of the local habit at which a sale under a plan brings at least so much, in the smallest unit; null
 * where no price in reach does.
 */
export function lowestBringing(plan: Plan, least: number, sold: Sold): Money | null {
  const { currency } = sold.list;
  let price = habitAtLeast(ratio(1), currency);
  for (let i = 0; i < MOST_STEPS; i++) {
    const sale = saleUnder(plan, { ...sold, list: price });
    if (sale && sale.author >= least) return price;
    price = habitAtLeast(ratio(price.minor + 1), currency);
  }
  return null;
}
