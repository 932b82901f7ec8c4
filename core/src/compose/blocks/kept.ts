/**
 * Lines of the paragraphs of a section that is being written in. A change touches one paragraph; the others are found
 * here as they were set, so that a chapter of a thousand pages is right again almost as soon as one of ten.
 */
import type { Node } from 'prosemirror-model';
import type { Variant } from '../lines';
import type { Broken } from '../lines';
import type { Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';
import { Trail } from '../pages';

/** A paragraph with its best lines; its other lengths once they have been asked for. */
export interface SetParagraph {
  paragraph: Paragraph;
  broken: Broken;
  best: Variant;
  others: Variant[] | null;
}

interface Entry {
  node: Node;
  form: string;
  /** Marks of the notes that it calls. */
  marks: string;
  set: SetParagraph;
}

export class KeptParagraphs {
  /** By block: those of the composition before, and those of this one. */
  private before: ReadonlyMap<string, Entry> = new Map();
  private now = new Map<string, Entry>();
  /** How its pages were found. */
  readonly trail = new Trail();

  constructor(readonly s: Setter) {}

  /** Begins a composition; what the one before did not use is let go. */
  begin(): this {
    this.before = this.now;
    this.now = new Map();
    return this;
  }

  /** The paragraph of a block as it is set in that form; set again where block, form or the marks of its notes changed. */
  set(node: Node, form: ParagraphForm, markOf: (ref: string) => string): SetParagraph {
    const id = node.attrs.id as string;
    const known = this.before.get(id);
    const key = JSON.stringify(form);
    if (known && known.form === key && known.node.eq(node) && known.marks === marksOf(known, markOf)) {
      this.now.set(id, known);
      return known.set;
    }
    const set = linesOf(this.s, this.s.paragraph(node, form, markOf), form);
    const entry = { node, form: key, marks: '', set };
    entry.marks = marksOf(entry, markOf);
    this.now.set(id, entry);
    return set;
  }
}

const marksOf = ({ set }: Entry, markOf: (ref: string) => string): string =>
  set.paragraph.notes.map((n) => markOf(n.ref)).join(' ');

/** A paragraph that is ready for line breaking, broken; an empty one has no lines. */
export function linesOf(s: Setter, paragraph: Paragraph, form: ParagraphForm): SetParagraph {
  const broken: Broken = paragraph.pieces.length > 0 ? s.break(paragraph, form) : { lines: [], demerits: 0 };
  return { paragraph, broken, best: s.variant(paragraph, broken, form), others: null };
}
