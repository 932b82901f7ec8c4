'use client';
/** The line below the tools: settings of what the cursor is in, or of what is being put in; the counts at its end. */
import type { Command, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { NumberField } from '@/ui/NumberField';
import { choicesOf, Select } from '@/ui/Select';
import { FigureBar } from './FigureBar';
import { FormulaBar } from './FormulaBar';
import { figureAt } from './figures';
import { markAt, type Telling } from './marking';
import { kindOf, listAt, withKind, withStart, type ListKind } from './list';
import { DEEDS, TABLE_DEEDS, tableAt } from './table';
import { NoteBar } from './NoteBar';
import { noteAt } from './notes';
import { referenceAt } from './pointing';
import { ReferenceBar } from './ReferenceBar';
import { TellingBar } from './TellingBar';

const select = 'h-7 text-[13px]';

/** What is being asked for, apart from where the cursor is. */
export type Asking = Telling | 'reference' | null;

export function Context({
  view,
  asking,
  onAsked,
}: {
  view: EditorView | null;
  asking: Asking;
  onAsked: () => void;
}) {
  if (!view || view.isDestroyed) return null;
  const state = view.state;
  const figure = figureAt(view);
  if (asking === 'reference' || (!asking && referenceAt(state)))
    return <ReferenceBar view={view} onDone={onAsked} />;
  if (asking) return <TellingBar key={asking} view={view} name={asking} onDone={onAsked} />;
  if (figure) return <FigureBar key={figure.node.attrs.id as string} view={view} />;
  if (noteAt(state)) return <NoteBar view={view} />;
  if (markAt(state, 'formula')) return <FormulaBar view={view} />;
  if (tableAt(state)) return <TableBar view={view} />;
  if (listAt(state)) return <ListBar view={view} />;
  for (const name of ['link', 'indexed', 'language'] as const) {
    const at = markAt(state, name);
    if (at)
      return <TellingBar key={`${name}${at.from}`} view={view} name={name} onDone={() => view.focus()} />;
  }
  return null;
}

function TableBar({ view }: { view: EditorView }) {
  const run = (deed: Command): void => {
    deed(view.state, view.dispatch);
    view.focus();
  };
  return (
    <span className="flex items-center gap-0.5" role="group" aria-label="Table">
      {Object.entries(DEEDS).map(([of, deeds]) => (
        <Menu
          key={of}
          label={of}
          items={deeds.map(([name, deed]) => ({
            name,
            disabled: !deed(view.state),
            run: () => run(deed),
          }))}
        />
      ))}
      {TABLE_DEEDS.map(([words, deed]) => (
        <Button
          key={words}
          kind="quiet"
          className="h-7 px-2 text-[13px]"
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => run(deed)}
        >
          {words}
        </Button>
      ))}
    </span>
  );
}

const LIST_KINDS = choicesOf<ListKind>({
  bullets: 'bullets',
  figures: 'figures: 1, 2, 3',
  letters: 'letters: a, b, c',
  roman: 'roman: i, ii, iii',
  terms: 'terms and what they mean',
});

function ListBar({ view }: { view: EditorView }) {
  const at = listAt(view.state);
  if (!at) return null;
  const kind = kindOf(at);
  const send = (tr: Transaction | null): void => {
    if (tr) view.dispatch(tr);
  };
  return (
    <span className="flex items-center gap-2 text-[13px]" role="group" aria-label="List">
      <Select
        label="Marks of the list"
        className={select}
        value={kind}
        choices={LIST_KINDS}
        onChoose={(k) => send(withKind(view.state, k))}
        onClosed={() => view.focus()}
      />
      {kind === 'bullets' || kind === 'terms' ? null : (
        <span className="flex items-center gap-1.5">
          from
          <NumberField
            label="First number of the list"
            className="h-7 w-16 text-[13px]"
            least={1}
            most={9999}
            value={Number(at.list.attrs.start)}
            onSet={(start) => send(withStart(view.state, start))}
          />
        </span>
      )}
      <span className="text-ink-soft">Tab moves an item in, Shift+Tab out</span>
    </span>
  );
}
