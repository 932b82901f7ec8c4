/** The front that a book shows. */
import type { Front } from './cover';
import type { Book, Picture } from './model';

/** The front that shows: what was chosen, else what there is. */
export const frontOf = (chosen: Front | null, picture: Picture | null): Front =>
  picture ? (chosen ?? 'bare') : 'open';

/** Whether ebooks show a front that is set here, and not the author's picture as it is. */
export function setsFront({ cover, record, pictures }: Pick<Book, 'cover' | 'record' | 'pictures'>): boolean {
  const picture = pictures.find((p) => p.id === record.cover) ?? null;
  return cover.front !== null && frontOf(cover.front, picture) !== 'bare';
}
