/**
 * Money: a whole number of a currency's smallest unit, with its ISO 4217 code. How many decimals the currency has comes
 * from Intl (CLDR), which follows ISO 4217's minor unit: two for the pound, none for the yen, three for the dinar.
 */
import * as z from 'zod';

export const moneySchema = z.object({
  minor: z.number().int().nonnegative(),
  currency: z.string().regex(/^[A-Z]{3}$/),
});
export type Money = z.infer<typeof moneySchema>;

/** Decimals of a currency; two for a code that Intl does not know. */
export const exponentOf = (currency: string): number =>
  new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;

/** "4.99", as it is typed: without sign or currency. */
export const amountString = ({ minor, currency }: Money): string => {
  const exponent = exponentOf(currency);
  const digits = String(minor).padStart(exponent + 1, '0');
  return exponent === 0 ? digits : `${digits.slice(0, -exponent)}.${digits.slice(-exponent)}`;
};

/** "£4.99" in the manner of a language, which is that of the interface where none is given. */
export function moneyString(money: Money, locale = 'en-GB'): string {
  // A decimal string keeps every digit (ECMA-402, NumberFormat v3); a number would not, past 2^53.
  const amount = amountString(money) as unknown as number;
  return new Intl.NumberFormat(locale, { style: 'currency', currency: money.currency }).format(amount);
}

/** Reads what is typed ("4.99", "4,99", "499"); null where it is no amount of that currency. */
export function amountFrom(text: string, currency: string): Money | null {
  const exponent = exponentOf(currency);
  const m = /^(\d{1,9})(?:[.,](\d+))?$/.exec(text.trim());
  const decimals = m?.[2] ?? '';
  if (!m || decimals.length > exponent) return null;
  return { minor: Number(m[1] + decimals.padEnd(exponent, '0')), currency };
}
