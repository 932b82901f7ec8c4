'use client';
/** A page of a PDF as it is in the file, with lines marked. */
import { useEffect, useRef, useState } from 'react';
import type { View } from '@pagina/core/proof';
import { openPdf } from '@/ui/pdf';

export function FilePage({
  sha256,
  page,
  view,
  called,
  lines,
  saying,
  commented = NONE,
  onPoint,
  width,
  height,
  across,
  sheet = false,
}: {
  sha256: string;
  /** 0 up. */
  page: number;
  view: View;
  called: string;
  /** Lines that are marked, by their numbers in the view, and what is said of them to those who hear. */
  lines: readonly number[];
  saying: string;
  /** Lines that a comment is about; -1 for the page as a whole. */
  commented?: readonly number[];
  /** A line was pointed at, to be commented on. */
  onPoint?: (line: number) => void;
  /** Pixels. */
  width: number;
  height: number;
  /** How wide the page is in points that takes this width. */
  across: number;
  /** The sheet as a whole is shown, with its bleed; else what is left once it is trimmed. */
  sheet?: boolean;
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
      // Bleed lies around the trim on every side (PDF 1.7 §14.11.2). A sheet of another size is shown as large as fits.
      const bleed = sheet ? 0 : (plain.width - across) / 2;
      const scale = dense * (sheet ? Math.min(width / plain.width, height / plain.height) : width / across);
      const viewport = proxy.getViewport({ scale, offsetX: -bleed * scale, offsetY: -bleed * scale });
      // Drawn out of sight: a page that is turned to again never flickers.
      const unseen = new OffscreenCanvas(Math.round(width * dense), Math.round(height * dense));
      const context = unseen.getContext('2d') as unknown as CanvasRenderingContext2D;
      const drawing = proxy.render({ canvas: null, canvasContext: context, viewport, background: '#fffdf8' });
      task = drawing;
      await drawing.promise;
      if (gone) return;
      el.width = unseen.width;
      el.height = unseen.height;
      el.getContext('2d')?.drawImage(unseen, 0, 0);
      el.dataset.drawn = `${sha256} ${page}`;
    })().catch(() => !gone && setTrouble(true));
    return () => {
      gone = true;
      task?.cancel();
    };
  }, [sha256, page, width, height, across, sheet]);
  const scale = width / across;
  const boxOf = (i: number) => {
    const [x, y, w, size] = view.places[i] ?? [0, 0, 0, 0];
    return {
      left: x * scale - 2,
      top: (y - size * 0.8) * scale,
      width: w * scale + 4,
      height: size * 1.1 * scale,
    };
  };
  return (
    <figure
      aria-label={called}
      className="relative border border-rule"
      style={{ width: width + 2, height: height + 2 }}
      data-in-file={page}
    >
      <canvas ref={canvas} aria-hidden style={{ width, height }} className="block bg-[#fffdf8]" />
      {trouble ? (
        <p className="absolute inset-x-0 top-4 px-4 text-rubric">This page of the file can’t be shown.</p>
      ) : null}
      {lines.map((i) => (
        <span
          key={i}
          aria-hidden
          data-overlay="differs"
          className="pointer-events-none absolute bg-[#a52f1c]/15"
          style={boxOf(i)}
        />
      ))}
      {commented.map((i) =>
        i < 0 ? (
          <span
            key={i}
            aria-hidden
            data-overlay="comment"
            className="absolute top-1 right-1 h-3 w-3 bg-ochre"
          />
        ) : (
          <span
            key={i}
            aria-hidden
            data-overlay="comment"
            className="pointer-events-none absolute border-b-2 border-ochre"
            style={boxOf(i)}
          />
        ),
      )}
      {onPoint
        ? view.words.map((words, i) => (
            <button
              key={i}
              type="button"
              aria-label={`Comment on “${words.slice(0, 60)}”`}
              className="absolute cursor-pointer hover:bg-[#1c5a52]/10"
              style={boxOf(i)}
              onClick={() => onPoint(i)}
            />
          ))
        : null}
      <ol className="sr-only" aria-label={saying}>
        {lines.map((i) => (
          <li key={i}>{view.words[i]}</li>
        ))}
      </ol>
    </figure>
  );
}
const NONE: readonly number[] = [];
