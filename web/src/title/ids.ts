/** Names that are nowhere yet: of requests, sessions and blocks. */
import { Plugin } from 'prosemirror-state';

export const shortId = (): string => Math.random().toString(36).slice(2, 10);

/** New blocks get ids as they appear: by typing Enter, by dividing, by paste. */
export const freshIds = new Plugin({
  appendTransaction(transactions, _old, state) {
    if (!transactions.some((t) => t.docChanged)) return null;
    const seen = new Set<string>();
    const tr = state.tr;
    state.doc.descendants((node, pos) => {
      if (node.isText || node.isInline || !('id' in node.attrs)) return;
      const id = node.attrs.id as string;
      if (id === '' || seen.has(id)) {
        const fresh = `k${shortId()}`;
        tr.setNodeMarkup(pos, undefined, { ...node.attrs, id: fresh });
        seen.add(fresh);
      } else seen.add(id);
    });
    return tr.docChanged ? tr : null;
  },
});
