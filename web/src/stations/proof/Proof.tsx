'use client';
/** Proof: pages at reading size as they print, spread by spread, with the grid and the margins laid over at will. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useBook, useComposed, useTitle } from '@/title/context';
import { PageCanvas } from '@/strip/PageCanvas';
import { Button } from '@/ui/controls';
import type { Composed, TextLine } from '@/workers/messages';

const ZOOMS = [0.75, 1, 1.25, 1.5, 2];

export function Proof() {
  const { composed, refusal } = useComposed();
  const { place } = useTitle();
  const { book, edition } = useBook();
  const [spread, setSpread] = useState(0);
  const [zoom, setZoom] = useState(0);
  const [grid, setGrid] = useState(false);
  const [margins, setMargins] = useState(false);
  const [wanted, setWanted] = useState('');
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 1000, height: 500 });
  const count = composed ? Math.ceil((composed.pages.length + 1) / 2) : 0;
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
    if (page !== undefined) setSpread(Math.floor((page + 1) / 2));
  }, [place, composed]);
  const turn = useCallback(
    (by: number) => setSpread((s) => Math.max(0, Math.min(count - 1, s + by))),
    [count],
  );
  const fit = composed
    ? Math.min((size.width - 48) / (composed.width * 2), (size.height - 24) / composed.height)
    : 1;
  const scale = zoom === 0 ? fit : (ZOOMS[zoom - 1] as number) * (96 / 72);
  const pages = useMemo(
    () => [spread * 2 - 1, spread * 2].map((i) => composed?.pages[i] ?? null),
    [spread, composed],
  );
  const go = (): void => {
    const page = composed?.pages.find((p) => p.label === wanted.trim().toLowerCase());
    if (page) setSpread(Math.floor((page.index + 1) / 2));
  };
  const print = book.editions.find((e) => e.id === edition)?.form === 'print';
  return (
    <div
      className="flex h-full flex-col"
      tabIndex={0}
      onKeyDown={(e) => {
        if (e.target instanceof HTMLInputElement) return;
        if (e.key === 'ArrowRight' || e.key === 'PageDown') turn(1);
        if (e.key === 'ArrowLeft' || e.key === 'PageUp') turn(-1);
        if (e.key === 'Home') setSpread(0);
        if (e.key === 'End') setSpread(count - 1);
      }}
    >
      <div
        role="toolbar"
        aria-label="Proof"
        className="no-print flex h-10 items-center gap-2 border-b border-rule px-4"
      >
        <Button className="h-7" onClick={() => turn(-1)} disabled={spread === 0}>
          Back
        </Button>
        <Button className="h-7" onClick={() => turn(1)} disabled={spread >= count - 1}>
          On
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
              className="h-7 w-14 rounded-[2px] border border-edge bg-sheet px-2"
              value={wanted}
              onChange={(e) => setWanted(e.target.value)}
              placeholder={pages.find((p) => p)?.label ?? ''}
            />
          </label>
          <Button className="h-7" type="submit">
            Go
          </Button>
        </form>
        <label className="flex items-center gap-2">
          <span className="text-ink-soft">Size</span>
          <select
            className="h-7 rounded-[2px] border border-edge bg-sheet px-1"
            value={zoom}
            onChange={(e) => setZoom(Number(e.target.value))}
          >
            <option value={0}>Whole spread</option>
            {ZOOMS.map((z, i) => (
              <option key={z} value={i + 1}>
                {z * 100} %
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={grid} onChange={(e) => setGrid(e.target.checked)} /> Grid
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={margins} onChange={(e) => setMargins(e.target.checked)} /> Margins
        </label>
        <span className="ml-auto text-[13px] text-ink-soft">
          {print ? null : 'Pages of the print edition. '}
          {composed
            ? `${counted(composed.report.looseLines, 'loose line')} · ${counted(composed.report.hyphenatedLines, 'hyphen')}`
            : null}
        </span>
      </div>
      <div ref={room} className="min-h-0 flex-1 overflow-auto p-3">
        {refusal ? <p className="p-6 text-rubric">{refusal}</p> : null}
        {composed ? (
          <div className="mx-auto flex w-max">
            {pages.map((p, i) =>
              p ? (
                <ProofPage
                  key={i}
                  page={p.index}
                  side={p.side}
                  label={p.label}
                  composed={composed}
                  scale={scale}
                  grid={grid}
                  margins={margins}
                />
              ) : (
                <span key={i} style={{ width: composed.width * scale, height: composed.height * scale }} />
              ),
            )}
          </div>
        ) : null}
      </div>
    </div>
  );
}

function ProofPage({
  page,
  side,
  label,
  composed,
  scale,
  grid,
  margins,
}: {
  page: number;
  side: 'recto' | 'verso';
  label: string;
  composed: Composed;
  scale: number;
  grid: boolean;
  margins: boolean;
}) {
  const [lines, setLines] = useState<TextLine[]>([]);
  const { goTo } = useTitle();
  const router = useRouter();
  const g = composed.geometry;
  const left = side === 'recto' ? g.inside : g.outside;
  const right = side === 'recto' ? g.outside : g.inside;
  const section = composed.pages[page]?.section ?? '';
  return (
    <figure
      aria-label={`Page ${label || page + 1}`}
      className={`relative border border-rule ${side === 'verso' ? 'border-r-edge' : ''}`}
      style={{ width: composed.width * scale + 2, height: composed.height * scale + 2 }}
      data-page={page}
    >
      <PageCanvas page={page} width={composed.width * scale} onLines={setLines} />
      {grid ? (
        <span
          aria-hidden
          data-overlay="grid"
          className="pointer-events-none absolute inset-x-0"
          style={{
            top: (g.top + g.leading * 0.76 - g.leading) * scale,
            height: composed.rows * g.leading * scale,
            backgroundImage: `repeating-linear-gradient(to bottom, transparent 0 ${g.leading * scale - 1}px, color-mix(in srgb, #1c5a52 45%, transparent) ${g.leading * scale - 1}px ${g.leading * scale}px)`,
          }}
        />
      ) : null}
      {margins ? (
        <span
          aria-hidden
          data-overlay="margins"
          className="pointer-events-none absolute border border-[#a52f1c]"
          style={{
            left: left * scale,
            right: right * scale,
            top: g.top * scale,
            height: composed.rows * g.leading * scale,
          }}
        />
      ) : null}
      {/* The page's words, unseen, where they stand: for selecting, finding and reading aloud. */}
      <span className="absolute inset-0 overflow-hidden" data-text>
        {lines.map((l, i) => (
          <span
            key={i}
            className="absolute whitespace-pre text-transparent"
            style={{
              left: l.x * scale,
              top: (l.y - l.size * 0.8) * scale,
              fontSize: l.size * scale,
              lineHeight: 1,
              width: l.width * scale,
              textAlignLast: 'justify',
              fontFamily: 'serif',
            }}
            onDoubleClick={() => {
              goTo({ section, block: l.block || undefined });
              router.push('manuscript');
            }}
          >
            {l.text}
          </span>
        ))}
      </span>
    </figure>
  );
}

const counted = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
