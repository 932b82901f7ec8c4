'use client';
/**
 * A screen with a document of an ebook on it, as it is in the file. The frame runs no script; what it is told (how to look,
 * where to go) and asked (what is in sight) comes from outside.
 */
import { useCallback, useEffect, useImperativeHandle, useMemo, useRef, useState, type Ref } from 'react';
import { dress, OVER, type Box } from './dress';
import { Leaf, type Spot } from './leaf';
import { FacingPage, SEAM } from './FacingPage';
import { listenTo } from './listening';
import { closeNote } from './notes';
import { LIGHTS, MARGINS, type ReadingSettings, type ScreenSize } from './settings';
import { addressOf, pathOf, type EbookSource } from './source';
import type { Spread } from './spread';

export interface Goal {
  path: string;
  spot: Spot;
  /** Words that were found there, as characters of the document. */
  found?: { from: number; to: number };
}
export interface Sight {
  path: string;
  /** The first character in sight. */
  offset: number;
  screen: number;
  screens: number;
  broken: boolean;
}
export interface ScreenHandle {
  /** False where the document has no more screens that way. */
  turn(by: number): boolean;
  /** Whether there was a note to close. */
  closeNote(): boolean;
  leaf(): Leaf | null;
}

const E_PAPER = '#e4e3de';
/** Time that faces get to arrive before a document is shown without them, in milliseconds. */
const FACES_WAIT = 1_500;

