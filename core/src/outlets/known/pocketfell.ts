import { asked } from '../asked';
import type { Outlet } from '../outlet';
import { bands, ebookOutlet, keeps, pricesFrom } from './common';

const SOLD_IN = ['GBP', 'USD', 'EUR', 'JPY', 'INR'] as const;

/** A reading app with limits for preview and copying, and as many subjects as one likes. */
export const pocketfell: Outlet = {
  ...ebookOutlet('pocketfell'),
  kind: 'app',
  words:
    'A reading app. It sells in the app, shows a preview of its own, and looks at a book within an hour.',
  sells: ['reflow'],
  reached: 'connection',
  asks: [
    asked('title', 'Title'),
    asked('authors', 'Author', 'needed', { as: 'one' }),
    asked('imprint', 'Seller', 'optional'),
    asked('language', 'Language'),
    asked('description', 'Description', 'needed', { least: 200, most: 4_000, markup: 'taken' }),
    asked('subjects', 'Subjects', 'needed', { least: 1 }),
    asked('ages', 'Ages', 'optional'),
    asked('adult', 'Contains adult content'),
    asked('publicDomain', 'In the public domain'),
    asked('isbn', 'ISBN', 'optional'),
    asked('price', 'Price'),
    asked('preview', 'Readable before buying', 'needed', { most: 20 }),
    asked('copies', 'Text that may be copied', 'needed', { most: 40 }),
    asked('protection', 'Encrypted', 'optional'),
    asked('rights', 'Declaration of rights'),
    asked('ebook', 'Book'),
    asked('name', 'File'),
  ],
  takes: ['title', 'authors', 'isbn', 'description', 'language', 'price'],
  review: { days: 0.05, after: ['title', 'authors', 'description'] },
  files: ['ebook'],
  cries: true,
  least: [
    ...pricesFrom(149, ['GBP', 'USD', 'EUR']),
    ...pricesFrom(150, ['JPY']),
    ...pricesFrom(4_900, ['INR']),
  ],
  territories: null,
  plans: [
    {
      id: 'app',
      name: 'Its only rate',
      bands: bands(SOLD_IN, 0),
      territories: null,
      steps: [keeps('Pocketfell', 30)],
    },
  ],
  passes: [],
  cover: { height: 2_000, least: 0, ratio: 0.667 },
  exclusive: 0,
  preorder: null,
  preview: { most: 20, own: 15 },
  adult: 'refused',
  adds: null,
  assigns: null,
  account: { days: 2, needs: ['payment', 'tax'] },
  steps: [],
  print: null,
  terms: 'Readers may return a book within forty-eight hours.',
  bookAddress: 'https://pocketfell.example/open/{isbn}',
  affiliate: '?friend={code}',
};
