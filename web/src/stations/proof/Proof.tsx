'use client';
/** Proof: what readers will have in hand. Pages of a print edition, the file of an ebook on the screens it is read on. */
import { editionOf, isPrint } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { EbookProof } from './EbookProof';
import { PagesProof } from './PagesProof';

export function Proof() {
  const { book, edition } = useBook();
  const shown = editionOf(book, edition);
  return shown && !isPrint(shown) ? <EbookProof key={shown.id} edition={shown} /> : <PagesProof />;
}
