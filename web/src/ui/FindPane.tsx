'use client';
/** Words to find, and the matches that one goes through by Enter or opens by a click. */
import { useState } from 'react';
import { Aside } from './Aside';
import { input } from './Field';

export interface Found {
  /** Where it is, before the words; '' for nothing. */
  label?: string;
  before: string;
  shown: string;
  after: string;
}

export function FindPane<M extends Found>({
  title,
  words,
  onWords,
  matches,
  said,
  onOpen,
  onClose,
}: {
  title: string;
  words: string;
  onWords: (words: string) => void;
  matches: readonly M[];
  /** What is said of them, once there are words. */
  said: string;
  onOpen: (match: M) => void;
  onClose: () => void;
}) {
  const [at, setAt] = useState(-1);
  const open = (n: number): void => {
    const match = matches[n];
    if (!match) return;
    setAt(n);
    onOpen(match);
  };
  return (
    <Aside title={title} onClose={onClose}>
      <div className="px-4 py-2">
        <input
          autoFocus
          aria-label="Words to find"
          className={input}
          value={words}
          onChange={(e) => {
            onWords(e.target.value);
            setAt(-1);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter')
              open((at + (e.shiftKey ? matches.length - 1 : 1)) % Math.max(1, matches.length));
          }}
        />
        <p role="status" className="pt-1 text-[13px] text-ink-soft">
          {words.trim() === '' ? 'Enter goes to the next match.' : said}
        </p>
      </div>
      <ul aria-label="Matches">
        {matches.map((m, i) => (
          <li key={i} className="border-t border-rule">
            <button
              type="button"
              aria-current={i === at ? 'true' : undefined}
              className={`block w-full truncate px-4 py-1 text-left ${i === at ? 'bg-table' : 'hover:text-spruce'}`}
              onClick={() => open(i)}
            >
              {m.label === undefined ? null : (
                <span className="mr-2 inline-block w-8 text-[13px] text-ink-soft">{m.label}</span>
              )}
              <span className="font-serif">
                {m.before}
                <b className="font-normal text-spruce">{m.shown}</b>
                {m.after}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Aside>
  );
}