export function Screen({
  source,
  size,
  settings,
  room,
  goal,
  spread,
  label,
  onSight,
  onLink,
  onKey,
  onTurn,
  ref,
}: {
  source: EbookSource;
  size: ScreenSize;
  settings: ReadingSettings;
  /** Pixels that there are for it. */
  room: { width: number; height: number };
  goal: Goal;
  /** Pages that are shown together, of which the goal's is one; null for one alone. */
  spread: Spread | null;
  label: string;
  /** `byHand`: the reader has moved within it. */
  onSight: (sight: Sight, byHand: boolean) => void;
  onLink: (link: Element, address: string) => void;
  onKey: (e: KeyboardEvent) => void;
  onTurn: (by: 1 | -1) => void;
  ref: Ref<ScreenHandle>;
}) {
  const frame = useRef<HTMLIFrameElement>(null);
  const leaf = useRef<{ path: string; leaf: Leaf } | null>(null);
  /** The first character in sight, and what the screen keeps to when it is laid out anew. */
  const anchor = useRef(0);
  const spot = useRef<Spot>('start');
  const [shown, setShown] = useState<string | null>(null);
  const width = size.width || Math.max(240, Math.floor(room.width));
  const height = size.height || Math.max(240, Math.floor(room.height));
  const scale = Math.min(1, room.width / width, room.height / height);
  const turned = settings.moves === 'turned';
  const side = Math.round(width * MARGINS[settings.margins]);
  const above = turned ? Math.round(Math.max(14, Math.min(side, height * 0.06))) : 0;
  const columns = turned ? size.columns : 1;
  const box = useMemo(
    (): Box => ({
      width: turned ? width - 2 * side : width,
      height: height - 2 * above,
      columns,
      gap: 2 * side,
      padding: side,
    }),
    [turned, width, height, side, above, columns],
  );
  const light = LIGHTS[settings.light];
  const paper = size.greys && settings.light === 'day' ? E_PAPER : light.paper;
  const fixed = source.order.documents.find((d) => d.path === goal.path)?.fixed ?? false;
  const css = useMemo(() => (fixed ? OVER : dress(settings, box, paper)), [fixed, settings, box, paper]);
  /** Of the page that is shown, where it has a size of its own. */
  const [viewport, setViewport] = useState<{ width: number; height: number } | null>(null);
  const page = fixed ? (viewport ?? { width, height }) : null;
  const facing = fixed && spread ? (spread.left === goal.path ? spread.right : spread.left) : null;
  const hand = fixed && spread ? (spread.left === goal.path ? 'left' : 'right') : null;
  /** A page of a spread has half the screen, and keeps to the fold, whether another faces it or not. */
  const half = hand ? { width: width / 2, height } : { width, height };
  const fit = page ? Math.min(half.width / page.width, half.height / page.height) : 1;
  const pageLeft = (page: { width: number }): number =>
    hand === 'left'
      ? half.width - page.width * fit
      : hand === 'right'
        ? half.width - SEAM
        : (width - page.width * fit) / 2;

  const latest = useRef({ css, box, turned, goal, onSight, onLink, onKey, onTurn });
  latest.current = { css, box, turned, goal, onSight, onLink, onKey, onTurn };

  const report = useCallback((byHand: boolean): void => {
    const now = leaf.current;
    if (!now) return;
    latest.current.onSight(
      {
        path: now.path,
        offset: anchor.current,
        screen: now.leaf.screen,
        screens: now.leaf.screens,
        broken: now.leaf.broken,
      },
      byHand,
    );
  }, []);
  const arrive = useCallback((): void => {
    const now = leaf.current;
    const { goal: to } = latest.current;
    // The frame of another document is gone.
    if (now && now.path !== to.path) leaf.current = null;
    if (!now || now.path !== to.path) return;
    now.leaf.show(to.spot);
    spot.current = to.spot;
    anchor.current = now.leaf.placeOf(to.spot) ?? now.leaf.offset();
    if (to.found) now.leaf.mark(to.found.from, to.found.to);
    else now.leaf.unmark();
    report(false);
  }, [report]);
  /** Lays the document out anew, and stays where it is. */
  const lay = useCallback((): void => {
    const now = leaf.current;
    if (!now) return;
    now.leaf.dress(latest.current.css, latest.current.box, latest.current.turned);
    now.leaf.show(spot.current);
    report(false);
  }, [report]);

  useEffect(() => arrive(), [goal, arrive]);
  useEffect(() => lay(), [css, box, turned, lay]);

  const load = async (): Promise<void> => {
    const element = frame.current;
    const document = element?.contentDocument;
    const window = element?.contentWindow as (Window & typeof globalThis) | null | undefined;
    if (!document || !window || window.location.href === 'about:blank') return;
    const at = pathOf(source.base, window.location.href);
    // A link that was followed before anybody could ask.
    if (at && at.path !== latest.current.goal.path)
      return latest.current.onLink(document.documentElement, window.location.href);
    const fresh = new Leaf(document, window, fixed);
    setViewport(fixed ? fresh.viewport : null);
    leaf.current = { path: latest.current.goal.path, leaf: fresh };
    spot.current = latest.current.goal.spot;
    fresh.dress(latest.current.css, latest.current.box, latest.current.turned);
    listen(document);
    // Faces are sent for when the text is laid out, which asking for its length brings about.
    void fresh.screens;
    await Promise.race([document.fonts.ready, new Promise((r) => setTimeout(r, FACES_WAIT))]);
    if (leaf.current?.leaf !== fresh) return;
    // Faces that came meanwhile have changed where columns end.
    fresh.dress(latest.current.css, latest.current.box, latest.current.turned);
    arrive();
    setShown(leaf.current.path);
    document.fonts.addEventListener('loadingdone', lay);
  };
  const listen = (document: Document): void => {
    listenTo(
      document,
      () => latest.current,
      () => latest.current.turned || leaf.current?.leaf.fixed === true,
    );
    let asked = 0;
    document.addEventListener('scroll', () => {
      if (latest.current.turned) return;
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(() => {
        const now = leaf.current?.leaf;
        if (!now || now.document !== document) return;
        const seen = now.spot();
        spot.current = seen;
        if (seen.offset === anchor.current) return;
        anchor.current = seen.offset;
        report(true);
      });
    });
  };
  useImperativeHandle(
    ref,
    () => ({
      turn(by) {
        const now = leaf.current?.leaf;
        if (!now?.turn(by)) return now === undefined;
        const seen = now.spot();
        spot.current = seen;
        anchor.current = seen.offset;
        report(true);
        return true;
      },
      closeNote: () => (leaf.current ? closeNote(leaf.current.leaf.document) : false),
      leaf: () => leaf.current?.leaf ?? null,
    }),
    [report],
  );
  return (
    <div style={{ width: width * scale, height: height * scale }} className="relative shrink-0">
      <div
        data-screen={label}
        data-ready={shown === goal.path}
        className="absolute top-0 left-0 origin-top-left outline outline-edge"
        style={{
          width,
          height,
          transform: `scale(${scale})`,
          background: paper,
          filter: size.greys ? 'grayscale(1)' : undefined,
        }}
      >
        <iframe
          key={goal.path}
          ref={frame}
          title={label}
          sandbox="allow-same-origin"
          src={addressOf(source.base, goal.path)}
          onLoad={() => void load()}
          className="absolute border-0"
          style={{
            ...(page
              ? {
                  left: pageLeft(page),
                  top: (height - page.height * fit) / 2,
                  width: page.width,
                  height: page.height,
                  transform: `scale(${fit})`,
                  // Its ink was chosen for paper, whatever the light is.
                  background: LIGHTS.day.paper,
                  transformOrigin: 'top left',
                }
              : { left: turned ? side : 0, top: above, width: box.width, height: box.height }),
            opacity: shown === goal.path ? 1 : 0,
          }}
        />
        {facing && hand ? (
          <FacingPage
            key={facing}
            source={source}
            path={facing}
            label={`${label}, facing page`}
            room={half}
            hand={hand === 'left' ? 'right' : 'left'}
            listener={{ onLink, onKey, onTurn }}
          />
        ) : null}
      </div>
    </div>
  );
}
