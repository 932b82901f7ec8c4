/**
 * Lines: total fit (D. E. Knuth and M. F. Plass, *Breaking Paragraphs into Lines*, Software: Practice and Experience
 * 11, 1981). Of all ways to break a paragraph the one with the least sum of demerits is taken.
 *
 * A line's *ratio* r says by what share of their stretch (r > 0) or shrink (r < 0) its spaces change; its badness is
 * 100 |r|³. Demerits are (1 + badness)² plus what a hyphen costs, more for two in a row, and for neighbours whose
 * spaces differ visibly. Three passes: without hyphens; with them; and, where nothing fits, with any stretch at all.
 *
 * A best break is remembered per breakpoint and *class*: the fitness of the line that ends there, the run of hyphens
 * so far (so that a third in a row can be forbidden outright), and the line number where widths depend on it or where
 * paragraphs of another length are wanted.
 */
import type { Mp } from '../../base';
import type { Divider } from './divide';
import { Breakpoints, breakpointsOf, Kind } from './breakpoints';
import type { Paragraph } from './paragraph';

export interface SetLine {
  /** First piece and the characters of it that stand on the line before. */
  from: number;
  fromCut: number;
  /** Last piece, and the characters of it that stay here where a word is divided, else 0. */
  to: number;
  toCut: number;
  kind: Kind;
  ratio: number;
  /** Room left of the line (a drop cap), on top of an indent. */
  shift: Mp;
  /** By how much it is narrower than the measure. */
  narrower: Mp;
  last: boolean;
}

export interface LineWidths {
  measure: Mp;
  /** Widths and shifts of the first lines where they differ. */
  first?: readonly { width: Mp; shift: Mp }[];
}

export interface Broken {
  lines: SetLine[];
  demerits: number;
}

const TOLERANCE = { plain: 0.7, hyphens: 0.8, loose: 1.2, emergency: 1e6 };
/** What a line costs beyond the square of its badness. */
export const DEMERITS = {
  hyphen: 60,
  dash: 40,
  rupture: 2_000,
  twoInARow: 9_000,
  fitness: 3_000,
  shortLast: 12_000,
} as const;
export const MAX_LADDER = 2;

interface Active {
  /** Breakpoint, −1 for the paragraph's start. */
  at: number;
  line: number;
  fitness: number;
  ladder: number;
  demerits: number;
  ratio: number;
  before: Active | null;
}

const fitnessOf = (r: number): number => (r < -0.5 ? 0 : r <= 0.5 ? 1 : r <= 1 ? 2 : 3);

/** What stays the same while a paragraph is searched with one set of breakpoints after the other. */
interface Search {
  /** Widths of the first lines where they differ, then that of all others. */
  lineWidths: readonly Mp[];
  ragged: Mp;
  /** Share of their shrink that spaces may give: none in ragged lines, which are drawn at their natural widths. */
  giving: 0 | 1;
  /** Share of a line's width that its letters may give or take. */
  scaling: number;
  /** Keeps breaks apart by line number all the way, so that every length can be told. */
  tracked: boolean;
  shortest: Mp;
}

/** What a line costs for how it ends, by `Kind`. */
const ENDS: readonly number[] = [0, DEMERITS.dash, DEMERITS.hyphen, DEMERITS.rupture, 0, DEMERITS.dash];
/** What a run of so many hyphens costs. */
const LADDERS: readonly number[] = [0, 0, DEMERITS.twoInARow, 50 * DEMERITS.twoInARow];

/**
 * All best ends of the paragraph, one per class of its last line.
 *
 * The loop has few branches that are seldom taken: an engine compiles it while the first paragraphs are broken, and would
 * throw its work away at the first one that goes another way.
 */
