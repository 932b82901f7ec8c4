'use client';
/** What the ledger tells of each section: heading, words, where it starts, what was found in it. */
import { useMemo } from 'react';
import type { Finding } from '@pagina/core/base';
import { canBeFromRecord, hasText, headingsOf, isFromRecord, type Heading } from '@pagina/core/order';
import { useBook, useComposed } from '@/title/context';
import { useFindings } from '@/title/findings';
import { wordsOf } from '../manuscript/counts';

export interface RowFacts {
  heading: Heading;
  words: number;
  /** Words as a share of the longest section. */
  share: number;
  /** Folio of its first page; '' where it has none, null while the pages are being set. */
  label: string | null;
  side: 'recto' | 'verso' | null;
  findings: Finding[];
  /** Parts it stands in. */
  depth: number;
  /** Whether its page comes from the record, was written by hand instead, or is of no such kind. */
  made: 'record' | 'hand' | null;
}

export function useRowFacts(): ReadonlyMap<string, RowFacts> {
  const { book, edition } = useBook();
  const { composed } = useComposed();
  const findings = useFindings();
  return useMemo(() => {
    const headings = headingsOf(book.sections, book, book.editions.find((e) => e.id === edition) ?? null);
    const most = Math.max(1, ...book.sections.map((s) => wordsOf(s.content)));
    const starts = new Map<string, { label: string; side: 'recto' | 'verso' }>();
    for (const p of composed?.pages ?? []) if (!p.blank && !starts.has(p.section)) starts.set(p.section, p);
    const found = new Map<string, Finding[]>();
    for (const f of findings)
      if (f.place) found.set(f.place.section, [...(found.get(f.place.section) ?? []), f]);
    const depths = new Map<string, number>();
    return new Map<string, RowFacts>(
      book.sections.map((s) => {
        const depth = s.parent === null ? 0 : (depths.get(s.parent) ?? -1) + 1;
        depths.set(s.id, depth);
        const start = starts.get(s.id);
        const words = wordsOf(s.content);
        const made = isFromRecord(s, book.record)
          ? 'record'
          : canBeFromRecord(s.kind) && hasText(s.content)
            ? 'hand'
            : null;
        return [
          s.id,
          {
            heading: headings.get(s.id) as Heading,
            words,
            share: words / most,
            label: composed ? (start?.label ?? '') : null,
            side: start?.side ?? null,
            findings: found.get(s.id) ?? [],
            depth,
            made,
          },
        ];
      }),
    );
  }, [book, edition, composed, findings]);
}
