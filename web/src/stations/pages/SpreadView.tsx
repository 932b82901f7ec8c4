'use client';
/** The spread that is worked on, as it prints, with the frames of its picture and its words to take hold of. */
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Rnd } from 'react-rnd';
import {
  boxAttrs,
  LEAST_SIDE,
  pageAttrs,
  type Frame,
  type Picture,
  type PictureCrop,
} from '@pagina/core/book';
import { SAFE } from '@pagina/core/compose';
import { fileOf } from '@/title/pictures';
import { PageCanvas } from '@/strip/PageCanvas';
import { useRoom } from '@/ui/useRoom';
import type { Composed } from '@/workers/messages';
import type { PageFacts } from './facts';
import { useRested } from './useRested';

/** What of a page is pointed at: its picture, or a box of words by its id. */
export type Part = 'picture' | { box: string };
export const samePart = (a: Part | null, b: Part): boolean => JSON.stringify(a) === JSON.stringify(b);

export function SpreadView({
  composed,
  facts,
  here,
  part,
  onPart,
  onPage,
  cropping,
  safe,
  picture,
  onFrame,
  onCrop,
}: {
  composed: Composed;
  facts: readonly PageFacts[];
  here: PageFacts;
  part: Part | null;
  onPart: (part: Part | null) => void;
  onPage: (id: string) => void;
  /** The picture is moved within its frame, not its frame on the page. */
  cropping: boolean;
  safe: boolean;
  picture: Picture | undefined;
  onFrame: (part: Part, frame: Frame) => void;
  onCrop: (crop: PictureCrop) => void;
}) {
  const { room, size } = useRoom({ width: 800, height: 360 });
  const first = here.pages[0] ?? 0;
  const spread = Math.floor((first + 1) / 2);
  const shown = [spread * 2 - 1, spread * 2].filter((i) => i >= 0 && i < composed.pages.length);
  const scale = Math.max(
    0.1,
    Math.min((size.width - 32) / (composed.width * 2), (size.height - 24) / composed.height),
  );
  const page = { width: composed.width * scale, height: composed.height * scale };
  return (
    <div ref={room} className="flex min-h-0 flex-1 items-center justify-center overflow-hidden bg-table">
      <div className="relative flex" onPointerDown={() => onPart(null)}>
        {shown.map((index) => {
          const of = facts.find((f) => f.pages.includes(index));
          const info = composed.pages[index];
          return (
            <figure
              key={index}
              aria-label={`Page ${info?.label || index + 1}`}
              className="border border-rule"
              onPointerDown={() => of && of.id !== here.id && onPage(of.id)}
            >
              <PageCanvas page={index} width={page.width} />
            </figure>
          );
        })}
        <div
          className="absolute"
          style={{
            left: Math.max(0, shown.indexOf(first)) * (page.width + 2) + 1,
            top: 1,
            width: page.width * here.pages.length + (here.pages.length - 1) * 2,
            height: page.height,
          }}
        >
          {safe ? <SafeArea scale={scale} across={here.pages.length === 2} /> : null}
          <Frames
            key={here.id}
            facts={here}
            part={part}
            onPart={onPart}
            cropping={cropping}
            picture={picture}
            onFrame={onFrame}
            onCrop={onCrop}
          />
        </div>
      </div>
    </div>
  );
}

function SafeArea({ scale, across }: { scale: number; across: boolean }) {
  const [edge, fold] = [SAFE.edge, SAFE.fold].map((mp) => (mp / 1000) * scale) as [number, number];
  const line = 'pointer-events-none absolute border border-dashed border-[#8a5a0b]';
  return across ? (
    <>
      <span aria-hidden className={line} style={{ inset: edge, right: `calc(50% + ${fold}px)` }} />
      <span aria-hidden className={line} style={{ inset: edge, left: `calc(50% + ${fold}px)` }} />
    </>
  ) : (
    <span aria-hidden className={line} style={{ inset: edge }} />
  );
}

