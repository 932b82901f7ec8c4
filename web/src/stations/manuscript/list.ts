'use client';
/** The list that the cursor is in: how it counts, and from where. */
import type { Node } from 'prosemirror-model';
import { splitBlock } from 'prosemirror-commands';
import type { Command, EditorState, Transaction } from 'prosemirror-state';
import { isTerms, schema } from '@pagina/core/book';

export type ListKind = 'bullets' | 'figures' | 'letters' | 'roman' | 'terms';

export interface InList {
  list: Node;
  /** Position before the list. */
  pos: number;
}
/** The innermost list around the cursor. */
export function listAt(state: EditorState): InList | null {
  const { $from } = state.selection;
  for (let d = $from.depth; d > 0; d--)
    if ($from.node(d).type === schema.nodes.list) return { list: $from.node(d), pos: $from.before(d) };
  return null;
}

export const kindOf = ({ list }: InList): ListKind =>
  isTerms(list) ? 'terms' : list.attrs.ordered ? (list.attrs.numbers as ListKind) : 'bullets';

export function withKind(state: EditorState, kind: ListKind): Transaction | null {
  const at = listAt(state);
  if (!at) return null;
  const { attrs } = at.list;
  const terms = kind === 'terms';
  const ordered = kind !== 'bullets' && !terms;
  const numbers = ordered ? kind : attrs.numbers;
  return state.tr.setNodeMarkup(at.pos, null, { ...attrs, ordered, numbers, terms });
}

export function withStart(state: EditorState, start: number): Transaction | null {
  const at = listAt(state);
  return at ? state.tr.setNodeAttribute(at.pos, 'start', start) : null;
}

/** Enter in a term begins what it means, in the same item. */
export const belowTerm: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const item = $from.depth > 1 ? $from.node(-1) : null;
  if (item?.type !== schema.nodes.item || $from.index(-1) !== 0 || $from.parent.content.size === 0)
    return false;
  return isTerms($from.node(-2)) && splitBlock(state, dispatch);
};
