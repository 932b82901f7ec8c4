import { useEffect, useRef, useState } from 'react';

/** The room that an element has, in pixels, as it changes. */
export function useRoom(first: { width: number; height: number }) {
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState(first);
  useEffect(() => {
    const el = room.current;
    if (!el) return;
    const watch = new ResizeObserver(
      ([e]) => e && setSize({ width: e.contentRect.width, height: e.contentRect.height }),
    );
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  return { room, size };
}
