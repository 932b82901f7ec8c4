/** The ledger's lines: sections under their matter, and in their places the pages that the book lacks. */
import { kindRule, type Book, type Edition, type Section, type SectionKind } from '@pagina/core/book';

/** Pages that a book could have: shown faintly in their place until they are called in. */
const COULD_HAVE: SectionKind[] = [
  'half-title',
  'title-page',
  'copyright-page',
  'dedication',
  'contents',
  'acknowledgements',
  'about-author',
];
const FRONT_ORDER: SectionKind[] = [
  'half-title',
  'title-page',
  'copyright-page',
  'dedication',
  'epigraph',
  'contents',
  'list-of-figures',
  'foreword',
  'preface',
  'introduction',
];
const BACK_ORDER: SectionKind[] = [
  'afterword',
  'acknowledgements',
  'notes',
  'glossary',
  'bibliography',
  'index',
  'about-author',
  'also-by',
  'colophon',
  'extract',
];

/** Where a page of that kind belongs: before which section of the book. */
export function placeFor(book: Book, kind: SectionKind): number {
  const { matter } = kindRule(kind);
  const order = matter === 'front' ? FRONT_ORDER : BACK_ORDER;
  const rank = order.indexOf(kind);
  const at = book.sections.findIndex((s) =>
    matter === 'front'
      ? s.matter !== 'front' || order.indexOf(s.kind) > rank
      : s.matter === 'back' && order.indexOf(s.kind) > rank,
  );
  return at < 0 ? book.sections.length : at;
}

export type Line =
  | { type: 'section'; section: Section }
  | { type: 'absent'; kind: SectionKind }
  | { type: 'matter'; name: string };

export function linesOf(book: Book): Line[] {
  const absent = COULD_HAVE.filter((k) => !book.sections.some((s) => s.kind === k)).map((kind) => ({
    kind,
    at: placeFor(book, kind),
  }));
  const lines: Line[] = [];
  let matter = '';
  const names: Record<string, string> = { front: 'Front matter', body: 'Body', back: 'Back matter' };
  const head = (m: string): void => {
    if (m !== matter) lines.push({ type: 'matter', name: names[(matter = m)] as string });
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

/** Whether an edition's lane runs through a line that is no section: when the sections around it are carried. */
function laneRunsOn(lines: readonly Line[], at: number, edition: string): boolean {
  const carried = (l: Line | undefined): boolean =>
    l?.type === 'section' && !l.section.leftOut.includes(edition);
  const above = lines
    .slice(0, at)
    .reverse()
    .find((l) => l.type === 'section');
  return carried(above) && carried(lines.slice(at).find((l) => l.type === 'section'));
}

/** The lanes of a line that is no section. */
export function Lanes({
  lines,
  at,
  editions,
}: {
  lines: readonly Line[];
  at: number;
  editions: readonly Edition[];
}) {
  return editions.map((e) => (
    <td key={e.id} className="relative p-0">
      {laneRunsOn(lines, at, e.id) ? (
        <span
          aria-hidden
          className="absolute top-[-1px] bottom-[-1px] left-1/2 w-[2px] -translate-x-1/2 bg-spruce"
        />
      ) : null}
    </td>
  ));
}