function Frames({
  facts,
  part,
  onPart,
  cropping,
  picture,
  onFrame,
  onCrop,
}: {
  facts: PageFacts;
  part: Part | null;
  onPart: (part: Part | null) => void;
  cropping: boolean;
  picture: Picture | undefined;
  onFrame: (part: Part, frame: Frame) => void;
  onCrop: (crop: PictureCrop) => void;
}) {
  const { room, size } = useRoom({ width: 400, height: 300 });
  const { frame, picture: shown, fit } = pageAttrs(facts.node);
  const boxes: { id: string; frame: Frame; words: string }[] = [];
  facts.node.forEach((b) => {
    const { id, frame: own } = boxAttrs(b);
    boxes.push({ id, frame: own, words: b.textContent });
  });
  const crops = cropping && fit === 'fill' && samePart(part, 'picture') && picture !== undefined;
  return (
    <div ref={room} className="absolute inset-0">
      {shown !== '' ? (
        crops ? (
          <Cropped facts={facts} picture={picture} room={size} onCrop={onCrop} />
        ) : (
          <Held
            name="Picture"
            frame={frame}
            room={size}
            held={samePart(part, 'picture')}
            onHold={() => onPart('picture')}
            onFrame={(f) => onFrame('picture', f)}
          />
        )
      ) : null}
      {boxes.map((b, i) => (
        <Held
          key={b.id}
          name={`Words ${i + 1}: ${b.words.slice(0, 40) || 'none yet'}`}
          number={boxes.length > 1 ? i + 1 : null}
          frame={b.frame}
          room={size}
          held={samePart(part, { box: b.id })}
          onHold={() => onPart({ box: b.id })}
          onFrame={(f) => onFrame({ box: b.id }, f)}
        />
      ))}
    </div>
  );
}

/** Thousandths that an arrow key moves a frame by. */
const STEP = 5;
const clamp = (n: number, least: number, most: number): number =>
  Math.max(least, Math.min(most, Math.round(n)));

/** A frame within the page. */
const within = ([x, y, width, height]: readonly number[]): Frame => {
  const w = clamp(width ?? 0, LEAST_SIDE, 1000);
  const h = clamp(height ?? 0, LEAST_SIDE, 1000);
  return [clamp(x ?? 0, 0, 1000 - w), clamp(y ?? 0, 0, 1000 - h), w, h];
};

function Held({
  name,
  number = null,
  frame,
  room,
  held,
  onHold,
  onFrame,
}: {
  name: string;
  /** Its place in the reading order, where there are several. */
  number?: number | null;
  frame: Frame;
  room: { width: number; height: number };
  held: boolean;
  onHold: () => void;
  onFrame: (frame: Frame) => void;
}) {
  const { shown: now, now: commit, later } = useRested(frame, onFrame);
  const keys = (e: KeyboardEvent): void => {
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[
      e.key
    ];
    if (!by || e.ctrlKey || e.metaKey || e.altKey) return;
    e.preventDefault();
    e.stopPropagation();
    const [dx = 0, dy = 0] = by;
    const next = e.shiftKey
      ? within([now[0], now[1], Math.min(now[2] + dx, 1000 - now[0]), Math.min(now[3] + dy, 1000 - now[1])])
      : within([now[0] + dx, now[1] + dy, now[2], now[3]]);
    later(next);
  };
  const px = { x: (now[0] * room.width) / 1000, y: (now[1] * room.height) / 1000 };
  const size = { width: (now[2] * room.width) / 1000, height: (now[3] * room.height) / 1000 };
  const inThousandths = (x: number, y: number, width: number, height: number): Frame =>
    within([
      (x * 1000) / room.width,
      (y * 1000) / room.height,
      (width * 1000) / room.width,
      (height * 1000) / room.height,
    ]);
  return (
    <Rnd
      bounds="parent"
      position={px}
      size={size}
      disableDragging={!held}
      enableResizing={held}
      onDragStop={(_e, { x, y }) => {
        if (Math.abs(x - px.x) + Math.abs(y - px.y) > 0.5)
          commit(inThousandths(x, y, size.width, size.height));
      }}
      onResizeStop={(_e, _way, el, _by, { x, y }) =>
        commit(inThousandths(x, y, el.offsetWidth, el.offsetHeight))
      }
      className={`outline-offset-[-1px] ${held ? 'cursor-move outline-2 outline-spruce' : 'outline-1 outline-spruce/40 hover:outline-spruce outline-dashed'}`}
      style={{ zIndex: held ? 2 : undefined }}
    >
      <div
        role="button"
        tabIndex={0}
        aria-pressed={held}
        aria-label={`${name}. Arrow keys move it, with Shift they change its size.`}
        className="h-full w-full"
        onPointerDown={(e: PointerEvent) => {
          e.stopPropagation();
          onHold();
        }}
        onFocus={onHold}
        onKeyDown={keys}
      >
        {number !== null ? (
          <span className="absolute top-0 left-0 bg-sheet px-1 text-[11px] text-spruce" aria-hidden>
            {number}
          </span>
        ) : null}
      </div>
    </Rnd>
  );
}

