'use client';
/** The line below the tools: settings of what the cursor is in, or of what is being put in; the counts at its end. */
import type { Command, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { fillsPages, placeOf, WIDEST_BESIDE } from '@pagina/core/book';
import { useTitle } from '@/title/context';
import { PICTURES, takeIn } from '@/title/pictures';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileDrop';
import { Menu } from '@/ui/Menu';
import { NumberField } from '@/ui/NumberField';
import { choicesOf, Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { figureAt } from './figures';
import { markAt, type Telling } from './marking';
import { kindOf, listAt, withKind, withStart, type ListKind } from './list';
import { DEEDS, TABLE_DEEDS, tableAt } from './table';
import { NoteBar } from './NoteBar';
import { noteAt } from './notes';
import { referenceAt } from './pointing';
import { ReferenceBar } from './ReferenceBar';
import { TellingBar } from './TellingBar';

const field = 'h-7 rounded-[2px] border border-edge bg-sheet px-1.5 text-[13px]';
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
      {kind === 'bullets' ? null : (
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

const POSITIONS = choicesOf({
  here: 'in the text',
  head: 'at the head of a page',
  foot: 'at the foot of a page',
  page: 'on its own page',
  edges: 'over a page’s edges',
  spread: 'over two pages',
});
const TEXT_BESIDE = choicesOf({
  none: 'no text beside it',
  left: 'at the left of text',
  right: 'at the right of text',
});
const OUTLINES = choicesOf({ none: 'whole', oval: 'oval', arch: 'arched' });

function FigureBar({ view }: { view: EditorView }) {
  const { session } = useTitle();
  const at = figureAt(view);
  if (!at) return null;
  const { attrs } = at.node;
  const set = (name: string, value: unknown): void => {
    const now = figureAt(view);
    if (now && now.node.attrs[name] !== value)
      view.dispatch(view.state.tr.setNodeAttribute(now.pos, name, value));
  };
  const words = (name: 'alt' | 'credit' | 'link', label: string, width: string) => (
    <input
      key={name}
      aria-label={label}
      placeholder={label}
      defaultValue={attrs[name] as string}
      className={`${field} ${width} ${name === 'alt' && !attrs.alt ? 'border-ochre' : ''}`}
      onBlur={(e) => set(name, e.target.value.trim())}
      onKeyDown={(e) => e.key === 'Enter' && (set(name, e.currentTarget.value.trim()), view.focus())}
    />
  );
  const replace = async (chosen: File | undefined): Promise<void> => {
    const picture = chosen && (await takeIn(session, chosen));
    if (picture) set('picture', picture.id);
  };
  return (
    <span className="flex shrink-0 items-center gap-1.5" role="group" aria-label="Picture">
      {words('alt', 'Alternative text', 'w-48')}
      {words('credit', 'Credit', 'w-24')}
      {words('link', 'Link', 'w-24')}
      <span className="flex items-center gap-1.5 text-[13px] whitespace-nowrap">
        Width
        <Slider
          label="Width, as a share of the measure"
          className="w-20"
          least={10}
          most={100}
          step={5}
          value={Number(attrs.width)}
          disabled={fillsPages(at.node)}
          onCommit={(width) => set('width', width)}
          shown={(width) => `${width} %`}
        />
      </span>
      <Select
        label="Position of the picture"
        className={select}
        value={attrs.place as string}
        choices={POSITIONS}
        onChoose={(place) => set('place', place)}
      />
      {attrs.place === 'here' ? (
        <Select
          label="Text beside the picture"
          tip={
            Number(attrs.width) > WIDEST_BESIDE
              ? `Text can run beside pictures up to ${WIDEST_BESIDE} % of the measure`
              : undefined
          }
          disabled={Number(attrs.width) > WIDEST_BESIDE}
          className={select}
          value={attrs.beside as string}
          choices={TEXT_BESIDE}
          onChoose={(beside) => set('beside', beside)}
        />
      ) : attrs.place !== placeOf(at.node) ? (
        <span className="text-[13px] whitespace-nowrap text-ink-soft">
          within the margins, to leave room for the caption
        </span>
      ) : null}
      <Select
        label="Outline of the picture"
        className={select}
        value={attrs.mask as string}
        choices={OUTLINES}
        onChoose={(mask) => set('mask', mask)}
      />
      <FileButton
        label="File of the picture"
        className="h-7 px-2 text-[13px]"
        endings={PICTURES}
        onFiles={([chosen]) => void replace(chosen)}
      >
        Another file
      </FileButton>
    </span>
  );
}
