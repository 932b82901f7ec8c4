import { asked } from '../asked';
import type { Outlet, PassedTo } from '../outlet';
import { bands, keeps } from './common';

const SOLD_IN = ['GBP', 'USD', 'EUR'] as const;

const channel = (id: string, name: string, words: string, hundredths: number): PassedTo => ({
  id,
  name,
  words,
  version: null,
  plans: [
    {
      id,
      name,
      bands: bands(SOLD_IN, 0),
      territories: null,
      steps: [keeps(name, hundredths), { kind: 'printing' }],
    },
  ],
});

/** The printer on demand, whose interior and cover have to agree. */
export const quayhead: Outlet = {
  id: 'quayhead',
  name: 'Quayhead',
  hosts: ['quayhead.example'],
  fileName: 'isbn',
  ebook: null,
  kind: 'printer',
  words: 'A printer on demand: it prints a copy when one is bought, and sells through bookshops.',
  sells: ['print'],
  reached: 'connection',
  asks: [
    asked('isbn', 'ISBN'),
    asked('title', 'Title'),
    asked('subtitle', 'Subtitle', 'optional'),
    asked('authors', 'Author', 'needed', { as: 'two' }),
    asked('contributors', 'Contributors', 'optional'),
    asked('series', 'Series', 'optional'),
    asked('volume', 'Volume', 'optional'),
    asked('edition', 'Edition', 'optional', { as: 'number' }),
    asked('imprint', 'Imprint'),
    asked('published', 'Publication date'),
    asked('language', 'Language'),
    asked('description', 'Description', 'needed', { least: 50, most: 4_000, markup: 'taken' }),
    asked('subjects', 'Subject codes', 'needed', { least: 1, most: 3 }),
    asked('trim', 'Trim size'),
    asked('paper', 'Paper'),
    asked('binding', 'Binding'),
    asked('pages', 'Page count'),
    asked('price', 'List price'),
    asked('territories', 'Territories', 'optional'),
    asked('shops', 'Distribution'),
    asked('pagesFile', 'Interior'),
    asked('coverFile', 'Cover'),
    asked('name', 'Name of the files'),
  ],
  takes: ['title', 'subtitle', 'authors', 'isbn', 'editionStatement', 'description', 'language', 'price'],
  review: { days: 2, after: ['title', 'subtitle', 'authors', 'isbn'] },
  files: ['pages', 'cover sheet'],
  least: [
    { minor: 1, currency: 'GBP' },
    { minor: 1, currency: 'USD' },
    { minor: 1, currency: 'EUR' },
  ],
  territories: null,
  plans: [],
  passes: [
    channel('own-sales', 'Its own sales', 'Copies that Quayhead sells in its web shop.', 40),
    channel('bookshops', 'Bookshops', 'Copies that bookshops order, with their usual discount.', 55),
  ],
  cover: { height: 0, least: 0, ratio: 0.66 },
  exclusive: 0,
  preorder: null,
  preview: null,
  adult: 'taken',
  adds: null,
  assigns: null,
  account: { days: 3, needs: ['payment', 'tax', 'address'] },
  steps: ['pagesFile'],
  print: { bindings: ['paperback', 'hardback'] },
  terms: 'Bookshops may return copies at the publisher’s cost.',
  bookAddress: 'https://quayhead.example/print/{isbn}',
  affiliate: null,
};
