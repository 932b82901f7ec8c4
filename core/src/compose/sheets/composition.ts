/** A composed edition: its pages, where everything stands, and a report counted from the pages themselves. */
import type { Mp, Place } from '../../base';
import type { Interior } from '../../design';
import type { WordBook } from '../../type';
import type { Sheet } from './sheet';

export type Side = 'recto' | 'verso';

export interface Page {
  /** 0 up, counted through the file. */
  index: number;
  side: Side;
  /** What a reader would call it: "iv", "12". Counted also where it is not printed. */
  label: string;
  /** The section it belongs to; blanks belong to the one before. */
  section: string;
  blank: boolean;
  opens: boolean;
  body: Sheet;
  /** Head and folio. */
  furniture: Sheet;
  /** Rows of body text, and by how many it falls short of a full page. */
  used: number;
  shortfall: number;
  last: boolean;
}

/** What a page is drawn with. */
export interface PageSetting {
  interior: Interior;
  words: WordBook;
}

export interface Report {
  pages: number;
  lines: number;
  hyphenatedLines: number;
  longestHyphenLadder: number;
  overfullLines: number;
  looseLines: number;
  tightLines: number;
  widows: number;
  orphans: number;
  strandedHeadings: number;
  shortLastPages: number;
  unlevelSpreads: number;
  /** Justified lines that cannot be filled decently. */
  underfullLines: number;
  /** Characters that no face has, each as often as it occurs. */
  missingGlyphs: number;
  /** Notes that are called and stand on no page. */
  lostNotes: number;
  /** Boxes of words on picture pages that hold more than fits, and that stand where words may be cut off. */
  oversetBoxes: number;
  unsafeBoxes: number;
}

/** Where a paragraph is to be looked for: the defects that the report counts, with their page. */
export interface ReportMark {
  kind:
    | 'widow'
    | 'orphan'
    | 'stranded'
    | 'short-last'
    | 'unlevel'
    | 'overfull'
    | 'cut'
    | 'loose'
    | 'overset'
    | 'unsafe';
  page: number;
  place: Place;
}

export interface Composition {
  edition: string;
  interior: Interior;
  pages: readonly Page[];
  /** What is drawn beyond each edge of the pages and cut off; 0 where no picture reaches an edge. */
  bleed: Mp;
  /** Glyphs of the words that the pages' lines name. */
  words: WordBook;
  /** First page of each section, by section id. */
  starts: ReadonlyMap<string, number>;
  report: Report;
  marks: readonly ReportMark[];
  /** Characters that no face has, with their place. */
  missing: readonly { char: string; place: Place }[];
}
