/** What a manuscript that is made here holds, as its maker knows it. Makers share this shape and no code. */
export interface TrueSection {
  kind: 'part' | 'chapter' | 'other';
  number: number | null;
  title: string;
}
export interface Truth {
  title: string;
  author: string;
  /** In order; contents, title page, dedication and the like are left out. */
  sections: TrueSection[];
  counts: {
    letters: number;
    verse: number;
    quotations: number;
    breaks: number;
    lists: number;
    captions: number;
    subheads: number;
  };
  /** Lines that stand out and head nothing. */
  notHeadings: string[];
}
export interface Made {
  name: string;
  bytes: Uint8Array;
  truth: Truth;
}
