'use client';
/** The bar of a cross-reference: to which place, and what of it is printed. */
import { useMemo, useState } from 'react';
import type { EditorView } from 'prosemirror-view';
import { schema } from '@pagina/core/book';
import { SHOWS, type Reference, type Shows } from '@pagina/core/order';
import { useBook, useComposed } from '@/title/context';
import { pointingIn } from '@/title/pointing';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Picker } from '@/ui/Picker';
import { Select } from '@/ui/Select';
import { allPlacesOf } from './places';
import { referenceAt } from './pointing';

const WHAT: Record<Shows, string> = {
  page: 'page',
  pages: 'first to last page',
  label: 'number with its word',
  number: 'number alone',
  title: 'title',
};
const NEW: Reference = { target: '', shows: 'label', capital: false, words: '' };

export function ReferenceBar({ view, onDone }: { view: EditorView; onDone: () => void }) {
  const { book, edition } = useBook();
  const { composed } = useComposed();
  const at = referenceAt(view.state);
  const [fresh, setFresh] = useState(NEW);
  const now = at?.reference ?? fresh;
  const pointing = useMemo(() => pointingIn(book, edition, composed), [book, edition, composed]);
  const said = (shows: Shows): string => pointing.says({ ...now, shows, words: '' });
  const places = useMemo(() => allPlacesOf(book), [book]);
  const { from, to, $from } = view.state.selection;
  const fits = at !== null || ($from.parent.inlineContent && !$from.parent.type.spec.code);
  if (!fits)
    return <span className="text-[13px] text-ink-soft">Place the cursor in running text first.</span>;

  /** Changes the reference under the cursor, or keeps what a new one will be. */
  const set = (fields: Partial<Reference>): void => {
    if (!at) return setFresh({ ...fresh, ...fields });
    const next = { ...at.reference, ...fields };
    const words = pointing.says({ ...next, words: '' }) || next.words;
    view.dispatch(view.state.tr.setNodeMarkup(at.pos, undefined, { ...next, words }));
  };
  const insert = (): void => {
    const words = said(fresh.shows) || view.state.doc.textBetween(from, to, ' ');
    const node = schema.node('reference', { ...fresh, words }, [], $from.marks());
    view.dispatch(view.state.tr.replaceRangeWith(from, to, node).scrollIntoView());
    onDone();
    view.focus();
  };
  const asText = (): void => {
    if (!at) return;
    const words = pointing.says(at.reference);
    const marks = view.state.doc.nodeAt(at.pos)?.marks ?? [];
    const tr = view.state.tr;
    view.dispatch(
      words === ''
        ? tr.delete(at.pos, at.pos + 1)
        : tr.replaceWith(at.pos, at.pos + 1, schema.text(words, marks)),
    );
    view.focus();
  };
  // A number that the place does not have cannot be printed.
  const choices = SHOWS.filter((shows) => now.target !== '' && said(shows) !== '').map((shows) => ({
    value: shows,
    name: `${said(shows)} (${WHAT[shows]})`,
  }));
  return (
    <span
      className="flex items-center gap-2 text-[13px]"
      role="group"
      aria-label="Cross-reference"
      onKeyDown={(e) => e.key === 'Escape' && !e.defaultPrevented && (onDone(), view.focus())}
    >
      Refers to
      <Picker
        label="Place"
        className="h-7 w-56"
        value={now.target || null}
        placeholder="Choose a place"
        choices={places}
        onChoose={(target) => set({ target })}
      />
      <Select
        label="What it prints"
        className="h-7 w-52 text-[13px]"
        disabled={choices.length === 0}
        placeholder="What it prints"
        value={now.shows}
        choices={choices}
        onChoose={(shows) => set({ shows })}
      />
      <Checkbox label="Capital" on={now.capital} onSet={(capital) => set({ capital })} />
      {at ? (
        <Button kind="quiet" className="h-7 px-2" onClick={asText}>
          Make it text
        </Button>
      ) : (
        <Button className="h-7 px-2" disabled={!choices.some((c) => c.value === now.shows)} onClick={insert}>
          Insert
        </Button>
      )}
    </span>
  );
}
