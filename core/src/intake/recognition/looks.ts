/** What a paragraph looks like beside the text around it, and how much that makes a heading of it. */
import { countWords } from '../../base';
import { isText, type RawBlock, type RawParagraph } from '../raw';

export interface Surroundings {
  /** Median size of text paragraphs, points. */
  size: number;
  /** Outline levels that occur, by how often. */
  outlines: Map<number, number>;
  /** Share of the text that is bold, centred: looks that most of the text has say nothing. */
  bold: number;
  centred: number;
  /** How most of the text looks. */
  signature: string;
}

/** What a reader sees of a paragraph's type. */
export const signature = (b: RawParagraph): string => `${b.size} ${b.bold} ${b.italic} ${b.align}`;

export const MAX_WORDS = 14;
const MAX_CHARS = 110;

export function surroundings(blocks: readonly RawBlock[]): Surroundings {
  const sizes: number[] = [];
  const outlines = new Map<number, number>();
  let bold = 0;
  let centred = 0;
  let texts = 0;
  const seen = new Map<string, number>();
  for (const b of blocks) {
    if (!isText(b) || b.text.trim() === '') continue;
    const weight = b.text.length;
    seen.set(signature(b), (seen.get(signature(b)) ?? 0) + weight);
    texts += weight;
    if (b.outline > 0) outlines.set(b.outline, (outlines.get(b.outline) ?? 0) + 1);
    if (b.text.length > 60) sizes.push(b.size);
    if (b.bold) bold += weight;
    if (b.align === 'centre') centred += weight;
  }
  sizes.sort((a, b) => a - b);
  return {
    size: sizes[sizes.length >> 1] ?? 0,
    outlines,
    bold: texts ? bold / texts : 0,
    centred: texts ? centred / texts : 0,
    signature: [...seen].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '',
  };
}

/** How much a paragraph looks like a heading, and by what. */
export function looks(
  blocks: readonly RawBlock[],
  at: number,
  s: Surroundings,
): { score: number; reasons: string[] } {
  const b = blocks[at] as RawParagraph;
  const text = b.text.trim();
  const reasons: string[] = [];
  let score = 0;
  const add = (n: number, why: string): void => {
    score += n;
    reasons.push(why);
  };
  if (text.length > MAX_CHARS || b.list) return { score: 0, reasons };
  const words = countWords(text);
  if (words === 0 || words > MAX_WORDS) return { score: 0, reasons };
  const above = emptyBefore(blocks, at);
  if (b.breakBefore || above.breaks) add(1.4, 'it follows a page break');
  else if (above.lines >= 5) add(1.2, 'there are many blank lines above it, as for a new page');
  else if (above.lines >= 2) add(0.8, 'there are blank lines above it');
  if (b.align === 'centre' && s.centred < 0.3) add(1, 'it is centred');
  if (b.bold && s.bold < 0.3) add(1, 'it is bold');
  if (s.size > 0 && b.size >= s.size * 1.15) add(1.4, 'it is larger than the text');
  if (/\p{Lu}/u.test(text) && text === text.toUpperCase() && words <= 8) add(0.8, 'it is in capitals');
  if (words <= 6) add(0.3, 'it is short');
  if (/[.,;]["\u201d\u2019]?$/.test(text) && words > 3) add(-1.2, 'it ends like a sentence');
  if (/^["\u201c\u2018]/.test(text) && words > 3) add(-0.8, 'it begins like speech');
  if (!/^[\p{Lu}\p{N}"\u201c\u2018\u00bf\u00a1(]/u.test(text)) add(-1.5, 'it begins with a small letter');
  return { score, reasons };
}

/** Blank lines above a paragraph, and whether a page begins with one of them. */
export function emptyBefore(blocks: readonly RawBlock[], at: number): { lines: number; breaks: boolean } {
  let lines = 0;
  let breaks = false;
  for (let i = at - 1; i >= 0; i--) {
    const b = blocks[i];
    if (!isText(b) || b.text.trim() !== '' || b.pictures.length) break;
    lines++;
    breaks ||= b.breakBefore;
  }
  return { lines, breaks };
}
