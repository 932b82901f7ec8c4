/** Words that a shop doubts, by a dictionary of its own. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import nspell from 'nspell';

/** Common practice: shops show ten. */
const MOST = 10;
const from = createRequire(import.meta.url);
const checkers = new Map<string, ReturnType<typeof nspell>>();

/** English alone: what a shop has no dictionary for it doesn't doubt. */
function checkerFor(language: string): ReturnType<typeof nspell> | null {
  if (!/^en\b/i.test(language)) return null;
  const name = /^en-US$/i.test(language) ? 'dictionary-en' : 'dictionary-en-gb';
  const known = checkers.get(name);
  if (known) return known;
  const folder = dirname(from.resolve(name));
  const made = nspell(readFileSync(join(folder, 'index.aff')), readFileSync(join(folder, 'index.dic')));
  checkers.set(name, made);
  return made;
}

/** Rarest first: a name that comes again and again is a name. */
export function doubtsIn(text: string, language: string): string[] {
  const checker = checkerFor(language);
  if (!checker) return [];
  const counts = new Map<string, number>();
  for (const [word] of text.matchAll(/\p{L}[\p{L}’']*\p{L}/gu)) counts.set(word, (counts.get(word) ?? 0) + 1);
  const doubted: string[] = [];
  for (const [word] of [...counts].sort((a, b) => a[1] - b[1])) {
    const plain = word.replace(/’/g, "'");
    if (!/^\p{Lu}/u.test(word) && !checker.correct(plain) && !checker.correct(plain.replace(/'s$/, '')))
      doubted.push(word);
    if (doubted.length === MOST) break;
  }
  return doubted;
}
