import { done, refused, type Outcome } from '../base';
import { particularsIn } from '../intake';
import type { Carried } from './carried';
import { readRecordJson } from './json';
import { readOnix } from './read';
import { readTable } from './table';

export * from './carried';
export { writeRecordJson } from './json';
export { readOnix } from './read';
export { readTable, writeTable } from './table';
export { writeOnix, type OnixOptions } from './write';

/** Reads whatever says what a record keeps: ONIX, JSON, a table, or a sheet of particulars as one types it. */
export function readCarried(text: string): Outcome<Carried> {
  const bare = text.replace(/^\ufeff/, '').trimStart();
  if (bare.startsWith('<')) return readOnix(bare);
  if (bare.startsWith('{')) return readRecordJson(bare);
  const sheet = particularsIn(bare);
  if (sheet)
    return done({
      record: sheet.record,
      editions: sheet.isbns.map((n) => ({
        form: n.form === '' ? ('print' as const) : n.form,
        isbn: n.isbn,
        price: null,
      })),
      unread: [...sheet.unread, ...sheet.wrong.map((w) => `“${w}”, which is no ISBN`)],
    });
  const table = readTable(bare);
  return table.ok
    ? table
    : refused(
        'record/unread',
        'Nothing here says what a record keeps. Paste lines such as “Title: The Salt Ledger”, or choose an ONIX, CSV or JSON file.',
      );
}
