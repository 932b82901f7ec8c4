'use client';
/** What a search finds, worked out between the frames, so that typing goes on while a long book is searched. */
import { useDeferredValue, useEffect, useState } from 'react';
import type { Book } from '@pagina/core/book';
import { findSteps, type TextEdit, type TextQuery } from '@pagina/core/tidy';

/** Milliseconds of a frame that searching takes. */
const SLICE = 8;

export interface Finding {
  found: readonly TextEdit[];
  /** Whether the whole book has been searched. */
  whole: boolean;
  /** What is wrong with the query, as a sentence. */
  fault: string | null;
}
const NOTHING: Finding = { found: [], whole: true, fault: null };

export function useFinding(book: Book, query: TextQuery): Finding {
  const text = useDeferredValue(book);
  const [finding, setFinding] = useState(NOTHING);
  useEffect(() => {
    const steps = findSteps(text, query);
    const found: TextEdit[] = [];
    const sections = steps.ok ? steps.value[Symbol.iterator]() : null;
    let wait: ReturnType<typeof setTimeout> | undefined;
    const go = (): void => {
      const until = performance.now() + SLICE;
      let whole = sections === null;
      while (sections && !whole && performance.now() < until) {
        const next = sections.next();
        if (next.done) whole = true;
        else found.push(...next.value);
      }
      if (whole) setFinding({ found, whole, fault: steps.ok ? null : steps.refusal.message });
      else wait = setTimeout(go);
    };
    // What was found before stays until it is known what is found now.
    wait = setTimeout(go);
    setFinding((f) => ({ ...f, whole: false }));
    return () => clearTimeout(wait);
  }, [text, query]);
  return finding;
}
