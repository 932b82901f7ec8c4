'use client';
/** What the checks say of the open title: the book, its pages, and the files made of it. */
import {
  createContext,
  useContext,
  useDeferredValue,
  useMemo,
  useSyncExternalStore,
  type ReactNode,
} from 'react';
import { formatISO } from 'date-fns';
import type { Finding } from '@pagina/core/base';
import { editionOf, placingAt, productKeyOf, type Book } from '@pagina/core/book';
import { checkHeld, checkListing, judged, type Judged } from '@pagina/core/check';
import { conflictsOf, meantOf, outletNamed } from '@pagina/core/outlets';
import type { Listing, Product } from '@pagina/data';
import { useBook, useTitle } from './context';

interface Found extends Judged {
  /** The book has not been checked yet. */
  checking: boolean;
}
const NONE: Found = { open: [], accepted: [], checking: true };
const FoundContext = createContext<Found>(NONE);

/** What an outlet would refuse concerns those titles that go there. */
export const concerns = (
  { outlet }: Finding,
  book: Pick<Book, 'placing'>,
  listings: readonly Listing[],
): boolean =>
  outlet === undefined || placingAt(book, outlet).chosen || listings.some((l) => l.outlet === outlet);

/** The newest file of each sort, with what was found in the file itself; what was found in the book is looked for anew. */
export function findingsOfFiles(
  products: readonly Product[],
  book: Pick<Book, 'editions' | 'placing'>,
  listings: readonly Listing[],
): Finding[] {
  const seen = new Set<string>();
  return products.flatMap((p) => {
    const edition = productKeyOf(p.edition).edition;
    if (seen.has(p.edition) || (edition !== null && !book.editions.some((e) => e.id === edition))) return [];
    seen.add(p.edition);
    return p.findings
      .filter((f) => !f.place && concerns(f, book, listings))
      .map((f) => ({ ...f, file: fileIn(p, f) }));
  });
}
/** A file within an ebook is named with the ebook's own name. */
const fileIn = (p: Product, { file }: Finding): string =>
  file === undefined || file === p.name ? p.name : `${p.name} › ${file}`;

/** What outlets list, held against the record; what was never there, or is on its way, is looked at when it has arrived. */
export function findingsOfListings(
  listings: readonly Listing[],
  products: readonly Product[],
  book: Pick<Book, 'record' | 'editions' | 'placing'>,
): Finding[] {
  return listings.flatMap((l) => {
    const edition = editionOf(book, l.edition);
    const outlet = outletNamed(l.outlet);
    if (!edition || !outlet || !l.listed || l.state === 'waiting') return [];
    const has = products.find((p) => p.sha256 === l.delivered);
    const newer = products.find(
      (p) => p.edition === edition.id && p.signedOffAt !== null && has && p.revision > has.revision,
    );
    return [
      ...(l.state === 'held' ? checkHeld({ outlet, edition, reasons: l.found.reasons }) : []),
      ...checkListing({ book, edition, outlet, listed: l.listed, newer: newer ?? null }),
    ];
  });
}

/** The value before, while one is like it. */
function useSame<T>(value: T): T {
  const key = JSON.stringify(value);
  return useMemo(() => value, [key]);
}

export function FindingsProvider({ children }: { children: ReactNode }) {
  const { checker } = useTitle();
  const { book, products, listings, imprint } = useBook();
  const inBook = useSyncExternalStore(checker.subscribe, checker.get, checker.get);
  const { record, editions, accepted, placing } = book;
  // Typing changes the book and hardly ever these.
  const conflicts = useSame(
    conflictsOf(
      book,
      meantOf(book, products, listings, imprint),
      formatISO(new Date(), { representation: 'date' }),
    ),
  );
  const found = useMemo((): Found => {
    const all = [
      ...(inBook ?? []),
      ...findingsOfFiles(products, { editions, placing }, listings),
      ...findingsOfListings(listings, products, { record, editions, placing }),
      ...conflicts,
    ];
    return { ...judged({ accepted }, all), checking: inBook === null };
  }, [inBook, products, listings, record, editions, accepted, placing, conflicts]);
  // Hundreds of findings in a long book are drawn between the frames.
  const shown = useDeferredValue(found);
  return <FoundContext.Provider value={shown}>{children}</FoundContext.Provider>;
}

export const useFound = (): Found => useContext(FoundContext);
/** Findings that wait: those that were accepted don't. */
export const useFindings = (): readonly Finding[] => useFound().open;
