'use client';
/** A page of a PDF that was made, as it is in the file, with the lines marked that are other now. */
import { useEffect, useRef, useState } from 'react';
import type { View } from '@pagina/core/proof';
import { openPdf } from '@/ui/pdf';

export function FilePage({
  sha256,
  page,
  view,
  lines,
  width,
  height,
  trim,
}: {
  sha256: string;
  /** 0 up. */
  page: number;
  view: View;
  /** Lines that are marked, by their numbers in the view. */
  lines: readonly number[];
  /** Pixels. */
  width: number;
  height: number;
  /** Width of the trimmed page in points. */
  trim: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [trouble, setTrouble] = useState(false);
  useEffect(() => {
    let task: { cancel: () => void } | null = null;
    let gone = false;
    void (async () => {
      const proxy = await (await openPdf(sha256)).getPage(page + 1);
      const el = canvas.current;
      if (gone || !el) return;
      const dense = Math.min(2, window.devicePixelRatio || 1);
      const plain = proxy.getViewport({ scale: 1 });
      // Bleed lies around the trim on every side (PDF 1.7 §14.11.2).
      const bleed = (plain.width - trim) / 2;
      const scale = (width / trim) * dense;
      const viewport = proxy.getViewport({ scale, offsetX: -bleed * scale, offsetY: -bleed * scale });
      // Drawn out of sight: a page that is turned to again never flickers.
      const sheet = new OffscreenCanvas(Math.round(width * dense), Math.round(height * dense));
      const context = sheet.getContext('2d') as unknown as CanvasRenderingContext2D;
      const drawing = proxy.render({ canvas: null, canvasContext: context, viewport, background: '#fffdf8' });
      task = drawing;
      await drawing.promise;
      if (gone) return;
      el.width = sheet.width;
      el.height = sheet.height;
      el.getContext('2d')?.drawImage(sheet, 0, 0);
      el.dataset.drawn = `${sha256} ${page}`;
    })().catch(() => !gone && setTrouble(true));
    return () => {
      gone = true;
      task?.cancel();
    };
  }, [sha256, page, width, height, trim]);
  const scale = width / trim;
  return (
    <figure
      aria-label={`Page ${view.label || page + 1} of the earlier file`}
      className="relative border border-rule"
      style={{ width: width + 2, height: height + 2 }}
      data-earlier={page}
    >
      <canvas ref={canvas} aria-hidden style={{ width, height }} className="block bg-[#fffdf8]" />
      {trouble ? (
        <p className="absolute inset-x-0 top-4 px-4 text-rubric">
          This page of the earlier file can’t be shown.
        </p>
      ) : null}
      {lines.map((i) => {
        const [x, y, w, size] = view.places[i] ?? [0, 0, 0, 0];
        return (
          <span
            key={i}
            aria-hidden
            data-overlay="went"
            className="pointer-events-none absolute bg-[#a52f1c]/15"
            style={{
              left: x * scale - 2,
              top: (y - size * 0.8) * scale,
              width: w * scale + 4,
              height: size * 1.1 * scale,
            }}
          />
        );
      })}
      <ol className="sr-only" aria-label="Lines that are different now">
        {lines.map((i) => (
          <li key={i}>{view.words[i]}</li>
        ))}
      </ol>
    </figure>
  );
}
