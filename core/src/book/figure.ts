/** Where a figure stands. */
import type { Node } from 'prosemirror-model';
import { kindRule, type SectionKind } from './kinds';

export const FIGURE_PLACES = ['here', 'above', 'head', 'foot', 'page', 'edges', 'spread'] as const;
export type FigurePlace = (typeof FIGURE_PLACES)[number];

/** A wider picture leaves no room for words beside it; hundredths of the measure. */
export const WIDEST_BESIDE = 60;

const WORDLESS: readonly FigurePlace[] = ['edges', 'spread'];
const WHOLE: readonly FigurePlace[] = ['page', ...WORDLESS];

const hasCaption = (n: Node): boolean => n.textContent.trim() !== '' || n.attrs.credit !== '';

/** The place as it is set: words have no room over a page's edges, so a caption keeps a picture within the margins. */
export function placeOf(n: Node): FigurePlace {
  const asked = FIGURE_PLACES.find((p) => p === n.attrs.place) ?? 'here';
  return WORDLESS.includes(asked) && hasCaption(n) ? 'page' : asked;
}
/** Whether it fills pages of its own. */
export const fillsPages = (n: Node): boolean => WHOLE.includes(placeOf(n));

/** The side on which it stands with text beside it; null for one that stands alone. */
export function besideText(n: Node): 'left' | 'right' | null {
  const side = n.attrs.beside as string;
  const narrow = Number(n.attrs.width) <= WIDEST_BESIDE;
  return placeOf(n) === 'here' && narrow && (side === 'left' || side === 'right') ? side : null;
}

/** Pictures that stand above a section's title: the first blocks of one that has a heading, where they ask for it. */
export function picturesAbove(section: { kind: SectionKind; content: Node }): Node[] {
  if (kindRule(section.kind).opening !== 'heading') return [];
  const above: Node[] = [];
  for (const n of section.content.children) {
    if (n.type.name !== 'figure' || placeOf(n) !== 'above') break;
    above.push(n);
  }
  return above;
}

/** What is said in a picture's place to those who do not see it; '' for one that is decorative or says nothing yet. */
export const altOf = ({ attrs }: Node): string => (attrs.decorative ? '' : (attrs.alt as string).trim());
