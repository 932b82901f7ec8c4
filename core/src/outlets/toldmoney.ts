/** Prices as an outlet asks for them. */
import { amountString, moneyString, type Money } from '../base';
import type { Asked } from './asked';
import type { Outlet } from './outlet';
import { libraryPriceAt, listPriceOf } from './prices';
import { told, type Facts, type Told } from './told';

/** A list price in a currency in which the outlet sells, and not below its least. */
function priceFault(outlet: Outlet, price: Money): string | null {
  const least = outlet.least.find((p) => p.currency === price.currency);
  const sold = outlet.least.map((p) => p.currency).join(', ');
  if (!least) return `${outlet.name} sells in ${sold} only.`;
  return price.minor < least.minor ? `It is below ${moneyString(least)}.` : null;
}

/** Null for a field that is none of these. */
export function moneyTold(outlet: Outlet, { field }: Asked, facts: Facts): Told | null {
  const { record } = facts.book;
  const { edition, placing } = facts;
  const of = (price: Money | null, missing: string): Told =>
    price
      ? told(amountString(price), priceFault(outlet, price), { shown: moneyString(price) })
      : told('', missing);
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
        ? told(amountString(suggested), priceFault(outlet, suggested), {
            shown: `${moneyString(suggested)}, suggested`,
          })
        : told(
            '',
            'Give the ebook a list price in the record: the price for libraries is suggested from it.',
          );
    }
    case 'bundlePrice':
      return record.bundlePrice
        ? told(amountString(record.bundlePrice), null, { shown: moneyString(record.bundlePrice) })
        : told('', 'The record gives none.');
    case 'plan': {
      const plan = outlet.plans.find((p) => p.id === placing.plan);
      return told(plan?.name ?? '', null, {
        shown: plan?.name ?? 'whichever earns more',
        station: 'outlets',
      });
    }
    default:
      return null;
  }
}
