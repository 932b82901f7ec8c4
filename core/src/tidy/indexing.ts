/** The index as it is worked on: every occurrence of some words marked, entries renamed, put together, or taken out. */
import type { Mark, Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { Outcome } from '../base';
import { schema, type Book, type Change } from '../book';
import { termParts } from '../order';
import type { TextEdit } from './edits';
import { findAll, type TextQuery } from './find';

export type Sought = Pick<TextQuery, 'find' | 'matchCase' | 'wholeWords'>;

/** Places of the text where those words stand without bearing the entry; `changeOfEdits` marks them. */
export function occurrences(book: Book, sought: Sought, term: string): Outcome<TextEdit[]> {
  const found = findAll(book, { ...sought, by: '', pattern: false, place: 'everywhere' });
  if (!found.ok) return found;
  const marked = new Map<string, Node>();
  for (const s of book.sections)
    s.content.descendants((n) => {
      if (n.isTextblock) marked.set(`${s.id}#${n.attrs.id as string}`, n);
      return !n.isTextblock;
    });
  const free = (e: TextEdit): boolean => {
    const block = marked.get(`${e.section}#${e.block}`);
    return (
      block !== undefined &&
      !block.type.spec.code &&
      !schema.mark('indexed', { term }).isInSet(block.nodeAt(e.from)?.marks ?? [])
    );
  };
  return {
    ok: true,
    value: found.value.filter((e) => !e.field && free(e)).map((e) => ({ ...e, index: term })),
  };
}

/** What an entry becomes under another name; null for one that is not meant. */
type Renamed = (marked: string) => string | null;

/** An entry under another name, with what stands under it; two of one name become one. Null where nothing changes. */
export function renamedEntry(book: Book, from: string, to: string): Change | null {
  const [term, under] = termParts(from);
  const renamed = (marked: string): string => {
    const [t, u] = termParts(marked);
    if (t !== term || (under !== '' && u !== under)) return marked;
    return under === '' && u !== '' ? `${to}: ${u}` : to;
  };
  return changed(book, `Rename the index entry “${from}”`, renamed);
}

/** An entry taken out, with what stands under it; the text stays. */
export function withoutEntry(book: Book, entry: string): Change | null {
  const [term, under] = termParts(entry);
  const kept = (marked: string): string | null => {
    const [t, u] = termParts(marked);
    return t === term && (under === '' || u === under) ? null : marked;
  };
  return changed(book, `Delete the index entry “${entry}”`, kept);
}

function changed(book: Book, label: string, renamed: Renamed): Change | null {
  const changes: Change[] = [];
  for (const { id, content } of book.sections) {
    const tr = new Transform(content);
    content.descendants((n, pos) => {
      for (const mark of n.marks) if (mark.type.name === 'indexed') remark(tr, pos, n, mark, renamed);
    });
    if (tr.docChanged)
      changes.push({ type: 'text', section: id, steps: tr.steps.map((s) => s.toJSON() as unknown) });
  }
  const see = book.indexSee.flatMap((s) => {
    const term = renamed(s.term);
    const to = renamed(s.to);
    return term !== null && to !== null && term !== to ? [{ term, to }] : [];
  });
  if (JSON.stringify(see) !== JSON.stringify(book.indexSee)) changes.push({ type: 'set-index-see', see });
  return changes.length > 0 ? { type: 'group', label, changes } : null;
}

function remark(tr: Transform, pos: number, n: Node, mark: Mark, renamed: Renamed): void {
  const term = renamed(mark.attrs.term as string);
  if (term === mark.attrs.term) return;
  tr.removeMark(pos, pos + n.nodeSize, mark);
  if (term !== null) tr.addMark(pos, pos + n.nodeSize, schema.mark('indexed', { term }));
}
