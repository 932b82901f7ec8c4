/** The same thing done at several places, one after the other, as one change with one undo. */
import type { Node } from 'prosemirror-model';
import { done, refused, type Outcome } from '../base';
import { apply, type Book, type Change } from '../book';

/** Places where it cannot be done are passed over. Errors: `order/nothing` where it can be done nowhere. */
export function inTurn<T>(
  book: Book,
  places: readonly T[],
  label: string,
  each: (book: Book, place: T) => Outcome<Change>,
): Outcome<Change> {
  const changes: Change[] = [];
  let now = book;
  for (const place of places) {
    const change = each(now, place);
    if (!change.ok) continue;
    const applied = apply(now, change.value);
    if (!applied.ok) continue;
    changes.push(change.value);
    now = applied.value.book;
  }
  return changes.length > 0
    ? done({ type: 'group', label, changes })
    : refused('order/nothing', 'There are no other places to do this.');
}

/** Words with what they quote or count left out: "Chapter 7" and "Chapter 12" are of one sort. */
export const sortOf = (words: string): string => words.replace(/"[^"]*"/g, '""').replace(/\d+/g, '#');

export interface PlaceToDivide {
  section: string;
  block: string;
}

/** How a block looks as a place to divide at: a subhead's level, or a short line but for its numbers; null for text. */
export function looksToDivide(book: Book, at: PlaceToDivide): string | null {
  let looks: string | null = null;
  book.sections
    .find((s) => s.id === at.section)
    ?.content.forEach((n) => {
      if (n.attrs.id === at.block) looks = looksOf(n);
    });
  return looks;
}

/** Blocks of the body that look so and have text above them in their section; from the last to the first. */
export function placesThatLook(book: Book, looks: string): PlaceToDivide[] {
  const places: PlaceToDivide[] = [];
  for (const s of book.sections)
    if (s.matter === 'body')
      s.content.forEach((n, _offset, i) => {
        if (i > 0 && looksOf(n) === looks) places.push({ section: s.id, block: n.attrs.id as string });
      });
  return places.reverse();
}

function looksOf(n: Node): string | null {
  if (n.type.name === 'subhead') return `subhead ${Number(n.attrs.level)}`;
  const text = n.textContent.trim();
  return n.type.name === 'paragraph' && text !== '' && text.length < 60 ? sortOf(text) : null;
}
