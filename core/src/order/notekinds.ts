/** All notes of one kind made notes of the other. */
import { Transform } from 'prosemirror-transform';
import type { Book, Change, NoteKind } from '../book';

/** How many notes of that kind the book has, and the change that makes them of the other; null where there are none. */
export function notesOfKind(
  book: Pick<Book, 'sections'>,
  kind: NoteKind,
): { count: number; change: Change | null } {
  let count = 0;
  const changes: Change[] = [];
  for (const { id, content } of book.sections) {
    const tr = new Transform(content);
    content.forEach((n, pos) => {
      if (n.type.name !== 'noteBody' || n.attrs.kind !== kind) return;
      count++;
      tr.setNodeAttribute(pos, 'kind', kind === 'foot' ? 'end' : 'foot');
    });
    if (tr.docChanged)
      changes.push({ type: 'text', section: id, steps: tr.steps.map((s) => s.toJSON() as unknown) });
  }
  const label = kind === 'end' ? 'Make all notes footnotes' : 'Make all notes endnotes';
  return { count, change: count === 0 ? null : { type: 'group', label, changes } };
}
