/** Pages that a book could have and lacks, and the place where each kind of page belongs (common practice). */
import { kindRule, type Placed, type SectionKind } from '../book';

const COULD_HAVE: readonly SectionKind[] = [
  'half-title',
  'title-page',
  'copyright-page',
  'dedication',
  'epigraph',
  'contents',
  'acknowledgements',
  'about-author',
  'also-by',
];
const FRONT: readonly SectionKind[] = [
  'half-title',
  'title-page',
  'copyright-page',
  'dedication',
  'epigraph',
  'contents',
  'list-of-figures',
  'list-of-tables',
  'abbreviations',
  'foreword',
  'preface',
  'introduction',
];
const BACK: readonly SectionKind[] = [
  'afterword',
  'acknowledgements',
  'appendix',
  'chronology',
  'notes',
  'glossary',
  'bibliography',
  'contributors',
  'index',
  'about-author',
  'also-by',
  'colophon',
  'extract',
];

/** Index in the order before which a page of that kind belongs. */
export function placeFor(sections: readonly Placed[], kind: SectionKind): number {
  const { matter } = kindRule(kind);
  if (matter === 'body') {
    const last = sections.findLastIndex((s) => s.matter === 'body');
    if (kind === 'prologue')
      return Math.max(
        0,
        sections.findIndex((s) => s.matter !== 'front'),
      );
    return last >= 0 ? last + 1 : sections.filter((s) => s.matter === 'front').length;
  }
  const order = matter === 'front' ? FRONT : BACK;
  const rank = order.indexOf(kind);
  const at = sections.findIndex((s) =>
    matter === 'front'
      ? s.matter !== 'front' || order.indexOf(s.kind) > rank
      : s.matter === 'back' && order.indexOf(s.kind) > rank,
  );
  return at < 0 ? sections.length : at;
}

/** Pages the book lacks, each with the index of the section before which it would stand. */
export function absentPages(sections: readonly Placed[]): { kind: SectionKind; at: number }[] {
  return COULD_HAVE.filter((k) => !sections.some((s) => s.kind === k)).map((kind) => ({
    kind,
    at: placeFor(sections, kind),
  }));
}
