/** Draws a cover's sheet as SVG, in the worker that has the faces open. */
import type { Book } from '@pagina/core/book';
import { coverSheet, drawingSvg } from '@pagina/core/cover';
import type { ComposeCache, TypeSource } from '@pagina/core/compose';
import { addressOf } from './addresses';
import type { CoverAsked, CoverShown } from './messages';

export async function coverShown(
  { book, edition, pages }: CoverAsked,
  source: TypeSource,
  cache: ComposeCache,
): Promise<CoverShown | { message: string }> {
  const whole: Book = { ...book, sections: [] };
  const made = await coverSheet(whole, edition, pages, { ...source, cache });
  if (!made.ok) return { message: made.refusal.message };
  const { drawing, geometry, parts, findings } = made.value;
  const addresses = new Map(book.pictures.map((p) => [p.id, addressOf(p)]));
  return {
    svg: drawingSvg(drawing, { href: (id) => addresses.get(id) ?? '' }),
    geometry,
    parts: [...parts],
    findings: [...findings],
  };
}
