/** Blank lines between paragraphs: the habit of a typist, or breaks in the text. */
import { isBreakText, isEmpty, isText, type RawBlock } from '../raw';

/** Share of the gaps that must be blank for blank lines to be a habit. */
const HABIT = 0.4;
/** Gaps below which a section says nothing of its typist’s habits. */
const FEW = 4;

/** Blank lines that stand between paragraphs by habit: 0 where paragraphs follow one another. */
export function usualBlanks(body: readonly RawBlock[], whole = 0): number {
  const counts = new Map<number, number>();
  let gaps = 0;
  let blanks = -1;
  for (const b of body) {
    if (isEmpty(b)) {
      if (blanks >= 0) blanks++;
      continue;
    }
    const runs = isText(b) && b.pictures.length === 0 && !b.list && !isBreakText(b.text);
    if (runs && blanks >= 0) {
      gaps++;
      counts.set(blanks, (counts.get(blanks) ?? 0) + 1);
    }
    blanks = runs ? 0 : -1;
  }
  if (gaps < FEW) return whole;
  const none = counts.get(0) ?? 0;
  if (gaps - none <= gaps * HABIT) return 0;
  counts.delete(0);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]?.[0] ?? 0;
}

/** Whether so many blank lines are a break where `usual` are the habit. */
export const isBreak = (blanks: number, usual: number): boolean =>
  usual === 0 ? blanks > 0 : blanks > usual;
