'use client';
/** The difference of what is proofed from a file that was made earlier. */
import { useMemo, useState } from 'react';
import { matchViews, type Impression, type Match } from '@pagina/core/proof';
import type { Product } from '@pagina/data';
import { useBook } from '@/title/context';
import { useFileImpression } from './useProofing';

export interface Changes {
  /** Files with which one can compare, newest first. */
  files: readonly Product[];
  compared: Product | null;
  compare: (product: string) => void;
  before: Impression | null;
  /** Null until both are known. */
  matches: readonly Match[] | null;
}

/** `now` is what is proofed. `except` leaves out its own file. */
export function useChanges(edition: string, now: Impression | null, except?: string): Changes {
  const { products } = useBook();
  const files = useMemo(
    () => products.filter((p) => p.edition === edition && p.impression !== '' && p.sha256 !== except),
    [products, edition, except],
  );
  const [chosen, compare] = useState<string | null>(null);
  // What was signed off is what one wants to know the difference from.
  const compared =
    files.find((p) => p.id === chosen) ?? files.find((p) => p.signedOffAt !== null) ?? files[0] ?? null;
  const before = useFileImpression(compared);
  const matches = useMemo(() => before && now && matchViews(before.views, now.views), [before, now]);
  return { files, compared, compare, before, matches };
}
