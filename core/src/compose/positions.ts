/** Where on a page links stand and blocks begin, from its lines of words. */
import type { Mp } from '../base';
import type { LinkRange } from './facts';
import { partOf } from './lines';
import { LINE, LINE_HEAD, nextOp, type DrawnPage } from './sheets';
import type { WordGlyphs } from '../type';

/** A place on a page that leads elsewhere; millipoints from the page's head. */
export interface LinkBox {
  target: string;
  x: Mp;
  y: Mp;
  width: Mp;
  height: Mp;
}

/** Width of a word as it was shaped, and its size. */
function measured({ starts, data }: WordGlyphs, word: number): { width: Mp; size: Mp } {
  let at = starts[word] as number;
  let width = 0;
  let size = 0;
  for (let runs = data[at++] as number; runs > 0; runs--) {
    size = data[at + 1] as number;
    const step = data[at + 3] === 1 ? 2 : 4;
    const count = data[at + 4] as number;
    at += 5;
    for (let g = 0; g < count; g++) width += data[at + g * step + 1] as number;
    at += count * step;
  }
  return { width, size };
}

export interface PagePositions {
  links: LinkBox[];
  /** Head of the first line of each block that begins or goes on here; millipoints from the page's head. */
  blocks: [block: string, y: Mp][];
}

export function positionsOf(
  page: DrawnPage,
  words: WordGlyphs,
  links: Readonly<Record<string, readonly LinkRange[]>>,
): PagePositions {
  const found: LinkBox[] = [];
  const blocks = new Map<string, Mp>();
  const { ops, blocks: ids } = page.body;
  for (let at = 0; at < ops.length; at = nextOp(ops, at)) {
    if (ops[at] !== LINE) continue;
    const block = ids[ops[at + 3] as number] ?? '';
    const y = ops[at + 2] as number;
    const contents = partOf(ops[at + 5] as number).startsWith('contents');
    if (block && !contents && !blocks.has(block)) blocks.set(block, y - 12_000);
    const ranges: readonly LinkRange[] = contents
      ? [{ from: 0, to: Infinity, target: block }]
      : (links[block] ?? []);
    if (!block || ranges.length === 0) continue;
    const scale = (ops[at + 6] as number) / 100_000;
    let x = page.left + (ops[at + 1] as number);
    let last: LinkBox | null = null;
    let k = at + LINE_HEAD;
    for (let n = ops[at + 7] as number; n > 0; n--) {
      const item = ops[k++] as number;
      if (item < 0) {
        x += -1 - item;
        continue;
      }
      const offset = ops[k++] as number;
      const { width, size } = measured(words, item);
      const range = ranges.find((r) => offset >= r.from && offset < r.to);
      if (range && last?.target === range.target) last.width = x + width * scale - last.x;
      else if (range) {
        last = { target: range.target, x, y: y - size * 0.8, width: width * scale, height: size * 1.1 };
        found.push(last);
      } else last = null;
      x += width * scale;
    }
  }
  return { links: found, blocks: [...blocks] };
}
