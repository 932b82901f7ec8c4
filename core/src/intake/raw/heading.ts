/** A paragraph that may head a section, with the reason and how sure it is. */
import type { SectionKind } from '../../book';

export interface HeadingGuess {
  /** Index of the paragraph among the blocks. */
  at: number;
  kind: SectionKind;
  /** Subheads stay in the text; 0 for section headings. */
  subhead: 0 | 1 | 2 | 3;
  title: string;
  subtitle: string;
  /** Blocks that the heading takes up: the number line, the title line, the subtitle line. */
  span: number;
  /** "Chapter One" as it is typed; not kept as text, since the book numbers by order. '' for none. */
  label: string;
  numbered: boolean;
  /** The number that the manuscript gives; null for none. */
  number: number | null;
  score: number;
  reason: string;
  /** Known by a style, a number or words, not by looks alone. */
  firm: boolean;
  /** Style, looks and form of its line: headings with the same are of one sort. */
  look: string;
}
