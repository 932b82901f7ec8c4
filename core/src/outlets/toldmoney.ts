/** Prices as an outlet asks for them. */
import { moneyString, type Money } from '../base';
import type { Asked } from './asked';
import type { Outlet } from './outlet';
import { libraryPriceAt, listPriceOf } from './prices';
import { shownPrice, told, typed, type Facts, type Told } from './told';

/** A list price in a currency in which the outlet sells, and not below its least. */
function priceFault(outlet: Outlet, price: Money): string | null {
  const least = outlet.least.prices.find((p) => p.currency === price.currency);
  const sold = outlet.least.prices.map((p) => p.currency).join(', ');
  if (!least) return `${outlet.name} sells in ${sold} only.`;
  return price.minor < least.minor ? `It is below ${moneyString(least)}.` : null;
}

/** Null for a field that is none of these. */
export function moneyTold(outlet: Outlet, { field }: Asked, facts: Facts): Told | null {
  const { record } = facts.book;
  const { edition, placing } = facts;
  const of = (price: Money | null, missing: string): Told =>
    price ? told(typed(price), priceFault(outlet, price), { shown: shownPrice(price) }) : told('', missing);
  switch (field) {
    case 'price':
      return of(
        listPriceOf(facts.book, edition),
        edition.form === 'print'
          ? 'Give the edition a list price in the record.'
          : 'Give the ebook a list price in the record.',
      );
    case 'libraryPrice': {
      if (record.libraryPrice) return of(record.libraryPrice, '');
      const suggested = libraryPriceAt(outlet, facts);
      return suggested
        ? told(typed(suggested), priceFault(outlet, suggested), {
            shown: `${shownPrice(suggested)}, suggested`,
          })
        : told(
            '',
            'Give the ebook a list price in the record: the price for libraries is suggested from it.',
          );
    }
    case 'bundlePrice':
      return record.bundlePrice
        ? told(typed(record.bundlePrice), null, { shown: shownPrice(record.bundlePrice) })
        : told('', 'The record gives none.');
    case 'plan': {
      const plan = outlet.plans.find((p) => p.id === placing.plan);
      return told(plan?.name ?? '', null, {
        shown: plan?.name ?? 'the one that brings most',
        station: 'outlets',
      });
    }
    default:
      return null;
  }
}
