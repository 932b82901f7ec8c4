'use client';
/** One page as the worker draws it. It is drawn when first seen and again when the composition changes. */
import { useEffect, useRef, useState } from 'react';
import { useComposed, useTitle } from '@/title/context';
import type { TextLine } from '@pagina/core/compose';
import type { Which } from '@/workers/messages';

const NONE = { composed: null, generation: 0 };

export function PageCanvas({
  page,
  width,
  of = 'book',
  onLines,
}: {
  page: number;
  width: number;
  /** The composition it belongs to. */
  of?: Which;
  onLines?: (lines: TextLine[]) => void;
}) {
  const { composer } = useTitle();
  const state = useComposed();
  const { composed, generation } = of === 'book' ? state : (state[of] ?? NONE);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const el = canvas.current;
    if (!el || seen) return;
    const eye = new IntersectionObserver(
      (entries) => entries.some((e) => e.isIntersecting) && setSeen(true),
      { rootMargin: '400px' },
    );
    eye.observe(el);
    return () => eye.disconnect();
  }, [seen]);
  useEffect(() => {
    if (!seen || !composed) return;
    const unwanted = new AbortController();
    const dense = Math.min(2, window.devicePixelRatio || 1);
    void composer
      .draw({ page, width: width * dense, of, readable: onLines !== undefined }, unwanted.signal)
      .then((d) => {
        const el = canvas.current;
        if (!d || unwanted.signal.aborted || !el) return d?.picture.close();
        el.width = d.picture.width;
        el.height = d.picture.height;
        el.getContext('2d')?.drawImage(d.picture, 0, 0);
        el.dataset.drawn = String(generation);
        d.picture.close();
        onLines?.(d.lines);
      });
    return () => unwanted.abort();
  }, [seen, composed, generation, page, width, of, composer, onLines]);
  const height = composed ? (width * composed.height) / composed.width : width * 1.5;
  return <canvas ref={canvas} aria-hidden style={{ width, height }} className="block bg-[#fffdf8]" />;
}
