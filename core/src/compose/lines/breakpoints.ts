/**
 * Where a paragraph's lines may end, as parallel arrays of sums, so that the width of a line between any two
 * breakpoints is one subtraction: `end[b] − start[a]`.
 */
import type { Mp } from '../../base';
import type { Word } from '../../type';
import { ruptures, type Divider, type Division } from './divide';
import { After, type Paragraph, type Piece } from './paragraph';

export const enum Kind {
  space = 0,
  dash = 1,
  hyphen = 2,
  /** Inside a word too wide for the measure, without a hyphen. */
  rupture = 3,
  forced = 4,
  /** Within an address of the web. */
  address = 5,
}

/** Room for the breakpoints of one paragraph at a time, used again and again: a book has thousands. */
export class Breakpoints {
  count = 0;
  kind = new Uint8Array(1024);
  /** Last piece on a line that ends here. */
  piece = new Int32Array(1024);
  /** First piece of the next line. */
  next = new Int32Array(1024);
  /** Characters of `piece` that stay on the line where a word is divided, else 0. */
  cut = new Int32Array(1024);
  /** Widths up to the line's end, and up to the next line's start; the same of stretch and shrink. */
  end = new Float64Array(1024);
  start = new Float64Array(1024);
  stretchEnd = new Float64Array(1024);
  stretchStart = new Float64Array(1024);
  shrinkEnd = new Float64Array(1024);
  shrinkStart = new Float64Array(1024);
  /** Sum at which the first line starts. */
  first: Mp = 0;

  add(
    kind: Kind,
    piece: number,
    next: number,
    cut: number,
    end: Mp,
    start: Mp,
    stretchEnd: Mp,
    stretchStart: Mp,
    shrinkEnd: Mp,
    shrinkStart: Mp,
  ): void {
    const i = this.count++;
    if (i >= this.kind.length) this.grow();
    this.kind[i] = kind;
    this.piece[i] = piece;
    this.next[i] = next;
    this.cut[i] = cut;
    this.end[i] = end;
    this.start[i] = start;
    this.stretchEnd[i] = stretchEnd;
    this.stretchStart[i] = stretchStart;
    this.shrinkEnd[i] = shrinkEnd;
    this.shrinkStart[i] = shrinkStart;
  }

  private grow(): void {
    const twice = <T extends Uint8Array | Int32Array | Float64Array>(a: T): T => {
      const b = new (a.constructor as new (n: number) => T)(a.length * 2);
      b.set(a);
      return b;
    };
    this.kind = twice(this.kind);
    this.piece = twice(this.piece);
    this.next = twice(this.next);
    this.cut = twice(this.cut);
    this.end = twice(this.end);
    this.start = twice(this.start);
    this.stretchEnd = twice(this.stretchEnd);
    this.stretchStart = twice(this.stretchStart);
    this.shrinkEnd = twice(this.shrinkEnd);
    this.shrinkStart = twice(this.shrinkStart);
  }
}

export interface BreakpointOptions {
  /** Null: only between words. */
  divider: Divider | null;
  /** Words wider than this may be broken at any grapheme. */
  narrowest: Mp;
  /** Whether a word from one sum of widths to another can meet the end of a decent line; null asks of every word. */
  near?: ((from: Mp, to: Mp) => boolean) | null;
}

const isForced = (after: After | undefined): boolean => after === After.forced || after === After.fitted;

