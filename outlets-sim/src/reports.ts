/**
 * How each shop writes what it sold. Each has a form of its own: JSON, commas, semicolons with decimal commas, tabs, XML; and
 * each names things its own way, as real reports do (common practice).
 */
import type { Book, Told } from './books';
import type { EbookFacts } from './ebook';
import type { ShopId } from './names';
import type { PdfFacts } from './pdf';
import { sheetOf } from './sheet';
import { escaped } from './xml';

/** What is sold, for one copy; sums in the smallest unit of the currency. */
export interface Offer {
  title: string;
  isbn: string;
  list: number;
  currency: string;
  /** What the shop owes for a copy. */
  owed: number;
  /** Of one that passes books on, the shop that sold it. */
  by?: string;
}
export interface Sold extends Offer {
  reference: string;
  territory: string;
  copies: number;
  returned: number;
  /** For the copies that stayed sold. */
  sum: number;
}
interface Writes {
  type: string;
  ending: string;
  /** What a copy costs readers there, and what is paid for it; one for each shop that sells it. */
  offers(book: Book): Offer[];
  write(sold: readonly Sold[], month: string): string;
}

/** "4.99"; with a decimal comma where the shop writes one. */
const amount = (minor: number, point = '.'): string => (minor / 100).toFixed(2).replace('.', point);
/** A share of a sum in hundredths, rounded to the smallest unit. */
const share = (minor: number, hundredths: number): number => Math.round((minor * hundredths) / 100);
const minorOf = (text: unknown): number => Math.round(Number(text) * 100);
const text = (told: Told, field: string): string => (typeof told[field] === 'string' ? told[field] : '');
/** Where a shop calls things as most do. */
const offered = (told: Told, list: number, owed: number): Offer => ({
  title: text(told, 'title'),
  isbn: text(told, 'isbn'),
  currency: text(told, 'currency'),
  list,
  owed,
});
const lines = (rows: readonly (readonly (string | number)[])[], between: string): string =>
  `${rows.map((r) => r.join(between)).join('\r\n')}\r\n`;

/** Delivery at Lanternquay's higher rate: nine pence a megabyte. */
const DELIVERY = 9;
const megabytes = ({ files }: Book): number => (files.find((f) => f.part !== 'cover')?.size ?? 0) / 1e6;
/** What Packstone's shops keep, in hundredths, before Packstone keeps a tenth of the rest. */
const PASSED: Readonly<Record<string, number>> = {
  Plover: 40,
  Gannetstone: 45,
  'Tollgate Lane': 30,
  Shelfmoor: 50,
};

/** Fernhythe takes a fixed sum a copy instead. */
const FIXED: Readonly<Record<string, number>> = { GBP: 79, USD: 99, EUR: 95, CAD: 135, AUD: 149 };
const passed = (by: string, list: number, currency: string): number =>
  by === 'Fernhythe' ? list - (FIXED[currency] ?? 99) : (list * (100 - (PASSED[by] ?? 50))) / 100;

