/** Words for a spelling check: which stand in the book, where, and in which language; the dictionaries are elsewhere. */
import type { Node } from 'prosemirror-model';
import type { Book } from '../book';
import { addressesIn, around, ATOM, UNTOUCHED, type TextEdit } from './edits';

/** Where a word stands. */
export type Occurrence = Omit<TextEdit, 'by' | 'whole'>;
export interface WordInBook {
  word: string;
  /** BCP 47: the book's, or that of text marked as another. */
  language: string;
  places: Occurrence[];
  /** Written with a capital wherever it does not begin a sentence: perhaps a name. */
  name: boolean;
}

const WORD = /\p{L}[\p{L}\p{M}\u2019'\u00ad]*(?:-\p{L}[\p{L}\p{M}\u2019']*)*/gu;

/** A word as dictionaries have it: straight apostrophes, no hidden hyphens, no quotation mark at its end. */
export const lookedUp = (word: string): string =>
  word
    .replace(/\u00ad/g, '')
    .replace(/\u2019/g, "'")
    .replace(/'+$/, '');

/** What may be looked up when the word as a whole is not known: parts of a compound, and without a genitive. */
export function partsOf(word: string): string[] {
  const bare = lookedUp(word);
  const parts = bare.split('-').flatMap((p) => {
    const genitive = /^(.+)'s$/i.exec(p);
    // l'eau, d'une, dell'arte: what stands before the apostrophe is a word of its own.
    const elided = /^(\p{L}{1,6})'(\p{L}.*)$/u.exec(p);
    return genitive ? [genitive[1] as string] : elided ? [elided[2] as string] : [p];
  });
  return parts.length === 1 && parts[0] === bare ? [] : parts.filter((p) => p.length > 1);
}

/** What stands before the first word of a sentence. */
const SENTENCE_START = /(?:^|[.!?\u2026:\u201c\u201d"\u2018\u2014\n])\s*$/;

const languageAt = (n: Node, fallback: string): string =>
  (n.marks.find((m) => m.type.name === 'language')?.attrs.tag as string | undefined) ?? fallback;

interface Counted extends WordInBook {
  /** How often it stands inside a sentence, and how often with a capital there. */
  inside: number;
  capital: number;
}

/** Words of sections that have not changed are not looked for again. */
const known = new WeakMap<Node, { section: string; language: string; words: Map<string, Counted> }>();

function wordsOfSection(
  { id, content }: Book['sections'][number],
  bookLanguage: string,
): Map<string, Counted> {
  const before = known.get(content);
  if (before && before.section === id && before.language === bookLanguage) return before.words;
  const words = new Map<string, Counted>();
  content.descendants((block) => {
    if (!block.isTextblock) return true;
    if (block.type.spec.code) return false;
    const text = block.textBetween(0, block.content.size, '', ATOM);
    const skipped = addressesIn(text);
    for (const m of text.matchAll(WORD)) {
      const word = m[0].replace(/[\u2019']+$/, '');
      if (word.length < 2 || skipped.some(([a, b]) => m.index >= a && m.index < b)) continue;
      const node = block.nodeAt(m.index);
      if (!node || node.marks.some((x) => UNTOUCHED.has(x.type.name))) continue;
      const language = languageAt(node, bookLanguage);
      const key = `${language} ${word}`;
      let entry = words.get(key);
      if (!entry)
        words.set(key, (entry = { word, language, places: [], name: false, inside: 0, capital: 0 }));
      const to = m.index + word.length;
      entry.places.push({
        section: id,
        block: block.attrs.id as string,
        from: m.index,
        to,
        was: word,
        ...around(text, m.index, to),
      });
      if (!SENTENCE_START.test(text.slice(Math.max(0, m.index - 8), m.index))) {
        entry.inside++;
        if (/^\p{Lu}/u.test(word)) entry.capital++;
      }
    }
    return false;
  });
  known.set(content, { section: id, language: bookLanguage, words });
  return words;
}

/** All words of the book's text by spelling and language. Monospace text and addresses are no words. */
export function wordsOfBook(book: Book): WordInBook[] {
  const all = new Map<string, Counted>();
  for (const section of book.sections)
    for (const [key, w] of wordsOfSection(section, book.record.language)) {
      const sum = all.get(key);
      if (!sum) all.set(key, { ...w, places: [...w.places] });
      else {
        sum.places.push(...w.places);
        sum.inside += w.inside;
        sum.capital += w.capital;
      }
    }
  return [...all.values()].map(({ inside, capital, ...w }) => ({
    ...w,
    name: inside > 0 && inside === capital,
  }));
}

/** Whether the book says that a word is right: as it is written, or a small letter written large. */
export function isOwnWord(word: string, own: ReadonlySet<string>): boolean {
  const bare = lookedUp(word);
  const known = (w: string): boolean => own.has(w) || own.has(w.toLowerCase());
  return known(bare) || known(bare.replace(/'s$/i, ''));
}
