import { describe, expect, it } from 'vitest';
import ISBN from 'isbn3';
import {
  authorsLine,
  fileStem,
  isbn10to13,
  isbn13CheckDigit,
  isbnFault,
  recordSchema,
  sortNameOf,
} from '../src/record';

describe('ISBN', () => {
  // ISBN Users' Manual, 7th edition: the manual's own number, 978-92-95055-12-4, and its worked check digit 978-0-11-000222-? → 4 (from memory).
  it('accepts the manual’s own numbers', () => {
    expect(isbnFault('978-92-95055-12-4')).toBeNull();
    expect(isbn13CheckDigit('978011000222')).toBe(4);
  });
  it.each([
    ['978-92-95055-12-5', 'check-digit'],
    ['97892950551', 'length'],
    ['977-92-95055-12-4', 'prefix'],
    ['', 'empty'],
  ])('finds what is wrong with %s', (isbn, fault) => expect(isbnFault(isbn)).toBe(fault));
  it('agrees with the isbn3 library on numbers of many publishers', () => {
    for (let n = 0; n < 2000; n++) {
      const first12 = `978${String(14_300_000 * 7 + n * 37_117)
        .padStart(9, '0')
        .slice(0, 9)}`;
      const whole = first12 + isbn13CheckDigit(first12);
      expect(isbnFault(whole)).toBeNull();
      const theirs = ISBN.parse(whole);
      if (theirs) expect(theirs.isbn13).toBe(whole);
      const wrong = first12 + ((isbn13CheckDigit(first12) + 1) % 10);
      expect(ISBN.parse(wrong)?.isValid ?? false).toBe(false);
      expect(isbnFault(wrong)).toBe('check-digit');
    }
  });
  it('turns an ISBN-10 into the ISBN-13 that isbn3 gives', () =>
    expect(isbn10to13('0-306-40615-2')).toBe(ISBN.parse('0306406152')?.isbn13));
});

it('names authors as a title page does', () => {
  const record = (...names: string[]) =>
    recordSchema.parse({ contributors: names.map((name) => ({ name, role: 'author' })) });
  expect(authorsLine(record('Ada Marsh'))).toBe('Ada Marsh');
  expect(authorsLine(record('A', 'B', 'C'))).toBe('A, B and C');
  expect(sortNameOf({ name: 'Ada van Marsh', role: 'author', sortName: '', life: '', portrait: null })).toBe(
    'Marsh, Ada van',
  );
});
it('makes file names that go everywhere', () =>
  expect([fileStem('The Salt Ledger'), fileStem('Élan — où?'), fileStem('???')]).toEqual([
    'the-salt-ledger',
    'elan-ou',
    'untitled',
  ]));
