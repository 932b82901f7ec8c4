'use client';
/** Finds words on the pages, over the ends of lines and through divided words. */
import { useEffect, useState } from 'react';
import { useComposed, useTitle } from '@/title/context';
import { FindPane } from '@/ui/FindPane';
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
  useEffect(() => {
    const timer = setTimeout(() => void composer.find(words).then(setPlaces), PAUSE);
    return () => clearTimeout(timer);
  }, [composer, words, generation]);
  return (
    <FindPane
      title="Find on the pages"
      words={words}
      onWords={setWords}
      matches={places.map((p) => ({ ...p, label: composed?.pages[p.page]?.label ?? '' }))}
      said={
        places.length === 0
          ? 'Not found in the pages.'
          : `${places.length.toLocaleString('en-GB')} ${places.length === 1 ? 'place' : 'places'}`
      }
      onOpen={onOpen}
      onClose={onClose}
    />
  );
}
