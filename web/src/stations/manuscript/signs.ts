'use client';
/** Shows what cannot be seen: spaces, no-break spaces, tabs, line ends, ends of paragraphs, hidden hyphens. */
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';

export const signs = new PluginKey<{ on: boolean; marks: DecorationSet }>('signs');

const NAMES: Record<string, string> = {
  ' ': 'space',
  '\u00a0': 'fixed',
  '\u202f': 'fixed',
  '\t': 'tab',
  '\u00ad': 'hyphen',
  '\u200b': 'zero',
};

function marksOf(doc: Node): DecorationSet {
  const marks: Decoration[] = [];
  doc.descendants((x, pos) => {
    if (x.isText) {
      for (const m of (x.text as string).matchAll(/[ \u00a0\u202f\t\u00ad\u200b]/g))
        marks.push(
          Decoration.inline(pos + m.index, pos + m.index + 1, {
            class: `sign sign-${NAMES[m[0]] ?? 'space'}`,
          }),
        );
    } else if (x.type.name === 'lineBreak')
      marks.push(
        Decoration.node(pos, pos + 1, { class: x.attrs.fitted ? 'sign-line sign-fitted' : 'sign-line' }),
      );
    else if (x.isTextblock) marks.push(Decoration.node(pos, pos + x.nodeSize, { class: 'sign-end' }));
  });
  return DecorationSet.create(doc, marks);
}

export function signsPlugin(): Plugin {
  return new Plugin<{ on: boolean; marks: DecorationSet }>({
    key: signs,
    state: {
      init: () => ({ on: false, marks: DecorationSet.empty }),
      apply(tr, old) {
        const asked = tr.getMeta(signs) as boolean | undefined;
        const on = asked ?? old.on;
        if (on === old.on && !tr.docChanged) return old;
        return { on, marks: on ? marksOf(tr.doc) : DecorationSet.empty };
      },
    },
    props: { decorations: (s) => signs.getState(s)?.marks },
  });
}
