'use client';
/** What every section's editor does: keys, folios beside the lines, notes, hidden signs. */
import {
  baseKeymap,
  chainCommands,
  exitCode,
  newlineInCode,
  splitBlock,
  toggleMark,
} from 'prosemirror-commands';
import { undoInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import type { Node } from 'prosemirror-model';
import {
  Plugin,
  PluginKey,
  TextSelection,
  type Command,
  type EditorState,
  type Selection,
  type Transaction,
} from 'prosemirror-state';
import { columnResizing, goToNextCell, tableEditing } from 'prosemirror-tables';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { isPictured, schema } from '@pagina/core/book';
import type { PlaceInPrint } from '@/workers/messages';
import { belowTerm } from './list';
import { insertNote, notesPlugin, otherEnd } from './notes';
import { pointingPlugin } from './pointing';
import { signsPlugin } from './signs';
import { typedSigns } from './typing';

const m = schema.marks;
const n = schema.nodes;

export const folios = new PluginKey<DecorationSet>('folios');
/** Sets "12 · 7" beside each block: the folio and the line of its first line in print. */
function folioPlugin(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key: folios,
    state: {
      init: () => DecorationSet.empty,
      apply(tr, old) {
        const places = tr.getMeta(folios) as Record<string, PlaceInPrint> | undefined;
        if (!places) return old.map(tr.mapping, tr.doc);
        const marks: Decoration[] = [];
        // Words of a picture page stand on no line of the grid.
        const onPages = isPictured(tr.doc);
        tr.doc.descendants((node, pos) => {
          const at = node.isTextblock ? places[node.attrs.id as string] : undefined;
          if (at)
            marks.push(
              Decoration.node(pos, pos + node.nodeSize, {
                'data-folio': onPages ? at[1] : `${at[1]} · ${at[2]}`,
              }),
            );
          return !node.isTextblock;
        });
        return DecorationSet.create(tr.doc, marks);
      },
    },
    props: { decorations: (s) => folios.getState(s) },
  });
}

/** Whether two states of one text show the same folios. */
export function sameFolios(a: EditorState, b: EditorState): boolean {
  const shown = (s: EditorState): string =>
    (folios.getState(s)?.find() ?? [])
      .map(
        (d) =>
          `${d.from} ${(d as { type?: { attrs?: Record<string, string> } }).type?.attrs?.['data-folio']}`,
      )
      .join();
  return shown(a) === shown(b);
}

/** Marks that say how text looks; links, index entries and languages say what it is. */
const LOOKS = [
  'emphasis',
  'strong',
  'smallCaps',
  'super',
  'sub',
  'underline',
  'strike',
  'monospaced',
] as const;

export const clearLooks: Command = (state, dispatch) => {
  const { from, to, empty } = state.selection;
  if (empty) return false;
  if (dispatch) {
    const tr = state.tr;
    for (const name of LOOKS) tr.removeMark(from, to, m[name]);
    dispatch(tr);
  }
  return true;
};

export const lineBreak =
  (fitted: boolean): Command =>
  (state, dispatch) => {
    const { parent } = state.selection.$from;
    if (!parent.inlineContent || parent.type === n.monospace) return false;
    dispatch?.(state.tr.replaceSelectionWith(n.lineBreak!.create({ fitted }), false).scrollIntoView());
    return true;
  };

/** Enter in verse begins a line; on an empty line a stanza, and on an empty stanza the text below. */
const verseLine: Command = (state, dispatch) => {
  const { $from, empty } = state.selection;
  if ($from.parent.type !== n.verseLine || !empty) return false;
  if ($from.parent.content.size > 0) return splitBlock(state, dispatch);
  const stanza = $from.node(-1);
  const last = $from.index(-1) === stanza.childCount - 1;
  if (!last) return splitBlock(state, dispatch);
  if (!dispatch) return true;
  const tr = state.tr;
  if (stanza.childCount > 1) {
    // The empty line leaves its stanza and begins one of its own.
    const after = $from.after(-1);
    tr.insert(after, n.stanza!.create({ id: '' }, n.verseLine!.create({ id: '' })));
    tr.delete($from.before(), $from.after());
    const at = tr.mapping.map(after, -1) + 2;
    return (dispatch(tr.setSelection(near(tr.doc, at)).scrollIntoView()), true);
  }
  const verse = $from.node(-2);
  if (verse.childCount === 1) return false;
  const end = $from.after(-2);
  tr.insert(end, n.paragraph!.create({ id: '' }));
  tr.delete($from.before(-1), $from.after(-1));
  return (dispatch(tr.setSelection(near(tr.doc, tr.mapping.map(end, -1) + 1)).scrollIntoView()), true);
};
const near = (doc: Node, pos: number): Selection =>
  TextSelection.near(doc.resolve(Math.min(pos, doc.content.size)));

/** A caption ends in the text below its picture. */
const belowFigure: Command = (state, dispatch) => {
  const { $from } = state.selection;
  if ($from.parent.type !== n.figure) return false;
  if (!dispatch) return true;
  const after = $from.after();
  const next = state.doc.resolve(after).nodeAfter;
  const tr = state.tr;
  if (next?.type !== n.paragraph) tr.insert(after, n.paragraph!.create({ id: '' }));
  return (dispatch(tr.setSelection(near(tr.doc, after + 1)).scrollIntoView()), true);
};

const noteCommand =
  (make: (s: EditorState) => Transaction | null): Command =>
  (state, dispatch) => {
    const tr = make(state);
    if (tr) dispatch?.(tr);
    return tr !== null;
  };

/** `language` is that of the book. */
export const plugins = (language: () => string): Plugin[] => [
  typedSigns(language),
  keymap({ Backspace: undoInputRule }),
  keymap({
    'Mod-i': toggleMark(m.emphasis!),
    'Mod-b': toggleMark(m.strong!),
    'Mod-Shift-k': toggleMark(m.smallCaps!),
    'Mod-.': toggleMark(m.super!),
    'Mod-,': toggleMark(m.sub!),
    'Mod-\\': clearLooks,
    'Mod-Alt-n': noteCommand((s) => insertNote(s, 'foot')),
    'Mod-Alt-e': noteCommand((s) => insertNote(s, 'end')),
    'Mod-Alt-m': noteCommand(otherEnd),
    'Shift-Enter': chainCommands(newlineInCode, lineBreak(false)),
    'Mod-Shift-Enter': lineBreak(true),
    'Mod-Enter': exitCode,
    Enter: chainCommands(verseLine, belowFigure, belowTerm, splitListItem(n.item!)),
    Tab: chainCommands(sinkListItem(n.item!), goToNextCell(1)),
    'Shift-Tab': chainCommands(liftListItem(n.item!), goToNextCell(-1)),
  }),
  keymap(baseKeymap),
  columnResizing({ cellMinWidth: 40 }),
  tableEditing(),
  folioPlugin(),
  notesPlugin(),
  pointingPlugin(),
  signsPlugin(),
];
