/** How like two texts are, whatever moved in them: by the runs of three words that both have. */
import type { Node } from 'prosemirror-model';

const SKETCH = 96;
const SHINGLE = 3;

/** The smallest hashes of the runs of three words: two texts are as like as their sketches (Broder 1997). */
export function sketch(content: Node): Uint32Array {
  const words =
    content
      .textBetween(0, content.content.size, ' ', ' ')
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu) ?? [];
  const hashes = new Set<number>();
  for (let i = 0; i + SHINGLE <= words.length || (i === 0 && words.length > 0); i++) {
    let h = 2166136261;
    for (const w of words.slice(i, i + SHINGLE))
      for (let k = 0; k <= w.length; k++) h = Math.imul(h ^ (w.charCodeAt(k) || 32), 16777619);
    hashes.add(h >>> 0);
  }
  return Uint32Array.from(hashes).sort().subarray(0, SKETCH);
}
/** 0 to 1. */
export function likeness(a: Uint32Array, b: Uint32Array): number {
  if (a.length === 0 || b.length === 0) return 0;
  const most = Math.min(SKETCH, Math.max(a.length, b.length));
  let [i, k, same, seen] = [0, 0, 0, 0];
  while (seen < most && i < a.length && k < b.length) {
    const [x, y] = [a[i] as number, b[k] as number];
    if (x === y) same++;
    if (x <= y) i++;
    if (y <= x) k++;
    seen++;
  }
  return same / Math.max(1, seen);
}
