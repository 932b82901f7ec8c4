'use client';
/** Finds words on the pages, over the ends of lines and through divided words. */
import { useEffect, useState } from 'react';
import { useComposed, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';
import { input } from '@/ui/Field';
import type { FoundOnPage } from '@/workers/messages';

const PAUSE = 150;

export function FindOnPages({
  onOpen,
  onClose,
}: {
  onOpen: (place: FoundOnPage) => void;
  onClose: () => void;
}) {
  const { composer } = useTitle();
  const { composed, generation } = useComposed();
  const [words, setWords] = useState('');
  const [places, setPlaces] = useState<readonly FoundOnPage[]>([]);
  const [at, setAt] = useState(-1);
  useEffect(() => {
    const timer = setTimeout(() => void composer.find(words).then(setPlaces), PAUSE);
    return () => clearTimeout(timer);
  }, [composer, words, generation]);
  const open = (n: number): void => {
    const place = places[n];
    if (!place) return;
    setAt(n);
    onOpen(place);
  };
  return (
    <Aside title="Find on the pages" onClose={onClose}>
      <div className="px-4 py-2">
        <input
          autoFocus
          aria-label="Words to find"
          className={input}
          value={words}
          onChange={(e) => {
            setWords(e.target.value);
            setAt(-1);
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter')
              open((at + (e.shiftKey ? places.length - 1 : 1)) % Math.max(1, places.length));
          }}
        />
        <p role="status" className="pt-1 text-[13px] text-ink-soft">
          {words.trim() === ''
            ? 'Enter goes to the next match.'
            : places.length === 0
              ? 'Not found in the pages.'
              : `${places.length.toLocaleString('en-GB')} ${places.length === 1 ? 'place' : 'places'}`}
        </p>
      </div>
      <ul>
        {places.map((p, i) => (
          <li key={i} className="border-t border-rule">
            <button
              type="button"
              aria-current={i === at ? 'true' : undefined}
              className={`block w-full truncate px-4 py-1 text-left ${i === at ? 'bg-table' : 'hover:text-spruce'}`}
              onClick={() => open(i)}
            >
              <span className="mr-2 inline-block w-8 text-[13px] text-ink-soft">
                {composed?.pages[p.page]?.label}
              </span>
              <span className="font-serif">
                {p.before}
                <b className="font-normal text-spruce">{p.shown}</b>
                {p.after}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Aside>
  );
}
