'use client';
/** The list that the cursor is in: how it counts, and from where. */
import type { Node } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import { schema } from '@pagina/core/book';

export type ListKind = 'bullets' | 'figures' | 'letters' | 'roman';

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
  list.attrs.ordered ? (list.attrs.numbers as ListKind) : 'bullets';

export function withKind(state: EditorState, kind: ListKind): Transaction | null {
  const at = listAt(state);
  if (!at) return null;
  const { attrs } = at.list;
  const ordered = kind !== 'bullets';
  return state.tr.setNodeMarkup(at.pos, null, { ...attrs, ordered, numbers: ordered ? kind : attrs.numbers });
}

export function withStart(state: EditorState, start: number): Transaction | null {
  const at = listAt(state);
  return at ? state.tr.setNodeAttribute(at.pos, 'start', start) : null;
}
