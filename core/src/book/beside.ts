/** Changes that no file shows: a file made before them is still the book's. */
import type { BookRecord } from '../record';
import type { Change } from './changes';
import type { Book } from './model';

/** Fields of the record that shops are told of and that stand in no file. A test holds files made before and after against each other. */
export const BESIDE: readonly (keyof BookRecord)[] = [
  'price',
  'prices',
  'libraryPrice',
  'bundlePrice',
  'shortDescription',
  'audience',
  'ages',
  'adult',
  'publicDomain',
  'territories',
];

/** Related titles are read on the page “Also by” alone, whether it is made from them or was written by hand. */
const showsRelated = ({ sections }: Pick<Book, 'sections'>): boolean =>
  sections.some((s) => s.kind === 'also-by');

/** `book` is the one after the change. */
export function isBeside(change: Change, book: Pick<Book, 'sections'>): boolean {
  switch (change.type) {
    case 'group':
      return change.changes.every((c) => isBeside(c, book));
    case 'set-placing':
    case 'set-variant':
    case 'set-tick':
    case 'set-accepted':
    case 'set-reading':
      return true;
    case 'set-record':
      return (Object.keys(change.fields) as (keyof BookRecord)[]).every(
        (f) => BESIDE.includes(f) || (f === 'related' && !showsRelated(book)),
      );
    default:
      return false;
  }
}
