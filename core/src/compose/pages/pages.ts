/**
 * Pages: total fit over the chapter. Of all ways to divide a chapter into pages the cheapest is taken, where cheap
 * means, in this order of worth: nothing is lost or overfull; no widow, orphan or stranded heading; facing pages end
 * level; no last page of under four rows; full pages; paragraphs at their best length.
 *
 * The chapter is a list of blocks of rows on the grid. A *state* is how far a page has been filled: rows used, rows of
 * notes, which side it is, by how much its facing page ran short, and how many rows must still follow a heading. States
 * that agree in all of this are one (the cheaper stays), so the work grows with the length of the chapter and not with
 * the number of ways through it. A page may end where it is nearly full (`WINDOW`) or where the next thing cannot begin.
 */
import { fitsHere, hang, here, later, MOST_WAITING, wholePages } from './floats';
import type { FlowBlock, Variant } from '../lines';
import {
  COST,
  edgeFaults,
  filled,
  MIN_LAST_ROWS,
  short,
  splitNote,
  States,
  WINDOW,
  type Choice,
  type Fault,
  type Link,
  type PageShape,
  type Plan,
  type State,
} from './pagestate';
import type { Trail } from './trail';
import { chainOf, unwind } from './unwind';

const NONE: readonly number[] = [];

export class Planner {
  /** Variants of each block; the first is the best one. */
  readonly variants: Variant[][];

  constructor(
    readonly blocks: readonly FlowBlock[],
    readonly shape: PageShape,
    loose: ReadonlySet<number>,
  ) {
    this.variants = blocks.map((b, i) => (loose.has(i) && b.others ? [b.best, ...b.others()] : [b.best]));
  }

  /** The best plan. With a trail of the run before, only as much is worked out as has changed; its cost is then unknown. */
  run(trail: Trail | null = null): Plan {
    const begun = trail?.begin(this.blocks, this.shape) ?? null;
    if (begun && 'path' in begun) return this.planOf(begun.path, null, NaN);
    let states: readonly State[] = begun?.states ?? [
      {
        used: 0,
        notes: 0,
        pending: 0,
        keep: 0,
        held: 0,
        floats: NONE,
        waiting: NONE,
        recto: this.shape.starts === 'recto',
        level: -1,
        cost: 0,
        link: null,
        choice: null,
      },
    ];
    for (let i = begun?.at ?? 0; i < this.blocks.length; i++) {
      const path = trail?.pass(i, states);
      if (path) return this.planOf(path, null, NaN);
      const { kind } = this.blocks[i] as FlowBlock;
      if (kind === 'float' || kind === 'flush') {
        states = kind === 'float' ? this.float(states, i) : this.flush(states, i);
        continue;
      }
      const out = new States();
      const near = this.passThrough(states, i, out);
      if (near.length > 0) {
        const entering = this.enter(near, i);
        const variants = this.variants[i] as Variant[];
        for (let v = 0; v < variants.length; v++) this.place(i, v, entering, out);
      }
      states = out.list();
    }
    // Nothing that waits is left out, whatever the flow.
    return this.finish(this.flush(states, this.blocks.length), trail);
  }

  /** A picture stands on this page, where it fits, or on a later one. */
  private float(states: readonly State[], i: number): State[] {
    const block = this.blocks[i] as FlowBlock;
    const out = new States();
    for (const s of states) {
      if (fitsHere(s, block, this.room(s), this.shape)) out.add(here(s, i, block));
      const empty = s.used === 0 && s.held === 0 && s.notes === 0;
      if (s.waiting.length >= MOST_WAITING) out.add(later(this.newPage(s, i, 0, 0, 0, []), i));
      else if (empty && wholePages(block) > 0) {
        const end = { block: i, row: 0, variant: 0, carried: s.pending };
        out.add(this.hang(later(s, i), end));
      } else out.add(later(s, i));
    }
    return out.list();
  }

  private flush(states: readonly State[], i: number): State[] {
    const out = new States();
    for (const s of states) {
      let next = s;
      while (next.waiting.length > 0) next = this.newPage(next, i, 0, 0, 0, []);
      out.add(next);
    }
    return out.list();
  }

