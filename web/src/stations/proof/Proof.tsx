'use client';
/** Proof: pages at reading size as they print, by spreads, single pages or all at once, with what one looks for laid over. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useBook, useComposed, useTitle } from '@/title/context';
import { Button } from '@/ui/controls';
import type { FoundOnPage } from '@/workers/messages';
import { FindOnPages } from './FindOnPages';
import { ProofPage, type Overlay } from './ProofPage';
import { Thumbnails } from './Thumbnails';

type View = 'spreads' | 'pages' | 'all';
const OVERLAYS: [Overlay, string][] = [
  ['grid', 'Grid'],
  ['margins', 'Type area'],
  ['safe', 'Safe area'],
  ['loose', 'Loose lines'],
];
/** Points of a page to pixels of the screen at full size (CSS: 96 pixels an inch). */
const FULL = 96 / 72;
const STEP = 1.2;

export function Proof() {
  const { composed, refusal } = useComposed();
  const { place } = useTitle();
  const { book, edition } = useBook();
  const [at, setAt] = useState(0);
  const [view, setView] = useState<View>('spreads');
  /** A share of full size; null for as large as fits. */
  const [zoom, setZoom] = useState<number | null>(null);
  const [overlays, setOverlays] = useState<ReadonlySet<Overlay>>(new Set());
  const [finding, setFinding] = useState(false);
  const [found, setFound] = useState<FoundOnPage | null>(null);
  const [wanted, setWanted] = useState('');
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 1000, height: 500 });
  const last = Math.max(0, (composed?.pages.length ?? 1) - 1);
  const spread = Math.floor((at + 1) / 2);
  useEffect(() => {
    const el = room.current;
    if (!el) return;
    const watch = new ResizeObserver(
      ([e]) => e && setSize({ width: e.contentRect.width, height: e.contentRect.height }),
    );
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    if (!place || !composed) return;
    const page =
      place.page ??
      (place.block ? composed.places[place.block]?.[0] : undefined) ??
      composed.pages.find((p) => p.section === place.section && !p.blank)?.index;
    if (page !== undefined) setAt(page);
  }, [place, composed]);
  useEffect(() => {
    const keys = (e: KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey || e.shiftKey || e.key.toLowerCase() !== 'f') return;
      e.preventDefault();
      setFinding(true);
    };
    addEventListener('keydown', keys);
    return () => removeEventListener('keydown', keys);
  }, []);
  const turn = useCallback(
    (by: number) =>
      setAt((now) => {
        const to = view === 'pages' ? now + by : Math.max(0, (Math.floor((now + 1) / 2) + by) * 2 - 1);
        return Math.max(0, Math.min(last, to));
      }),
    [last, view],
  );
  const across = view === 'pages' ? 1 : 2;
  const fit = composed
    ? Math.min((size.width - 24) / (composed.width * across), (size.height - 4) / composed.height)
    : 1;
  const scale = zoom === null ? fit : zoom * FULL;
  const shown = useMemo(
    () => (view === 'pages' ? [at] : [spread * 2 - 1, spread * 2]).map((i) => composed?.pages[i] ?? null),
    [view, at, spread, composed],
  );
  const go = (): void => {
    const page = composed?.pages.find((p) => p.label === wanted.trim().toLowerCase());
    if (page) setAt(page.index);
  };
  const grow = (by: number): void => setZoom(Math.max(0.2, Math.min(6, (scale / FULL) * by)));
  const print = book.editions.find((e) => e.id === edition)?.form === 'print';
  const field = 'h-7 rounded-[2px] border border-edge bg-sheet px-2';
  return (
    <div
      className="flex h-full flex-col"
      tabIndex={0}
      onKeyDown={(e) => {
        if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement || view === 'all')
          return;
        if (e.key === 'ArrowRight' || e.key === 'PageDown') turn(1);
        if (e.key === 'ArrowLeft' || e.key === 'PageUp') turn(-1);
        if (e.key === 'Home') setAt(0);
        if (e.key === 'End') setAt(last);
        if (e.key === '+') grow(STEP);
        if (e.key === '-') grow(1 / STEP);
        if (e.key === '0') setZoom(null);
      }}
    >
      <div
        role="toolbar"
        aria-label="Proof"
        className="no-print flex h-10 items-center gap-2 border-b border-rule px-4"
      >
        <Button className="h-7 px-2" onClick={() => turn(-1)} disabled={at === 0}>
          Previous
        </Button>
        <Button className="h-7 px-2" onClick={() => turn(1)} disabled={at >= last}>
          Next
        </Button>
        <form
          className="flex items-center gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            go();
          }}
        >
          <label className="flex items-center gap-2">
            <span className="text-ink-soft">Folio</span>
            <input
              className={`${field} w-14`}
              value={wanted}
              onChange={(e) => setWanted(e.target.value)}
              placeholder={shown.find((p) => p)?.label ?? ''}
            />
          </label>
          <Button className="h-7 px-2" type="submit">
            Go
          </Button>
        </form>
        <select
          aria-label="Shown as"
          className={`${field} px-1`}
          value={view}
          onChange={(e) => setView(e.target.value as View)}
        >
          <option value="spreads">Spreads</option>
          <option value="pages">Single pages</option>
          <option value="all">All pages</option>
        </select>
        <Zoom scale={scale / FULL} fits={zoom === null} onZoom={setZoom} />
        {OVERLAYS.map(([key, name]) => (
          <label key={key} className="flex items-center gap-1.5 whitespace-nowrap">
            <input
              type="checkbox"
              checked={overlays.has(key)}
              onChange={(e) => {
                const next = new Set(overlays);
                if (e.target.checked) next.add(key);
                else next.delete(key);
                setOverlays(next);
              }}
            />{' '}
            {name}
          </label>
        ))}
        <Button
          className="h-7 px-2"
          aria-expanded={finding}
          onClick={() => setFinding(!finding)}
          title="Ctrl+F"
        >
          Find
        </Button>
        <span className="ml-auto truncate text-[13px] text-ink-soft">
          {print ? null : 'Pages of the print edition. '}
          {composed
            ? `${counted(composed.report.looseLines, 'loose line')} · ${counted(composed.report.hyphenatedLines, 'hyphen')}`
            : null}
        </span>
      </div>
      <div className="flex min-h-0 flex-1">
        <div ref={room} className="min-h-0 min-w-0 flex-1 overflow-auto p-3">
          {refusal ? <p className="p-6 text-rubric">{refusal}</p> : null}
          {composed && view === 'all' ? (
            <Thumbnails
              composed={composed}
              here={spread}
              onOpen={(s) => {
                setAt(Math.max(0, s * 2 - 1));
                setView('spreads');
              }}
            />
          ) : null}
          {composed && view !== 'all' ? (
            <div className="mx-auto flex w-max">
              {shown.map((p, i) =>
                p ? (
                  <ProofPage
                    key={i}
                    page={p.index}
                    side={p.side}
                    label={p.label}
                    composed={composed}
                    scale={scale}
                    overlays={overlays}
                    marked={found?.page === p.index ? found.lines : NONE}
                  />
                ) : (
                  <span key={i} style={{ width: composed.width * scale, height: composed.height * scale }} />
                ),
              )}
            </div>
          ) : null}
        </div>
        {finding ? (
          <FindOnPages
            onOpen={(p) => {
              setFound(p);
              setAt(p.page);
              if (view === 'all') setView('spreads');
            }}
            onClose={() => {
              setFinding(false);
              setFound(null);
            }}
          />
        ) : null}
      </div>
    </div>
  );
}
const NONE: readonly number[] = [];

/** Any size, typed in per cent of the printed one, or as large as fits. */
function Zoom({
  scale,
  fits,
  onZoom,
}: {
  scale: number;
  fits: boolean;
  onZoom: (zoom: number | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = (): void => {
    const n = Number((typed ?? '').replace(/[%\s]/g, ''));
    if (n >= 20 && n <= 600) onZoom(n / 100);
    setTyped(null);
  };
  return (
    <span className="flex items-center gap-1">
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Size</span>
        <input
          className="h-7 w-16 rounded-[2px] border border-edge bg-sheet px-2"
          value={typed ?? `${Math.round(scale * 100)} %`}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => typed !== null && keep()}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') setTyped(null);
          }}
        />
      </label>
      <Button className="h-7 px-2" disabled={fits} onClick={() => onZoom(null)} title="0">
        Fit
      </Button>
    </span>
  );
}

const counted = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
