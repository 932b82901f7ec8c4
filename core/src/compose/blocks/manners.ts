/** How a section's text is set. */
import type { Node } from 'prosemirror-model';
import type { KeptParagraphs } from './kept';

/** How a section's text is set, besides what its blocks say. */
export interface FlowManners {
  /** Its first paragraph opens it: drop capital, opening words. */
  opens: boolean;
  /** In the size of notes, without indents: a copyright page. */
  small: boolean;
  /** Where its notes stand: at the feet of its pages, after its text, or in another section. */
  notes: 'foot' | 'after' | 'elsewhere';
  /** Notes of other sections that are gathered in this one. */
  gathered: readonly { label: string; content: Node }[];
  /** Lines of its paragraphs where it is being written in; null where it is set for the first time. */
  kept: KeptParagraphs | null;
}
