'use client';
/** One section's editor. Its state lives in the session; the view comes and goes as it is scrolled into sight. */
import { baseKeymap, toggleMark } from 'prosemirror-commands';
import { keymap } from 'prosemirror-keymap';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet, EditorView } from 'prosemirror-view';
import { useEffect, useRef, useState } from 'react';
import { placeAt, schema } from '@pagina/core/book';
import { useComposed, useTitle } from '@/title/context';
import type { PlaceInPrint } from '@/workers/messages';
import { figureView } from './figure';

const folios = new PluginKey<DecorationSet>('folios');
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
        tr.doc.descendants((node, pos) => {
          const at = node.isTextblock ? places[node.attrs.id as string] : undefined;
          if (at)
            marks.push(Decoration.node(pos, pos + node.nodeSize, { 'data-folio': `${at[1]} · ${at[2]}` }));
          return !node.isTextblock;
        });
        return DecorationSet.create(tr.doc, marks);
      },
    },
    props: { decorations: (s) => folios.getState(s) },
  });
}
const m = schema.marks;
const plugins = (): Plugin[] => [
  keymap({
    'Mod-i': toggleMark(m.emphasis!),
    'Mod-b': toggleMark(m.strong!),
    'Mod-Shift-k': toggleMark(m.smallCaps!),
  }),
  keymap(baseKeymap),
  folioPlugin(),
];

export function SectionText({
  section,
  label,
  onView,
  onState,
}: {
  section: string;
  label: string;
  onView: (v: EditorView) => void;
  onState: () => void;
}) {
  const { session, setCursor } = useTitle();
  const { composed } = useComposed();
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const [near, setNear] = useState(false);
  const [height, setHeight] = useState(160);
  const call = useRef({ onView, onState });
  call.current = { onView, onState };
  useEffect(() => {
    const el = host.current;
    if (!el) return;
    const eye = new IntersectionObserver(
      ([e]) => {
        if (!e) return;
        if (!e.isIntersecting && e.boundingClientRect.height > 0) setHeight(e.boundingClientRect.height);
        setNear(e.isIntersecting);
      },
      // Seen from the pane that scrolls: a margin counts only for the observer's own root.
      { root: el.closest('[data-scrolls]'), rootMargin: '1200px' },
    );
    eye.observe(el);
    return () => eye.disconnect();
  }, []);
  useEffect(() => {
    const el = host.current;
    // A view with the cursor in it stays, however far it is scrolled.
    if (!el || (!near && !view.current)) return;
    if (!near && !view.current?.hasFocus()) {
      view.current?.destroy();
      view.current = null;
      return;
    }
    if (view.current) return;
    const v = new EditorView(el, {
      state: session.editor(section, plugins),
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', spellcheck: 'true' },
      nodeViews: { figure: figureView(() => session.get().book) },
      dispatchTransaction: (tr) => session.dispatch(section, tr),
      handleDOMEvents: {
        focus: () => {
          call.current.onView(v);
          return false;
        },
      },
    });
    view.current = v;
    const off = session.onDraw(section, (state) => {
      v.updateState(state);
      call.current.onState();
    });
    const cleanup = v.destroy.bind(v);
    v.destroy = () => {
      off();
      cleanup();
    };
  }, [near, section, session, label]);
  useEffect(
    () => () => {
      view.current?.destroy();
      view.current = null;
    },
    [],
  );
  useEffect(() => {
    const v = view.current;
    if (v && composed) v.dispatch(v.state.tr.setMeta(folios, composed.places).setMeta('addToHistory', false));
  }, [composed, near]);
  /** The strip follows the cursor. */
  const tellPlace = (): void => {
    const v = view.current;
    if (!v) return;
    const { block } = placeAt(section, v.state.doc, v.state.selection.from);
    const at = block ? composed?.places[block] : undefined;
    if (at) setCursor(at[0]);
  };
  return (
    <div
      ref={host}
      className="manuscript"
      style={near ? undefined : { minHeight: height }}
      onKeyUp={tellPlace}
      onMouseUp={tellPlace}
    />
  );
}
