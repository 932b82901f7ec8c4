'use client';
/** What was just changed by hand on the intake sheet, and where else the same can be done. */
import { useState } from 'react';
import type { Outcome } from '@pagina/core/base';
import {
  depthOf,
  type Arrival,
  type Book,
  type Change,
  type Section,
  type SectionKind,
} from '@pagina/core/book';
import {
  changeKind,
  divide,
  inTurn,
  join,
  looksToDivide,
  nest,
  numberAt,
  placesInRun,
  placesThatLook,
  sortOf,
  type PlaceToDivide,
} from '@pagina/core/order';
import { shortId } from '@/title/ids';
import type { TitleSession } from '@/title/session';
import { act } from './actions';

const newId = (): string => `k${shortId()}`;

interface Example {
  /** The row that offers it. */
  section: string;
  others: readonly unknown[];
  again: (b: Book) => Outcome<Change>;
}

export function useExample(session: TitleSession, arrival: Arrival) {
  const [example, setExample] = useState<Example | null>(null);
  // Older accounts know no looks: there the sort of reason says what is alike.
  const sort = new Map(arrival.rows.map((r) => [r.section, r.look || sortOf(r.reason)]));
  /** Sections whose headings look like this one’s in the manuscript, and were read as it was. */
  const readAlike = (b: Book, s: Section): Section[] =>
    b.sections.filter(
      (o) => o.id !== s.id && o.kind === s.kind && sort.has(s.id) && sort.get(o.id) === sort.get(s.id),
    );
  const set = (example: Example): void => setExample(example.others.length > 0 ? example : null);

  return {
    othersOf: (section: string): number => (example?.section === section ? example.others.length : 0),
    kind(s: Section, to: SectionKind): void {
      const ids = readAlike(session.get().book, s).map((o) => o.id);
      void act(session, (b) => changeKind(b, [s.id], to));
      set({ section: s.id, others: ids, again: (b) => changeKind(b, ids, to) });
    },
    nest(s: Section, way: 'in' | 'out'): void {
      const { book } = session.get();
      const ids = readAlike(book, s)
        .filter((o) => depthOf(book, o) === depthOf(book, s))
        .map((o) => o.id);
      void act(session, (b) => nest(b, [s.id], way));
      set({ section: s.id, others: ids, again: (b) => nest(b, ids, way) });
    },
    /** The offer moves to the section before: the joined one's row is gone. */
    join(s: Section): void {
      const { book } = session.get();
      const ids = readAlike(book, s)
        .filter((o) => book.sections[0]?.id !== o.id)
        .map((o) => o.id);
      const before = book.sections[book.sections.indexOf(s) - 1];
      void act(session, (b) => join(b, s.id, newId));
      if (before)
        set({
          section: before.id,
          others: ids,
          again: (b) => inTurn(b, ids, 'Join sections', (now, id) => join(now, id, newId)),
        });
    },
    divide(s: Section, block: string): void {
      const { book } = session.get();
      const looks = looksToDivide(book, { section: s.id, block });
      const number = numberAt(book, { section: s.id, block });
      // A run goes by its numbers, however its lines look; other lines go by their looks.
      const alike = (b: Book): PlaceToDivide[] => {
        const run = number ? placesInRun(b, s.id, number) : [];
        return run.length > 0 || looks === null ? run : placesThatLook(b, looks);
      };
      void act(session, (b) => divide(b, s.id, block, newId));
      // Blocks after the place get new ids: where else is asked again when it is done.
      set({
        section: s.id,
        others: alike(book).filter((p) => p.block !== block),
        again: (b) =>
          inTurn(b, alike(b), 'Split sections', (now, p) => divide(now, p.section, p.block, newId)),
      });
    },
    sameForOthers(): void {
      if (example) void act(session, example.again);
      setExample(null);
    },
  };
}
