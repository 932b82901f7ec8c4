/** Other titles that a book is related to: each is named there as it is named here. */
import * as z from 'zod';

/** How a title is to another; the codes of ONIX (list 51, from memory) are the message's. */
export const RELATIONS = ['same-author', 'similar', 'replaces', 'replaced-by'] as const;
export type Relation = (typeof RELATIONS)[number];

/** As one says what the other title is to this one. */
export const RELATION_NAMES: Record<Relation, string> = {
  'same-author': 'By the same author',
  similar: 'Similar to this book',
  replaces: 'Replaced by this book',
  'replaced-by': 'Replaces this book',
};
/** What this title is to the other. */
export const INVERSE: Record<Relation, Relation> = {
  'same-author': 'same-author',
  similar: 'similar',
  replaces: 'replaced-by',
  'replaced-by': 'replaces',
};

export const relatedSchema = z.object({
  /** Id of the title, and what it is called and sold by: as its own record said when it was last looked at. */
  title: z.string(),
  name: z.string(),
  relation: z.enum(RELATIONS),
  /** ISBNs of its print edition and its ebook; '' for none. */
  print: z.string().default(''),
  ebook: z.string().default(''),
});
export type RelatedTitle = z.infer<typeof relatedSchema>;

/** A title as another's record names it. */
export const namedAs = (
  { id, name, print, ebook }: { id: string; name: string; print: string; ebook: string },
  relation: Relation,
): RelatedTitle => ({ title: id, name, relation, print, ebook });

export interface OtherBook {
  name: string;
  /** By which it is found in shops; '' where that isn't known. */
  isbn: string;
}
/** The author's other books, for the page "also by": related titles, then those that are named alone. */
export function otherBooks({
  alsoBy,
  related,
}: {
  alsoBy: readonly string[];
  related: readonly RelatedTitle[];
}): OtherBook[] {
  const linked = related
    .filter((r) => r.relation === 'same-author' && r.name.trim() !== '')
    .map((r) => ({ name: r.name.trim(), isbn: r.ebook || r.print }));
  const there = new Set(linked.map((b) => b.name.toLowerCase()));
  const named = alsoBy.map((t) => t.trim()).filter((t) => t !== '' && !there.has(t.toLowerCase()));
  return [...linked, ...named.map((name) => ({ name, isbn: '' }))];
}