  /** Lets states pass that the block leaves far from the page's end: nothing is to be decided there. Answers the others. */
  private passThrough(states: readonly State[], i: number, out: States): State[] {
    const block = this.blocks[i] as FlowBlock;
    const { rows, notes } = block.best;
    if (block.kind !== 'text' || notes.size > 0 || (this.variants[i] as Variant[]).length > 1)
      return [...states];
    const near: State[] = [];
    for (const s of states) {
      const need = (s.used === 0 ? 0 : block.before) + rows;
      if (this.room(s) - need > WINDOW)
        out.add(filled(s, s.used + need, s.notes, block.keep || Math.max(0, s.keep - rows)));
      else near.push(s);
    }
    return near;
  }

  /** States at the block's first row: on the same page, or on a new one. */
  private enter(states: readonly State[], i: number): State[] {
    const block = this.blocks[i] as FlowBlock;
    const out = new States();
    for (const s of states) {
      const fresh = s.used === 0;
      if (block.kind === 'new-page') {
        out.add(fresh ? s : this.newPage(s, i, 0, 0, 0, []));
        continue;
      }
      const room = this.room(s);
      const first =
        block.kind === 'text'
          ? Math.max(Math.min(2, block.best.rows), block.best.hold ?? 0)
          : block.best.rows + block.keep;
      const before = fresh ? 0 : block.before;
      if ((!fresh || s.held > 0) && (room <= WINDOW || before + first > room))
        out.add(this.newPage(s, i, 0, 0, 0, []));
      if ((fresh && s.held === 0) || before + 1 <= room) out.add(s);
    }
    return out.list();
  }

  /** Places a block in one of its lengths for every entering state; ends go to `out`. */
  private place(i: number, v: number, entering: readonly State[], out: States): void {
    const block = this.blocks[i] as FlowBlock;
    const variant = (this.variants[i] as Variant[])[v] as Variant;
    if (block.kind === 'new-page') {
      for (const s of entering) out.add(s);
      return;
    }
    const n = variant.rows;
    const solid = block.kind !== 'text';
    // States waiting at a row of this block, at the head of a fresh page. Rows are visited in order.
    const waiting: (States | undefined)[] = [];
    const start = new States();
    for (const s of entering) {
      const before = s.used === 0 ? 0 : block.before;
      const choice = v === 0 ? s.choice : { before: s.choice, block: i, variant: v };
      start.add(filled(s, s.used + before, s.notes, s.keep, s.cost + variant.cost, choice));
    }
    waiting[0] = start;
    for (let from = 0; from < n; from++) {
      const here = waiting[from];
      if (!here) continue;
      for (const s of here.list()) {
        if (solid) {
          this.placeSolid(i, v, variant, s, out);
          continue;
        }
        this.placeText(i, v, variant, s, from, waiting, out);
      }
    }
  }

  private placeSolid(i: number, v: number, variant: Variant, s: State, out: States): void {
    const block = this.blocks[i] as FlowBlock;
    let added = 0;
    for (const ids of variant.notes.values()) for (const id of ids) added += this.shape.noteLines(id);
    const rows = variant.rows + (s.used === 0 ? (block.again?.rows ?? 0) : 0);
    const need = rows + this.shape.noteRows(s.notes + added) - this.shape.noteRows(s.notes);
    // A page that holds only the rest of a long note may have no room either: it stays as it is.
    if (need > this.room(s) && (s.used > 0 || s.notes > 0 || s.held > 0)) {
      const p = this.newPage(this.unbegun(s, i), i, 0, v, 0, []);
      this.placeSolid(i, v, variant, p, out);
      return;
    }
    const used = Math.min(s.used + rows, this.shape.rows - s.held);
    const keep = block.keep > 0 ? block.keep : Math.max(0, s.keep - rows);
    // On a page of its own, notes that find no room below go over to the next.
    let over = 0;
    while (over < added && used + this.shape.noteRows(s.notes + added - over) > this.shape.rows - s.held)
      over++;
    const tooHigh = rows > this.shape.rows - s.held - s.used;
    const cost = s.cost + (tooHigh ? COST.overfull : 0);
    const full = filled(s, used, s.notes + added - over, keep, cost);
    out.add(over === 0 ? full : this.newPage(full, i + 1, 0, 0, over, []));
  }

