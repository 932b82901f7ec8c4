/** The sections of another reading put into a book. */
import type { Node } from 'prosemirror-model';
import { done, refused, type Outcome } from '../base';
import { sectionToJson, type Book, type Change, type Placed, type Section } from '../book';
import { Adopting } from './adopting';
import { isFromRecord } from './fromrecord';
import { hasText } from './text';

/** Pages that the book makes itself need no text from a manuscript. */
export const takesPart = (s: Section, book: Book): boolean =>
  s.kind !== 'contents' && !(isFromRecord(s, book.record) && !hasText(s.content));

/** The part in which a section stands that is put below another. */
export const parentBelow = (above: Placed | undefined, s: Placed): string | null =>
  s.matter !== 'body' || s.kind === 'part' || above?.matter !== 'body'
    ? null
    : above.kind === 'part'
      ? above.id
      : above.parent;

/**
 * Adds the sections of another reading after one of the book's, parts and all. Pages that the book makes itself, and
 * those it has already, are left where they are.
 */
export function addAfter(
  book: Book,
  fresh: Book,
  afterId: string | null,
  newId: () => string,
): Outcome<Change> {
  const t = new Adopting(book, fresh, newId);
  const single = new Set(['title-page', 'copyright-page', 'half-title', 'contents']);
  const coming = fresh.sections.filter((s) => takesPart(s, fresh) && !single.has(s.kind));
  if (coming.length === 0) return refused('order/nothing', 'It contains no text to add.');
  const ids = new Map(coming.map((s) => [s.id, newId()]));
  for (const [other, id] of ids) t.section(other, id);
  const contents = coming.map((s) => t.take(s.content));
  const found = book.sections.findIndex((s) => s.id === afterId);
  const at = found >= 0 ? found : book.sections.findLastIndex((s) => s.matter === 'body');
  const above = book.sections[at];
  const changes = coming.map((s, i): Change => {
    const parent = s.parent === null ? parentBelow(above, s) : (ids.get(s.parent) ?? null);
    const section = {
      ...s,
      id: ids.get(s.id) as string,
      parent,
      leftOut: [],
      content: t.linked(contents[i] as Node),
    };
    return { type: 'insert-section', index: at + 1 + i, section: sectionToJson(section) };
  });
  return done({
    type: 'group',
    label: 'Add a manuscript',
    changes: withPictures(t, changes),
  });
}

export const withPictures = (t: Adopting, changes: Change[]): Change[] =>
  t.pictures.length === 0 ? changes : [{ type: 'add-pictures', pictures: t.pictures }, ...changes];
