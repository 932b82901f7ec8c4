/** What the descriptions of outlets share. */
import type { Money } from '../../base';
import { EBOOK_OUTLETS, type Band, type EbookOutlet, type Step } from '../../trade';

export function ebookOutlet(id: string): EbookOutlet {
  const found = EBOOK_OUTLETS.find((o) => o.id === id);
  if (!found) throw new Error(`no outlet ${id}`);
  return found;
}

export const pricesFrom = (minor: number, currencies: readonly string[]): Money[] =>
  currencies.map((currency) => ({ minor, currency }));
export const bands = (currencies: readonly string[], from: number, to: number | null = null): Band[] =>
  currencies.map((currency) => ({ currency, from, to }));
export const keeps = (who: string, hundredths: number, of: 'rest' | 'price' = 'rest'): Step => ({
  kind: 'share',
  who,
  keeps: hundredths * 100,
  of,
});

export const FIVE = ['GBP', 'USD', 'EUR', 'CAD', 'AUD'] as const;
export const ALL_CURRENCIES = [...FIVE, 'NZD', 'CHF', 'SEK', 'NOK', 'DKK', 'PLN', 'JPY', 'INR'] as const;
