/** Layouts that a picture page can take at once: where its picture and its words stand. */
import { WHOLE_PAGE, type Frame } from './picturepage';

export const PAGE_LAYOUTS = ['picture', 'below', 'above', 'beside', 'over', 'words'] as const;
export type PageLayout = (typeof PAGE_LAYOUTS)[number];

export interface LaidOut {
  picture: Frame;
  /** Where all the words stand, one box below the other. */
  words: Frame;
}

/**
 * Frames of a layout. Words keep half an inch and more from the edges of a page of common size, and on a spread from the
 * fold (common practice).
 */
export function layoutOf(layout: PageLayout, across: boolean): LaidOut {
  // On a spread the words keep to one page.
  const column: Frame = across ? [560, 100, 380, 800] : [90, 90, 820, 820];
  switch (layout) {
    case 'picture':
      return { picture: WHOLE_PAGE, words: column };
    case 'below':
      return { picture: [0, 0, 1000, 720], words: across ? [60, 760, 380, 170] : [90, 760, 820, 170] };
    case 'above':
      return { picture: [0, 280, 1000, 720], words: across ? [60, 70, 380, 170] : [90, 70, 820, 170] };
    case 'beside':
      return across
        ? { picture: [0, 0, 500, 1000], words: [560, 100, 380, 800] }
        : { picture: [0, 0, 560, 1000], words: [600, 90, 310, 820] };
    case 'over':
      return { picture: WHOLE_PAGE, words: across ? [560, 700, 380, 220] : [90, 700, 820, 220] };
    case 'words':
      return { picture: WHOLE_PAGE, words: column };
  }
}

/** Room for that many boxes in a frame, one below the other. */
export function shared([x, y, width, height]: Frame, boxes: number): Frame[] {
  const each = Math.floor(height / Math.max(1, boxes));
  return Array.from({ length: boxes }, (_, i): Frame => [x, y + i * each, width, each]);
}
