/** A sheet of comma-separated values (RFC 4180). */

/** Rows of cells; null where a quotation mark is never closed. */
export function cellsOf(text: string): string[][] | null {
  const rows: string[][] = [[]];
  let cell = '';
  let quoted = false;
  const end = (): void => {
    rows.at(-1)!.push(cell);
    cell = '';
  };
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (quoted) {
      if (c !== '"') cell += c;
      else if (text[i + 1] === '"') cell += text[++i];
      else quoted = false;
    } else if (c === '"' && cell === '') quoted = true;
    else if (c === ',') end();
    else if (c === '\n') {
      end();
      rows.push([]);
    } else if (c !== '\r') cell += c;
  }
  if (quoted) return null;
  if (cell !== '' || rows.at(-1)!.length > 0) end();
  return rows.filter((r) => r.length > 0);
}
export const sheetOf = (rows: readonly (readonly string[])[]): string =>
  rows
    .map((r) => r.map((c) => (/[",\r\n]/.test(c) ? `"${c.replace(/"/g, '""')}"` : c)).join(','))
    .join('\r\n');
