/** Dividing a section before one of its blocks, and joining it to the one before. No word is lost in either. */
import { Fragment, type Node } from 'prosemirror-model';
import { done, refused, type Outcome } from '../base';
import {
  isPictured,
  kindRule,
  schema,
  sectionToJson,
  textReplaced,
  withFreshIds,
  type Book,
  type Change,
  type Section,
} from '../book';
import { captionsListedBy } from './contents';
import { isFromRecord } from './fromrecord';
import { headingIn } from './headingin';
import { makesIndex } from './index-entries';
import { ledOn } from './leading';

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

/** A section's blocks, notes aside, before one of them and from it on; a quotation or a letter is cut in two. */
function cutBefore(section: Section, blockId: string): { head: Node[]; tail: Node[] } | null {
  const blocks: Node[] = [];
  section.content.forEach((n) => {
    if (n.type.name !== 'noteBody') blocks.push(n);
  });
  const at = blocks.findIndex((n) => n.attrs.id === blockId);
  if (at >= 0) return { head: blocks.slice(0, at), tail: blocks.slice(at) };
  for (const [i, block] of blocks.entries()) {
    if (!/^(quotation|letter|passage)$/.test(block.type.name)) continue;
    let from = -1;
    block.forEach((child, offset) => {
      if (child.attrs.id === blockId && child.type.name === 'paragraph') from = offset;
    });
    if (from < 0) continue;
    const above = from > 0 ? [block.copy(block.content.cut(0, from))] : [];
    return {
      head: [...blocks.slice(0, i), ...above],
      tail: [block.copy(block.content.cut(from)), ...blocks.slice(i + 1)],
    };
  }
  return null;
}

/**
 * Divides a section before one of its lines. A line that heads what follows (a subhead, a number, a short line that ends
 * as titles do) gives it its title and its number and leaves the text.
 */
export function divide(book: Book, id: string, blockId: string, newId: () => string): Outcome<Change> {
  const index = indexOf(book, id);
  const section = book.sections[index];
  if (!section) return refused('order/gone', 'The section has been deleted in the meantime.');
  const cut = cutBefore(section, blockId);
  if (!cut || cut.head.length === 0)
    return refused('order/divide', 'There is no text above this point to split off.');
  const heading =
    isPictured(section.content) || cut.tail[0]?.type.name === 'break' ? null : headingIn(cut.tail);
  const body = heading?.rest ?? (cut.tail[0]?.type.name === 'break' ? cut.tail.slice(1) : cut.tail);
  const refs = notesCalled(Fragment.fromArray(cut.tail));
  const called = heading ? withCalls(cut.tail, body) : body;
  const notes = (mine: boolean): Fragment =>
    fragmentOf(section, (name, _i, note) => name === 'noteBody' && refs.has(note) === mine);
  const blocks = called.length > 0 ? called : [schema.node('paragraph', { id: '' })];
  const content = withFreshIds(
    schema.node('doc', null, Fragment.fromArray(blocks).append(notes(true))),
    newId,
  );
  const fresh: Section = {
    ...section,
    id: newId(),
    title: '',
    subtitle: '',
    number: null,
    ...heading?.fields,
    content,
  };
  // A line that heads the new section is gone from the text: what led to it leads to the section.
  const there = idsIn(content);
  const gone = new Set(cut.tail.map((n) => n.attrs.id as string).filter((block) => !there.has(block)));
  const to = (target: string): string | null => {
    const [, block = ''] = target.split('#');
    return gone.has(block) ? fresh.id : null;
  };
  const head = schema.node('doc', null, Fragment.fromArray(cut.head).append(notes(false)));
  return done({
    type: 'group',
    label: 'Split the section',
    changes: [
      textReplaced(section, ledOn(head, to)),
      {
        type: 'insert-section',
        index: index + 1,
        section: sectionToJson({ ...fresh, content: ledOn(content, to) }),
      },
      ...ledOnIn(book, [id], to),
    ],
  });
}

function idsIn(content: Node): Set<string> {
  const ids = new Set<string>();
  content.descendants((n) => void (typeof n.attrs.id === 'string' && ids.add(n.attrs.id)));
  return ids;
}

/** The texts of the other sections, where something in them has to be led on. */
function ledOnIn(book: Book, but: readonly string[], to: (target: string) => string | null): Change[] {
  return book.sections.flatMap((s): Change[] => {
    const content = but.includes(s.id) ? s.content : ledOn(s.content, to);
    return content === s.content ? [] : [textReplaced(s, content)];
  });
}

/** Calls of notes in the lines that became a heading go to the end of the first paragraph below. */
function withCalls(all: readonly Node[], rest: readonly Node[]): Node[] {
  const left = notesCalled(Fragment.fromArray([...rest]));
  const calls: Node[] = [];
  Fragment.fromArray([...all]).descendants((n) => {
    if (n.type.name === 'note' && !left.has(n.attrs.ref as string)) calls.push(n);
  });
  const at = calls.length === 0 ? -1 : rest.findIndex((n) => n.type.name === 'paragraph');
  if (calls.length === 0) return [...rest];
  if (at < 0) return [schema.node('paragraph', { id: '' }, calls), ...rest];
  const first = rest[at] as Node;
  return [
    ...rest.slice(0, at),
    first.copy(first.content.append(Fragment.fromArray(calls))),
    ...rest.slice(at + 1),
  ];
}

/** Whether a page shows what is made from the book, and no text of its own. */
const makesItself = (s: Section, book: Book): boolean =>
  s.kind === 'contents' || captionsListedBy(s) !== null || makesIndex(s) || isFromRecord(s, book.record);

/** Joins a section to the one before it; its title stays in the text as a subhead, so that no word is lost. */
export function join(book: Book, id: string, newId: () => string): Outcome<Change> {
  const index = indexOf(book, id);
  const section = book.sections[index];
  const before = book.sections[index - 1];
  if (!section || !before) return refused('order/join', 'There is no section above to join it to.');
  if (makesItself(before, book))
    return refused(
      'order/join-made',
      `“${before.title || kindRule(before.kind).label}” is made from the book itself, so text joined to it wouldn’t be shown. Move one of the two first.`,
    );
  const lines = [section.title, section.subtitle].filter(Boolean);
  const pictured = isPictured(section.content);
  if (pictured !== isPictured(before.content))
    return refused(
      'order/join-pages',
      'One of the two is laid out in picture pages and the other is running text. Lay out both or neither, and then join them.',
    );
  if (pictured && lines.length > 0)
    return refused(
      'order/join-title',
      `Picture pages have no subheads, so the title “${lines[0]}” would be lost. Remove it first, or write it on a page.`,
    );
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
  const begins = (heads[0] ?? section.content.firstChild)?.attrs.id as string | undefined;
  const to = (target: string): string | null => (target === id ? `${before.id}#${begins}` : null);
  return done({
    type: 'group',
    label: 'Join with previous',
    changes: [
      ...children,
      { type: 'remove-section', id },
      textReplaced(before, ledOn(before.content.copy(all), to)),
      ...ledOnIn(book, [id, before.id], to),
    ],
  });
}
