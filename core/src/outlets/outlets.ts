/** The outlets that the product knows. All are invented, and answered by a stand-in. */
import type { Money } from '../base';
import { EBOOK_OUTLETS, type EbookOutlet, type ListedField } from '../trade';

export interface Outlet extends EbookOutlet {
  words: string;
  /** What it is told of a book beside its file. */
  takes: readonly ListedField[];
  /** How long it looks at a book in days, and after which changes it does so again; others are taken over at once. */
  review: { days: number; after: readonly ListedField[] };
  least: {
    /** Characters. */
    description: number;
    /** By currency: it sells in these and no others. */
    prices: readonly Money[];
  };
  /** Where the outlet sells a book: `{isbn}` stands for its thirteen digits. */
  bookAddress: string;
  /** What is added to an address for one who leads readers there: `{code}` stands for their code. Null where none is taken. */
  affiliate: string | null;
}

function ebookOutlet(id: string): EbookOutlet {
  const found = EBOOK_OUTLETS.find((o) => o.id === id);
  if (!found) throw new Error(`no outlet ${id}`);
  return found;
}

export const OUTLETS: readonly Outlet[] = [
  {
    ...ebookOutlet('lanternquay'),
    words: 'An ebook shop. It puts a book on sale about two and a half days after the book has come.',
    takes: [
      'title',
      'subtitle',
      'authors',
      'isbn',
      'editionStatement',
      'description',
      'keywords',
      'language',
      'price',
    ],
    review: { days: 2.5, after: ['title', 'subtitle', 'authors', 'isbn', 'language'] },
    least: {
      description: 50,
      prices: ['GBP', 'USD', 'EUR', 'CAD', 'AUD'].map((currency) => ({ minor: 99, currency })),
    },
    bookAddress: 'https://lanternquay.example/isbn/{isbn}',
    affiliate: '?by={code}',
  },
];
export const outletNamed = (id: string | null): Outlet | null => OUTLETS.find((o) => o.id === id) ?? null;
