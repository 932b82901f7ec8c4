/** Words that were set aside while reading, put back into the text. */
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { done, refused, type Outcome } from '../base';
import { schema, type Book, type Change } from '../book';

/** Text set aside while reading becomes a paragraph at the end of its section, before the section's notes. */
export function putBack(
  book: Book,
  sectionId: string | null,
  text: string,
  newId: () => string,
): Outcome<Change> {
  const section = book.sections.find((s) => s.id === sectionId) ?? book.sections[0];
  if (!section) return refused('order/empty', 'The book has no section to put the words into.');
  const doc = section.content;
  let end = 0;
  doc.forEach((n) => {
    if (n.type.name !== 'noteBody') end += n.nodeSize;
  });
  const paragraph = schema.node('paragraph', { id: newId() }, [schema.text(text)]);
  const only = doc.firstChild;
  const from = doc.childCount === 1 && only?.type.name === 'paragraph' && only.content.size === 0 ? 0 : end;
  const step = new ReplaceStep(from, end, new Slice(Fragment.from(paragraph), 0, 0));
  return done({
    type: 'group',
    label: 'Restore words that were set aside',
    changes: [{ type: 'text', section: section.id, steps: [step.toJSON()] }],
  });
}
