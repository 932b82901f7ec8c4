/** Where comments stand on pages that have changed since they were written. */
import type { Comment, Impression } from '@pagina/core/proof';
import type { Composed } from '@/workers/messages';

/** By the paragraph it is about, else by the page as it was; null where both are gone. */
export function commentPage(c: Comment, composed: Composed, now: Impression | null): number | null {
  const { place, mark } = c.about;
  if (place) return composed.places[place.block]?.[0] ?? null;
  const same = now?.views.findIndex((v) => v.mark === mark) ?? -1;
  if (same >= 0) return same;
  const named = composed.pages.findIndex((p) => p.label !== '' && p.label === c.about.label);
  return named >= 0 ? named : null;
}

export interface CommentedLine {
  /** '' for the page as a whole. */
  block: string;
  offset: number;
}
export const commentLine = ({ about }: Comment): CommentedLine => ({
  block: about.place?.block ?? '',
  offset: about.place?.offset ?? 0,
});
