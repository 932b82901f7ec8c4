/**
 * The copying sheet of an outlet that is filled in by hand: its fields in its own order and form, each to be copied, and the
 * files under the names that it wants. A field that is ticked counts as done while its text is the one that was entered.
 */
import { digestOf } from '../base';
import { OUTLET_FIELDS, type OutletField } from './asked';
import { closedAt, demandsOf, type DemandState } from './demands';
import type { Outlet } from './outlet';
import { tell } from './tell';
import type { Facts } from './told';
import { filesTo } from './toldfiles';

export interface SheetRow {
  field: OutletField;
  called: string;
  name: string;
  state: DemandState;
  why: string;
  /** What is copied, each into a box of its own. */
  texts: readonly string[];
  /** Files that are taken to it by name; the product's key is empty for the cover's picture. */
  files: readonly { product: string; name: string | null }[];
  /** Of the text as it is now. */
  digest: string;
  done: 'yes' | 'changed since' | 'no';
  /** It opens when the fields before it have been accepted. */
  later: boolean;
}

const COVER_NAME = (outlet: Outlet, facts: Facts): string => {
  const named = filesTo(outlet, facts)[0]?.name;
  return `${named ? named.replace(/(?:_pages|_cover)?\.\w+$/, '') : 'cover'}.jpg`;
};

function filesIn(outlet: Outlet, field: OutletField, facts: Facts): SheetRow['files'] {
  const files = filesTo(outlet, facts);
  switch (field) {
    case 'cover':
      return [{ product: '', name: COVER_NAME(outlet, facts) }];
    case 'ebook':
    case 'wordFile':
    case 'pagesFile':
      return files.slice(0, 1);
    case 'coverFile':
      return files.slice(1, 2);
    default:
      return [];
  }
}

export function sheetOf(outlet: Outlet, facts: Facts): SheetRow[] {
  const demands = demandsOf(outlet, facts);
  const later = closedAt(outlet, demands);
  const { ticked } = facts.placing;
  return outlet.asks.map((asked, i) => {
    const { text, parts } = tell(outlet, asked, facts);
    const files = filesIn(outlet, asked.field, facts);
    const texts = files.length > 0 ? [] : (parts ?? [text]).filter((t) => t !== '');
    const digest = digestOf(texts.join('\n'));
    const then = Object.hasOwn(ticked, asked.field) ? ticked[asked.field] : undefined;
    return {
      field: asked.field,
      called: asked.called,
      name: OUTLET_FIELDS[asked.field],
      state: demands[i]?.state ?? 'not asked',
      why: demands[i]?.why ?? '',
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