  /** The state before the blank rows above block `i`, which a block that goes over does not use. */
  private unbegun(s: State, i: number): State {
    const { before } = this.blocks[i] as FlowBlock;
    return s.used > 0 && before > 0 ? filled(s, s.used - before, s.notes, s.keep) : s;
  }

  private placeText(
    i: number,
    v: number,
    variant: Variant,
    s: State,
    from: number,
    waiting: (States | undefined)[],
    out: States,
  ): void {
    const n = variant.rows;
    const block = this.blocks[i] as FlowBlock;
    let { used, notes, keep } = s;
    const rows = this.shape.rows - s.held;
    const hold = from === 0 ? (variant.hold ?? 0) : 0;
    let row = from;
    if (hold === 0 && variant.notes.size === 0) {
      // Far from the page's end one row is like another.
      const far = Math.min(n - row, rows - used - this.shape.noteRows(notes) - WINDOW - 1);
      if (far > 0) {
        used += far;
        keep = Math.max(0, keep - far);
        row += far;
      }
    }
    while (row < n) {
      const called = variant.notes.get(row);
      const added = called ? called.reduce((sum, id) => sum + this.shape.noteLines(id), 0) : 0;
      const need = used + 1 + this.shape.noteRows(notes + added);
      if (need > rows && row < hold && (s.used > 0 || s.held > 0 || s.notes > 0)) {
        // What must stand on one page begins on the next.
        this.placeText(i, v, variant, this.newPage(this.unbegun(s, i), i, 0, v, 0, []), 0, waiting, out);
        return;
      }
      if (need > rows) {
        const split =
          added > 0 ? splitNote(this.shape, used + 1, notes, added, called as readonly string[], rows) : 0;
        if (split > 0) {
          // The line stands here with the head of its note; the page is full, the rest of the note goes over.
          const full = filled(s, used + 1, notes + added - split, Math.max(0, keep - 1));
          const ended = this.newPage(
            full,
            i,
            row + 1,
            v,
            split,
            edgeFaults(from, row + 1, n, keep - 1),
            variant,
          );
          this.wait(ended, row + 1, n, waiting, out);
        }
        if (row > from) {
          this.wait(
            this.newPage(filled(s, used, notes, keep), i, row, v, 0, edgeFaults(from, row, n, keep), variant),
            row,
            n,
            waiting,
            out,
          );
        } else if (split === 0 && (used > 0 || s.held > 0)) {
          const left = from === 0 ? this.unbegun(s, i) : s;
          this.placeText(i, v, variant, this.newPage(left, i, from, v, 0, []), from, waiting, out);
        } else if (split === 0) {
          // Nothing fits on an empty page: the line stands there all the same and its notes go over, so that no text is lost.
          const crowded = filled(s, 1, notes + added, s.keep, s.cost + COST.overfull);
          this.wait(this.newPage(crowded, i, row + 1, v, added, [], variant), row + 1, n, waiting, out);
        }
        return;
      }
      used++;
      notes += added;
      keep = keep > 0 ? keep - 1 : 0;
      row++;
      const left = rows - used - this.shape.noteRows(notes);
      if (row < n && left <= WINDOW && row >= hold) {
        const ended = this.newPage(
          filled(s, used, notes, keep),
          i,
          row,
          v,
          0,
          edgeFaults(from, row, n, keep),
          variant,
        );
        this.wait(ended, row, n, waiting, out);
      }
    }
    out.add(filled(s, used, notes, block.keep || keep));
  }

  /** A state that goes on with row `row` of the block, or is done with it. */
  private wait(s: State, row: number, n: number, waiting: (States | undefined)[], out: States): void {
    if (row >= n) out.add(s);
    else (waiting[row] ??= new States()).add(s);
  }

