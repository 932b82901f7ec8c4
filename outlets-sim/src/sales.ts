/**
 * What a shop sold in a month that has ended. The figures are drawn from the checksum of book, territory and day: they come
 * out the same however often they are asked for, fewer as a book grows older, with a copy returned now and then.
 */
import { createHash } from 'node:crypto';
import { eventsOf, type Book } from './books';
import type { House } from './house';
import { REPORTS, type Sold } from './reports';
import type { Shop } from './shop';

export interface Report {
  name: string;
  type: string;
  text: string;
}

/** Copies on the first day, by territory. */
const EAGER: readonly [territory: string, copies: number][] = [
  ['GB', 2.2],
  ['US', 1.4],
  ['DE', 0.5],
  ['AU', 0.3],
];
/** Days after which half as many are sold. */
const HALF = 40;
const RETURNED = 0.04;

/** 0 up to 1, the same for the same words. */
const drawn = (...words: readonly (string | number)[]): number =>
  createHash('sha256').update(words.join(' ')).digest().readUInt32BE(0) / 2 ** 32;

/** Whether a book is on sale at the end of a shop day. */
const isOnSale = (book: Book, day: number, { review }: Shop): boolean =>
  (book.withdrawn === null || book.withdrawn > day) &&
  eventsOf({ ...book, withdrawn: null }, day + 1, review).at(-1)?.state === 'on sale';

/** Null for a month that is none, or hasn't ended yet. */
export function soldIn(house: House, shop: Shop, month: string): Sold[] | null {
  const first = house.dayOf(`${month}-01`);
  const next = /^\d{4}-(0[1-9]|1[0-2])$/.test(month) ? house.dayOf(`${monthAfter(month)}-01`) : null;
  if (first === null || next === null || next > house.day) return null;
  return house.booksAt(shop.id).flatMap((book) =>
    REPORTS[shop.id].offers(book).flatMap((offer) =>
      EAGER.flatMap(([territory, eager]): Sold[] => {
        let copies = 0;
        let returned = 0;
        for (let day = Math.max(0, first); day < next; day++) {
          if (!isOnSale(book, day, shop)) continue;
          const age = day - (book.arrivals[0]?.day ?? day);
          const draw = drawn(shop.id, offer.by ?? '', book.reference, territory, day);
          const sold = Math.floor(eager / (1 + age / HALF) + draw);
          copies += sold;
          if (sold > 0 && drawn('returned', shop.id, book.reference, territory, day) < RETURNED) returned++;
        }
        return copies === 0
          ? []
          : [
              {
                ...offer,
                reference: book.reference,
                territory,
                copies,
                returned,
                sum: (copies - returned) * offer.owed,
              },
            ];
      }),
    ),
  );
}

export function monthAfter(month: string): string {
  const [year = 0, number = 0] = month.split('-').map(Number);
  return number === 12 ? `${year + 1}-01` : `${year}-${String(number + 1).padStart(2, '0')}`;
}

/** Months that have ended since the shops opened, the newest first. */
export function endedMonths(house: House): string[] {
  const months: string[] = [];
  const now = house.dateOf(house.day).slice(0, 7);
  for (let m = house.kept.begun.slice(0, 7); m < now && months.length < 120; m = monthAfter(m))
    months.unshift(m);
  return months;
}

/** The report of a month, as the shop writes it; null where there is none. */
export function reportOf(house: House, shop: Shop, month: string): Report | null {
  const sold = soldIn(house, shop, month);
  const { ending, type, write } = REPORTS[shop.id];
  return sold && { name: `${shop.id}-${month}.${ending}`, type, text: write(sold, month) };
}
