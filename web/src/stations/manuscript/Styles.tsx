'use client';
/** Names the style of the paragraph under the cursor, and changes it. */
import { setBlockType, toggleMark } from 'prosemirror-commands';
import type { Mark } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { schema } from '@pagina/core/book';
import { divide } from '@pagina/core/order';
import { toast } from 'sonner';
import { useTitle } from '@/title/context';
import { shortId } from '@/title/session';
import { Button } from '@/ui/controls';
import { placeAt } from '@pagina/core/book';

const n = schema.nodes;
const m = schema.marks;

/** What stands beside the text. */
export type Beside = 'find' | 'tidy' | null;

const PARAGRAPHS: { key: string; name: string; is: (s: EditorState) => boolean }[] = [
  { key: 'paragraph', name: 'Text', is: (s) => s.selection.$from.parent.type === n.paragraph },
  ...[1, 2, 3].map((level) => ({
    key: `subhead${level}`,
    name: `Subhead ${level}`,
    is: (s: EditorState) =>
      s.selection.$from.parent.type === n.subhead && s.selection.$from.parent.attrs.level === level,
  })),
];
const OTHER: Record<string, string> = {
  verseLine: 'Line of verse',
  attribution: 'Attribution',
  figure: 'Caption',
  monospace: 'Monospace',
};

/** "Text in a letter", "Subhead 1", "Line of verse". */
function styleName(s: EditorState): string {
  const own = PARAGRAPHS.find((p) => p.is(s))?.name ?? OTHER[s.selection.$from.parent.type.name] ?? 'Text';
  const around = s.selection.$from.depth > 1 ? s.selection.$from.node(1).type.name : '';
  const inside: Record<string, string> = {
    quotation: ' in a quotation',
    letter: ' in a letter',
    list: ' in a list',
    passage: ' in a displayed passage',
    table: ' in a table',
    noteBody: ' of a note',
  };
  return own + (inside[around] ?? '');
}

function insertBreak(s: EditorState, dispatch: (tr: Transaction) => void, ornament: boolean): void {
  const { $from } = s.selection;
  const after = $from.depth > 0 ? $from.after(1) : s.selection.to;
  dispatch(s.tr.insert(after, n.break!.create({ id: '', ornament })).scrollIntoView());
}

const marked = (s: EditorState, name: string): boolean => {
  const type = m[name]!;
  const { from, to, empty, $from } = s.selection;
  const stored: readonly Mark[] = s.storedMarks ?? $from.marks();
  return empty ? type.isInSet(stored) !== undefined : s.doc.rangeHasMark(from, to, type);
};

export function Styles({
  view,
  beside,
  onBeside,
}: {
  view: EditorView | null;
  beside: Beside;
  onBeside: (b: Beside) => void;
}) {
  const { session } = useTitle();
  const state = view && !view.isDestroyed ? view.state : null;
  const key = state ? (PARAGRAPHS.find((p) => p.is(state))?.key ?? '') : '';
  const set = (to: string): void => {
    if (!view) return;
    const level = /subhead(\d)/.exec(to)?.[1];
    (level
      ? setBlockType(n.subhead!, {
          level: Number(level),
          id: state?.selection.$from.parent.attrs.id as string,
        })
      : setBlockType(n.paragraph!, { id: state?.selection.$from.parent.attrs.id as string }))(
      view.state,
      view.dispatch,
    );
    view.focus();
  };
  const mark = (name: string): void => {
    if (!view) return;
    toggleMark(m[name]!)(view.state, view.dispatch);
    view.focus();
  };
  const divideHere = (): void => {
    if (!view) return;
    const host = view.dom.closest('.manuscript')?.parentElement?.previousElementSibling as HTMLElement | null;
    const section = host?.dataset.section;
    if (!section) return;
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
  return (
    <div
      role="toolbar"
      aria-label="Style of the text"
      className="no-print flex h-10 items-center gap-1 border-b border-rule bg-table px-4"
    >
      <span className="min-w-44 font-serif text-ink-soft italic" data-style-name>
        {state ? styleName(state) : 'Click into the text'}
      </span>
      <select
        aria-label="Style of the paragraph"
        disabled={!state}
        value={key}
        onChange={(e) => set(e.target.value)}
        className="h-7 rounded-[2px] border border-edge bg-sheet px-1 disabled:opacity-45"
      >
        {key === '' ? <option value="">as it is</option> : null}
        {PARAGRAPHS.map((p) => (
          <option key={p.key} value={p.key}>
            {p.name}
          </option>
        ))}
      </select>
      <span className="mx-2 h-5 w-px bg-rule" />
      {(
        [
          ['emphasis', 'Emphasis', 'Ctrl+I', 'italic'],
          ['strong', 'Strong', 'Ctrl+B', 'font-semibold'],
          ['smallCaps', 'Small caps', 'Ctrl+Shift+K', '[font-variant-caps:small-caps]'],
        ] as const
      ).map(([name, words, keys, looks]) => (
        <Button
          key={name}
          kind="quiet"
          className={`h-7 ${looks} ${state && marked(state, name) ? 'border-spruce text-spruce' : ''}`}
          disabled={!state}
          aria-pressed={state ? marked(state, name) : false}
          title={keys}
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => mark(name)}
        >
          {words}
        </Button>
      ))}
      <span className="mx-2 h-5 w-px bg-rule" />
      <Button
        kind="quiet"
        className="h-7"
        disabled={!state}
        onMouseDown={(e) => e.preventDefault()}
        onClick={() => view && insertBreak(view.state, view.dispatch, true)}
      >
        Break with ornament
      </Button>
      <Button
        kind="quiet"
        className="h-7"
        disabled={!state}
        onMouseDown={(e) => e.preventDefault()}
        onClick={() => view && insertBreak(view.state, view.dispatch, false)}
      >
        Blank line
      </Button>
      <span className="mx-2 h-5 w-px bg-rule" />
      <Button
        kind="quiet"
        className="h-7"
        disabled={!state}
        onMouseDown={(e) => e.preventDefault()}
        onClick={divideHere}
        title="The paragraph under the cursor begins a new section"
      >
        Divide here
      </Button>
      <span className="ml-auto" />
      {(
        [
          ['find', 'Find and replace', 'Ctrl+F'],
          ['tidy', 'Tidy the text', ''],
        ] as const
      ).map(([key, words, shortcut]) => (
        <Button
          key={key}
          kind="quiet"
          className={`h-7 ${beside === key ? 'border-spruce text-spruce' : ''}`}
          aria-pressed={beside === key}
          title={shortcut}
          onClick={() => onBeside(key)}
        >
          {words}
        </Button>
      ))}
    </div>
  );
}