/** The picture in its frame, to be dragged to the part that is to show. While it moves it lies over the page as it printed. */
function Cropped({
  facts,
  picture,
  room,
  onCrop,
}: {
  facts: PageFacts;
  picture: Picture;
  room: { width: number; height: number };
  onCrop: (crop: PictureCrop) => void;
}) {
  const { frame, crop, alt } = pageAttrs(facts.node);
  const { shown: now, show: setNow, now: commit, later } = useRested(crop, onCrop);
  const [from, setFrom] = useState<{ x: number; y: number; crop: PictureCrop } | null>(null);
  const seen = {
    left: (frame[0] * room.width) / 1000,
    top: (frame[1] * room.height) / 1000,
    width: (frame[2] * room.width) / 1000,
    height: (frame[3] * room.height) / 1000,
  };
  const scale = (Math.max(seen.width / picture.width, seen.height / picture.height) * now.zoom) / 100;
  const whole = { width: picture.width * scale, height: picture.height * scale };
  const over = { x: whole.width - seen.width, y: whole.height - seen.height };
  const shift = (start: PictureCrop, dx: number, dy: number): PictureCrop => ({
    ...start,
    x: over.x > 0.5 ? clamp(start.x - (dx * 1000) / over.x, 0, 1000) : start.x,
    y: over.y > 0.5 ? clamp(start.y - (dy * 1000) / over.y, 0, 1000) : start.y,
  });
  return (
    // Dragging within a frame is a pointer's own event: no package of the house moves a thing behind a window.
    <div
      role="button"
      tabIndex={0}
      aria-label="Picture in its frame. Drag it, or use the arrow keys, to choose the part that shows."
      className="absolute cursor-grab touch-none overflow-hidden outline-2 outline-ochre active:cursor-grabbing"
      style={seen}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        setFrom({ x: e.clientX, y: e.clientY, crop: now });
      }}
      onPointerMove={(e) => {
        if (from) setNow(shift(from.crop, e.clientX - from.x, e.clientY - from.y));
      }}
      onPointerUp={() => {
        setFrom(null);
        commit(now);
      }}
      onKeyDown={(e) => {
        const by = { ArrowLeft: [-8, 0], ArrowRight: [8, 0], ArrowUp: [0, -8], ArrowDown: [0, 8] }[e.key];
        if (!by) return;
        e.preventDefault();
        later(shift(now, by[0] ?? 0, by[1] ?? 0));
      }}
    >
      <img
        src={fileOf(picture)}
        alt={alt}
        draggable={false}
        className={`absolute max-w-none ${from ? '' : 'invisible'}`}
        style={{
          ...whole,
          left: (-over.x * now.x) / 1000,
          top: (-over.y * now.y) / 1000,
        }}
      />
    </div>
  );
}
