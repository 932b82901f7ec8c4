'use client';
/**
 * A document as its readers see it. One points at a passage and its source opens beneath it; what is typed there is seen at
 * once. The frame runs no script.
 */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import {
  lineEndOf,
  locate,
  passageAt,
  passageOf,
  passages,
  type DocumentRow,
  type Located,
  type Span,
} from '@pagina/core/emend';
import { offsetAt, parseXml } from '@pagina/core/base';
import { resolve } from '@pagina/core/package';
import { addressOf } from '@/reader/source';
import { viewportOf } from '@/reader/viewport';
import { BlockSource } from './BlockSource';
import { useEbook } from './context';
import { Page, parsed, type Rect } from './page';
import { elementsIn, followed } from './passage';
import type { SourceFault, Typed } from './SourceEditor';

/** Width of the page on the table, and what it has below and above, in pixels. */
const WIDTH = 680;
const LEAST = 320;
/** Between a passage and its source. */
const BENEATH = 10;

export function DocumentPage({
  row,
  text,
  faults,
  room,
  onWhole,
}: {
  row: DocumentRow;
  text: string;
  faults: readonly SourceFault[];
  room: { width: number; height: number };
  onWhole: (at: number | null) => void;
}) {
  const { session, spot, goTo, run, undo } = useEbook();
  const { path, type } = row;
  const frame = useRef<HTMLIFrameElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const [page, setPage] = useState<Page | null>(null);
  const [height, setHeight] = useState(LEAST);
  const [viewport, setViewport] = useState<{ width: number; height: number } | null>(null);
  /** The passage under the pointer, or chosen by keys. */
  const [pointed, setPointed] = useState<number | null>(null);
  const [open, setOpen] = useState<{ span: Span; cursor: { at: number } } | null>(null);
  const [panelHeight, setPanelHeight] = useState(0);
  const all = useMemo(() => locate(text), [text]);
  const tree = useMemo(() => parsed(text, type), [text, type]);
  const wrong = useMemo(() => {
    const fault = tree ? null : parseXml(text).fault;
    if (tree) return null;
    return `This isn’t well-formed, so the page still shows it as it was${fault ? `: line ${fault.line}, ${fault.message.replace(/\.$/, '')}` : ''}.`;
  }, [tree, text]);
  const stood = useRef(text);
  const latest = useRef({ text, all, pointed, open });
  latest.current = { text, all, pointed, open };

  const openNumber = useCallback((n: number | null, at?: number): void => {
    const e = n === null ? undefined : latest.current.all[n];
    if (!e) return setOpen(null);
    setPointed(e.index);
    const inner = e.inner.to > e.inner.from ? e.inner.from : e.from;
    setOpen({ span: { from: e.from, to: e.to }, cursor: { at: (at ?? inner) - e.from } });
  }, []);

  // Where one was sent from elsewhere.
  useEffect(() => {
    if (spot.path !== path || spot.offset === null) return;
    openNumber(passageAt(latest.current.all, spot.offset, latest.current.text), spot.offset);
  }, [spot, path, openNumber]);

  // What is typed or comes from elsewhere is seen at once; what can’t be read is told, and the page stays.
  useEffect(() => {
    const before = stood.current;
    if (before !== text) {
      stood.current = text;
      setOpen((o) => o && { ...o, span: followed(o.span, before, text) });
    }
    if (page && !page.broken && tree) page.take(tree);
  }, [page, text, tree]);

  // While the source can’t be read, the page shows what was there before, under the numbers it had then.
  const shownAs = useRef<{ first: number; last: number } | null>(null);
  const inside = useMemo(() => {
    if (!open) return (shownAs.current = null);
    if (tree) shownAs.current = elementsIn(all, open.span);
    return shownAs.current;
  }, [all, open, tree]);
  const room_ = open && inside ? panelHeight + BENEATH * 2 : 0;
  const [places, setPlaces] = useState<{ pointed: Rect | null; open: Rect | null }>({
    pointed: null,
    open: null,
  });
  const lay = useCallback((): void => {
    if (!page) return;
    page.makeRoom(inside ? inside.last : null, room_);
    setHeight(Math.max(LEAST, page.height));
    const next = {
      pointed: pointed === null ? null : page.rect(pointed),
      open: inside ? page.rect(inside.last) : null,
    };
    setPlaces((now) => (JSON.stringify(now) === JSON.stringify(next) ? now : next));
  }, [page, inside, room_, pointed]);
  useEffect(() => {
    if (!page) return;
    // With the next picture on the screen: one who types fast would otherwise have it laid out within every letter.
    let asked = requestAnimationFrame(lay);
    const again = (): void => {
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(lay);
    };
    // Pictures and typefaces that come later move what stands below them.
    const watch = new ResizeObserver(again);
    if (page.root) watch.observe(page.document.body ?? page.root);
    return () => {
      cancelAnimationFrame(asked);
      watch.disconnect();
    };
  }, [lay, page, text]);
  useEffect(() => {
    const p = panel.current;
    if (!p) return setPanelHeight(0);
    const watch = new ResizeObserver(() => setPanelHeight(p.offsetHeight));
    watch.observe(p);
    return () => watch.disconnect();
  }, [open === null, inside === null]);

  const scale =
    row.fixed && viewport
      ? Math.min(1, (room.width - 80) / viewport.width, (room.height - 60) / viewport.height)
      : 1;
  const width = row.fixed && viewport ? viewport.width * scale : WIDTH;
  const shown = row.fixed && viewport ? viewport.height * scale : height;
  const at = places.open;

  // What was opened is brought into sight, with the lines above it.
  const asked = useRef<unknown>(null);
  useEffect(() => {
    const s = scroller.current;
    if (!s || !open || !at || asked.current === open.cursor || row.fixed) return;
    asked.current = open.cursor;
    const top = at.top + at.height;
    if (top < s.scrollTop + 40 || top + panelHeight + 40 > s.scrollTop + s.clientHeight)
      s.scrollTo({ top: Math.max(0, at.top + at.height - s.clientHeight * 0.4), behavior: 'instant' });
  }, [open, at, panelHeight, row.fixed]);

  const step = useCallback((by: 1 | -1): number | null => {
    const { all: elements, text: source, pointed: now, open: opened } = latest.current;
    const list = passages(elements, source);
    const first = opened ? elementsIn(elements, opened.span)?.first : undefined;
    const here = first ?? now ?? -1;
    const index = list.findIndex((n) => n >= here);
    const exact = list[index] === here;
    const to =
      by > 0 ? list[exact ? index + 1 : Math.max(0, index)] : list[(index < 0 ? list.length : index) - 1];
    return to ?? null;
  }, []);

  const listen = useCallback(
    (p: Page): void => {
      const d = p.document;
      const passage = (target: EventTarget | null): number | null => {
        const e = target as Element | null;
        return e?.nodeType === Node.ELEMENT_NODE
          ? passageOf(latest.current.all, p.numberOf(e), latest.current.text)
          : null;
      };
      let frameAsked = 0;
      d.addEventListener('pointermove', (e) => {
        cancelAnimationFrame(frameAsked);
        frameAsked = requestAnimationFrame(() => setPointed(passage(e.target)));
      });
      d.addEventListener('pointerleave', () => setPointed(null));
      d.addEventListener(
        'click',
        (e) => {
          e.preventDefault();
          const link = (e.target as Element | null)?.closest?.('a');
          const href =
            link?.getAttribute('href') ?? link?.getAttributeNS('http://www.w3.org/1999/xlink', 'href');
          if (href && (e.ctrlKey || e.metaKey)) {
            const to = resolve(path, href);
            if (!to) return void toast(`This link leads out of the book: ${href}`);
            return void session.source(to.path).then(
              (source) => {
                const target = to.fragment
                  ? locate(source).find((x) =>
                      x.attributes.some((a) => a.name === 'id' && a.value === to.fragment),
                    )
                  : undefined;
                goTo({ path: to.path, offset: target?.from ?? null });
              },
              () => toast('This link leads to nothing that is in the ebook.'),
            );
          }
          openNumber(passage(e.target));
        },
        true,
      );
      d.addEventListener('keydown', (e) => {
        if ((e.ctrlKey || e.metaKey) && !e.altKey && /^[zyk]$/i.test(e.key)) {
          e.preventDefault();
          if (e.key.toLowerCase() === 'k') return;
          return undo(e.key.toLowerCase() === 'y' || e.shiftKey);
        }
        if (e.altKey || e.ctrlKey || e.metaKey) return;
        if (e.key === 'Enter' && latest.current.pointed !== null) {
          e.preventDefault();
          return openNumber(latest.current.pointed);
        }
        if (e.key === 'Escape') return setOpen(null);
        if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
        e.preventDefault();
        const to = step(e.key === 'ArrowDown' ? 1 : -1);
        if (to === null) return;
        setOpen(null);
        setPointed(to);
        const r = p.rect(to);
        const s = scroller.current;
        if (r && s && (r.top < s.scrollTop + 20 || r.top + r.height > s.scrollTop + s.clientHeight - 20))
          s.scrollTo({ top: Math.max(0, r.top - s.clientHeight * 0.3), behavior: 'instant' });
      });
    },
    [path, session, goTo, openNumber, step, undo],
  );
  const load = (): void => {
    const document = frame.current?.contentDocument;
    const window = frame.current?.contentWindow as (Window & typeof globalThis) | null | undefined;
    if (!document || !window || window.location.href === 'about:blank') return;
    const made = new Page(document, window, row.fixed);
    setViewport(row.fixed ? viewportOf(document) : null);
    listen(made);
    setPage(made);
    void document.fonts.ready.then(() => setHeight((h) => Math.max(LEAST, h, made.height)));
  };
  const typed = (edits: readonly Typed[]): void => {
    const grown = edits.reduce((n, t) => n + t.inserted.length - t.removed.length, 0);
    let now = latest.current.text;
    for (const t of edits) now = now.slice(0, t.at) + t.inserted + now.slice(t.at + t.removed.length);
    // What is typed here is inside, also where it looks the same as what comes next.
    stood.current = now;
    setOpen((o) => o && { ...o, span: { from: o.span.from, to: o.span.to + grown } });
    session.type(edits.map((t) => ({ op: 'edit', path, ...t })));
  };
  const first: Located | undefined = inside ? all[inside.first] : undefined;
  const source = open ? (
    <BlockSource
      ref={panel}
      path={path}
      text={text}
      span={open.span}
      element={first}
      faults={faults}
      wrong={wrong}
      cursor={open.cursor}
      lineEnd={lineEndOf(text)}
      divide={
        first
          ? () =>
              void run({ type: 'divide', path, at: first.from }).then((saved) => {
                if (saved?.show) goTo({ path: saved.show, offset: null });
              })
          : null
      }
      onStep={(by) => {
        const to = step(by);
        if (to !== null) openNumber(to);
      }}
      onType={typed}
      onUndo={undo}
      onWhole={() => onWhole(open.span.from)}
      onClose={() => {
        setOpen(null);
        frame.current?.focus();
      }}
    />
  ) : null;
  const brokenAt = page?.broken ? parseXml(text).fault : null;
  return (
    <div ref={scroller} className="relative min-h-0 flex-1 overflow-auto px-6 pt-4 pb-10">
      {page?.broken ? (
        <p
          role="alert"
          className="mx-auto mb-3 border border-rubric bg-sheet px-3 py-1.5"
          style={{ width: WIDTH }}
        >
          This document isn’t well-formed XML, so many readers will refuse it.{' '}
          <button
            type="button"
            className="underline"
            onClick={() => onWhole(brokenAt ? offsetAt(text, brokenAt.line, brokenAt.column) : 0)}
          >
            Open its source{brokenAt ? ` at line ${brokenAt.line}` : ''}
          </button>
        </p>
      ) : null}
      <div
        className="relative mx-auto outline outline-edge"
        style={{ width, height: shown, background: '#fffdf8' }}
      >
        <iframe
          ref={frame}
          title={row.label}
          sandbox="allow-same-origin"
          src={addressOf(`/api/ebooks/${session.id}/parts/`, path)}
          onLoad={load}
          className="absolute top-0 left-0 border-0"
          style={
            row.fixed && viewport
              ? {
                  width: viewport.width,
                  height: viewport.height,
                  transform: `scale(${scale})`,
                  transformOrigin: 'top left',
                }
              : { width: WIDTH, height }
          }
        />
        {places.pointed && !open ? <Outline rect={places.pointed} scale={scale} faint /> : null}
        {at && open ? <Outline rect={at} scale={scale} /> : null}
        {source && !row.fixed ? (
          <div
            className="absolute right-0 left-0 z-10"
            style={{ top: at ? at.top + at.height + BENEATH : 0 }}
          >
            {source}
          </div>
        ) : null}
      </div>
      {source && row.fixed ? (
        <div className="mx-auto mt-3" style={{ width: Math.max(width, WIDTH) }}>
          {source}
        </div>
      ) : null}
    </div>
  );
}

/** What is pointed at, by a rule at its side. */
function Outline({ rect, scale, faint = false }: { rect: Rect; scale: number; faint?: boolean }) {
  return (
    <div
      aria-hidden
      data-pointed={!faint}
      className={`pointer-events-none absolute border-l-2 ${faint ? 'border-edge' : 'border-spruce'}`}
      style={{
        top: rect.top * scale,
        left: Math.max(0, rect.left * scale - 14),
        height: rect.height * scale,
      }}
    />
  );
}
