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

export const lineOf = (raw: string, at: number): number => raw.slice(0, at).split(/\r\n?|\n/).length;
