'use client';
/** A text with the little markup that shops accept. It keeps its words when it is left, as a plain field does. */
import { baseKeymap, toggleMark } from 'prosemirror-commands';
import { history, redo, undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import type { Node } from 'prosemirror-model';
import { liftListItem, splitListItem, wrapInList } from 'prosemirror-schema-list';
import { EditorState, Plugin, PluginKey, type Command } from 'prosemirror-state';
import { Decoration, DecorationSet, EditorView } from 'prosemirror-view';
import { useEffect, useReducer, useRef, useState } from 'react';
import { descriptionDoc, descriptionHtml, descriptionSchema, descriptionText } from '@pagina/core/record';
import { WORD } from '@/forms/dictionary';
import { AnyOf } from './ToggleGroup';
import { Toolbar } from './Toolbar';

const { nodes, marks } = descriptionSchema;

const lineBreak: Command = (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(nodes.lineBreak.create()).scrollIntoView());
  return true;
};
const inList = (state: EditorState): string | null => {
  const { $from } = state.selection;
  for (let depth = $from.depth; depth > 0; depth--) {
    const { name } = $from.node(depth).type;
    if (name === 'bulletList' || name === 'numberedList') return name;
  }
  return null;
};
/** Makes a list of the paragraphs, another kind of list of a list, and paragraphs of a list of that kind. */
const listed =
  (kind: 'bulletList' | 'numberedList'): Command =>
  (state, dispatch, view) => {
    const now = inList(state);
    if (now === kind) return liftListItem(nodes.item)(state, dispatch, view);
    if (now === null) return wrapInList(nodes[kind])(state, dispatch, view);
    const { $from } = state.selection;
    const depth = $from.depth - 2;
    dispatch?.(state.tr.setNodeMarkup($from.before(depth), nodes[kind]));
    return true;
  };

const TOOLS = [
  { value: 'strong', name: 'Strong', tip: 'Strong (Ctrl+B)', command: toggleMark(marks.strong) },
  { value: 'emphasis', name: 'Emphasis', tip: 'Emphasis (Ctrl+I)', command: toggleMark(marks.emphasis) },
  { value: 'bulletList', name: 'List', tip: 'List', command: listed('bulletList') },
  {
    value: 'numberedList',
    name: 'Numbered list',
    tip: 'Numbered list',
    command: listed('numberedList'),
  },
] as const;

function pressedIn(state: EditorState): string[] {
  const { from, to, empty, $from } = state.selection;
  const on = (['strong', 'emphasis'] as const).filter((name) => {
    const mark = marks[name];
    return empty ? mark.isInSet(state.storedMarks ?? $from.marks()) : state.doc.rangeHasMark(from, to, mark);
  });
  return [...on, inList(state)].filter((v): v is NonNullable<typeof v> => v !== null);
}

const DOUBTED = new PluginKey<DecorationSet>('doubted');
/** Underlines words that no dictionary knows. */
function doubtedIn(doc: Node, words: readonly string[]): DecorationSet {
  const known = new Set(words);
  const found: Decoration[] = [];
  if (known.size > 0)
    doc.descendants((node, at) => {
      for (const m of node.text?.matchAll(WORD) ?? [])
        if (known.has(m[0]))
          found.push(Decoration.inline(at + m.index, at + m.index + m[0].length, { class: 'doubted' }));
    });
  return DecorationSet.create(doc, found);
}
const doubts = (words: () => readonly string[]): Plugin =>
  new Plugin({
    key: DOUBTED,
    props: { decorations: (state) => doubtedIn(state.doc, words()) },
  });

