/**
 * Lines of the paragraphs of a section that is being written in. A change touches one paragraph; the others are found
 * here as they were set, so that a chapter of a thousand pages is right again almost as soon as one of ten.
 */
import type { Node } from 'prosemirror-model';
import type { Variant } from '../lines';
import type { Broken } from '../lines';
import type { MadeWords, Paragraph } from '../lines';
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
  /** Words that are made in it. */
  made: string;
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

  /** The paragraph of a block as it is set in that form; set again where block, form or the words made in it changed. */
  set(node: Node, form: ParagraphForm, made: MadeWords): SetParagraph {
    const id = node.attrs.id as string;
    const known = this.before.get(id);
    const key = JSON.stringify(form);
    const words = madeIn(node, made);
    if (known && known.form === key && known.node.eq(node) && known.made === words) {
      this.now.set(id, known);
      return known.set;
    }
    const set = linesOf(this.s, this.s.paragraph(node, form, made), form);
    this.now.set(id, { node, form: key, made: words, set });
    return set;
  }
}

/** What is made in a paragraph: marks of notes, references. */
function madeIn(node: Node, made: MadeWords): string {
  const words: string[] = [];
  node.forEach((n) => {
    if (n.type.name === 'note') words.push(made.noteMark(n.attrs.ref as string));
    if (n.type.name === 'reference') words.push(made.reference(n));
  });
  return words.join('|');
}

/** A paragraph that is ready for line breaking, broken; an empty one has no lines. */
export function linesOf(s: Setter, paragraph: Paragraph, form: ParagraphForm): SetParagraph {
  const broken: Broken = paragraph.pieces.length > 0 ? s.break(paragraph, form) : { lines: [], demerits: 0 };
  return { paragraph, broken, best: s.variant(paragraph, broken, form), others: null };
}
