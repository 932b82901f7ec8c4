import { attachedTo, productKeyOf } from '@pagina/core/book';
import { outdated } from '@pagina/core/proof';
import type { Product } from '@pagina/data';
import { useBook, useComposed } from '@/title/context';

/** Why a file is no longer its edition’s, in a sentence; null while it is, and where there is none. */
export function useOutdated(file: Product | null): string | null {
  const { book, revision, products } = useBook();
  const { composed } = useComposed();
  if (!file) return null;
  const of = productKeyOf(file.edition).edition ?? '';
  const supplied = products.find((p) => p.edition === attachedTo(of, 'attached-pages'));
  const pages = supplied?.pages ?? (composed?.edition === of ? composed.pages.length : 0);
  return outdated(file, { book, revision, pages });
}
