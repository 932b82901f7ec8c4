'use client';
/** References to places of the book, and numbers of captions: shown in the text as they are printed. */
import type { Node } from 'prosemirror-model';
import { NodeSelection, Plugin, PluginKey, type EditorState } from 'prosemirror-state';
import { Decoration, DecorationSet, type NodeView } from 'prosemirror-view';
import { schema } from '@pagina/core/book';
import type { Reference } from '@pagina/core/order';
import type { Pointing } from '@/title/pointing';

const n = schema.nodes;

interface Shown {
  by: Pointing | null;
  marks: DecorationSet;
  /** All that is shown, to tell whether anything has changed. */
  words: string;
}
export const pointing = new PluginKey<Shown>('pointing');

function shownIn(doc: Node, by: Pointing | null): Shown {
  const marks: Decoration[] = [];
  const words: string[] = [];
  if (by)
    doc.descendants((x, pos) => {
      const reference = x.type === n.reference;
      const caption = x.type === n.figure || x.type === n.tableCaption;
      if (!reference && !caption) return;
      const said = reference ? by.says(x.attrs as Reference) : by.labelOf(x.attrs.id as string);
      words.push(said);
      if (said)
        marks.push(
          reference
            ? Decoration.node(pos, pos + x.nodeSize, {}, { said })
            : Decoration.widget(pos + 1, () => labelOf(said), { side: -1, key: said }),
        );
    });
  return { by, marks: DecorationSet.create(doc, marks), words: words.join('|') };
}

/** The number before a caption: no part of its text. */
function labelOf(said: string): HTMLElement {
  const label = document.createElement('span');
  label.className = 'made';
  label.contentEditable = 'false';
  label.textContent = `${said} `;
  return label;
}

export function pointingPlugin(): Plugin<Shown> {
  return new Plugin<Shown>({
    key: pointing,
    state: {
      init: (_, state) => shownIn(state.doc, null),
      apply(tr, old) {
        const by = tr.getMeta(pointing) as Pointing | undefined;
        return by || tr.docChanged ? shownIn(tr.doc, by ?? old.by) : old;
      },
    },
    props: { decorations: (s) => pointing.getState(s)?.marks },
  });
}

/** Whether a text would show other words with it. */
export function saysOther(state: EditorState, by: Pointing): boolean {
  const now = pointing.getState(state);
  return now !== undefined && (now.by === null || shownIn(state.doc, by).words !== now.words);
}

/** A reference as one sign of the text; it bears what it says. */
export function referenceView(
  first: Node,
  _view: unknown,
  _pos: unknown,
  marks: readonly Decoration[],
): NodeView {
  const dom = document.createElement('span');
  dom.className = 'reference';
  const draw = (node: Node, by: readonly Decoration[]): void => {
    const said = by.map((d) => (d.spec as { said?: string }).said).find(Boolean);
    dom.textContent = said ?? ((node.attrs.words as string) || '?');
  };
  draw(first, marks);
  return {
    dom,
    update(node, by) {
      if (node.type !== n.reference) return false;
      draw(node, by);
      return true;
    },
    ignoreMutation: () => true,
  };
}

/** The reference that is chosen, or that the cursor stands beside. */
export function referenceAt({ selection, doc }: EditorState): { pos: number; reference: Reference } | null {
  if (selection instanceof NodeSelection && selection.node.type === n.reference)
    return { pos: selection.from, reference: selection.node.attrs as Reference };
  if (!selection.empty) return null;
  const { nodeBefore, pos } = selection.$from;
  const after = doc.nodeAt(pos);
  if (after && after.type === n.reference) return { pos, reference: after.attrs as Reference };
  if (nodeBefore && nodeBefore.type === n.reference)
    return { pos: pos - 1, reference: nodeBefore.attrs as Reference };
  return null;
}
