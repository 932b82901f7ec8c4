/** Page sizes. One trim is one page size for the whole edition: a file whose pages differ in size is refused by printers. */
import { inches, mm, parseTrim, type Mp } from '../base';

export interface Trim {
  name: string;
  width: Mp;
  height: Mp;
}

/** Sizes that printers on demand take (common practice); A5 and B-format for metric countries. */
export const TRIMS: readonly Trim[] = [
  { name: '5 × 8 in', width: inches(5), height: inches(8) },
  { name: '5.25 × 8 in', width: inches(5.25), height: inches(8) },
  { name: '5.5 × 8.5 in', width: inches(5.5), height: inches(8.5) },
  { name: '6 × 9 in', width: inches(6), height: inches(9) },
  { name: '129 × 198 mm', width: mm(129), height: mm(198) },
  { name: '148 × 210 mm', width: mm(148), height: mm(210) },
  { name: '7 × 10 in', width: inches(7), height: inches(10) },
  { name: '8.5 × 8.5 in', width: inches(8.5), height: inches(8.5) },
];

/** Smallest and largest page that can be set: below it no line has room, above it no machine prints books. */
export const SMALLEST: Mp = inches(3.5);
const LARGEST: Mp = inches(14);

/** A listed trim by name, or one typed as "5.5x8.5in"; null when it is neither or no page for a book. */
export function trimOf(text: string): Trim | null {
  const listed = TRIMS.find((t) => t.name === text);
  if (listed) return listed;
  const size = parseTrim(text);
  if (!size) return null;
  const fits = (n: Mp): boolean => n >= SMALLEST && n <= LARGEST;
  if (!fits(size.width) || !fits(size.height)) return null;
  const same = TRIMS.find(
    (t) => Math.abs(t.width - size.width) < 100 && Math.abs(t.height - size.height) < 100,
  );
  return same ?? { name: text, ...size };
}
