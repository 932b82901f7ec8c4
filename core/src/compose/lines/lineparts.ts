/** Which setting of the design a line belongs to that no block of the manuscript holds, so that one can point at it. */
export const LINE_PARTS = [
  '',
  'opening.number',
  'opening.title',
  'opening.subtitle',
  'opening.ornament',
  'partPage.number',
  'partPage.title',
  'partPage.subtitle',
  'partPage.ornament',
  'titlePage.title',
  'titlePage.subtitle',
  'titlePage.author',
  'titlePage.imprint',
  'titlePage.ornament',
  'breaks.sign',
  'heads.line',
  'heads.folio',
  'contents.first',
  'contents.second',
  'contents.third',
  'contents.leader',
  'subheads.first',
  'subheads.second',
] as const;
export type LinePart = (typeof LINE_PARTS)[number];

/** In a line's flags the part stands above the facts of the line. */
export const PART_SHIFT = 8;
export const PART_MASK = 0xff << PART_SHIFT;
export const partNumber = (part: LinePart): number => LINE_PARTS.indexOf(part);
export const partOf = (flags: number): LinePart => LINE_PARTS[(flags & PART_MASK) >> PART_SHIFT] ?? '';