function search(
  { lineWidths, ragged, giving, scaling, tracked, shortest }: Search,
  b: Breakpoints,
  tolerance: number,
  emergency: boolean,
): Active[] {
  const irregular = lineWidths.length - 1;
  let active: Active[] = [{ at: -1, line: 0, fitness: 1, ladder: 0, demerits: 0, ratio: 0, before: null }];
  // The best lines that end at a breakpoint, and the class of each: a handful, so they are looked through.
  const best: Active[] = [];
  const classes: number[] = [];
  const least = Math.min(...lineWidths);
  const most = emergency ? b.count : MAX_LADDER;
  // Where the longest of the lines that may end next began.
  let earliest = b.first;
  let leastStretched = 0;
  for (let j = 0; j < b.count; j++) {
    const kind = b.kind[j] as Kind;
    const forced = kind === Kind.forced;
    const end = b.end[j] as number;
    const stretchEnd = b.stretchEnd[j] as number;
    const shrinkEnd = b.shrinkEnd[j] as number;
    // Most breakpoints stand in the middle of all lines: even the longest would be far too loose.
    const longest = end - earliest;
    const loosest = stretchEnd - leastStretched + ragged + (longest + Math.max(0, b.first)) * scaling;
    if (!forced && least - longest > tolerance * loosest + 1) continue;
    const hyphen = kind === Kind.hyphen || kind === Kind.dash ? 1 : 0;
    const penalty = 1 + (ENDS[kind] as number);
    const shortLast = j === b.count - 1 ? shortest : -Infinity;
    let found = 0;
    let dropped = 0;
    for (let n = 0; n < active.length; n++) {
      const a = active[n] as Active;
      const at = a.at;
      const start = at < 0 ? b.first : (b.start[at] as number);
      const natural = end - start;
      const missing = (lineWidths[Math.min(a.line, irregular)] as number) - natural;
      // An indent is no letter: it cannot be drawn wider.
      const letters = (at < 0 ? end : natural) * scaling;
      const stretch = stretchEnd - (at < 0 ? 0 : (b.stretchStart[at] as number)) + ragged + letters;
      const shrink = giving * (shrinkEnd - (at < 0 ? 0 : (b.shrinkStart[at] as number)) + letters);
      let ratio =
        missing >= 0
          ? forced || missing === 0
            ? 0
            : stretch > 0
              ? missing / stretch
              : 1e5
          : shrink > 0
            ? missing / shrink
            : -1e5;
      if (ratio < -1) {
        // Too full already, and only fuller from here on: unless it is the last hope of the emergency pass.
        if (emergency && active.length - dropped === 1 && found === 0 && n === active.length - 1) ratio = -1;
        else {
          active[n] = DROPPED;
          dropped++;
          continue;
        }
      }
      const ladder = hyphen * (a.ladder + 1);
      if (ratio > tolerance || ladder > most) continue;
      const r = Math.min(20, Math.abs(ratio));
      const badness = penalty + 100 * r * r * r;
      const fitness = fitnessOf(ratio);
      const d =
        a.demerits +
        badness * badness +
        (LADDERS[Math.min(ladder, MAX_LADDER + 1)] as number) +
        (Math.abs(fitness - a.fitness) > 1 ? DEMERITS.fitness : 0) +
        (natural < shortLast && at >= 0 ? DEMERITS.shortLast : 0);
      const line = tracked ? a.line + 1 : Math.min(a.line + 1, irregular);
      const key = (line << 5) | (fitness << 3) | Math.min(ladder, 7);
      let place = 0;
      while (place < found && classes[place] !== key) place++;
      if (place < found && d >= (best[place] as Active).demerits) continue;
      if (place === found) classes[found++] = key;
      best[place] = { at: j, line, fitness, ladder, demerits: d, ratio, before: a };
    }
    if (found === 0 && dropped === 0 && !forced) continue;
    const next: Active[] = [];
    if (!forced)
      for (let n = 0; n < active.length; n++) if (active[n] !== DROPPED) next.push(active[n] as Active);
    for (let n = 0; n < found; n++) next.push(best[n] as Active);
    if (next.length === 0) return [];
    active = next;
    earliest = Infinity;
    leastStretched = Infinity;
    for (let n = 0; n < active.length; n++) {
      const { at } = active[n] as Active;
      earliest = Math.min(earliest, at < 0 ? b.first : (b.start[at] as number));
      leastStretched = Math.min(leastStretched, at < 0 ? 0 : (b.stretchStart[at] as number));
    }
  }
  return active;
}
/** Its fractions tell the engine that such fields are no small integers before the first paragraph is broken. */
const DROPPED: Active = {
  at: 0,
  line: 0,
  fitness: 0,
  ladder: 0,
  demerits: Infinity,
  ratio: Infinity,
  before: null,
};

