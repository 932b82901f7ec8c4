/** The books of Lanternquay as version 0.1 kept them, when it was the only shop. */
import type { Arrival, Book, Told } from './books';
import { sha256Of } from './names';

interface EarlierParcel {
  reference: string;
  slip: Told & { name: string; size: number };
  keys: { key: string; sha256: string }[];
  arrivals: { day: number; words: string; reasons: string[] | null }[];
}
export interface Earlier {
  day: number;
  parcels: EarlierParcel[];
}

const arrivalFrom = ({ reasons, ...a }: EarlierParcel['arrivals'][number]): Arrival => ({
  ...a,
  reasons: reasons?.map((words) => ({ about: '', words })) ?? null,
});

export const booksFrom = ({ parcels }: Earlier): Book[] =>
  parcels
    .filter((p) => Array.isArray(p.arrivals))
    .map(({ reference, slip, keys, arrivals }) => {
      const { name, size, ...told } = slip;
      const sha256 = keys.at(-1)?.sha256 ?? sha256Of(new Uint8Array());
      return {
        reference,
        keys: keys.map((k) => ({ key: k.key, sum: `ebook:${k.sha256}` })),
        told,
        files: [{ part: 'ebook', name, sha256, size, facts: null }],
        arrivals: arrivals.map(arrivalFrom),
        release: null,
        provisional: false,
        withdrawn: null,
        assigned: null,
      };
    });
