'use client';
/** Changes of the record from its sheet, each a step of Undo with a name. */
import type { BookRecord } from '@pagina/core/record';
import { useBook, useTitle } from '@/title/context';

type Lines = { [K in keyof BookRecord]: BookRecord[K] extends string ? K : never }[keyof BookRecord];

export function useRecord() {
  const { session } = useTitle();
  const { book } = useBook();
  const set = (fields: Partial<BookRecord>, label: string): void =>
    void session.change({ type: 'group', label, changes: [{ type: 'set-record', fields }] });
  /** A field of text: its value, and what keeps it. `called` is its name in the log of changes. */
  const line = (name: Lines, called: string) => ({
    value: book.record[name],
    onCommit: (v: string) => set({ [name]: v }, `Change the ${called}`),
  });
  return { record: book.record, set, line };
}
