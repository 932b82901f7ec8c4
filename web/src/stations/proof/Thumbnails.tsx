'use client';
/** All pages as small spreads, of which only those in sight are drawn. */
import { useEffect, useRef, useState } from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { PageCanvas } from '@/strip/PageCanvas';
import type { Composed } from '@/workers/messages';

const WIDTH = 84;
const GAP = 22;
const LABEL = 24;

export function Thumbnails({
  composed,
  here,
  unread,
  onOpen,
}: {
  composed: Composed;
  /** The spread that is open. */
  here: number;
  /** Whether a page waits to be read. */
  unread: (page: number) => boolean;
  onOpen: (spread: number) => void;
}) {
  const pane = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1200);
  const spreads = Math.ceil((composed.pages.length + 1) / 2);
  const across = Math.max(1, Math.floor((width - GAP) / (WIDTH * 2 + GAP)));
  const height = (WIDTH * composed.height) / composed.width;
  const rows = useVirtualizer({
    count: Math.ceil(spreads / across),
    getScrollElement: () => pane.current,
    estimateSize: () => height + LABEL + GAP,
    overscan: 2,
  });
  useEffect(() => {
    const el = pane.current;
    if (!el) return;
    const watch = new ResizeObserver(([e]) => e && setWidth(e.contentRect.width));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  useEffect(() => rows.scrollToIndex(Math.floor(here / across), { align: 'center' }), [across]);
  return (
    <div ref={pane} className="h-full overflow-auto" tabIndex={0} role="region" aria-label="All pages">
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((row) => (
          <div
            key={row.key}
            className="absolute flex"
            style={{ top: row.start, left: GAP, gap: GAP, height: row.size }}
          >
            {Array.from({ length: Math.min(across, spreads - row.index * across) }, (_, i) => {
              const spread = row.index * across + i;
              const pair = [spread * 2 - 1, spread * 2].map((p) => composed.pages[p] ?? null);
              const labels = pair.flatMap((p) => (p ? [p.label || '–'] : []));
              return (
                <button
                  key={spread}
                  type="button"
                  data-thumbnail={spread}
                  aria-label={`Open pages ${labels.join(' and ')}`}
                  aria-current={spread === here ? 'true' : undefined}
                  className="text-center text-[12px] text-ink-soft hover:text-ink"
                  onClick={() => onOpen(spread)}
                >
                  <span
                    className={`flex border ${spread === here ? 'border-spruce' : 'border-rule'}`}
                    style={{ width: WIDTH * 2 + 2, height: height + 2 }}
                  >
                    {pair.map((p, k) =>
                      p ? (
                        <PageCanvas key={k} page={p.index} width={WIDTH} />
                      ) : (
                        <span key={k} className="bg-table" style={{ width: WIDTH, height }} />
                      ),
                    )}
                  </span>
                  {labels.join(' · ')}
                  {pair.some((p) => p && unread(p.index)) ? (
                    <span className="text-ochre"> unread</span>
                  ) : null}
                </button>
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
}
