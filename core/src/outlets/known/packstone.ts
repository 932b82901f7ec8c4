import type { Plan } from '../../trade';
import { asked } from '../asked';
import type { Outlet, PassedTo } from '../outlet';
import { bands, ebookOutlet, FIVE, keeps, pricesFrom } from './common';

/** What the aggregator keeps of what a shop pays. */
const PACKSTONE_KEEPS = keeps('Packstone', 10);

const plan = (id: string, ...steps: Plan['steps']): Plan => ({
  id,
  name: 'Its only rate',
  bands: bands(FIVE, 0),
  territories: null,
  steps: [...steps, PACKSTONE_KEEPS],
});
const shop = (id: string, name: string, words: string, ...steps: Plan['steps']): PassedTo => ({
  id,
  name,
  words,
  version: id === 'plover' ? '2.0.1' : null,
  plans: [plan(id, ...steps)],
});

/** An aggregator that passes books on to smaller shops, chosen one by one, and keeps a tenth of what they pay. */
export const packstone: Outlet = {
  ...ebookOutlet('packstone'),
  kind: 'aggregator',
  words: 'Passes an ebook on to five smaller shops and keeps a tenth of what they pay.',
  sells: ['reflow'],
  reached: 'connection',
  asks: [
    asked('isbn', 'ISBN-13'),
    asked('title', 'Title', 'needed', { most: 120 }),
    asked('subtitle', 'Subtitle', 'optional', { most: 120 }),
    asked('authors', 'Contributors', 'needed', { as: 'one' }),
    asked('series', 'Series name', 'optional'),
    asked('volume', 'Series number', 'optional'),
    asked('edition', 'Edition number', 'optional', { as: 'number' }),
    asked('imprint', 'Publisher'),
    asked('published', 'Publication date'),
    asked('language', 'Language code'),
    asked('description', 'Long description', 'needed', { least: 150, most: 4_000, markup: 'taken' }),
    asked('shortDescription', 'Short description', 'needed', { least: 20, most: 400 }),
    asked('subjects', 'Thema codes', 'needed', { most: 2 }),
    asked('keywords', 'Keywords', 'optional', { most: 10, between: ', ' }),
    asked('audience', 'Audience code', 'needed', { as: 'code' }),
    asked('price', 'Consumer price'),
    asked('territories', 'Sales rights'),
    asked('shops', 'Pass on to'),
    asked('copies', 'Copy limit', 'optional', { most: 10 }),
    asked('cover', 'Cover image'),
    asked('ebook', 'EPUB file'),
    asked('sample', 'Sample file', 'optional'),
    asked('name', 'File name'),
  ],
  takes: ['title', 'subtitle', 'authors', 'isbn', 'description', 'keywords', 'language', 'price'],
  review: { days: 3, after: ['title', 'authors', 'isbn', 'language', 'price'] },
  files: ['ebook', 'cover', 'sample'],
  least: pricesFrom(99, FIVE),
  territories: null,
  plans: [],
  passes: [
    shop('plover', 'Plover', 'For older reading devices: it takes EPUB 2 only.', keeps('Plover', 40)),
    shop('gannetstone', 'Gannetstone', 'A bookseller with an ebook counter.', keeps('Gannetstone', 45)),
    shop('fernhythe', 'Fernhythe', 'Takes a fixed sum a copy first.', {
      kind: 'copy',
      who: 'Fernhythe',
      sum: { GBP: 79, USD: 99, EUR: 95, CAD: 135, AUD: 149 },
    }),
    shop('tollgate-lane', 'Tollgate Lane', 'A shop for members.', keeps('Tollgate Lane', 30)),
    shop('shelfmoor', 'Shelfmoor', 'Libraries, through the aggregator.', keeps('Shelfmoor', 50)),
  ],
  cover: { height: 2_500, least: 800, ratio: 0.64 },
  exclusive: 0,
  preorder: { least: 14, most: 180, file: 10 },
  preview: null,
  adult: 'refused',
  adds: { words: 'a page with the author’s other books', kinds: ['also-by'] },
  assigns: null,
  account: { days: 3, needs: ['payment', 'tax', 'address'] },
  steps: [],
  print: null,
  terms: 'A book is withdrawn from all shops within thirty days.',
  bookAddress: 'https://packstone.example/to/{isbn}',
  affiliate: null,
};
