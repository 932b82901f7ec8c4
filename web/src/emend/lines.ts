/** Line ends of a source, and of the editor, which knows one kind. Places are UTF-16 units. */

/** As the editor shows it. */
export const withPlainEnds = (raw: string): string => raw.replace(/\r\n?/g, '\n');

/** The place in the source of a place in the editor. */
export function inSource(raw: string, at: number): number {
  if (!raw.includes('\r')) return at;
  let plain = 0;
  let i = 0;
  while (plain < at && i < raw.length) {
    if (raw[i] === '\r' && raw[i + 1] === '\n') i++;
    i++;
    plain++;
  }
  return i;
}
/** The place in the editor of a place in the source. */
export const inEditor = (raw: string, at: number): number => withPlainEnds(raw.slice(0, at)).length;

/** Line and column, both from 1, as a place in the source. */
export function placeAt(raw: string, line: number, column: number): number {
  let at = 0;
  for (let n = 1; n < line; n++) {
    const next = /\r\n?|\n/g;
    next.lastIndex = at;
    const found = next.exec(raw);
    if (!found) return raw.length;
    at = next.lastIndex;
  }
  return Math.min(raw.length, at + Math.max(0, column - 1));
}
export const lineOf = (raw: string, at: number): number => raw.slice(0, at).split(/\r\n?|\n/).length;