export function MarkedText({
  label,
  value,
  onCommit,
  doubted = [],
  rows = 6,
}: {
  label: string;
  value: string;
  onCommit: (text: string) => void;
  /** Words to be underlined. */
  doubted?: readonly string[];
  rows?: number;
}) {
  const host = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<EditorView | null>(null);
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  const now = useRef({ value, onCommit, doubted });
  /** The value that is in the field, as far as nothing has been typed since. */
  const taken = useRef(value);
  const reset = useRef<() => void>(() => undefined);
  useEffect(() => {
    now.current = { value, onCommit, doubted };
  });
  useEffect(() => {
    const el = host.current;
    if (!el) return;
    const fresh = (): EditorState =>
      EditorState.create({
        doc: descriptionDoc(now.current.value),
        plugins: [
          history(),
          keymap({
            'Mod-b': toggleMark(marks.strong),
            'Mod-i': toggleMark(marks.emphasis),
            'Shift-Enter': lineBreak,
            Enter: splitListItem(nodes.item),
            Backspace: (state, dispatch, v) =>
              state.selection.empty && state.selection.$from.parentOffset === 0
                ? liftListItem(nodes.item)(state, dispatch, v)
                : false,
          }),
          keymap(baseKeymap),
          doubts(() => now.current.doubted),
        ],
      });
    const v = new EditorView(el, {
      state: fresh(),
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', spellcheck: 'false' },
      // What was copied as text may be HTML of a shop.
      clipboardTextParser: (text) => {
        const doc = descriptionDoc(text);
        return doc.slice(0, doc.content.size);
      },
      // What was typed here is undone here first; then Undo is the book's.
      handleKeyDown: (_, e) => {
        const key = e.key.toLowerCase();
        if (!(e.ctrlKey || e.metaKey) || e.altKey || (key !== 'z' && key !== 'y')) return false;
        const back = key === 'z' && !e.shiftKey;
        if (!(back ? undo : redo)(v.state, v.dispatch)) return false;
        e.stopPropagation();
        return true;
      },
      dispatchTransaction: (tr) => {
        v.updateState(v.state.apply(tr));
        redraw();
      },
      handleDOMEvents: {
        blur: () => {
          keep();
          return false;
        },
      },
    });
    const keep = (): void => {
      const text = descriptionText(v.state.doc);
      if (!isTyped(v, taken.current)) return;
      taken.current = text;
      now.current.onCommit(text);
    };
    reset.current = () => {
      taken.current = now.current.value;
      v.updateState(fresh());
    };
    setView(v);
    return () => {
      keep();
      v.destroy();
      setView(null);
    };
  }, [label]);
  useEffect(() => {
    if (!view || view.isDestroyed) return;
    // What others did, and the book's Undo, come in, but not into what is being typed.
    if (value !== taken.current && !isTyped(view, taken.current)) reset.current();
    else view.updateState(view.state);
  }, [view, value, doubted]);
  const pressed = view ? pressedIn(view.state) : [];
  return (
    <div className="rounded-[2px] border border-edge bg-sheet">
      <Toolbar label="Markup" className="min-h-8 px-1.5! py-0.5">
        <AnyOf
          label="Marks and lists"
          keepsFocus
          values={pressed}
          choices={TOOLS.map(({ value: v, name, tip }) => ({ value: v, name, tip, className: 'h-6' }))}
          onChoose={(chosen) => {
            const tool = TOOLS.find((t) => chosen.includes(t.value) !== pressed.includes(t.value));
            if (!view || !tool) return;
            tool.command(view.state, (tr) => view.dispatch(tr), view);
            view.focus();
          }}
        />
      </Toolbar>
      <div
        ref={host}
        className="marked-text overflow-auto"
        style={{ minHeight: `${rows * 21 + 12}px`, maxHeight: '320px' }}
        onClick={() => view?.focus()}
      />
    </div>
  );
}

/** Whether something has been typed since this text was taken in. */
const isTyped = (v: EditorView, since: string): boolean =>
  descriptionText(v.state.doc) !== descriptionText(descriptionDoc(since));

/** A text with its markup as readers see it. */
export function Marked({ text }: { text: string }) {
  // Made anew of the few elements that the record keeps, so nothing else can be in it.
  return <div className="marked-text" dangerouslySetInnerHTML={{ __html: descriptionHtml(text) }} />;
}
