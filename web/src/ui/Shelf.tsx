'use client';
/** The work, and a shelf below it whose upper edge can be dragged or moved by arrow keys; its height is remembered in this browser. */
import { Group, Panel, Separator, usePanelRef } from 'react-resizable-panels';
import { createContext, use, useMemo, useState, type ReactNode } from 'react';
import { Button } from './Button';

/** Pixels. */
export const SHELF = { folded: 29, least: 112, low: 136, high: 232 } as const;
const KEY = 'pagina-shelf';

interface ShelfHeight {
  /** Pixels, as it is now. */
  height: number;
  folded: boolean;
  resize: (height: number) => void;
  fold: () => void;
}
const Height = createContext<ShelfHeight | null>(null);

/** How high the shelf is, and how to change it: for what stands on it. */
export function useShelf(): ShelfHeight {
  const s = use(Height);
  if (!s) throw new Error('useShelf is called on no shelf');
  return s;
}

export function Shelf({ below, children }: { below: ReactNode; children: ReactNode }) {
  const panel = usePanelRef();
  const [first] = useState(() => Number(globalThis.localStorage?.getItem(KEY)) || SHELF.low);
  const [height, setHeight] = useState(first);
  const shelf = useMemo(
    (): ShelfHeight => ({
      height,
      folded: height < SHELF.least,
      resize: (to) => panel.current?.resize(to),
      fold: () => panel.current?.collapse(),
    }),
    [height, panel],
  );
  return (
    <Group orientation="vertical" className="min-h-0 flex-1" resizePreviewMode="separator">
      <Panel id="station" minSize={220} className="overflow-hidden!">
        {children}
      </Panel>
      <Separator
        aria-label="Height of the strip"
        className="no-print h-1 border-t border-rule bg-table outline-none hover:bg-spruce focus-visible:bg-spruce data-[separator=active]:bg-spruce"
      />
      <Panel
        id="shelf"
        panelRef={panel}
        defaultSize={first}
        minSize={SHELF.least}
        maxSize={420}
        collapsible
        collapsedSize={SHELF.folded}
        groupResizeBehavior="preserve-pixel-size"
        onResize={({ inPixels }) => {
          const now = Math.round(inPixels);
          if (now === 0) return;
          setHeight(now);
          localStorage.setItem(KEY, String(now));
        }}
        className="no-print overflow-hidden!"
      >
        <Height value={shelf}>{below}</Height>
      </Panel>
    </Group>
  );
}

/** Makes the shelf taller or lower, and folds it. */
export function ShelfTools() {
  const shelf = useShelf();
  const high = shelf.height > (SHELF.low + SHELF.high) / 2;
  const look = 'h-6 px-2 text-[13px]';
  return (
    <>
      <Button
        kind="quiet"
        className={look}
        onClick={() => shelf.resize(high ? SHELF.low : SHELF.high)}
        disabled={shelf.folded}
      >
        {high ? 'Lower' : 'Taller'}
      </Button>
      <Button
        kind="quiet"
        className={look}
        aria-expanded={!shelf.folded}
        onClick={() => (shelf.folded ? shelf.resize(SHELF.low) : shelf.fold())}
      >
        {shelf.folded ? 'Unfold the strip' : 'Fold'}
      </Button>
    </>
  );
}
