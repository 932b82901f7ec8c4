/**
 * Money against ISO 4217 (minor units, from memory: GBP and EUR two, JPY and CLP none, KWD and TND three) and against Intl
 * in another currency style, which formats from the same CLDR but by the platform's own code.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amountFrom, amountString, exponentOf, moneySchema, moneyString } from '../src/base';

describe('money', () => {
  it.each([
    ['GBP', 2],
    ['EUR', 2],
    ['JPY', 0],
    ['CLP', 0],
    ['KWD', 3],
    ['TND', 3],
  ])('%s has %i decimals', (currency, decimals) => expect(exponentOf(currency)).toBe(decimals));
  it.each([
    ['4.99', 'GBP', 499],
    ['4,99', 'EUR', 499],
    ['5', 'USD', 500],
    ['0.5', 'GBP', 50],
    ['1200', 'JPY', 1200],
    ['1.250', 'KWD', 1250],
  ])('“%s” in %s is %i of the smallest unit', (text, currency, minor) =>
    expect(amountFrom(text, currency)).toEqual({ minor, currency }),
  );
  it.each([
    ['4.999', 'GBP'],
    ['4.5', 'JPY'],
    ['-1', 'GBP'],
    ['four', 'GBP'],
    ['', 'GBP'],
    ['1e3', 'GBP'],
  ])('“%s” is no amount in %s', (text, currency) => expect(amountFrom(text, currency)).toBeNull());
  it('is read back as it is written, in every currency that Intl knows', () => {
    fc.assert(
      fc.property(
        fc.nat(999_999_999),
        fc.constantFrom(...Intl.supportedValuesOf('currency')),
        (minor, currency) => {
          const money = { minor, currency };
          // Three decimals and nine digits before them is as much as is read.
          if (exponentOf(currency) <= 3) expect(amountFrom(amountString(money), currency)).toEqual(money);
          const digits = (s: string): string => s.replace(/\D/g, '').replace(/^0+/, '');
          expect(digits(moneyString(money))).toBe(digits(String(minor)));
        },
      ),
    );
  });
  it('keeps every digit of a large sum', () =>
    expect(moneyString({ minor: Number.MAX_SAFE_INTEGER, currency: 'GBP' })).toBe('£90,071,992,547,409.91'));
  it('is in a currency by its code', () => {
    expect(moneySchema.safeParse({ minor: 1, currency: 'GBP' }).success).toBe(true);
    for (const wrong of [
      { minor: 1.5, currency: 'GBP' },
      { minor: -1, currency: 'GBP' },
      { minor: 1, currency: 'gbp' },
    ])
      expect(moneySchema.safeParse(wrong).success).toBe(false);
  });
});
