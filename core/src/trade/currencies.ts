/**
 * Prices in other currencies: a dated table of rates, and how prices end where a currency is used. The table that Pagina
 * comes with is from memory and rounded; the author puts a newer one in its place, as CSV or in the XML form in which the
 * European Central Bank publishes its reference rates (form from memory).
 */
import * as z from 'zod';
import { done, exponentOf, parseXml, refused, type Money, type Outcome, type XmlElement } from '../base';
import { ceiling, over, ratio, ratioFrom, rounded, times, type Ratio } from './ratio';

export const currencyTableSchema = z.object({
  /** ISO day. */
  date: z.string().regex(/^\d{4}-\d\d-\d\d$/),
  source: z.string().max(200),
  base: z.string().regex(/^[A-Z]{3}$/),
  /** How much of each currency one unit of the base buys, as a decimal. */
  rates: z.record(z.string().regex(/^[A-Z]{3}$/), z.string().regex(/^\d{1,12}(?:\.\d{1,12})?$/)),
});
export type CurrencyTable = z.infer<typeof currencyTableSchema>;

export const CURRENCIES: CurrencyTable = {
  date: '2026-11-02',
  source: 'Shipped with Pagina: from memory, rounded',
  base: 'EUR',
  rates: {
    AUD: '1.77',
    CAD: '1.62',
    CHF: '0.93',
    DKK: '7.46',
    GBP: '0.87',
    INR: '103',
    JPY: '178',
    NOK: '11.7',
    NZD: '2.03',
    PLN: '4.24',
    SEK: '11.0',
    USD: '1.16',
  },
};

/** How much of a currency a unit of the base buys; null where the table has none. */
const rateOf = (table: CurrencyTable, currency: string): Ratio | null =>
  currency === table.base ? ratio(1) : ratioFrom(table.rates[currency] ?? '');

const unit = (currency: string): Ratio => ratio(10n ** BigInt(exponentOf(currency)));

/** Exactly, in smallest units of the other currency; null where the table lacks one of the two. */
export function converted(money: Money, to: string, table: CurrencyTable): Ratio | null {
  const [from, into] = [rateOf(table, money.currency), rateOf(table, to)];
  if (!from || !into) return null;
  return over(times(times(ratio(money.minor), into), unit(to)), times(from, unit(money.currency)));
}
export function convertedMoney(money: Money, to: string, table: CurrencyTable): Money | null {
  const exact = converted(money, to, table);
  return exact && { minor: rounded(exact), currency: to };
}

/** Prices are so many steps and the ending: 4.99 is four steps of 1.00 and 0.99. Smallest units (common practice, from memory). */
const HABITS: Readonly<Record<string, { step: number; ending: number }>> = {
  AUD: { step: 100, ending: 99 },
  CAD: { step: 100, ending: 99 },
  CHF: { step: 100, ending: 90 },
  DKK: { step: 1_000, ending: 900 },
  EUR: { step: 100, ending: 99 },
  GBP: { step: 100, ending: 99 },
  INR: { step: 1_000, ending: 900 },
  JPY: { step: 100, ending: 80 },
  NOK: { step: 1_000, ending: 900 },
  NZD: { step: 100, ending: 99 },
  PLN: { step: 100, ending: 99 },
  SEK: { step: 1_000, ending: 900 },
  USD: { step: 100, ending: 99 },
};

/** The price of the local habit that is nearest, of two the higher; as it is where no habit is known. */
export function byHabit(exact: Ratio, currency: string): Money {
  const habit = HABITS[currency];
  if (!habit) return { minor: rounded(exact), currency };
  const steps = rounded(over(minusWhole(exact, habit.ending), ratio(habit.step)));
  return { minor: Math.max(steps, 0) * habit.step + habit.ending, currency };
}
/** The lowest price of the local habit that is not below. */
export function habitAtLeast(exact: Ratio, currency: string): Money {
  const habit = HABITS[currency];
  if (!habit) return { minor: ceiling(exact), currency };
  const steps = ceiling(over(minusWhole(exact, habit.ending), ratio(habit.step)));
  return { minor: Math.max(steps, 0) * habit.step + habit.ending, currency };
}
const minusWhole = ({ n, d }: Ratio, whole: number): Ratio => ({ n: n - BigInt(whole) * d, d });

/**
 * Reads a table: CSV with a currency's code and its rate a line (`USD,1.16`; lines `base,EUR` and `date,2026-11-02` say
 * the rest), or the central bank's XML. `day` is its date where the file doesn't say. Errors: `currencies/unread`.
 */
export function currencyTableFrom(text: string, name: string, day: string): Outcome<CurrencyTable> {
  const table = text.trimStart().startsWith('<') ? fromXml(text, name) : fromCsv(text, name, day);
  const parsed = currencyTableSchema.safeParse(table);
  if (!parsed.success)
    return refused(
      'currencies/unread',
      'The file has no date in the form 2026-11-02, or its codes aren’t those of currencies.',
    );
  const { base, rates } = parsed.data;
  const wrong = Object.entries(rates).find(([, rate]) => !ratioFrom(rate));
  if (wrong) return refused('currencies/unread', `The rate of ${wrong[0]} can’t be read: “${wrong[1]}”.`);
  const known = Object.fromEntries(Object.entries(rates).filter(([code]) => code !== base));
  return Object.keys(known).length > 0
    ? done({ ...parsed.data, rates: known })
    : refused('currencies/unread', 'The file has no rates: a line is a code and a number, such as USD,1.16.');
}

function fromCsv(text: string, source: string, day: string): CurrencyTable {
  const table: CurrencyTable = { date: day, source, base: 'EUR', rates: {} };
  for (const line of text.split(/\r?\n/)) {
    const [key = '', value = ''] = line.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, ''));
    if (key.toLowerCase() === 'date') table.date = value;
    else if (key.toLowerCase() === 'base') table.base = value.toUpperCase();
    else if (/^[A-Za-z]{3}$/.test(key) && value !== '' && /\d/.test(value))
      table.rates[key.toUpperCase()] = value;
  }
  return table;
}

function fromXml(text: string, source: string): CurrencyTable {
  const table: CurrencyTable = { date: '', source, base: 'EUR', rates: {} };
  const visit = (el: XmlElement): void => {
    const { time, currency, rate } = el.attrs;
    // Newest first: an archive of many days gives the newest.
    if (time && table.date === '') table.date = time;
    else if (time) return;
    if (currency && rate) table.rates[currency] = rate;
    for (const child of el.children) if (typeof child !== 'string') visit(child);
  };
  const { root } = parseXml(text);
  if (root) visit(root);
  return table;
}
