'use client';
/** Finds words in the whole ebook. */
import { useEffect, useMemo, useState } from 'react';
import { FindPane } from '@/ui/FindPane';
import { matchesOf, MOST_MATCHES, type Match } from './search';
import type { DocumentText } from './source';

const PAUSE = 150;

export function FindInBook({
  texts,
  onOpen,
  onClose,
}: {
  /** Null while they are being read. */
  texts: readonly DocumentText[] | null;
  onOpen: (match: Match) => void;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [words, setWords] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setWords(typed), PAUSE);
    return () => clearTimeout(timer);
  }, [typed]);
  const matches = useMemo(() => matchesOf(words, texts ?? []), [words, texts]);
  return (
    <FindPane
      title="Find in the book"
      words={typed}
      onWords={setTyped}
      matches={matches}
      said={texts === null || words !== typed ? 'Searching …' : counted(matches.length)}
      onOpen={onOpen}
      onClose={onClose}
    />
  );
}

function counted(n: number): string {
  if (n === 0) return 'Not found in the book.';
  if (n === MOST_MATCHES) return `The first ${MOST_MATCHES} matches`;
  return `${n} ${n === 1 ? 'match' : 'matches'}`;
}
