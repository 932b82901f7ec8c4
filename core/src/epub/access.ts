/** Accessibility metadata (EPUB Accessibility 1.1 §4; schema.org vocabulary), derived from what the book really contains. */
import { altOf, showsPicture, type Section } from '../book';

export interface AccessFacts {
  pictures: number;
  picturesWithoutAlt: number;
  animated: boolean;
  pageList: boolean;
  headings: boolean;
  text: boolean;
  /** Its pages have a fixed size: their type can't be changed. */
  fixed?: boolean;
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
  };
  for (const s of sections) {
    if (s.title || s.numbered) facts.headings = true;
    s.content.descendants((n) => {
      if (n.isText) facts.text = true;
      if (!showsPicture(n)) return;
      facts.pictures++;
      if (!n.attrs.decorative && altOf(n) === '') facts.picturesWithoutAlt++;
      if (animatedIds.has(n.attrs.picture as string)) facts.animated = true;
    });
  }
  return facts;
}

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
  if (f.pageList) parts.push('Pages of the print edition are marked.');
  return parts.join(' ');
}
