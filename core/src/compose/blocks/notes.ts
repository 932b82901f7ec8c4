/** Notes of a section: their numbers, and their text as paragraphs for a page's foot or for the end. */
import type { Node } from 'prosemirror-model';
import type { FlowBlock, Variant } from '../lines';
import { addInline, type Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';

/** Notes are numbered through a section, 1 up, in the order of their calls. */
export function noteNumbers(doc: Node): Map<string, string> {
  const numbers = new Map<string, string>();
  doc.descendants((n) => {
    if (n.type.name === 'note' && !numbers.has(n.attrs.ref as string))
      numbers.set(n.attrs.ref as string, String(numbers.size + 1));
  });
  return numbers;
}

/** A section's notes in the order of their calls, whatever the order they are kept in; those that nothing calls come last. */
export function notesIn(doc: Node): Node[] {
  const notes: Node[] = [];
  doc.forEach((n) => {
    if (n.type.name === 'noteBody') notes.push(n);
  });
  if (notes.length < 2) return notes;
  const place = new Map([...noteNumbers(doc).keys()].map((ref, i) => [ref, i]));
  const of = (n: Node): number => place.get(n.attrs.id as string) ?? Infinity;
  return notes.sort((a, b) => (of(a) === of(b) ? 0 : of(a) - of(b)));
}

/** Gives each paragraph of a note, the first with the note's mark before it. */
export function noteParagraphs(
  s: Setter,
  note: Node,
  mark: string,
  form: ParagraphForm,
  take: (p: Paragraph, form: ParagraphForm, block: string) => void,
): void {
  const { manner } = form;
  note.forEach((para, _offset, i) => {
    const own = { ...form, indent: i === 0 ? 0 : manner.size };
    const block = para.attrs.id as string;
    const builder = s.builder(block, own);
    if (i === 0)
      builder
        .text(mark, s.superior(manner))
        .gap(Math.round(manner.size / 3), s.style(manner))
        .skip(-mark.length);
    addInline(builder, para, {
      styleFor: (t) => s.style(manner, t.marks),
      noteMark: () => ({ mark: '', style: s.superior(manner) }),
    });
    take(builder.done(), own, block);
  });
}

/** A block whose notes stand elsewhere: no page has to keep room for them. */
export const withoutCalls = (b: FlowBlock): FlowBlock => {
  const bare = (v: Variant): Variant => (v.notes.size === 0 ? v : { ...v, notes: NO_NOTES });
  const { others } = b;
  return { ...b, best: bare(b.best), others: others && (() => others().map(bare)) };
};
const NO_NOTES: Variant['notes'] = new Map();
