/**
 * What a file is made of, as one id that jobs and products carry: an edition as it stands, the same pages for the screen,
 * its cover's sheet or an empty one, an ebook for one outlet, or the manuscript itself.
 */
export interface ProductKey {
  /** Null for the manuscript. */
  edition: string | null;
  form: 'whole' | 'screen' | 'cover' | 'template' | 'outlet' | Attached;
  /** Of `form` outlet. */
  outlet: string | null;
}

/** A PDF that someone else made for a print edition: a designer’s cover, or a supplied interior. */
export type Attached = 'attached-cover' | 'attached-pages';

/** The manuscript as a word-processor file. */
export const MANUSCRIPT = 'manuscript';
const PARTS = ['screen', 'attached-cover', 'attached-pages', 'cover', 'template'] as const;
const OUTLET = '/for/';

/** A print edition's pages as a PDF for the screen. */
export const forScreen = (edition: string): string => `${edition}/screen`;
/** The sheet of a print edition's cover. */
export const coverOf = (edition: string): string => `${edition}/cover`;
/** An empty sheet for a designer. */
export const templateOf = (edition: string): string => `${edition}/template`;
export const attachedTo = (edition: string, what: Attached): string => `${edition}/${what}`;
/** An ebook, or the manuscript, whose links to books in a shop lead to this outlet. */
export const forOutlet = (edition: string, outlet: string): string => edition + OUTLET + outlet;

export function productKeyOf(id: string): ProductKey {
  const form = PARTS.find((p) => id.endsWith(`/${p}`));
  if (form) return { edition: id.slice(0, -form.length - 1), form, outlet: null };
  const at = id.indexOf(OUTLET);
  const of = at < 0 ? id : id.slice(0, at);
  const edition = of === MANUSCRIPT ? null : of;
  return at < 0
    ? { edition, form: 'whole', outlet: null }
    : { edition, form: 'outlet', outlet: id.slice(at + OUTLET.length) };
}
