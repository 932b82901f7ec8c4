/**
 * What the page optimiser works with: plans and their faults, what each fault costs, and the states between which it
 * chooses. Costs stand so far apart that a worse fault is never bought with any number of lesser ones on a page.
 */
import type { Variant } from '../lines';

export interface PageShape {
  /** Rows of a full page. */
  rows: number;
  /** Side of the first page. */
  starts: 'recto' | 'verso';
  /** Rows that notes of so many lines take at the foot, rule included. */
  noteRows(lines: number): number;
  /** Lines of a note. */
  noteLines(id: string): number;
}

/** A stretch of a block on a page. */
export interface Slice {
  block: number;
  variant: Variant;
  from: number;
  to: number;
  /** Row of the page at which it starts. */
  at: number;
  /** It begins the page: what its block repeats there stands above it. */
  again: boolean;
}
export interface PagePlan {
  slices: Slice[];
  /** Body rows filled. */
  used: number;
  /** Lines of notes at its foot, those carried over from the page before first. */
  notes: { id: string; from: number; to: number }[];
  shortfall: number;
  floats: readonly number[];
}
export interface Plan {
  pages: PagePlan[];
  cost: number;
  faults: Fault[];
}
export interface Fault {
  kind: 'widow' | 'orphan' | 'stranded' | 'unlevel' | 'short-last' | 'hole';
  page: number;
}

export const COST = {
  widow: 1e8,
  orphan: 1e8,
  stranded: 1e8,
  overfull: 1e11,
  unlevel: 1e6,
  shortLast: 1e5,
  splitNote: 4_000,
  /** A picture that does not stand on the page that names it, for each page. */
  deferred: 2_500,
  hyphenRecto: 40,
  hyphenVerso: 15,
};
export const WINDOW = 3;
export const MIN_LAST_ROWS = 4;
const BEAM = 48;
/** More than this behind the best state, a state is given up. */
const HOPELESS = 2.5 * COST.unlevel;
export const short = (rows: number): number => (rows <= 0 ? 0 : rows === 1 ? 60 : 350 * rows * rows);

export interface Link {
  before: Link | null;
  /** Where the page ends: before row `row` of block `block`. */
  block: number;
  row: number;
  variant: number;
  used: number;
  carried: number;
  shortfall: number;
  faults: readonly Fault['kind'][];
  /** Pictures at the page's head and foot, or the one that fills it, by their blocks. */
  floats: readonly number[];
}
export interface Choice {
  before: Choice | null;
  block: number;
  variant: number;
}
export interface State {
  used: number;
  notes: number;
  /** Note lines that did not fit on the page before beyond what this page holds. */
  pending: number;
  keep: number;
  /** Rows that pictures at its head and foot take, and their blocks. */
  held: number;
  floats: readonly number[];
  /** Pictures that have been named and have no page yet, by their blocks. */
  waiting: readonly number[];
  recto: boolean;
  /** Rows by which the verso of this spread runs short; −1 where there is nothing to be level with. */
  level: number;
  cost: number;
  link: Link | null;
  choice: Choice | null;
}

/** The state with other rows, notes and rows to keep, and what else has changed. All fields are named: copies of one shape. */
export const filled = (
  s: State,
  used: number,
  notes: number,
  keep: number,
  cost = s.cost,
  choice = s.choice,
): State => ({
  used,
  notes,
  pending: s.pending,
  keep,
  held: s.held,
  floats: s.floats,
  waiting: s.waiting,
  recto: s.recto,
  level: s.level,
  cost,
  link: s.link,
  choice,
});

/** States with the same key are the same to everything that follows. */
export const keyOf = (s: State): number =>
  // Most books have none: the key then stays a small integer.
  (s.held > 0 || s.waiting.length > 0 ? (s.held * 4 + s.waiting.length) * 2 ** 28 : 0) +
  ((((s.used * 64 + Math.min(s.notes, 63)) * 64 + Math.min(s.pending, 63)) * 8 + Math.min(s.keep, 7)) * 2 +
    (s.recto ? 1 : 0)) *
    8 +
  Math.min(s.level + 1, 7);

export class States {
  private readonly map = new Map<number, State>();
  add(s: State): void {
    const key = keyOf(s);
    const known = this.map.get(key);
    if (!known || s.cost < known.cost) this.map.set(key, s);
  }
  /** The cheapest, at most `BEAM` of them; those that are two level spreads behind the best cannot come first any more. */
  list(): State[] {
    let best = Infinity;
    for (const s of this.map.values()) if (s.cost < best) best = s.cost;
    const near: State[] = [];
    for (const s of this.map.values()) if (s.cost <= best + HOPELESS) near.push(s);
    return near.length <= BEAM ? near : near.sort((x, y) => x.cost - y.cost).slice(0, BEAM);
  }
  get size(): number {
    return this.map.size;
  }
}

/** What is wrong when a page ends before row `row` of `n` rows, of which those from `from` on stand on it. */
export function edgeFaults(from: number, row: number, n: number, keep: number): Fault['kind'][] {
  const faults: Fault['kind'][] = [];
  if (n > 1 && row === 1 && from === 0) faults.push('orphan');
  if (n > 1 && n - row === 1) faults.push('widow');
  if (keep > 0) faults.push('stranded');
  return faults;
}

/** Lines of the last note that must go over to the next page, 0 when it cannot be split there. */
export function splitNote(
  shape: PageShape,
  used: number,
  notes: number,
  added: number,
  called: readonly string[],
  rows: number,
): number {
  const lines = shape.noteLines(called.at(-1) as string);
  for (let over = Math.min(2, lines - 1); over > 0 && over <= lines - 1; over++) {
    if (lines - over < Math.min(2, lines - 1)) break;
    if (used + shape.noteRows(notes + added - over) <= rows) return over;
  }
  return 0;
}
