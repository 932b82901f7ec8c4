/** What a section is once its pages stand, before the book around it gives them numbers and heads. */
import type { Edge } from './pages';
import type { Composition, Sheet } from './sheets';

export interface SectionPages {
  section: string;
  pages: readonly SectionPage[];
  /** Defects at the pages' edges and in boxes of words, by page of the section. */
  faults: readonly (Edge | BoxFault)[];
  missing: Composition['missing'];
  /** Notes that it has and that stand on none of its pages, wholly or in part. */
  lostNotes: number;
}

export interface SectionPage {
  body: Sheet;
  used: number;
  shortfall: number;
  /** A picture covers it, edges and all: it bears neither head nor folio. */
  covered: boolean;
  /** Something on it reaches over the paper's edges, to be cut off with them. */
  bleeds: boolean;
}

/** What is wrong with a box of words; `page` counts from the section’s first. */
export interface BoxFault {
  /** It holds more words than fit, or stands where they may be cut off or lost in the fold. */
  kind: 'overset' | 'unsafe';
  page: number;
  block: string;
}