/** Fills `b` (again) with the places where the paragraph's lines may end; the last one is its end. */
export function breakpointsOf(
  p: Paragraph,
  { divider, narrowest, near }: BreakpointOptions,
  b = new Breakpoints(),
): Breakpoints {
  b.count = 0;
  b.first = -p.indent;
  const { pieces, after } = p;
  const count = pieces.length;
  // The last word of a paragraph is never divided: half a word is no last line.
  const lastWord = count - 1;
  let width = 0;
  let stretch = 0;
  let shrink = 0;
  for (let i = 0; i < count; i++) {
    const piece = pieces[i]!;
    if (piece.kind === 'space') {
      const s0 = stretch;
      const k0 = shrink;
      const end = width;
      width += piece.width;
      stretch += piece.stretch;
      shrink += piece.shrink;
      if (i === 0 || (!piece.breakable && !isWide(p, i, narrowest))) continue;
      const before = pieces[i - 1]!;
      if (before.kind !== 'word' || isForced(after[i - 1])) continue;
      let next = i + 1;
      let w = width;
      let s = stretch;
      let k = shrink;
      for (; next < count; next++) {
        const q = pieces[next] as Piece;
        if (q.kind === 'word') break;
        w += q.width;
        s += q.stretch;
        k += q.shrink;
      }
      if (next === count) continue;
      const first = pieces[next];
      const kind = piece.breakable ? Kind.space : Kind.rupture;
      b.add(kind, i - 1, next, 0, end - before.hangRight, w + (first as Word).hangLeft, s0, s, k0, k);
      continue;
    }
    const tooWide = piece.width > narrowest;
    if (
      tooWide ||
      (divider &&
        i < lastWord &&
        !p.whole?.has(i) &&
        !joined(p, i - 1) &&
        !joined(p, i) &&
        (!near || near(width, width + piece.width)))
    ) {
      const kind = tooWide ? Kind.rupture : Kind.hyphen;
      const divisions = tooWide ? ruptures(piece) : (divider as Divider).of(piece);
      for (let q = 0; q < divisions.length; q++) {
        const { cut, end, start } = divisions[q] as Division;
        b.add(kind, i, i, cut, width + end, width + start, stretch, stretch, shrink, shrink);
      }
    }
    width += piece.width;
    if (i === count - 1) break;
    const joint =
      after[i] === After.dash
        ? Kind.dash
        : after[i] === After.address
          ? Kind.address
          : joined(p, i) && isWide(p, i, narrowest)
            ? Kind.rupture
            : Kind.space;
    if (joint !== Kind.space) {
      const next = pieces[i + 1];
      const start = width + (next?.kind === 'word' ? next.hangLeft : 0);
      b.add(joint, i, i + 1, 0, width - piece.hangRight, start, stretch, stretch, shrink, shrink);
    } else if (isForced(after[i])) {
      b.add(Kind.forced, i, i + 1, 0, width, width, stretch, stretch, shrink, shrink);
    }
  }
  let last = count - 1;
  while (last >= 0 && pieces[last]?.kind === 'space') last--;
  b.add(Kind.forced, last, count, 0, width, width, stretch, stretch, shrink, shrink);
  return b;
}

/** Whether piece `i` hangs together with the one after it, as at a change of style inside a word. */
const joined = ({ pieces, after }: Paragraph, i: number): boolean =>
  i >= 0 &&
  i + 1 < pieces.length &&
  pieces[i]?.kind === 'word' &&
  pieces[i + 1]?.kind === 'word' &&
  after[i] === After.nothing;

/** Stretches without a place for a line's end, by their first piece: where each ends, and its width. */
let stretches: { of: Paragraph | null; from: number; to: number; width: Mp } = {
  of: null,
  from: 0,
  to: -1,
  width: 0,
};

/**
 * Whether piece `i` stands in a stretch that no line can hold: words joined by no-break spaces, or by changes of style
 * within a word. Such a stretch is broken where it can be, so that nothing is pushed off the page.
 */
function isWide(p: Paragraph, i: number, narrowest: Mp): boolean {
  if (stretches.of !== p || i < stretches.from || i > stretches.to) stretches = stretchAround(p, i);
  return stretches.width > narrowest;
}

function stretchAround(p: Paragraph, i: number): typeof stretches {
  const { pieces, after } = p;
  const ends = (k: number): boolean => {
    const piece = pieces[k];
    return piece === undefined || (piece.kind === 'space' ? piece.breakable : after[k] !== After.nothing);
  };
  let from = i;
  while (from > 0 && !ends(from - 1)) from--;
  let to = i;
  while (to < pieces.length - 1 && !ends(to)) to++;
  let width = 0;
  for (let k = from; k <= to; k++) width += (pieces[k] as Piece).width;
  return { of: p, from, to, width };
}
