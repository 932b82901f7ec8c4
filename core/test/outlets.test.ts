import { expect, it } from 'vitest';
import { demandsOf, isReady, OUTLETS } from '../src/outlets';
import { threeChapters } from './fixtures/books';

const outlet = OUTLETS[0]!;
const standing = (b: ReturnType<typeof threeChapters>, made: Parameters<typeof demandsOf>[3], revision = 0) =>
  Object.fromEntries(demandsOf(outlet, b, b.editions[1]!, made, revision).map((d) => [d.name, d.standing]));

it('tells demand by demand what a shop would refuse', () => {
  const b = threeChapters();
  expect(standing(b, null)).toEqual({
    Title: 'met',
    Author: 'met',
    Description: 'not met',
    Price: 'not met',
    Cover: 'not met',
    ISBN: 'optional',
    Ebook: 'not met',
    'Word-processor file': 'not asked',
  });
  const ready = {
    ...b,
    record: { ...b.record, description: 'x'.repeat(60), price: { minor: 499, currency: 'GBP' }, cover: 'c' },
  };
  expect(isReady(demandsOf(outlet, ready, ready.editions[1]!, { revision: 3, findings: [] }, 3))).toBe(true);
  expect(standing(ready, { revision: 2, findings: [] }, 3).Ebook).toBe('not met');
  expect(
    standing(ready, { revision: 3, findings: [{ rule: 'x', severity: 'blocker', message: '' }] }, 3).Ebook,
  ).toBe('not met');
});
