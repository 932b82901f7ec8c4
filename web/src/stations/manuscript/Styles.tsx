'use client';
/** Names the style of the paragraph under the cursor and changes it; marks words; puts things in. */
import { toggleMark } from 'prosemirror-commands';
import type { Mark, Node } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { toast } from 'sonner';
import { isPictured, placeAt, schema, type NoteKind } from '@pagina/core/book';
import { divide } from '@pagina/core/order';
import { useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { PICTURES } from '@/title/pictures';
import { Button, ToggleButton } from '@/ui/Button';
import { useFileChooser } from '@/ui/FileDrop';
import { Menu, type MenuItem } from '@/ui/Menu';
import { choicesOf, Select } from '@/ui/Select';
import { AnyOf } from '@/ui/ToggleGroup';
import { Toolbar, ToolbarLine } from '@/ui/Toolbar';
import type { Asking } from './Context';
import { putPictures } from './figures';
import { insertNote } from './notes';
import { clearLooks, lineBreak } from './plugins';
import { restyle, styleAt, STYLES, type Style } from './restyle';
import { newTable } from './table';

const n = schema.nodes;
const m = schema.marks;

/** What stands beside the text. */
export type Beside = 'outline' | 'find' | 'tidy' | 'spelling' | 'index' | 'versions' | null;

const BESIDE: [Exclude<Beside, null>, string, string][] = [
  ['outline', 'Outline', ''],
  ['find', 'Find', 'Ctrl+F'],
  ['tidy', 'Tidy', ''],
  ['spelling', 'Spelling', ''],
  ['index', 'Index', ''],
  ['versions', 'Versions', ''],
];

/** "Text in a letter", "Subhead 1", "Line of verse". */
function styleName(s: EditorState): string {
  const around = s.selection.$from.depth > 0 ? s.selection.$from.node(1).type.name : '';
  const apart: Record<string, string> = {
    noteBody: 'Text of a note',
    table: 'Text in a table',
    figure: 'Caption',
    break: 'Break',
    pageBreak: 'Page break',
    picturePage: 'Words on a picture page',
  };
  const style = styleAt(s);
  if (apart[around]) return apart[around];
  if (!style) return 'Picture';
  const inside: Partial<Record<Style, string>> = {
    quotation: 'Text in a quotation',
    letter: 'Text in a letter',
    list: 'Text in a list',
    numbered: 'Text in a numbered list',
    verse: 'Line of verse',
  };
  return inside[style] ?? STYLES[style];
}

/** Puts a block after the one the cursor is in. */
function putAfter(s: EditorState, node: Node): Transaction {
  const { $from } = s.selection;
  const inNote = $from.depth > 0 && $from.node(1).type === n.noteBody;
  let end = 0;
  s.doc.forEach((x) => {
    if (x.type !== n.noteBody) end += x.nodeSize;
  });
  return s.tr.insert(inNote || $from.depth === 0 ? end : $from.after(1), node).scrollIntoView();
}

const marked = (s: EditorState, name: string): boolean => {
  const type = m[name]!;
  const { from, to, empty, $from } = s.selection;
  const stored: readonly Mark[] = s.storedMarks ?? $from.marks();
  return empty ? type.isInSet(stored) !== undefined : s.doc.rangeHasMark(from, to, type);
};

const MARKS = [
  { value: 'emphasis', name: 'Emphasis', tip: 'Ctrl+I', className: 'italic' },
  { value: 'strong', name: 'Strong', tip: 'Ctrl+B', className: 'font-semibold' },
  {
    value: 'smallCaps',
    name: 'Small caps',
    tip: 'Ctrl+Shift+K',
    className: '[font-variant-caps:small-caps]',
  },
] as const;
const MORE_MARKS = [
  ['super', 'Superior', 'Ctrl+.'],
  ['sub', 'Inferior', 'Ctrl+,'],
  ['underline', 'Underlined', ''],
  ['strike', 'Struck out', ''],
  ['monospaced', 'Monospace', ''],
] as const;

export function Styles({
  view,
  section,
  indexed,
  beside,
  onBeside,
  onAsk,
}: {
  view: EditorView | null;
  /** The book has an index to work on. */
  indexed: boolean;
  /** The section that the view shows. */
  section: string | null;
  beside: Beside;
  onBeside: (b: Beside) => void;
  onAsk: (what: Asking) => void;
}) {
  const { session } = useTitle();
  const picture = useFileChooser({
    label: 'Picture to insert',
    endings: PICTURES,
    several: true,
    onFiles: (files) =>
      view && section && void putPictures(session, section, view, files, view.state.selection.to),
  });
  const state = view && !view.isDestroyed ? view.state : null;
  const key = state ? styleAt(state) : null;
  const run = (make: (s: EditorState) => Transaction | null | string): void => {
    if (!view) return;
    const tr = make(view.state);
    if (typeof tr === 'string') toast(tr);
    else if (tr) view.dispatch(tr);
    view.focus();
  };
  const mark = (name: string): void => {
    if (!view) return;
    toggleMark(m[name]!)(view.state, view.dispatch);
    view.focus();
  };
  const divideHere = (): void => {
    if (!view || !section) return;
    void session.change((book) => {
      const { $from } = view.state.selection;
      const block =
        placeAt(section, view.state.doc, $from.start(1)).block ?? ($from.node(1).attrs.id as string);
      const r = divide(book, section, block, () => `k${shortId()}`);
      if (r.ok) return r.value;
      toast(r.refusal.message);
      return null;
    });
  };
  const block =
    (name: string, attrs: Record<string, unknown> = {}) =>
    (): void =>
      run((s) =>
        isPictured(s.doc)
          ? 'That can go only in running text.'
          : putAfter(s, n[name]!.create({ id: '', ...attrs })),
      );
  const note = (kind: NoteKind): void =>
    run((s) => insertNote(s, kind) ?? 'Notes can only be inserted in running text.');
  const put: (MenuItem | 'line')[] = [
    { name: 'Break with ornament', run: block('break', { ornament: true }) },
    { name: 'Blank line', run: block('break', { ornament: false }) },
    { name: 'Page break', run: block('pageBreak') },
    {
      name: 'Line break',
      keys: 'Shift+Enter',
      run: () => view && (lineBreak(false)(view.state, view.dispatch), view.focus()),
    },
    {
      name: 'Line break, fitted to the measure',
      keys: 'Ctrl+Shift+Enter',
      run: () => view && (lineBreak(true)(view.state, view.dispatch), view.focus()),
    },
    'line',
    { name: 'Footnote', keys: 'Ctrl+Alt+N', run: () => note('foot') },
    { name: 'Endnote', keys: 'Ctrl+Alt+E', run: () => note('end') },
    { name: 'Link', keys: 'Ctrl+L', run: () => onAsk('link') },
    { name: 'Cross-reference', keys: 'Ctrl+Alt+R', run: () => onAsk('reference') },
    { name: 'Index entry', keys: 'Ctrl+Shift+X', run: () => onAsk('indexed') },
    { name: 'Index entries of the book', run: () => beside !== 'index' && onBeside('index') },
    'line',
    { name: 'Picture', run: picture.open },
    {
      name: 'Table',
      run: () =>
        run((s) => (isPictured(s.doc) ? 'Tables go into running text only.' : putAfter(s, newTable(3, 3)))),
    },
  ];
  const more: (MenuItem | 'line')[] = [
    ...MORE_MARKS.map(([name, words, keys]) => ({
      name: words,
      keys,
      checked: state ? marked(state, name) : false,
      run: () => mark(name),
    })),
    { name: 'Language', run: () => onAsk('language') },
    'line',
    {
      name: 'Clear the formatting',
      keys: 'Ctrl+\\',
      run: () => view && (clearLooks(view.state, view.dispatch), view.focus()),
    },
  ];
  return (
    <Toolbar label="Style of the text" className="gap-x-1 bg-table">
      <span className="w-40 truncate max-[1199px]:hidden font-serif text-ink-soft italic" data-style-name>
        {state ? styleName(state) : 'Click in the text'}
      </span>
      <Select
        label="Style of the paragraph"
        disabled={!state || key === null}
        value={key}
        placeholder="Paragraph style"
        choices={choicesOf<Style>(STYLES)}
        onChoose={(style) => run((s) => restyle(s, style))}
        onClosed={() => view?.focus()}
        className="h-7 w-44 max-[1199px]:w-32"
      />
      <ToolbarLine />
      <AnyOf
        label="Marks"
        keepsFocus
        disabled={!state}
        values={state ? MARKS.filter((k) => marked(state, k.value)).map((k) => k.value) : []}
        choices={MARKS}
        onChoose={mark}
      />
      <Menu label="More marks" items={more} disabled={!state} />
      <Menu label="Insert" items={put} disabled={!state} />
      {picture.field}
      <Button
        kind="quiet"
        className="h-7 px-2"
        disabled={!state}
        onMouseDown={(e) => e.preventDefault()}
        onClick={divideHere}
        tip="The paragraph under the cursor begins a new section"
      >
        Split section here
      </Button>
      <span className="ml-auto" />
      {BESIDE.filter(([which]) => which !== 'index' || indexed).map(([which, words, shortcut]) => (
        <ToggleButton
          key={which}
          className="h-7 px-2 max-[1199px]:px-1.5"
          pressed={beside === which}
          tip={shortcut}
          onToggle={() => onBeside(which)}
        >
          {words}
        </ToggleButton>
      ))}
    </Toolbar>
  );
}
