import { asked } from '../asked';
import type { Outlet } from '../outlet';
import { bands, keeps, pricesFrom } from './common';

const SOLD_IN = ['GBP', 'USD', 'EUR', 'AUD'] as const;

/** A shop that makes the ebook itself, of a word-processor file, and has a page for every author. */
export const sallowby: Outlet = {
  id: 'sallowby',
  name: 'Sallowby',
  hosts: ['sallowby.example'],
  fileName: 'title-author',
  ebook: null,
  kind: 'shop',
  words: 'A shop for independent authors. It takes a word-processor file and makes the ebook of it.',
  sells: ['word'],
  reached: 'hand',
  asks: [
    asked('title', 'Title', 'needed', { most: 100 }),
    asked('authors', 'By', 'needed', { as: 'one' }),
    asked('shortDescription', 'In one sentence', 'needed', { least: 10, most: 160 }),
    asked('description', 'Description', 'needed', { least: 50, most: 1_500 }),
    asked('keywords', 'Tags', 'optional', { most: 20, words: 2, between: ' | ' }),
    asked('subjects', 'Shelves', 'needed', { most: 2, as: 'shelves' }),
    asked('adult', 'For adults'),
    asked('language', 'Language'),
    asked('price', 'Price', 'needed', { note: 'it may be 0.00' }),
    asked('preview', 'Free to read', 'optional', { most: 30 }),
    asked('isbn', 'ISBN', 'optional'),
    asked('cover', 'Cover'),
    asked('wordFile', 'Manuscript'),
    asked('name', 'File name'),
  ],
  takes: ['title', 'authors', 'isbn', 'description', 'keywords', 'language', 'price'],
  review: { days: 0.2, after: ['title', 'authors'] },
  files: ['word'],
  least: pricesFrom(0, SOLD_IN),
  territories: null,
  plans: [
    {
      id: 'direct',
      name: 'Its only rate',
      bands: bands(SOLD_IN, 0),
      territories: null,
      steps: [
        { kind: 'copy', who: 'payment', sum: { GBP: 25, USD: 30, EUR: 28, AUD: 45 } },
        keeps('Sallowby', 15),
      ],
    },
  ],
  passes: [],
  cover: { height: 2_000, least: 1_200, ratio: 0.6667 },
  exclusive: 0,
  preorder: null,
  preview: { most: 30, own: 20 },
  adult: 'shown to adults',
  adds: { words: 'a page about the author', kinds: ['about-author'] },
  assigns: null,
  account: { days: 0, needs: ['payment'] },
  steps: [],
  print: null,
  terms: 'A book may be given away for nothing.',
  bookAddress: 'https://sallowby.example/read/{isbn}',
  affiliate: '?from={code}',
};
