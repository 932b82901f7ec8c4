'use client';
/** The page that faces the one that is read, on a screen wide enough for both. */
import { useRef, useState } from 'react';
import { OVER } from './dress';
import { Leaf } from './leaf';
import { listenTo, type Listener } from './listening';
import { LIGHTS } from './settings';
import { addressOf, type EbookSource } from './source';

/** Pixels by which the page on the right lies over the other: a hair of paper would show between them. */
export const SEAM = 1;

export function FacingPage({
  source,
  path,
  label,
  room,
  hand,
  listener,
}: {
  source: EbookSource;
  path: string;
  label: string;
  /** Half of the screen, in its own pixels. */
  room: { width: number; height: number };
  hand: 'left' | 'right';
  listener: Listener;
}) {
  const [page, setPage] = useState<{ width: number; height: number } | null>(null);
  const latest = useRef(listener);
  latest.current = listener;
  const own = page ?? room;
  const fit = Math.min(room.width / own.width, room.height / own.height);
  return (
    <iframe
      title={label}
      sandbox="allow-same-origin"
      src={addressOf(source.base, path)}
      onLoad={(e) => {
        const { contentDocument: document, contentWindow: window } = e.currentTarget;
        if (!document || !window || window.location.href === 'about:blank') return;
        const leaf = new Leaf(document, window as Window & typeof globalThis, true);
        leaf.dress(OVER, { width: 1, height: 1, columns: 1, gap: 0, padding: 0 }, true);
        listenTo(
          document,
          () => latest.current,
          () => true,
        );
        setPage(leaf.viewport ?? room);
      }}
      className="absolute border-0"
      style={{
        // Both pages keep to the fold.
        left: hand === 'left' ? room.width - own.width * fit : room.width - SEAM,
        top: (room.height - own.height * fit) / 2,
        width: own.width,
        height: own.height,
        transform: `scale(${fit})`,
        transformOrigin: 'top left',
        background: LIGHTS.day.paper,
        opacity: page ? 1 : 0,
      }}
    />
  );
}
