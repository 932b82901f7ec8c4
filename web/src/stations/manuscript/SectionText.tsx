'use client';
/** One section's editor. Its state lives in the session; the view comes and goes as it is scrolled into sight. */
import { EditorView } from 'prosemirror-view';
import type { Slice } from 'prosemirror-model';
import { useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { toast } from 'sonner';
import { placeAt } from '@pagina/core/book';
import { useComposed, useTitle } from '@/title/context';
import { pointingOf } from '@/title/pointing';
import { figureView, fillPasted, pageView, putPictures } from './figures';
import { layMargin, noteView } from './margin';
import { cleaned } from './paste';
import { pointing, referenceView, saysOther } from './pointing';
import { folios, plugins, sameFolios } from './plugins';
import { signs } from './signs';

/** How long after a click or a key folios are left as they are, in milliseconds. */
const QUIET = 200;

export function SectionText({
  section,
  label,
  length,
  first,
  showSigns,
  margin,
  onView,
  onState,
}: {
  section: string;
  label: string;
  /** Characters and blocks of the text, for its height before it is drawn. */
  length: { characters: number; blocks: number };
  /** It stands in the window when the station opens: drawn at once, not when it is seen. */
  first: boolean;
  showSigns: boolean;
  /** The column beside it that holds its findings. */
  margin: RefObject<HTMLElement | null>;
  onView: (v: EditorView, section: string) => void;
  onState: () => void;
}) {
  const { session, setCursor } = useTitle();
  const { composed } = useComposed();
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const [near, setNear] = useState(first);
  const [height, setHeight] = useState(() => heightOf(length));
  const touched = useRef(-QUIET);
  const placeholder = useRef(height);
  placeholder.current = height;
  const call = useRef({ onView, onState });
  call.current = { onView, onState };
  useEffect(() => {
    const el = host.current;
    if (!el) return;
    const eye = new IntersectionObserver(
      ([e]) => {
        if (!e) return;
        if (!e.isIntersecting && view.current && e.boundingClientRect.height > 0)
          setHeight(e.boundingClientRect.height);
        setNear(e.isIntersecting);
      },
      // Seen from the pane that scrolls: a margin counts only for the observer's own root.
      { root: el.closest('[data-scrolls]'), rootMargin: '1200px' },
    );
    eye.observe(el);
    return () => eye.disconnect();
  }, []);
  // Before the browser lays the page out: an emptied placeholder would make everything below jump.
  useLayoutEffect(() => {
    const el = host.current;
    // A view with the cursor in it stays, however far it is scrolled.
    if (!el || (!near && !view.current)) return;
    if (!near && !view.current?.hasFocus()) {
      view.current?.destroy();
      view.current = null;
      return;
    }
    if (view.current) return;
    let pasted: { src: string }[] = [];
    const touch = (): boolean => {
      touched.current = performance.now();
      return false;
    };
    const v = new EditorView(el, {
      state: session.editor(section, () => plugins(() => session.get().book.record.language)),
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', spellcheck: 'false' },
      nodeViews: {
        figure: figureView(() => session.get().book),
        picturePage: pageView(() => session.get().book),
        noteBody: noteView,
        reference: referenceView,
      },
      dispatchTransaction: (tr) => session.dispatch(section, tr),
      transformPastedHTML(html, target) {
        if (/data-pm-slice/.test(html)) return html;
        const clean = cleaned(html);
        pasted = clean.pictures;
        if (clean.left > 0)
          toast(
            clean.left === 1
              ? 'A picture is stored elsewhere on the web and wasn’t downloaded. Save it and drop it here.'
              : `${clean.left} pictures are stored elsewhere on the web and weren’t downloaded. Save them and drop them here.`,
          );
        if (pasted.length > 0) setTimeout(() => void fillPasted(session, target, pasted), 0);
        return clean.html;
      },
      handlePaste(target, event, slice: Slice) {
        const files = [...(event.clipboardData?.files ?? [])].filter((f) => f.type.startsWith('image/'));
        if (files.length === 0 || slice.size > 0) return false;
        void putPictures(session, section, target, files, target.state.selection.to);
        return true;
      },
      handleDrop(target, event) {
        const files = [...(event.dataTransfer?.files ?? [])];
        if (files.length === 0) return false;
        const at = target.posAtCoords({ left: event.clientX, top: event.clientY });
        void putPictures(session, section, target, files, at?.pos ?? target.state.selection.to);
        event.preventDefault();
        return true;
      },
      handleDOMEvents: {
        keydown: touch,
        mousedown: touch,
        mouseup: touch,
        focus: () => {
          call.current.onView(v, section);
          return false;
        },
      },
    });
    view.current = v;
    const lay = (): void => {
      if (margin.current) layMargin(el, margin.current);
    };
    const resized = new ResizeObserver(lay);
    resized.observe(v.dom);
    if (margin.current) resized.observe(margin.current);
    const off = session.onDraw(section, (state) => {
      v.updateState(state);
      lay();
      call.current.onState();
    });
    lay();
    // What stands above the window grows or shrinks to its true height: the window stays on its text.
    const pane = el.closest<HTMLElement>('[data-scrolls]');
    const now = el.getBoundingClientRect();
    if (pane && now.top < pane.getBoundingClientRect().top)
      pane.scrollTop += now.height - placeholder.current;
    const cleanup = v.destroy.bind(v);
    v.destroy = () => {
      off();
      resized.disconnect();
      cleanup();
    };
  }, [near, section, session, label, margin]);
  useEffect(
    () => () => {
      view.current?.destroy();
      view.current = null;
    },
    [],
  );
  useEffect(() => {
    if (!composed) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = (): void => {
      const v = view.current;
      if (!v || v.isDestroyed) return;
      // A click or a key sets the browser's selection before the editor hears of it: redrawing just then would undo it.
      const wait = QUIET - (performance.now() - touched.current);
      if (wait > 0) {
        timer = setTimeout(show, wait);
        return;
      }
      const tr = v.state.tr.setMeta(folios, composed.places).setMeta('addToHistory', false);
      if (!sameFolios(v.state, v.state.apply(tr))) v.dispatch(tr);
      const says = pointingOf(session.get().book, composed);
      if (saysOther(v.state, says))
        v.dispatch(v.state.tr.setMeta(pointing, says).setMeta('addToHistory', false));
    };
    show();
    return () => clearTimeout(timer);
  }, [composed, near]);
  useEffect(() => {
    const v = view.current;
    if (v && signs.getState(v.state)?.on !== showSigns) v.dispatch(v.state.tr.setMeta(signs, showSigns));
  }, [showSigns, near]);
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

/** Height of text at the measure of this station: some 78 characters a line of 27 px, 9 px between paragraphs. */
export const heightOf = ({ characters, blocks }: { characters: number; blocks: number }): number =>
  Math.max(60, Math.ceil((characters / 78 + blocks * 0.5) * 27 + blocks * 9));
