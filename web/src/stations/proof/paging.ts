/** How pages of a proof are turned, and how large they are shown. */
import type { KeyboardEvent } from 'react';

/** Points of a page to pixels of the screen at full size (CSS: 96 pixels an inch). */
export const FULL = 96 / 72;
/** One step larger or smaller, and the sizes between which pages are shown, as shares of full size. */
export const STEP = 1.2;
export const ZOOMS = { least: 0.2, most: 6 };
/** Pixels around the pages, and what two pages beside one another take besides: a line above them and a gap. */
export const AROUND = { width: 24, height: 4 };
export const APART = { width: 44, height: 30 };

/** Whether a key turns pages: not in a field or a pane, and not where arrows move between tools. */
export const isPaging = (e: KeyboardEvent): boolean =>
  e.target instanceof Element &&
  e.currentTarget.contains(e.target) &&
  !e.target.closest('input, textarea, aside') &&
  !(/^(Arrow|Home|End)/.test(e.key) && e.target.closest('[role=toolbar], [role=separator]'));
