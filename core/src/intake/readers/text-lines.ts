/**
 * Wrapped lines of typed text as paragraphs. The left margin and the indent of a first line are those of most lines;
 * what is indented further is displayed: centred, quoted, or lines of verse.
 */

export interface TypedParagraph {
  /** Its lines as typed; none for a blank line. */
  lines: string[];
  indented: boolean;
  centred: boolean;
  /** Lines that end where they were ended; otherwise they were only wrapped. */
  verse: boolean;
}
export interface Layout {
  /** Spaces at the left of full lines. */
  margin: number;
  /** Spaces beyond the margin before a paragraph’s first line; 0 where there are none. */
  first: number;
  isCentred: (line: string) => boolean;
}

export const indentOf = (line: string): number => {
  let n = 0;
  for (const c of line) {
    if (c === '\t') n += 4;
    else if (c === ' ' || c === '\u00a0') n++;
    else break;
  }
  return n;
};

/** Share of lines near the longest that tells wrapped text from one line a paragraph. */
const WRAPPED = 0.3;

export function isWrapped(lines: readonly string[]): boolean {
  const lengths = lines.map((l) => l.trimEnd().length).filter((n) => n > 0);
  const longest = lengths.reduce((a, b) => Math.max(a, b), 0);
  if (longest > 140 || lengths.length < 4) return false;
  const full = lengths.filter((n) => n > longest * 0.8).length;
  return full / lengths.length > WRAPPED;
}

export function layoutOf(lines: readonly string[]): Layout {
  const width = Math.min(
    100,
    lines.reduce((n, l) => Math.max(n, l.trimEnd().length), 0),
  );
  const full = lines.filter((l) => l.trimEnd().length > width * 0.75);
  const margin = most(full.map(indentOf)) ?? 0;
  // A first line: indented, and the line below it goes on at the margin.
  const firsts: number[] = [];
  lines.forEach((l, i) => {
    const d = indentOf(l) - margin;
    const next = lines[i + 1] ?? '';
    if (d >= 1 && d <= 10 && l.trim() !== '' && next.trim() !== '' && indentOf(next) === margin)
      firsts.push(d);
  });
  const first = firsts.length >= Math.max(2, lines.length / 100) ? (most(firsts) ?? 0) : 0;
  /** Spaces on the left that leave as much on the right as a centred line would. */
  const isCentred = (line: string): boolean => {
    const left = indentOf(line);
    const length = line.trim().length;
    return left - margin >= 8 && Math.abs(left - margin - (width - margin - length) / 2) <= 4;
  };
  return { margin, first, isCentred };
}

function most(numbers: readonly number[]): number | null {
  const counts = new Map<number, number>();
  for (const n of numbers) counts.set(n, (counts.get(n) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** Words apart from other words by many spaces: contents, tables, heads with page numbers. */
const PARTED = /\S(?: {4,}|\t+ *)\S|(?: ?\.){4,}\s*[\divxlc]+$/;
const LIST_MARK = /^\s*(?:\(?(?:\d{1,3}|[a-z]|[ivx]{1,5})[.)]|[\u2022*\u2013-])\s+\S/;

type Kind = 'text' | 'centred' | 'block' | 'parted';

/** The paragraphs of one page, with an empty one for each blank line. */
export function paragraphsOfLines(page: readonly string[], layout: Layout): TypedParagraph[] {
  const out: TypedParagraph[] = [];
  let open: { kind: Kind; lines: string[]; indented: boolean } | null = null;
  const close = (): void => {
    if (open) out.push(...made(open.kind, open.lines, open.indented));
    open = null;
  };
  for (const line of page) {
    const now = open as { kind: Kind; lines: string[]; indented: boolean } | null;
    if (line.trim() === '') {
      close();
      out.push({ lines: [], indented: false, centred: false, verse: false });
      continue;
    }
    const d = indentOf(line) - layout.margin;
    const kind = kindOf(line, d, layout, now);
    const begins =
      !now ||
      now.kind !== kind ||
      kind === 'parted' ||
      (kind === 'text' && layout.first > 0 && Math.abs(d - layout.first) <= 1 && d > 0) ||
      (LIST_MARK.test(line) && LIST_MARK.test(now.lines[0] as string));
    if (!begins) {
      now.lines.push(line);
      continue;
    }
    close();
    open = { kind, lines: [line], indented: kind === 'block' };
  }
  close();
  return out;
}

function kindOf(line: string, d: number, layout: Layout, open: { kind: Kind; lines: string[] } | null): Kind {
  if (PARTED.test(line.trimEnd())) return 'parted';
  // The last line of a quotation may stand where a centred one would.
  if (open?.kind === 'block' && Math.abs(d - (indentOf(open.lines[0] as string) - layout.margin)) <= 1)
    return 'block';
  if (layout.isCentred(line)) return 'centred';
  if (d <= 1) return 'text';
  if (layout.first > 0 ? Math.abs(d - layout.first) <= 1 : open?.kind === 'text' || (!open && d <= 3))
    return 'text';
  return 'block';
}

function made(kind: Kind, lines: string[], indented: boolean): TypedParagraph[] {
  const plain = { lines, indented, centred: false, verse: false };
  switch (kind) {
    case 'centred':
      return [{ ...plain, centred: true }];
    case 'block':
      return [{ ...plain, verse: lines.length > 1 && !isFull(lines) }];
    default:
      return [plain];
  }
}

/** Whether all lines but the last reach about as far to the right, as wrapped text does. */
function isFull(lines: readonly string[]): boolean {
  const longest = Math.max(...lines.map((l) => l.trimEnd().length));
  const rest = lines.slice(0, -1);
  const reach = rest.filter((l) => l.trimEnd().length >= longest - 12).length;
  return reach >= rest.length * 0.85 && longest - indentOf(lines[0] as string) >= 40;
}