  private room(s: State): number {
    return this.shape.rows - s.held - s.used - this.shape.noteRows(s.notes);
  }

  /** Ends a page before row `row` of block `i` and opens the next. `over`: note lines that go with it. */
  private newPage(
    s: State,
    i: number,
    row: number,
    variant: number,
    over: number,
    faults: readonly Fault['kind'][],
    at?: Variant,
  ): State {
    const shortfall = Math.max(0, this.room(s));
    let cost = s.cost + short(shortfall) + (over > 0 ? COST.splitNote : 0);
    const found: Fault['kind'][] = [...faults];
    if (row === 0 && s.keep > 0 && !found.includes('stranded')) found.push('stranded');
    if (shortfall > WINDOW) found.push('hole');
    for (const f of found) cost += f === 'widow' || f === 'orphan' || f === 'stranded' ? COST[f] : 0;
    if (s.recto && s.level >= 0 && s.level !== shortfall) {
      cost += COST.unlevel * Math.abs(s.level - shortfall);
      found.push('unlevel');
    }
    if (at?.hyphenAt.has(row - 1)) cost += s.recto ? COST.hyphenRecto : COST.hyphenVerso;
    const carry = over + s.pending;
    // A page of carried notes keeps room for a few rows of text.
    let notes = carry;
    while (notes > 0 && this.shape.noteRows(notes) > this.shape.rows - 4) notes--;
    const begun: State = {
      used: 0,
      notes,
      pending: carry - notes,
      keep: 0,
      held: 0,
      floats: NONE,
      waiting: s.waiting,
      recto: !s.recto,
      level: s.recto ? -1 : Math.min(shortfall, 6),
      cost,
      link: {
        before: s.link,
        block: i,
        row,
        variant,
        used: s.used,
        carried: carry,
        shortfall,
        faults: found,
        floats: s.floats,
      },
      choice: s.choice,
    };
    return s.waiting.length > 0 ? this.hang(begun, { block: i, row, variant, carried: carry }) : begun;
  }

  /** Gives a page that has just begun the pictures that wait, and its notes the room that is left. */
  private hang(begun: State, end: Pick<Link, 'block' | 'row' | 'variant' | 'carried'>): State {
    const next = hang({ ...begun, notes: 0, pending: 0 }, this.blocks, this.shape, end);
    let notes = end.carried;
    while (notes > 0 && this.shape.noteRows(notes) > this.shape.rows - next.held - 4) notes--;
    return { ...next, notes, pending: end.carried - notes };
  }

  private finish(states: readonly State[], trail: Trail | null): Plan {
    let best: State | null = null;
    let bestCost = Infinity;
    for (const s of states) {
      const lastShort = isShortLast(s);
      const cost =
        s.cost + (lastShort ? COST.shortLast * (MIN_LAST_ROWS - s.used) : 0) + (s.keep > 0 ? 1 : 0);
      if (cost < bestCost) {
        best = s;
        bestCost = cost;
      }
    }
    if (!best) return { pages: [], cost: 0, faults: [] };
    const end = best;
    // After a picture that fills the last page nothing is left for another.
    const empty = end.used === 0 && end.held === 0 && end.notes === 0 && end.pending === 0;
    if (empty && end.link !== null && end.link.floats.length > 0)
      return this.planOf(chainOf(end.link), end.choice, bestCost);
    const last: Link = {
      before: end.link,
      block: this.blocks.length,
      row: 0,
      variant: 0,
      used: end.used,
      carried: end.pending,
      shortfall: 0,
      faults: isShortLast(end) ? ['short-last'] : [],
      floats: end.floats,
    };
    return this.planOf(trail?.whole(last) ?? chainOf(last), end.choice, bestCost);
  }

  private planOf(links: readonly Link[], choice: Choice | null, cost: number): Plan {
    return { ...unwind(links, choice, this), cost };
  }
}

const isShortLast = (s: State): boolean => s.link !== null && s.held === 0 && s.used < MIN_LAST_ROWS;
