'use client';
/** Words of the open book that no dictionary knows, made again when typing rests. */
import { useEffect, useState } from 'react';
import { isOwnWord, wordsOfBook, type WordInBook } from '@pagina/core/tidy';
import { plainDescription } from '@pagina/core/record';
import { isWrong, lookUp, wordsIn } from '@/forms/dictionary';
import { useBook } from '@/title/context';

const REST = 700;
export interface Misspelt {
  /** Null while the dictionaries are asked. */
  words: readonly WordInBook[] | null;
  /** Words of the description that are not known. */
  description: readonly string[];
  /** Languages that no dictionary is at hand for. */
  without: readonly string[];
}

export function useMisspelt(): Misspelt {
  const { book } = useBook();
  const [state, setState] = useState<Misspelt>({ words: null, description: [], without: [] });
  useEffect(() => {
    let gone = false;
    const timer = setTimeout(
      () => {
        void (async () => {
          const all = wordsOfBook(book);
          const own = new Set(book.words);
          const without: string[] = [];
          const told = wordsIn(plainDescription(book.record.description));
          const languages = new Set([...all.map((w) => w.language), book.record.language]);
          for (const language of languages) {
            const words = all.filter((w) => w.language === language).map((w) => w.word);
            const more = language === book.record.language ? told : [];
            if (!(await lookUp(language, [...words, ...more]))) without.push(language);
          }
          if (gone) return;
          const wrong = (language: string, word: string): boolean =>
            isWrong(language, word) && !isOwnWord(word, own);
          setState({
            words: all
              .filter((w) => wrong(w.language, w.word))
              .sort((a, b) => Number(a.name) - Number(b.name) || b.places.length - a.places.length),
            description: told.filter((w) => wrong(book.record.language, w)),
            without,
          });
        })().catch(() => undefined);
      },
      state.words === null ? 0 : REST,
    );
    return () => {
      gone = true;
      clearTimeout(timer);
    };
    // The state only says whether it is the first time.
  }, [book]);
  return state;
}
