/** The families that books are set in, all under the SIL Open Font License. Files are found by these names. */

export interface Family {
  name: string;
  /** Where its cuts are used: for text, or for headings beside it. */
  serif: boolean;
  /** What it is like, for choosing. */
  manner: string;
}

export const FAMILIES: readonly Family[] = [
  { name: 'EB Garamond', serif: true, manner: 'light, old-style, small on its body' },
  { name: 'Spectral', serif: true, manner: 'cool, contemporary, open' },
  { name: 'Literata', serif: true, manner: 'large on its body, sturdy, for long reading' },
  { name: 'Alegreya', serif: true, manner: 'lively, calligraphic' },
  { name: 'Vollkorn', serif: true, manner: 'dark and warm' },
  { name: 'Cormorant Garamond', serif: true, manner: 'fine, very small on its body; needs a large size' },
  { name: 'Source Serif 4', serif: true, manner: 'plain, even, transitional' },
  { name: 'Gentium Book Plus', serif: true, manner: 'quiet, with the widest range of languages' },
  { name: 'Source Sans 3', serif: false, manner: 'humanist, without serifs' },
];
export const FAMILY_NAMES = FAMILIES.map((f) => f.name);

/** Asked in this order for what a family lacks: languages first, then ornaments. */
export const FALLBACKS = ['Gentium Book Plus', 'EB Garamond'] as const;
export const MONOSPACE = 'Source Code Pro';
