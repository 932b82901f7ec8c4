/** The changes by which a book's parents agree with its order again. */
import type { Change } from './changes';
import type { Book } from './model';
import { settle } from './settle';

/**
 * What has to be done to a book so that its parents agree with its order; nothing in almost all cases. Two moves that
 * are each sound can contradict each other when they come from two windows.
 */
export function settling(book: Pick<Book, 'sections'>): Change[] {
  const settled = settle(book.sections);
  return book.sections.flatMap((s, i): Change[] => {
    const parent = settled[i]?.parent ?? null;
    return parent === s.parent ? [] : [{ type: 'set-section', id: s.id, fields: { parent } }];
  });
}
