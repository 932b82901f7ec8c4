'use client';
/** The strip: the documents in reading order, each as its readers see its beginning; moved by drag or by keys. */
import { memo, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { DocumentRow } from '@pagina/core/emend';
import { addressOf } from '@/reader/source';
import { viewportOf } from '@/reader/viewport';
import { ShelfTools, useShelf } from '@/ui/Shelf';
import { useEbook, useSnapshot } from './context';
import { Page } from './page';

const HEAD = 28;
const AROUND = 34;
const GAP = 10;
/** Kept in the page beyond what is in sight. */
const BEYOND = 4;
/** The size that a document is laid out in before it is made small, in pixels. */
const SCREEN = { width: 480, height: 720 };

export function DocumentStrip({ onFindings }: { onFindings: () => void }) {
  const { spot, goTo, run } = useEbook();
  const { view, findings, saves } = useSnapshot();
  const shelf = useShelf();
  const scroller = useRef<HTMLDivElement>(null);
  const [sight, setSight] = useState({ from: 0, to: 12 });
  const room = Math.max(48, shelf.height - HEAD - AROUND);
  const width = Math.round((room * SCREEN.width) / SCREEN.height);
  const step = width + GAP;
  const { documents } = view;
  const ids = useMemo(() => documents.map((d) => d.path), [documents]);
  const counts = useMemo(() => {
    const at = new Map<string, number>();
    for (const f of findings ?? [])
      if (f.file && f.severity !== 'note') at.set(f.file, (at.get(f.file) ?? 0) + 1);
    return at;
  }, [findings]);
  const blockers = findings?.filter((f) => f.severity === 'blocker').length ?? 0;
  const cautions = findings?.filter((f) => f.severity === 'caution').length ?? 0;
  const here = ids.indexOf(spot.path);
  const look = (): void => {
    const el = scroller.current;
    if (!el) return;
    setSight({
      from: Math.max(0, Math.floor(el.scrollLeft / step) - BEYOND),
      to: Math.ceil((el.scrollLeft + el.clientWidth) / step) + BEYOND,
    });
  };
  useEffect(look, [step, documents.length]);
  useEffect(() => {
    const el = scroller.current;
    if (here < 0 || !el) return;
    const x = here * step;
    if (x < el.scrollLeft || x > el.scrollLeft + el.clientWidth - step)
      el.scrollTo({ left: x - el.clientWidth / 2 });
  }, [here, step]);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  /** Moves a document to a place in the list. */
  const moveTo = (path: string, to: number): Promise<unknown> => {
    const rest = ids.filter((x) => x !== path);
    return run({ type: 'move', path, before: rest[to] ?? null });
  };
  const drop = ({ active, over }: DragEndEvent): void => {
    const to = over ? ids.indexOf(String(over.id)) : -1;
    if (to < 0 || active.id === over?.id) return;
    void moveTo(String(active.id), to);
  };
  const keys = (e: KeyboardEvent, row: DocumentRow): void => {
    const at = ids.indexOf(row.path);
    const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
    if (e.key === 'Delete') {
      e.preventDefault();
      return void run({ type: 'remove-document', path: row.path }).then(
        (saved) => saved?.show && goTo({ path: saved.show, offset: null }),
      );
    }
    const to = at + by;
    if (by === 0 || to < 0 || to >= ids.length) return;
    e.preventDefault();
    if (e.altKey) return void moveTo(row.path, to).then(() => focusOn(row.path));
    goTo({ path: ids[to] ?? row.path, offset: null });
    focusOn(ids[to] ?? row.path);
  };
  // The same object every time, so that what has not changed is not drawn again with every letter.
  const latest = useRef({ keys, goTo });
  latest.current = { keys, goTo };
  const hands = useMemo(
    (): Hands => ({
      open: (row) => latest.current.goTo({ path: row.path, offset: null }),
      key: (e, row) => latest.current.keys(e, row),
    }),
    [],
  );
  const focusOn = (path: string): void => {
    requestAnimationFrame(() =>
      scroller.current?.querySelector<HTMLElement>(`[data-document="${window.CSS.escape(path)}"]`)?.focus(),
    );
  };
  return (
    <section aria-label="The ebook, document by document" className="flex h-full flex-col bg-table">
      <div className="flex h-7 items-center gap-3 px-4 text-[13px] text-ink-soft">
        <span className="whitespace-nowrap">
          {documents.length.toLocaleString('en-GB')} {documents.length === 1 ? 'document' : 'documents'}
        </span>
        <span aria-hidden className="h-4 border-l border-edge" />
        <span role="status" data-findings={findings === null ? '' : blockers + cautions}>
          {findings === null ? (
            'Checking …'
          ) : findings.length === 0 ? (
            'The checks find nothing wrong.'
          ) : (
            <button type="button" className="underline" onClick={onFindings}>
              {[
                [blockers, 'blocker'] as const,
                [cautions, 'caution'] as const,
                // Advice is told of where nothing is worse.
                [blockers + cautions === 0 ? findings.length : 0, 'note'] as const,
              ]
                .filter(([n]) => n > 0)
                .map(([n, what]) => `${n} ${n === 1 ? what : `${what}s`}`)
                .join(', ')}
            </button>
          )}
        </span>
        <span className="ml-auto" />
        <ShelfTools />
      </div>
      {shelf.folded ? null : (
        <div
          ref={scroller}
          onScroll={look}
          className="relative min-h-0 flex-1 overflow-x-auto overflow-y-hidden px-4 pb-2"
          role="group"
          aria-label="Documents in reading order. Arrow keys go from one to the next; with Alt they move it; Delete removes it."
        >
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
            <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
              <div className="relative flex h-full" style={{ width: documents.length * step, gap: GAP }}>
                {documents.map((d, i) => (
                  <Thumb
                    key={d.path}
                    row={d}
                    number={i + 1}
                    size={{ width, height: room }}
                    isHere={i === here}
                    findings={counts.get(d.path) ?? 0}
                    near={i >= sight.from && i < sight.to}
                    stamp={`${saves[d.path] ?? 0} ${saves[''] ?? 0}`}
                    hands={hands}
                  />
                ))}
              </div>
            </SortableContext>
          </DndContext>
        </div>
      )}
    </section>
  );
}

interface Hands {
  open: (row: DocumentRow) => void;
  key: (e: KeyboardEvent, row: DocumentRow) => void;
}

const Thumb = memo(ThumbOf, (a, b) =>
  (Object.keys(b) as (keyof typeof b)[]).every((k) =>
    k === 'row' || k === 'size' ? JSON.stringify(a[k]) === JSON.stringify(b[k]) : a[k] === b[k],
  ),
);
function ThumbOf({
  row,
  number,
  size,
  isHere,
  findings,
  near,
  stamp,
  hands,
}: {
  row: DocumentRow;
  number: number;
  size: { width: number; height: number };
  isHere: boolean;
  findings: number;
  near: boolean;
  /** Another one whenever its picture is to be fetched again. */
  stamp: string;
  hands: Hands;
}) {
  const { session } = useEbook();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: row.path,
  });
  return (
    <button
      ref={setNodeRef}
      type="button"
      data-document={row.path}
      {...attributes}
      {...listeners}
      role={undefined}
      aria-roledescription={undefined}
      aria-describedby={undefined}
      aria-current={isHere ? 'true' : undefined}
      aria-label={`${number}, ${row.label}${row.linear ? '' : ', reached by links alone'}${findings > 0 ? `, ${findings === 1 ? '1 finding' : `${findings} findings`}` : ''}`}
      onClick={() => hands.open(row)}
      onKeyDown={(e) => hands.key(e, row)}
      className="relative block shrink-0 text-left"
      style={{
        width: size.width,
        transform: CSS.Translate.toString(transform),
        transition,
        zIndex: isDragging ? 20 : undefined,
      }}
    >
      <span className="block h-3 truncate text-[10px] leading-3 text-ink-soft">{row.label}</span>
      <span
        className={`relative block overflow-hidden bg-[#fffdf8] outline ${isHere ? 'outline-2 outline-spruce' : 'outline-rule'} ${row.linear ? '' : 'opacity-60'}`}
        style={size}
      >
        {near && row.there ? (
          <Picture
            key={stamp}
            base={`/api/ebooks/${session.id}/parts/`}
            path={row.path}
            scale={size.width / SCREEN.width}
            fixed={row.fixed}
          />
        ) : null}
        {findings > 0 ? <span aria-hidden className="absolute top-1 right-0 h-3 w-1 bg-rubric" /> : null}
      </span>
    </button>
  );
}

/** The beginning of a document, made small. */
function Picture({
  base,
  path,
  scale,
  fixed,
}: {
  base: string;
  path: string;
  scale: number;
  fixed: boolean;
}) {
  const [viewport, setViewport] = useState<{ width: number; height: number } | null>(null);
  const frame = useRef<HTMLIFrameElement>(null);
  const load = (): void => {
    const document = frame.current?.contentDocument;
    const window = frame.current?.contentWindow as (Window & typeof globalThis) | null | undefined;
    if (!document || !window || window.location.href === 'about:blank') return;
    new Page(document, window, fixed);
    if (fixed) setViewport(viewportOf(document));
  };
  const size = viewport ?? SCREEN;
  return (
    <iframe
      ref={frame}
      title=""
      aria-hidden
      tabIndex={-1}
      sandbox="allow-same-origin"
      loading="lazy"
      src={addressOf(base, path)}
      onLoad={load}
      className="pointer-events-none absolute top-0 left-0 border-0"
      style={{
        ...size,
        transform: `scale(${(scale * SCREEN.width) / size.width})`,
        transformOrigin: 'top left',
      }}
    />
  );
}
