'use client';
/** Words of the open book that no dictionary knows, made again when typing rests. */
import { useEffect, useState } from 'react';
import { isOwnWord, wordsOfBook, type WordInBook } from '@pagina/core/tidy';
import { useBook } from '@/title/context';

const REST = 700;
/** What the dictionaries said of words before: language and word → wrong. */
const looked = new Map<string, boolean>();

async function lookUp(language: string, words: readonly string[]): Promise<boolean> {
  const unknown = words.filter((w) => !looked.has(`${language} ${w}`));
  if (unknown.length === 0) return true;
  const r = await fetch('/api/spelling', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ language, words: unknown }),
  });
  const { wrong } = (await r.json()) as { wrong: string[] | null };
  if (!wrong) return false;
  const bad = new Set(wrong);
  for (const w of unknown) looked.set(`${language} ${w}`, bad.has(w));
  return true;
}

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
          const told = [...new Set(book.record.description.match(/\p{L}[\p{L}\u2019'-]+/gu) ?? [])];
          const languages = new Set([...all.map((w) => w.language), book.record.language]);
          for (const language of languages) {
            const words = all.filter((w) => w.language === language).map((w) => w.word);
            const more = language === book.record.language ? told : [];
            if (!(await lookUp(language, [...words, ...more]))) without.push(language);
          }
          if (gone) return;
          const wrong = (language: string, word: string): boolean =>
            looked.get(`${language} ${word}`) === true && !isOwnWord(word, own);
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
