'use client';
/** Finds words in the whole ebook and goes from match to match. */
import { useEffect, useMemo, useState } from 'react';
import { Aside } from '@/ui/Aside';
import { input } from '@/ui/Field';
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
  const [at, setAt] = useState(-1);
  useEffect(() => {
    const timer = setTimeout(() => setWords(typed), PAUSE);
    return () => clearTimeout(timer);
  }, [typed]);
  const matches = useMemo(() => matchesOf(words, texts ?? []), [words, texts]);
  const open = (n: number): void => {
    const match = matches[n];
    if (!match) return;
    setAt(n);
    onOpen(match);
  };
  const said =
    words.trim() === ''
      ? 'Enter goes to the next match.'
      : texts === null
        ? 'Reading the book …'
        : matches.length === 0
          ? 'Not found in the book.'
          : matches.length === MOST_MATCHES
            ? `The first ${MOST_MATCHES} matches`
            : `${matches.length} ${matches.length === 1 ? 'match' : 'matches'}`;
  return (
    <Aside title="Find in the book" onClose={onClose}>
      <div className="px-4 py-2">
        <input
          autoFocus
          aria-label="Words to find"
          className={input}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
            setAt(-1);
          }}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            if (typed !== words) return setWords(typed);
            open((at + (e.shiftKey ? matches.length - 1 : 1)) % Math.max(1, matches.length));
          }}
        />
        <p role="status" className="pt-1 text-[13px] text-ink-soft">
          {said}
        </p>
      </div>
      <ul aria-label="Matches">
        {matches.map((m, i) => (
          <li key={i} className="border-t border-rule">
            <button
              type="button"
              aria-current={i === at ? 'true' : undefined}
              className={`block w-full truncate px-4 py-1 text-left font-serif ${i === at ? 'bg-table' : 'hover:text-spruce'}`}
              onClick={() => open(i)}
            >
              {m.before}
              <b className="font-normal text-spruce">{m.shown}</b>
              {m.after}
            </button>
          </li>
        ))}
      </ul>
    </Aside>
  );
}
