/** A line at its width: what stands on it, and how wide its spaces are. Used by the report and by the display list. */
import type { Mp } from '../../base';
import type { Word } from '../../type';
import { Kind } from './breakpoints';
import type { LineItem } from './flow';
import { After } from './paragraph';

export interface LineSpace {
  natural: Mp;
  /** Room to fill. */
  target: Mp;
  count: number;
  /** Mean width of a word space as set. */
  mean: Mp;
  overfull: boolean;
  /** What the spaces together take of the room that is missing (or too much). */
  spread: Mp;
  /** Width at which letters are drawn, in hundred-thousandths of their own. */
  scale: number;
}

/** The word a line's first or last piece shows: all of it, or the part on this side of a division. */
export function shownWord(item: LineItem, i: number): Word | null {
  const { paragraph: p, line } = item;
  const piece = p.pieces[i];
  if (piece?.kind !== 'word') return null;
  const begin = i === line.from ? line.fromCut : 0;
  const cut = i === line.to ? line.toCut : 0;
  if (begin === 0 && cut === 0) return piece;
  const text = piece.text.slice(begin, cut || undefined);
  return piece.style.word(cut > 0 && line.kind === Kind.hyphen ? `${text}-` : text);
}

/** Natural width, target and spaces of a line. */
export function lineSpace(item: LineItem): LineSpace {
  const { paragraph: p, line } = item;
  let natural = 0;
  let count = 0;
  let spaces = 0;
  let shrink = 0;
  let stretch = 0;
  const first = shownWord(item, line.from);
  const last = shownWord(item, line.to);
  for (let i = line.from; i <= line.to; i++) {
    const c = p.pieces[i];
    if (!c) continue;
    if (c.kind === 'word')
      natural += i === line.from ? (first as Word).width : i === line.to ? (last as Word).width : c.width;
    else {
      natural += c.width;
      if (c.stretch > 0) {
        count++;
        spaces += c.width;
        shrink += c.shrink;
        stretch += c.stretch;
      }
    }
  }
  const starts = line.from === 0 && line.fromCut === 0;
  const fitted = p.after[line.to] === After.fitted;
  const hang =
    (starts ? 0 : (first?.hangLeft ?? 0)) +
    (line.kind === Kind.forced && !fitted ? 0 : (last?.hangRight ?? 0));
  const target = item.measure + hang - (starts ? p.indent : 0);
  const filled = item.align === 'justify' && (line.kind !== Kind.forced || fitted || natural > target);
  const missing = filled ? target - natural : 0;
  const give = (natural * p.scaling) / 1000;
  const ownShare = missing >= 0 ? stretch : shrink;
  // Spaces and letters give in proportion to what each may; letters never more than they may.
  const letters =
    missing === 0 || give === 0
      ? 0
      : Math.max(-give, Math.min(give, Math.round((missing * give) / (give + ownShare))));
  const glyphs = natural - spaces;
  const scale = 100_000 + (letters === 0 || glyphs <= 0 ? 0 : Math.round((100_000 * letters) / glyphs));
  const spread = missing - Math.round((glyphs * (scale - 100_000)) / 100_000);
  // Rounding, and letters that hang, can be off by some hundredths of a point.
  const overfull = natural - (filled ? shrink + give : 0) > target + 60;
  return {
    natural,
    target,
    count,
    mean: count > 0 ? Math.round((spaces + spread) / count) : 0,
    overfull,
    spread,
    scale,
  };
}
