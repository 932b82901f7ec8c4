/**
 * ISBN-13 (ISO 2108; ISBN Users' Manual, 7th edition, §5): prefix, registration group, registrant, title, check digit.
 * The check digit makes the sum of digits weighted 1, 3, 1, 3 … divisible by ten.
 */
export type IsbnFault = 'empty' | 'length' | 'prefix' | 'check-digit';

export const bareIsbn = (text: string): string => text.replace(/[\s\u2010-\u2015-]/g, '').toUpperCase();

export function isbn13CheckDigit(first12: string): number {
  let sum = 0;
  for (let i = 0; i < 12; i++) sum += Number(first12[i]) * (i % 2 === 0 ? 1 : 3);
  return (10 - (sum % 10)) % 10;
}

/** Null when the text is a valid ISBN-13, else what is wrong. */
export function isbnFault(text: string): IsbnFault | null {
  const s = bareIsbn(text);
  if (s === '') return 'empty';
  if (!/^\d{13}$/.test(s)) return 'length';
  if (!s.startsWith('978') && !s.startsWith('979')) return 'prefix';
  return isbn13CheckDigit(s) === Number(s[12]) ? null : 'check-digit';
}

export const ISBN_FAULTS: Record<IsbnFault, string> = {
  empty: 'No ISBN has been given.',
  length: 'An ISBN has thirteen digits.',
  prefix: 'An ISBN begins with 978 or 979.',
  'check-digit': 'The last digit doesn’t match the others, so one of the digits is mistyped.',
};

/** An ISBN-10 as the ISBN-13 of the same book (Users' Manual, appendix 1), or null when its check digit is wrong. */
export function isbn10to13(text: string): string | null {
  const s = bareIsbn(text);
  if (!/^\d{9}[\dX]$/.test(s)) return null;
  let sum = 0;
  for (let i = 0; i < 10; i++) sum += (s[i] === 'X' ? 10 : Number(s[i])) * (10 - i);
  if (sum % 11 !== 0) return null;
  const first12 = `978${s.slice(0, 9)}`;
  return first12 + String(isbn13CheckDigit(first12));
}
