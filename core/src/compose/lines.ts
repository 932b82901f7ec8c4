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
import type { Mp } from '../base';
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

interface Search {
  b: Breakpoints;
  widths: LineWidths;
  ragged: Mp;
  /** Share of a line's width that its letters may give or take. */
  scaling: number;
  tolerance: number;
  emergency: boolean;
  /** Keeps breaks apart by line number all the way, so that every length can be told. */
  tracked: boolean;
  shortest: Mp;
}

/** All best ends of the paragraph, one per class of its last line. */
function search({ b, widths, ragged, scaling, tolerance, emergency, tracked, shortest }: Search): Active[] {
  const irregular = widths.first?.length ?? 0;
  let active: Active[] = [{ at: -1, line: 0, fitness: 1, ladder: 0, demerits: 0, ratio: 0, before: null }];
  const best = new Map<number, Active>();
  for (let j = 0; j < b.count; j++) {
    const kind = b.kind[j] as Kind;
    const forced = kind === Kind.forced;
    const final = j === b.count - 1;
    const hyphen = kind === Kind.hyphen || kind === Kind.dash;
    const penalty =
      kind === Kind.hyphen
        ? DEMERITS.hyphen
        : kind === Kind.dash
          ? DEMERITS.dash
          : kind === Kind.rupture
            ? DEMERITS.rupture
            : 0;
    best.clear();
    let dropped = 0;
    for (let n = 0; n < active.length; n++) {
      const a = active[n] as Active;
      const width = a.line < irregular ? (widths.first?.[a.line]?.width ?? widths.measure) : widths.measure;
      const at = a.at;
      const natural = (b.end[j] as number) - (at < 0 ? b.first : (b.start[at] as number));
      const missing = width - natural;
      // An indent is no letter: it cannot be drawn wider.
      const letters = at < 0 ? natural + b.first : natural;
      let ratio: number;
      if (missing >= 0) {
        if (forced) ratio = 0;
        else {
          const stretch =
            (b.stretchEnd[j] as number) -
            (at < 0 ? 0 : (b.stretchStart[at] as number)) +
            ragged +
            letters * scaling;
          ratio = stretch > 0 ? missing / stretch : missing === 0 ? 0 : 1e5;
        }
      } else {
        const shrink =
          (b.shrinkEnd[j] as number) - (at < 0 ? 0 : (b.shrinkStart[at] as number)) + letters * scaling;
        ratio = shrink > 0 ? missing / shrink : -1e5;
      }
      if (ratio < -1) {
        // Too full already, and only fuller from here on: unless it is the last hope of the emergency pass.
        if (emergency && active.length - dropped === 1 && best.size === 0 && n === active.length - 1)
          ratio = -1;
        else {
          active[n] = DROPPED;
          dropped++;
          continue;
        }
      }
      if (ratio <= tolerance) {
        const ladder = hyphen ? a.ladder + 1 : 0;
        if (ladder <= MAX_LADDER || emergency) {
          const r = ratio < 0 ? -ratio : ratio > 20 ? 20 : ratio;
          const line = 1 + 100 * r * r * r + penalty;
          let d = a.demerits + line * line;
          if (ladder > 1) d += DEMERITS.twoInARow * (ladder > MAX_LADDER ? 50 : 1);
          const fitness = fitnessOf(ratio);
          if (fitness - a.fitness > 1 || a.fitness - fitness > 1) d += DEMERITS.fitness;
          if (final && natural < shortest && at >= 0) d += DEMERITS.shortLast;
          const lineNumber = tracked ? a.line + 1 : Math.min(a.line + 1, irregular);
          const key = (lineNumber << 5) | (fitness << 3) | Math.min(ladder, 7);
          const known = best.get(key);
          if (!known || d < known.demerits)
            best.set(key, { at: j, line: lineNumber, fitness, ladder, demerits: d, ratio, before: a });
        }
      }
    }
    if (forced) active = [...best.values()];
    else {
      if (dropped > 0) active = active.filter((a) => a !== DROPPED);
      for (const a of best.values()) active.push(a);
    }
    if (active.length === 0) return [];
  }
  return active;
}
const DROPPED: Active = { at: 0, line: 0, fitness: 0, ladder: 0, demerits: Infinity, ratio: 0, before: null };

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

const narrowestOf = (w: LineWidths): Mp => Math.min(w.measure, ...(w.first ?? []).map((f) => f.width));
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

const raggedStretch = (p: Paragraph, w: LineWidths): Mp => (p.justify ? 0 : Math.round(w.measure / 4));

/** The best lines of a paragraph. Never fails: a word too wide is broken at a grapheme (`Kind.rupture`). */
export function breakLines(p: Paragraph, widths: LineWidths, divider: Divider | null): Broken {
  const narrowest = narrowestOf(widths);
  const shared = {
    widths,
    ragged: raggedStretch(p, widths),
    scaling: p.scaling / 1000,
    tracked: false,
    shortest: Math.max(p.indent, widths.measure >> 4),
  };
  let b = breakpointsOf(p, { divider: null, narrowest }, room);
  const plain = { tolerance: p.justify ? TOLERANCE.plain : 1.5, emergency: false };
  let ends = search({ b, ...shared, ...plain });
  if (ends.length === 0) {
    const divides = divider && p.hyphenate;
    if (divides) b = breakpointsOf(p, { divider, narrowest, near: nearLineEnd(p.indent, widths) }, room);
    ends = search({ b, ...shared, tolerance: TOLERANCE.hyphens, emergency: false });
    if (ends.length === 0 && divides) b = breakpointsOf(p, { divider, narrowest }, room);
  }
  if (ends.length === 0) ends = search({ b, ...shared, tolerance: TOLERANCE.loose, emergency: false });
  if (ends.length === 0) ends = search({ b, ...shared, tolerance: TOLERANCE.emergency, emergency: true });
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
  const b = breakpointsOf(p, { divider: p.hyphenate ? divider : null, narrowest: narrowestOf(widths) }, room);
  const ends = search({
    b,
    widths,
    ragged: raggedStretch(p, widths),
    scaling: p.scaling / 1000,
    tracked: true,
    shortest: p.indent,
    tolerance: TOLERANCE.hyphens,
    emergency: false,
  });
  const found: Broken[] = [];
  for (const wanted of [count - 1, count + 1]) {
    const fitting = ends.filter((e) => e.line === wanted);
    if (fitting.length === 0) continue;
    const end = least(fitting);
    found.push({ lines: linesOf(end, b, widths), demerits: end.demerits });
  }
  return found;
}
