/** The text of notes as paragraphs for a page's foot or for the end. */
import type { Node } from 'prosemirror-model';
import type { FlowBlock, LineItem, SetNote, Variant } from '../lines';
import { addInline, type MadeWords, type Paragraph } from '../lines';
import type { ParagraphForm, Setter } from './setter';

/** Gives each paragraph of a note, the first with the note's mark before it. */
export function noteParagraphs(
  s: Setter,
  note: Node,
  mark: string,
  made: MadeWords,
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
    addInline(builder, para, s.inline(manner, { ...made, noteMark: () => '' }));
    take(builder.done(), own, block);
  });
}

/** Notes for the feet of pages, by id. */
export function footNotes(
  s: Setter,
  notes: readonly Node[],
  made: MadeWords,
  form: ParagraphForm,
): Map<string, SetNote> {
  const found = new Map<string, SetNote>();
  for (const note of notes) {
    const id = note.attrs.id as string;
    const items: LineItem[] = [];
    noteParagraphs(s, note, made.noteMark(id), made, form, (p, own) =>
      items.push(...s.items(p, s.break(p, own), own)),
    );
    found.set(id, { id, items });
  }
  return found;
}

/** A block with the calls of those notes alone: for notes that stand elsewhere no page has to keep room. */
export function withCallsOf(b: FlowBlock, notes: ReadonlyMap<string, unknown>): FlowBlock {
  // A block that calls none calls none in its other lengths.
  if (b.best.notes.size === 0) return b;
  const only = (v: Variant): Variant => {
    if (v.notes.size === 0) return v;
    const rows = [...v.notes].map(([row, ids]) => [row, ids.filter((id) => notes.has(id))] as const);
    if (rows.every(([row, ids]) => ids.length === v.notes.get(row)?.length)) return v;
    return { ...v, notes: new Map(rows.filter(([, ids]) => ids.length > 0)) };
  };
  const { others } = b;
  return { ...b, best: only(b.best), others: others && (() => others().map(only)) };
}
