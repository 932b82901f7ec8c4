/** Accessibility metadata (EPUB Accessibility 1.1 §4; schema.org vocabulary), derived from what the book really contains. */
import type { Node } from 'prosemirror-model';
import { altOf, showsPicture, type Section } from '../book';

export interface AccessFacts {
  pictures: number;
  picturesWithoutAlt: number;
  animated: boolean;
  pageList: boolean;
  headings: boolean;
  text: boolean;
  /** Tables of several rows and columns of which no cell is a heading. */
  tablesWithoutHead: number;
  /** Subheads that are more than a step deeper than the heading above them. */
  skippedHeadings: number;
  /** Its pages have a fixed size: their type can't be changed. */
  fixed?: boolean;
  /** Who says that it conforms: the imprint, or the author; '' where nobody is to say so. */
  certifier?: string;
}

export function factsOf(
  sections: readonly Section[],
  animatedIds: ReadonlySet<string>,
  pageList: boolean,
): AccessFacts {
  const facts: AccessFacts = {
    pictures: 0,
    picturesWithoutAlt: 0,
    animated: false,
    pageList,
    headings: false,
    text: false,
    tablesWithoutHead: 0,
    skippedHeadings: 0,
  };
  for (const s of sections) {
    if (s.title || s.numbered) facts.headings = true;
    // The first subhead of a section without a heading may be of any level.
    let depth = s.title || s.numbered ? 0 : 6;
    s.content.descendants((n) => {
      if (n.isText) facts.text = true;
      if (n.type.name === 'table' && lacksHead(n)) facts.tablesWithoutHead++;
      if (n.type.name === 'subhead') {
        const level = Number(n.attrs.level);
        if (level > depth + 1) facts.skippedHeadings++;
        depth = level;
      }
      if (!showsPicture(n)) return;
      facts.pictures++;
      if (!n.attrs.decorative && altOf(n) === '') facts.picturesWithoutAlt++;
      if (animatedIds.has(n.attrs.picture as string)) facts.animated = true;
    });
  }
  return facts;
}

/** Whether cells of a table relate to headings that it does not have; of a single row or column none do. */
function lacksHead(table: Node): boolean {
  let columns = 0;
  let heads = false;
  table.descendants((n) => {
    if (n.type.name === 'row') columns = Math.max(columns, n.childCount);
    if (n.type.name === 'cell' && n.attrs.head) heads = true;
    return n.type.name !== 'cell';
  });
  return table.childCount > 1 && columns > 1 && !heads;
}

/** What is claimed where nothing stands in the way (EPUB Accessibility 1.1 §4.1). */
export const CONFORMANCE = 'EPUB Accessibility 1.1 - WCAG 2.2 Level AA';

/** Whether nothing that can be checked stands in the way of WCAG 2.2 at level AA (SC 1.1.1, 1.3.1, 1.4.4, 2.2.2, 2.4.6). */
export const conforms = (f: AccessFacts): boolean =>
  !f.fixed &&
  f.text &&
  f.picturesWithoutAlt === 0 &&
  f.tablesWithoutHead === 0 &&
  f.skippedHeadings === 0 &&
  !f.animated;

/** `meta` properties and values, in the order in which they are written. */
export function accessMeta(f: AccessFacts): [property: string, value: string][] {
  const meta: [string, string][] = [];
  if (f.text) meta.push(['schema:accessMode', 'textual']);
  if (f.pictures > 0) meta.push(['schema:accessMode', 'visual']);
  if (f.text && f.picturesWithoutAlt === 0) meta.push(['schema:accessModeSufficient', 'textual']);
  if (f.pictures > 0) meta.push(['schema:accessModeSufficient', 'textual,visual']);
  const features = [
    'tableOfContents',
    'readingOrder',
    ...(f.headings ? ['structuralNavigation'] : []),
    ...(f.pictures > 0 && f.picturesWithoutAlt === 0 ? ['alternativeText'] : []),
    ...(f.pageList ? ['pageBreakMarkers', 'pageNavigation'] : []),
    ...(f.fixed ? [] : ['displayTransformability']),
  ];
  for (const feature of features) meta.push(['schema:accessibilityFeature', feature]);
  meta.push(['schema:accessibilityHazard', f.animated ? 'unknown' : 'none']);
  meta.push(['schema:accessibilitySummary', summary(f)]);
  if (f.certifier && conforms(f))
    meta.push(['dcterms:conformsTo', CONFORMANCE], ['a11y:certifiedBy', f.certifier]);
  return meta;
}

function summary(f: AccessFacts): string {
  const parts = [
    f.fixed
      ? 'The pages have a fixed layout: the text can be read aloud and searched, but its size, typeface and colours can’t be changed. There is a table of contents.'
      : 'The text can be enlarged, recoloured and read aloud, and has a table of contents.',
  ];
  if (f.pictures > 0)
    parts.push(
      f.picturesWithoutAlt === 0
        ? 'All pictures have text alternatives.'
        : `${f.picturesWithoutAlt} of ${f.pictures} pictures have no text alternative.`,
    );
  if (f.tablesWithoutHead > 0)
    parts.push(
      f.tablesWithoutHead === 1
        ? 'One table has no heading cells.'
        : `${f.tablesWithoutHead} tables have no heading cells.`,
    );
  if (f.pageList) parts.push('Pages of the print edition are marked.');
  return parts.join(' ');
}