function linesOf(end: Active, b: Breakpoints, widths: LineWidths): SetLine[] {
  const chain: Active[] = [];
  for (let a: Active | null = end; a && a.at >= 0; a = a.before) chain.unshift(a);
  return chain.map((a, i) => {
    const before = chain[i - 1];
    return {
      from: before ? (b.next[before.at] as number) : 0,
      fromCut: before ? (b.cut[before.at] as number) : 0,
      to: b.piece[a.at] as number,
      toCut: b.cut[a.at] as number,
      kind: b.kind[a.at] as Kind,
      ratio: a.ratio,
      shift: widths.first?.[i]?.shift ?? 0,
      narrower: widths.measure - (widths.first?.[i]?.width ?? widths.measure),
      last: i === chain.length - 1,
    };
  });
}

const least = (ends: readonly Active[]): Active => ends.reduce((x, y) => (y.demerits < x.demerits ? y : x));

/** One paragraph is broken at a time. */
const room = new Breakpoints();

/** How far the words of decent lines can be from their natural widths, as shares: wider than any interior's spaces give. */
const SQUEEZED = 0.94;
const SPREAD = 1.1;

/**
 * After k decent lines the sum of natural widths lies between k measures squeezed and k measures spread. A word outside
 * of all these stretches cannot be divided usefully, so its fragments need not be shaped.
 */
function nearLineEnd(indent: Mp, w: LineWidths): (from: Mp, to: Mp) => boolean {
  const first = w.first ?? [];
  const fixed = first.reduce((n, f) => n + f.width, 0) - indent;
  return (from, to) => {
    let total = -indent;
    for (const f of first) {
      total += f.width;
      if (from <= total * SPREAD && to >= total * SQUEEZED) return true;
    }
    const k = Math.max(1, Math.ceil((from / SPREAD - fixed) / w.measure));
    return to >= (fixed + k * w.measure) * SQUEEZED;
  };
}

/** Widths line by line; the last is that of all that follow. */
function widthsOf(w: LineWidths): number[] {
  const widths: number[] = [];
  if (w.first) for (const f of w.first) widths.push(f.width);
  widths.push(w.measure);
  return widths;
}

const searchOf = (p: Paragraph, w: LineWidths, tracked: boolean, shortest: Mp): Search => ({
  lineWidths: widthsOf(w),
  ragged: p.justify ? 0 : Math.round(w.measure / 4),
  giving: p.justify ? 1 : 0,
  scaling: p.scaling / 1000,
  tracked,
  shortest,
});

/** The best lines of a paragraph. Never fails: a word too wide is broken at a grapheme (`Kind.rupture`). */
export function breakLines(p: Paragraph, widths: LineWidths, divider: Divider | null): Broken {
  const wanted = searchOf(p, widths, false, Math.max(p.indent, widths.measure >> 4));
  const narrowest = Math.min(...wanted.lineWidths);
  let b = breakpointsOf(p, { divider: null, narrowest }, room);
  let ends = search(wanted, b, p.justify ? TOLERANCE.plain : 1.5, false);
  if (ends.length === 0) {
    const divides = divider && p.hyphenate;
    if (divides) b = breakpointsOf(p, { divider, narrowest, near: nearLineEnd(p.indent, widths) }, room);
    ends = search(wanted, b, TOLERANCE.hyphens, false);
    if (ends.length === 0 && divides) b = breakpointsOf(p, { divider, narrowest }, room);
  }
  if (ends.length === 0) ends = search(wanted, b, TOLERANCE.loose, false);
  if (ends.length === 0) ends = search(wanted, b, TOLERANCE.emergency, true);
  const end = least(ends);
  return { lines: linesOf(end, b, widths), demerits: end.demerits };
}

/** The best lines of that paragraph for other line counts near `count`, where they can be had without bad spaces. */
export function otherLengths(
  p: Paragraph,
  widths: LineWidths,
  divider: Divider | null,
  count: number,
): Broken[] {
  const wanted = searchOf(p, widths, true, p.indent);
  const narrowest = Math.min(...wanted.lineWidths);
  const b = breakpointsOf(p, { divider: p.hyphenate ? divider : null, narrowest }, room);
  const ends = search(wanted, b, TOLERANCE.hyphens, false);
  const found: Broken[] = [];
  for (const wanted of [count - 1, count + 1]) {
    const fitting = ends.filter((e) => e.line === wanted);
    if (fitting.length === 0) continue;
    const end = least(fitting);
    found.push({ lines: linesOf(end, b, widths), demerits: end.demerits });
  }
  return found;
}
