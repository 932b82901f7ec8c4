import { expect, it } from 'vitest';
import fc from 'fast-check';
import { letters } from '../../src/check';
import { likest } from '../../src/check/letters';

it('shows two texts letter by letter, an accent with its letter', () => {
  expect(letters('The Causway', 'The Causeway')).toEqual([
    { how: 'same', text: 'The Caus' },
    { how: 'wanted', text: 'e' },
    { how: 'same', text: 'way' },
  ]);
  expect(letters('Ine\u0300s', 'Ines').map((l) => l.text)).toEqual(['In', 'e\u0300', 'e', 's']);
});
it('holds both texts whole, whatever they are', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (a, b) => {
      const of = (how: string): string =>
        letters(a, b)
          .filter((l) => l.how !== how)
          .map((l) => l.text)
          .join('');
      expect([of('wanted'), of('found')]).toEqual([a, b]);
    }),
  );
});
it('finds the line that was meant, and none where nothing is like it', () => {
  expect(likest(['A Novel', 'The Causway', 'Ines Calloway'], 'The Causeway')).toBe('The Causway');
  expect(likest(['A Novel', ''], 'The Causeway')).toBeNull();
});
