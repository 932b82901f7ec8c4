/**
 * The copying sheet of an outlet that is filled in by hand: its fields in its own order and form, each to be copied, and the
 * files under the names that it wants. A field that is ticked counts as done while its text is the one that was entered.
 */
import { OUTLET_FIELDS, type OutletField } from './asked';
import { closedAt, demandsOf, type DemandState } from './demands';
import type { FilePart, Outlet } from './outlet';
import { tell } from './tell';
import { digestOfTold, textsOf, type Facts } from './told';
import { fileNameAt } from './filenames';
import { filesTo } from './toldfiles';

export interface SheetRow {
  field: OutletField;
  called: string;
  name: string;
  state: DemandState;
  why: string;
  note: string;
  /** What is copied, each into a box of its own. */
  texts: readonly string[];
  /** Files that are taken to it by name; the product's key is empty for the cover's picture. */
  files: readonly { product: string; name: string | null }[];
  /** Of the text, or the file, as it is now. */
  digest: string;
  done: 'yes' | 'changed since' | 'no';
  /** It opens when the fields before it have been accepted. */
  later: boolean;
}

/** By the outlet's rule where the record has what it needs. */
const coverName = (outlet: Outlet, { book, edition }: Facts): string =>
  fileNameAt(outlet, book.record, edition, '.jpg') ?? 'cover.jpg';

/** The field in which a file is entered. */
const PART_IN: Partial<Record<OutletField, FilePart>> = {
  cover: 'cover',
  ebook: 'ebook',
  sample: 'sample',
  wordFile: 'word',
  pagesFile: 'pages',
  coverFile: 'cover sheet',
};
function filesIn(outlet: Outlet, field: OutletField, facts: Facts): SheetRow['files'] {
  const part = Object.hasOwn(PART_IN, field) ? PART_IN[field] : undefined;
  // An outlet may take a cover by hand that comes within the ebook by its connection.
  if (part === 'cover') return [{ product: '', name: coverName(outlet, facts) }];
  return filesTo(outlet, facts).filter((f) => f.part === part);
}

export function sheetOf(outlet: Outlet, facts: Facts): SheetRow[] {
  const demands = demandsOf(outlet, facts);
  const later = closedAt(outlet, demands);
  const { ticked } = facts.placing;
  return outlet.asks.map((asked, i) => {
    const files = filesIn(outlet, asked.field, facts);
    const said = tell(outlet, asked, facts);
    const texts = files.length > 0 ? [] : textsOf(said);
    const digest = digestOfTold(said);
    const then = Object.hasOwn(ticked, asked.field) ? ticked[asked.field] : undefined;
    return {
      field: asked.field,
      called: asked.called,
      name: OUTLET_FIELDS[asked.field],
      state: demands[i]?.state ?? 'not asked',
      why: demands[i]?.why ?? '',
      note: asked.note ?? '',
      texts,
      files,
      digest,
      done: then === undefined ? 'no' : then === digest ? 'yes' : 'changed since',
      later: later.includes(asked.field),
    };
  });
}

/** How much of a sheet is done, of the fields that have something to enter. */
export function progressOf(rows: readonly SheetRow[]): { done: number; of: number } {
  const todo = rows.filter((r) => r.texts.length > 0 || r.files.length > 0);
  return { done: todo.filter((r) => r.done === 'yes').length, of: todo.length };
}
