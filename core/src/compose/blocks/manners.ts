/** How a section's text is set. */
import type { Node } from 'prosemirror-model';
import type { NoteKind } from '../../book';
import type { NotePlaces } from '../../order';
import type { MadeWords } from '../lines';
import type { KeptParagraphs } from './kept';

/** Notes of one section, below its name. */
export interface GatheredNotes {
  label: string;
  notes: readonly { note: Node; mark: string }[];
}

/** How a section's text is set, besides what its blocks say. */
export interface FlowManners {
  /** Its first paragraph opens it: drop capital, opening words. */
  opens: boolean;
  /** In the size of notes, without indents: a copyright page. */
  small: boolean;
  /** Where its notes stand, by their kind. */
  notes: Pick<NotePlaces, NoteKind | 'signs'>;
  /** What references say, and what stands before captions. */
  words: Pick<MadeWords, 'reference' | 'captionLabel'>;
  /** Notes of other sections that are gathered in this one, with their marks. */
  gathered: readonly GatheredNotes[];
  /** Lines of its paragraphs where it is being written in; null where it is set for the first time. */
  kept: KeptParagraphs | null;
}
