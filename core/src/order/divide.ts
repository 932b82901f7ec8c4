/** Dividing a section before one of its blocks, and joining it to the one before. No word is lost in either. */
import { Fragment } from 'prosemirror-model';
import { done, refused, type Outcome } from '../base';
import {
  schema,
  sectionToJson,
  textReplaced,
  withFreshIds,
  type Book,
  type Change,
  type Section,
} from '../book';

const indexOf = (book: Book, id: string): number => book.sections.findIndex((s) => s.id === id);

/** Notes that the blocks between two positions call, so that they travel with their text. */
function notesCalled(blocks: Fragment): Set<string> {
  const refs = new Set<string>();
  blocks.descendants((n) => {
    if (n.type.name === 'note') refs.add(n.attrs.ref as string);
  });
  return refs;
}

function fragmentOf(section: Section, keep: (name: string, index: number, id: string) => boolean): Fragment {
  const kept: Parameters<typeof Fragment.fromArray>[0][number][] = [];
  section.content.forEach((n, _o, i) => {
    if (keep(n.type.name, i, n.attrs.id as string)) kept.push(n);
  });
  return Fragment.fromArray(kept);
}

/** Divides a section before one of its blocks; the block's text becomes the new title when it is a subhead. */
export function divide(book: Book, id: string, blockId: string, newId: () => string): Outcome<Change> {
  const index = indexOf(book, id);
  const section = book.sections[index];
  if (!section) return refused('order/gone', 'The section has been deleted in the meantime.');
  let at = -1;
  section.content.forEach((n, _o, i) => {
    if (n.attrs.id === blockId && n.type.name !== 'noteBody') at = i;
  });
  if (at <= 0) return refused('order/divide', 'There is no text above this point to split off.');
  const tailBlocks = fragmentOf(section, (name, i) => name !== 'noteBody' && i >= at);
  const refs = notesCalled(tailBlocks);
  const first = tailBlocks.child(0);
  const heads = first.type.name === 'subhead' || first.type.name === 'break';
  const title = first.type.name === 'subhead' ? first.textContent.trim() : '';
  const body = fragmentOf(section, (name, i, note) =>
    name === 'noteBody' ? refs.has(note) : i >= at + (heads ? 1 : 0),
  );
  const bodyHasText = body.childCount > 0 && body.child(0).type.name !== 'noteBody';
  const content = withFreshIds(
    schema.node(
      'doc',
      null,
      bodyHasText ? body : Fragment.from(schema.node('paragraph', { id: '' })).append(body),
    ),
    newId,
  );
  const head = fragmentOf(section, (name, i, note) => (name === 'noteBody' ? !refs.has(note) : i < at));
  const fresh: Section = { ...section, id: newId(), title, subtitle: '', content };
  return done({
    type: 'group',
    label: 'Split the section',
    changes: [
      textReplaced(section, head),
      { type: 'insert-section', index: index + 1, section: sectionToJson(fresh) },
    ],
  });
}

/** Joins a section to the one before it; its title stays in the text as a subhead, so that no word is lost. */
export function join(book: Book, id: string, newId: () => string): Outcome<Change> {
  const index = indexOf(book, id);
  const section = book.sections[index];
  const before = book.sections[index - 1];
  if (!section || !before) return refused('order/join', 'There is no section above to join it to.');
  const lines = [section.title, section.subtitle].filter(Boolean);
  const heads = lines.map((t, i) => schema.node('subhead', { id: newId(), level: i + 1 }, [schema.text(t)]));
  const isNote = (name: string): boolean => name === 'noteBody';
  const all = fragmentOf(before, (n) => !isNote(n))
    .append(Fragment.fromArray(heads))
    .append(fragmentOf(section, (n) => !isNote(n)))
    .append(fragmentOf(before, isNote))
    .append(fragmentOf(section, isNote));
  const children: Change[] = book.sections
    .filter((s) => s.parent === id)
    .map((s) => ({
      type: 'set-section',
      id: s.id,
      fields: { parent: before.kind === 'part' ? before.id : before.parent },
    }));
  return done({
    type: 'group',
    label: 'Join with previous',
    changes: [...children, { type: 'remove-section', id }, textReplaced(before, all)],
  });
}
