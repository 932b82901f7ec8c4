/** What an outlet is told of a book beside its files, and what it has to be told again after a change. */
import { listedAs, listedDifferently, type ListedAs, type ListedField } from '../trade';
import type { OutletField } from './asked';
import type { Outlet } from './outlet';
import { tell } from './tell';
import type { Facts } from './told';

/** What went into each field, each into a box of its own. Fields without anything are left out. */
export type ToldFields = Partial<Record<OutletField, readonly string[]>>;

/** Fields that say which files go along. */
const FILES: readonly OutletField[] = [
  'cover',
  'ebook',
  'sample',
  'wordFile',
  'pagesFile',
  'coverFile',
  'name',
];
/** Details that stand in the files too: a file made before they changed no longer agrees with them. */
const IN_FILE: readonly OutletField[] = ['title', 'subtitle', 'authors', 'isbn', 'edition', 'language'];
/** What the ledger calls a field that listings show. */
export const LISTED: Record<ListedField, OutletField> = {
  title: 'title',
  subtitle: 'subtitle',
  authors: 'authors',
  isbn: 'isbn',
  editionStatement: 'edition',
  description: 'description',
  keywords: 'keywords',
  language: 'language',
  price: 'price',
};

/** In the order in which the outlet asks. */
export function toldFields(outlet: Outlet, facts: Facts): ToldFields {
  const told: ToldFields = {};
  for (const asked of outlet.asks) {
    if (FILES.includes(asked.field)) continue;
    const { text, parts = [text] } = tell(outlet, asked, facts);
    if (parts.some((p) => p !== '')) told[asked.field] = parts;
  }
  return told;
}

const same = (a: readonly string[] = [], b: readonly string[] = []): boolean => a.join('\n') === b.join('\n');

/** What an outlet has of a listing. */
export interface HasAt {
  /** SHA-256 of the file that it took last; '' for none. */
  delivered: string;
  /** What it was told last; nothing where its answer is still out, null where it wasn’t noted. */
  told: ToldFields | null;
  /** What it lists. */
  listed: ListedAs | null;
}
export interface ChangesAt {
  /** The outlet has this very file. */
  has: boolean;
  /** Fields that it has to be told again, or shows differently from how it was told. */
  details: OutletField[];
  /** Those of them that stand in the files. */
  inFile: OutletField[];
  /** Whether its answer was lost, so that it may have been told any of them. */
  unsure: boolean;
  /** Whether it looks at the book again. */
  reviewed: boolean;
}

/** `file` is the checksum of the file that it is to have. */
export function changesAt(outlet: Outlet, facts: Facts, at: HasAt, file: string | null): ChangesAt {
  const has = at.delivered !== '' && at.delivered === file;
  const told = toldFields(outlet, facts);
  const { told: then } = at;
  const shown = at.listed ? listedDifferently(at.listed, listedAs(facts.book, facts.edition, outlet)) : [];
  const differs = new Set<OutletField>(shown.map((f) => LISTED[f]));
  const unsure = then !== null && Object.keys(then).length === 0;
  const toldOtherwise = (f: OutletField): boolean =>
    then !== null && !FILES.includes(f) && !same(told[f], then[f]);
  const details = outlet.asks.map((a) => a.field).filter((f) => differs.has(f) || toldOtherwise(f));
  return {
    has,
    details,
    // Of what it may have been told nothing shows that the files are older.
    inFile: details.filter((f) => IN_FILE.includes(f) && (!unsure || differs.has(f))),
    unsure,
    reviewed: !has || details.some((f) => outlet.review.after.includes(f)),
  };
}