export const REPORTS: Record<ShopId, Writes> = {
  lanternquay: {
    type: 'application/json',
    ending: 'json',
    offers(book) {
      const { told } = book;
      const list = Number(told.price);
      const wide = text(told, 'rate') !== 'plain';
      const owed = wide ? share(list - Math.round(DELIVERY * megabytes(book)), 68) : share(list, 40);
      return [offered(told, list, owed)];
    },
    write: (sold, month) =>
      JSON.stringify(
        {
          month,
          sales: sold.map((s) => ({
            reference: s.reference,
            title: s.title,
            isbn: s.isbn,
            country: s.territory,
            sold: s.copies,
            returned: s.returned,
            listPrice: s.list,
            royalty: s.sum,
            currency: s.currency,
          })),
        },
        null,
        2,
      ),
  },
  marram: {
    type: 'text/csv',
    ending: 'csv',
    offers({ told, assigned }) {
      const [price] = (told.prices ?? []) as { currency: string; amount: string }[];
      const list = minorOf(price?.amount);
      const isbn = text(told, 'isbn') || (assigned?.isbn ?? '');
      return [
        { title: text(told, 'name'), isbn, currency: price?.currency ?? '', list, owed: share(list, 66) },
      ];
    },
    write: (sold) =>
      sheetOf([
        ['Book', 'ISBN', 'Title', 'Country', 'Units', 'Refunds', 'List price', 'Currency', 'Payable'],
        ...sold.map((s) => [
          s.reference,
          s.isbn,
          s.title,
          s.territory,
          String(s.copies),
          String(s.returned),
          amount(s.list),
          s.currency,
          amount(s.sum),
        ]),
      ]),
  },
  packstone: {
    type: 'text/csv',
    ending: 'csv',
    offers({ told }) {
      const list = minorOf(told.consumerPrice);
      const shops = Array.isArray(told.passOnTo) ? (told.passOnTo as string[]) : [];
      return shops.map((by) => ({
        title: text(told, 'title'),
        isbn: text(told, 'isbn13'),
        currency: text(told, 'currency'),
        list,
        owed: share(passed(by, list, text(told, 'currency')), 90),
        by,
      }));
    },
    write: (sold, month) =>
      lines(
        [
          ['Month', 'Shop', 'EAN', 'Country', 'Net copies', 'Price', 'Share', 'Cur.'],
          ...sold.map((s) => [
            month,
            s.by ?? '',
            s.isbn,
            s.territory,
            s.copies - s.returned,
            amount(s.list, ','),
            amount(s.sum, ','),
            s.currency,
          ]),
        ],
        ';',
      ),
  },
  pocketfell: {
    type: 'text/tab-separated-values',
    ending: 'tsv',
    offers({ told }) {
      const list = minorOf(told.Price);
      return [
        {
          title: text(told, 'Title'),
          isbn: text(told, 'ISBN'),
          currency: text(told, 'Currency'),
          list,
          owed: share(list, 70),
        },
      ];
    },
    write: (sold, month) =>
      lines(
        [
          ['Period', 'Item', 'Title', 'Storefront', 'Qty', 'Customer price', 'Proceeds', 'Currency'],
          // A return is a line of its own with a quantity below zero.
          ...sold.flatMap((s) =>
            [s.copies, -s.returned]
              .filter((n) => n !== 0)
              .map((n) => [
                month,
                s.reference,
                s.title.replace(/\s+/g, ' '),
                s.territory,
                n,
                amount(s.list),
                amount(n * s.owed),
                s.currency,
              ]),
          ),
        ],
        '\t',
      ),
  },
  shelfmoor: {
    type: 'application/xml',
    ending: 'xml',
    offers({ told }) {
      const list = minorOf(told.price);
      return [offered(told, list, share(list, 50))];
    },
    write: (sold, month) =>
      `<lendings month="${month}">${sold
        .map(
          (s) =>
            `<title isbn="${escaped(s.isbn)}" country="${s.territory}"><copies>${s.copies - s.returned}</copies><price currency="${escaped(s.currency)}">${amount(s.list)}</price><due>${amount(s.sum)}</due></title>`,
        )
        .join('')}</lendings>`,
  },
  quayhead: {
    type: 'application/xml',
    ending: 'xml',
    offers(book) {
      const { told, files } = book;
      const list = minorOf(told.price);
      const pages = files
        .map((f) => f.facts as unknown as PdfFacts | EbookFacts | null)
        .find((f) => f && 'pages' in f);
      // Its own printing charge; what is left of sixty hundredths after it.
      const printing = 85 + Math.round(1.2 * (pages && 'pages' in pages ? Number(pages.pages) : 0));
      const owed = share(list, 60) - printing;
      return [offered(told, list, owed)];
    },
    write: (sold, month) =>
      `<statement month="${month}">${sold
        .map(
          (s) =>
            `<line job="${escaped(s.reference)}" isbn="${escaped(s.isbn)}" market="${s.territory}" printed="${s.copies}" returned="${s.returned}" list="${amount(s.list)}" compensation="${amount(s.sum)}" currency="${escaped(s.currency)}"/>`,
        )
        .join('')}</statement>`,
  },
};
