/** Lines and columns of a text, both counted from 1, and offsets, counted from 0 in UTF-16 units. */

/** Where each line begins. A line ends with LF, CR, or both. */
export function lineStarts(text: string): number[] {
  const starts = [0];
  if (text.includes('\r')) for (const m of text.matchAll(/\r\n?|\n/g)) starts.push(m.index + m[0].length);
  else for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) starts.push(i + 1);
  return starts;
}

export function placeAt(starts: readonly number[], offset: number): { line: number; column: number } {
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((starts[middle] ?? 0) <= offset) low = middle;
    else high = middle - 1;
  }
  return { line: low + 1, column: offset - (starts[low] ?? 0) + 1 };
}

/** The end of the text for a line that it doesn’t have. */
export function offsetAt(text: string, line: number, column: number): number {
  const start = lineStarts(text)[line - 1];
  return start === undefined ? text.length : Math.min(text.length, start + Math.max(0, column - 1));
}
