/**
 * What the page optimiser found in a chapter that is being written in, so that after a change it runs only from just
 * before the changed paragraph to where its states are again what they were: all that follows is then as it was.
 *
 * At every so many blocks the states are kept. Two lists of states are alike when they have the same keys in the same
 * order and all their costs differ by the same; every later choice is then the same. From there on the old way is good,
 * but it began with other pages: a link at its end leads on to the new ones (`moved`).
 */
import type { FlowBlock } from '../lines';
import { keyOf, type Link, type PageShape, type State } from './pagestate';

/** Blocks from one mark to the next. */
const EVERY = 16;
/** After so many changes the optimiser runs through once more, so that nothing piles up. */
const CHANGES = 200;

interface Mark {
  at: number;
  states: readonly State[];
}

export class Trail {
  private blocks: readonly FlowBlock[] = [];
  private rows = 0;
  private starts = '';
  private marks: Mark[] = [];
  /** Ends of the pages of the best way. */
  private path: readonly Link[] = [];
  private readonly moved = new Map<Link, Link>();
  private changes = 0;
  /** While the optimiser runs: the marks of the run before, and the end of the blocks that have changed. */
  private before: readonly Mark[] = [];
  private end = 0;

  /**
   * Begins a run over those blocks. Answers the whole way where it is known, or the mark to begin at; null where the run
   * begins at the first block.
   */
  begin(blocks: readonly FlowBlock[], shape: PageShape): { path: readonly Link[] } | Mark | null {
    const known =
      this.path.length > 0 &&
      this.changes < CHANGES &&
      this.blocks.length === blocks.length &&
      this.rows === shape.rows &&
      this.starts === shape.starts;
    const then = this.blocks;
    this.blocks = blocks;
    this.rows = shape.rows;
    this.starts = shape.starts;
    if (!known) {
      this.before = [];
      this.marks = [];
      this.moved.clear();
      this.changes = 0;
      return null;
    }
    let first = 0;
    while (first < blocks.length && alike(then[first] as FlowBlock, blocks[first] as FlowBlock)) first++;
    if (first === blocks.length) return { path: this.path };
    this.end = blocks.length;
    while (alike(then[this.end - 1] as FlowBlock, blocks[this.end - 1] as FlowBlock)) this.end--;
    this.changes++;
    this.before = this.marks;
    this.marks = this.before.filter((m) => m.at <= first);
    // The run notes it again when it passes.
    return this.marks.pop() ?? null;
  }

  /** Notes the states before block `at`; answers the whole way where they are again what they were. */
  pass(at: number, states: readonly State[]): readonly Link[] | null {
    if (at % EVERY !== 0) return null;
    this.marks.push({ at, states });
    const was = at >= this.end ? this.before.find((m) => m.at === at) : undefined;
    if (!was || !this.meet(was.states, states)) return null;
    const last = this.path.findLast((l) => l.block < at);
    const taken = was.states.findIndex((s) => this.resolved(s.link) === last);
    const state = states[taken];
    if (!state) return null;
    const after = this.path.filter((l) => l.block >= at);
    const links = was.states.map((s) => this.resolved(s.link) as Link);
    links.forEach((link, k) => this.moved.set(link, (states[k] as State).link as Link));
    this.path = [...this.chain(state.link), ...after];
    this.marks.push(...this.before.filter((m) => m.at > at));
    this.before = [];
    return this.path;
  }

  /** The way that ends with a link, when the run has come to the end. */
  whole(last: Link): readonly Link[] {
    this.before = [];
    return (this.path = this.chain(last));
  }

  /** Whether states are alike, on pages that all began after what has changed. */
  private meet(was: readonly State[], states: readonly State[]): boolean {
    if (was.length !== states.length) return false;
    const more = (states[0]?.cost ?? 0) - (was[0]?.cost ?? 0);
    return was.every((s, k) => {
      const t = states[k] as State;
      const [a, b] = [this.resolved(s.link), t.link];
      const fresh = a !== null && b !== null && a !== b && a.block >= this.end && b.block >= this.end;
      return fresh && keyOf(s) === keyOf(t) && t.cost - s.cost === more;
    });
  }

  private resolved(link: Link | null): Link | null {
    let l = link;
    for (let next = l && this.moved.get(l); next; next = this.moved.get(next)) l = next;
    return l;
  }

  private chain(last: Link | null): Link[] {
    const links: Link[] = [];
    for (let l = this.resolved(last); l; l = this.resolved(l.before)) links.push(l);
    return links.reverse();
  }
}

/** Whether a chapter can have a trail: pictures and notes have a say in pages far from the text that names them. */
export const leavesTrail = (blocks: readonly FlowBlock[]): boolean =>
  blocks.every((b) => b.kind !== 'float' && b.kind !== 'flush' && b.best.notes.size === 0);

/** Whether two blocks are the same to the optimiser. */
const alike = (a: FlowBlock, b: FlowBlock): boolean =>
  a.kind === b.kind &&
  a.before === b.before &&
  a.keep === b.keep &&
  a.best.rows === b.best.rows &&
  a.again?.rows === b.again?.rows &&
  a.best.hold === b.best.hold &&
  (a.best.hyphenAt === b.best.hyphenAt ||
    (a.best.hyphenAt.size === b.best.hyphenAt.size &&
      [...a.best.hyphenAt].every((row) => b.best.hyphenAt.has(row))));
