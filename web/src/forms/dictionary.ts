'use client';
/** What the dictionaries say of words, asked once for each. */
import { useEffect, useState } from 'react';
import { isOwnWord } from '@pagina/core/tidy';

/** What the dictionaries said of words before: language and word → wrong. */
const looked = new Map<string, boolean>();

/** Answers false where no dictionary of the language is at hand. */
export async function lookUp(language: string, words: readonly string[]): Promise<boolean> {
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
/** Whether a word that was looked up is known to be wrong. */
export const isWrong = (language: string, word: string): boolean =>
  looked.get(`${language} ${word}`) === true;

/** A word of two letters and more. */
export const WORD = /\p{L}[\p{L}\u2019'-]+/gu;
export const wordsIn = (text: string): string[] => [...new Set(text.match(WORD) ?? [])];

const NONE: readonly string[] = [];
/** Words of a text that neither the dictionary nor the book knows. */
export function useDoubted(language: string, text: string, own: readonly string[]): readonly string[] {
  const [words, setWords] = useState(NONE);
  useEffect(() => {
    let gone = false;
    const all = wordsIn(text);
    const known = new Set(own);
    void lookUp(language, all)
      .then(() => {
        const wrong = all.filter((w) => isWrong(language, w) && !isOwnWord(w, known));
        if (!gone) setWords(wrong.length > 0 ? wrong : NONE);
      })
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [language, text, own]);
  return words;
}
