/** Changes that no file shows: a file made before them is still the book's. */
import type { BookRecord } from '../record';
import type { Change } from './changes';

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

export function isBeside(change: Change): boolean {
  switch (change.type) {
    case 'group':
      return change.changes.every(isBeside);
    case 'set-placing':
    case 'set-variant':
    case 'set-tick':
    case 'set-accepted':
    case 'set-reading':
      return true;
    case 'set-record':
      return (Object.keys(change.fields) as (keyof BookRecord)[]).every((f) => BESIDE.includes(f));
    default:
      return false;
  }
}
