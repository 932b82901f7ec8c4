'use client';
/** Keeps the window on its text when the pane grows narrower or wider and every line is broken again. */
import { useEffect, type RefObject } from 'react';

export function useAnchoredText(scroller: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const pane = scroller.current;
    if (!pane) return;
    let at: { id: string; top: number } | null = null;
    let width = pane.clientWidth;
    /** The first block whose head is in the window. */
    const remember = (): void => {
      const { top } = pane.getBoundingClientRect();
      for (const el of pane.querySelectorAll<HTMLElement>('.manuscript [data-id]')) {
        const own = el.getBoundingClientRect().top;
        if (own < top || el.closest('aside')) continue;
        at = { id: el.dataset.id ?? '', top: own - top };
        return;
      }
    };
    const resized = new ResizeObserver(() => {
      if (pane.clientWidth === width) return;
      width = pane.clientWidth;
      const el = at && pane.querySelector(`.manuscript [data-id="${CSS.escape(at.id)}"]`);
      if (!el || !at) return;
      pane.scrollTop += el.getBoundingClientRect().top - pane.getBoundingClientRect().top - at.top;
    });
    resized.observe(pane);
    pane.addEventListener('scroll', remember, { passive: true });
    return () => {
      resized.disconnect();
      pane.removeEventListener('scroll', remember);
    };
  }, [scroller]);
}
