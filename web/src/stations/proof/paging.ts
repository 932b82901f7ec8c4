/** How pages of a proof are turned, and how large they are shown. */
import type { KeyboardEvent } from 'react';

/** Points of a page to pixels of the screen at full size (CSS: 96 pixels an inch). */
export const FULL = 96 / 72;
/** One step larger or smaller, and the sizes between which pages are shown, as shares of full size. */
const STEP = 1.2;
export const ZOOMS = { least: 0.2, most: 6 };
/** Pixels around the pages, and what two pages beside one another take besides: a line above them and a gap. */
export const AROUND = { width: 24, height: 4 };
export const APART = { width: 44, height: 30 };

export interface PageActions {
  turn: (by: number) => void;
  go: (page: number) => void;
  last: number;
  /** By how much larger the pages are shown. */
  grow: (by: number) => void;
  fit: () => void;
  mark: () => void;
}
/** The keys of a proof: arrows and page keys turn, + − and 0 size, M marks as read. */
export function onPageKey(e: KeyboardEvent, { turn, go, last, grow, fit, mark }: PageActions): void {
  if (!isPaging(e)) return;
  if (e.key === 'ArrowRight' || e.key === 'PageDown') turn(1);
  if (e.key === 'ArrowLeft' || e.key === 'PageUp') turn(-1);
  if (e.key === 'Home') go(0);
  if (e.key === 'End') go(last);
  if (e.key === '+') grow(STEP);
  if (e.key === '-') grow(1 / STEP);
  if (e.key === '0') fit();
  if (e.key === 'm' && !e.ctrlKey && !e.metaKey && !e.altKey) mark();
}

/** Whether a key turns pages: not in a field or a pane, and not where arrows move between tools. */
const isPaging = (e: KeyboardEvent): boolean =>
  e.target instanceof Element &&
  e.currentTarget.contains(e.target) &&
  !e.target.closest('input, textarea, aside') &&
  !(/^(Arrow|Home|End)/.test(e.key) && e.target.closest('[role=toolbar], [role=separator]'));
