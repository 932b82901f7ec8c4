'use client';
/** The bar of a note: whether it is a footnote or an endnote, and the same for all others. */
import type { EditorView } from 'prosemirror-view';
import { toast } from 'sonner';
import type { NoteKind } from '@pagina/core/book';
import { notesOfKind } from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { choicesOf, Select } from '@/ui/Select';
import { noteAt } from './notes';

const KINDS = choicesOf<NoteKind>({ foot: 'Footnote', end: 'Endnote' });

export function NoteBar({ view }: { view: EditorView }) {
  const { session } = useTitle();
  const { book } = useBook();
  const at = noteAt(view.state);
  if (!at) return null;
  const kind = at.node.attrs.kind as NoteKind;
  const others = notesOfKind(book, kind === 'foot' ? 'end' : 'foot');
  const all = async (): Promise<void> => {
    await session.flush();
    const done = await session.change((b) => notesOfKind(b, kind === 'foot' ? 'end' : 'foot').change);
    if (done)
      toast(`All notes are ${kind === 'foot' ? 'footnotes' : 'endnotes'} now.`, {
        action: { label: 'Undo', onClick: () => void session.undo() },
      });
  };
  return (
    <span className="flex items-center gap-2 text-[13px]" role="group" aria-label="Note">
      <Select
        label="Kind of note"
        className="h-7 text-[13px]"
        value={kind}
        choices={KINDS}
        onChoose={(k) => view.dispatch(view.state.tr.setNodeAttribute(at.pos, 'kind', k))}
        onClosed={() => view.focus()}
      />
      {others.count > 0 ? (
        <Button kind="quiet" className="h-7 px-2" onClick={() => void all()}>
          All notes of the book ({others.count} more)
        </Button>
      ) : null}
      <span className="text-ink-soft">Each edition’s design says where they stand.</span>
    </span>
  );
}
