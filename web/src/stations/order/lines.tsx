/** The ledger's lines: sections under their matter, and in their places the pages that the book lacks. */
import { kindRule, type Book, type Edition, type Section, type SectionKind } from '@pagina/core/book';
import { absentPages } from '@pagina/core/order';

export type Line =
  | { type: 'section'; section: Section }
  | { type: 'absent'; kind: SectionKind }
  | { type: 'matter'; name: string };

const MATTERS: Record<string, string> = { front: 'Front matter', body: 'Body', back: 'Back matter' };

export function linesOf(book: Book): Line[] {
  const absent = absentPages(book.sections);
  const lines: Line[] = [];
  let matter = '';
  const head = (m: string): void => {
    if (m !== matter) lines.push({ type: 'matter', name: MATTERS[(matter = m)] as string });
  };
  for (let i = 0; i <= book.sections.length; i++) {
    for (const a of absent.filter((x) => x.at === i)) {
      head(kindRule(a.kind).matter);
      lines.push({ type: 'absent', kind: a.kind });
    }
    const section = book.sections[i];
    if (!section) continue;
    head(section.matter);
    lines.push({ type: 'section', section });
  }
  return lines;
}

/** Ids of the sections that each edition carries, in the order of the editions. */
export type Carried = readonly ReadonlySet<string>[];

/** Whether an edition's lane runs from a line up (−1) or down (1) to the next section that it carries. */
export function laneRuns(
  lines: readonly Line[],
  at: number,
  carried: ReadonlySet<string> | undefined,
  way: -1 | 1,
): boolean {
  for (let i = at + way; i >= 0 && i < lines.length; i += way) {
    const l = lines[i];
    if (l?.type === 'section') return carried?.has(l.section.id) ?? false;
  }
  return false;
}

/** The lanes of a line that is no section. */
export function Lanes({
  lines,
  at,
  editions,
  carried,
}: {
  lines: readonly Line[];
  at: number;
  editions: readonly Edition[];
  carried: Carried;
}) {
  return editions.map((e, i) => (
    <td key={e.id} className="relative p-0">
      {laneRuns(lines, at, carried[i], -1) && laneRuns(lines, at, carried[i], 1) ? (
        <span
          aria-hidden
          className="absolute top-[-1px] bottom-[-1px] left-1/2 w-[2px] -translate-x-1/2 bg-spruce"
        />
      ) : null}
    </td>
  ));
}
