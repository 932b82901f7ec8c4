/**
 * Pictures that need not stand where the text names them: at the head or the foot of a page, on a page of their own, over
 * two. They wait in their order until a page can take them, and the text flows on meanwhile, so that no page has a hole.
 *
 * To the optimiser a picture at a head or a foot is rows that the page holds back; a page that a picture fills is a page
 * without text. Both hang on the next page that begins; where one fits on the page that names it, that is another way.
 */
import type { FlowBlock } from '../lines';
import { COST, type Link, type PageShape, type State } from './pagestate';

/** Rows of text that a page with pictures keeps at least. */
const TEXT_ROWS = 4;
/** Between a picture and the text. */
const GAP = 1;
/** More than so many never wait together: a page is ended before. */
export const MOST_WAITING = 3;

export const heldRows = (b: FlowBlock): number => b.best.rows + GAP;
/** Pages that a picture fills. */
export const wholePages = (b: FlowBlock): number =>
  b.stands === 'spread' ? 2 : b.stands === 'page' || b.stands === 'edges' ? 1 : 0;

/** Whether a head's or foot's picture can still stand on the page on which the text has come to it. */
export function fitsHere(s: State, b: FlowBlock, room: number, shape: PageShape): boolean {
  const rows = heldRows(b);
  return (
    wholePages(b) === 0 && s.waiting.length === 0 && rows <= room && s.held + rows <= shape.rows - TEXT_ROWS
  );
}
export const here = (s: State, i: number, b: FlowBlock): State => ({
  ...s,
  held: s.held + heldRows(b),
  floats: [...s.floats, i],
});
export const later = (s: State, i: number): State => ({
  ...s,
  waiting: [...s.waiting, i],
  cost: s.cost + COST.deferred,
});

/** Gives a page that has just begun what waits for it; pages that pictures fill come before it. */
export function hang(
  begun: State,
  blocks: readonly FlowBlock[],
  shape: PageShape,
  end: Pick<Link, 'block' | 'row' | 'variant' | 'carried'>,
): State {
  let s = begun;
  while (s.waiting.length > 0) {
    const i = s.waiting[0] as number;
    const b = blocks[i] as FlowBlock;
    const rest = s.waiting.slice(1);
    const whole = wholePages(b);
    if (whole > 0) {
      // A spread begins on a verso: text fills the recto before it.
      if (whole === 2 && s.recto) break;
      if (s.held > 0) break;
      for (let n = 0; n < whole; n++) s = filled(s, i, end);
      s = { ...s, waiting: rest };
      continue;
    }
    const rows = heldRows(b);
    if (s.held > 0 && s.held + rows > shape.rows - TEXT_ROWS) break;
    s = { ...s, held: Math.min(s.held + rows, shape.rows), floats: [...s.floats, i], waiting: rest };
  }
  return s.waiting.length > 0 ? { ...s, cost: s.cost + COST.deferred } : s;
}

/** A page that a picture fills, and the next one begun. */
function filled(s: State, i: number, end: Pick<Link, 'block' | 'row' | 'variant' | 'carried'>): State {
  return {
    ...s,
    recto: !s.recto,
    level: -1,
    link: { ...end, before: s.link, used: 0, shortfall: 0, faults: [], floats: [i] },
  };
}
