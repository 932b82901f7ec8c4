/**
 * Where books are sold: the currency of a territory, and the tax on them there. From memory, as of the date below; the rates
 * of tax change, and each can be corrected in the imprint.
 */
import * as z from 'zod';

export interface Market {
  /** ISO 3166-1. */
  territory: string;
  currency: string;
  /** Whether readers see prices with the tax in them. */
  included: boolean;
  /** Tax in ten-thousandths, on ebooks and on printed books. */
  tax: { ebook: number; print: number };
}

/** Taxes of the author's own, by territory, in ten-thousandths. */
export const taxSchema = z.object({
  ebook: z.number().int().min(0).max(5_000),
  print: z.number().int().min(0).max(5_000),
});
export const taxesSchema = z.record(z.string().regex(/^[A-Z]{2}$/), taxSchema);
export type Taxes = z.infer<typeof taxesSchema>;

export const TAXES_OF = '2026-01-01';

const market = (
  territory: string,
  currency: string,
  ebook: number,
  print: number,
  included = true,
): Market => ({
  territory,
  currency,
  included,
  tax: { ebook, print },
});
export const MARKETS: readonly Market[] = [
  market('GB', 'GBP', 0, 0),
  market('US', 'USD', 0, 0, false),
  market('DE', 'EUR', 700, 700),
  market('IE', 'EUR', 0, 0),
  market('AT', 'EUR', 1_000, 1_000),
  market('FR', 'EUR', 550, 550),
  market('NL', 'EUR', 900, 900),
  market('BE', 'EUR', 600, 600),
  market('ES', 'EUR', 400, 400),
  market('IT', 'EUR', 400, 400),
  market('PT', 'EUR', 600, 600),
  market('CA', 'CAD', 500, 500, false),
  market('AU', 'AUD', 1_000, 1_000),
  market('NZ', 'NZD', 1_500, 1_500),
  market('CH', 'CHF', 260, 260),
  market('SE', 'SEK', 600, 600),
  market('NO', 'NOK', 0, 0),
  market('DK', 'DKK', 2_500, 2_500),
  market('PL', 'PLN', 500, 500),
  market('JP', 'JPY', 1_000, 1_000),
  market('IN', 'INR', 1_800, 0),
];
export const marketOf = (territory: string): Market | undefined =>
  MARKETS.find((m) => m.territory === territory);

/** The tax that a sale there bears, in the author's own figures where there are any. */
export const taxIn = (m: Market, kind: 'ebook' | 'print', own: Taxes = {}): number =>
  (own[m.territory] ?? m.tax)[kind];

/** The territory whose tax a price in a currency is worked out with: the first that uses it. */
export const marketFor = (currency: string): Market | undefined =>
  MARKETS.find((m) => m.currency === currency);
