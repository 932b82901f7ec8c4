'use client';
import type { Edition, EditionFields } from '@pagina/core/book';
import { useTitle } from '@/title/context';

/** Sets fields of an edition, as one step to undo under that label. */
export function useEditionFields({
  id,
}: Pick<Edition, 'id'>): (label: string, fields: EditionFields) => void {
  const { session } = useTitle();
  return (label, fields) =>
    void session.change({ type: 'group', label, changes: [{ type: 'set-edition', id, fields }] });
}
