/** One word spelt in two ways: with and without a hyphen, British and American, names that differ by a letter. */
import { nounsInCapitals, primaryLanguage } from '../../base';
import type { Book } from '../../book';
import { firstWords, lastWords, wordsOfBook, type WordInBook } from '../../tidy';
import type { Breach, Rule } from '../rules';
import { times, type BookSubject } from './subject';

const counted = new WeakMap<Book['sections'], { by: string; words: WordInBook[] }>();
/** The words of the book, counted once for all rules. */
function wordsIn({ book }: BookSubject): WordInBook[] {
  const before = counted.get(book.sections);
  if (before?.by === book.record.language) return before.words;
  const words = wordsOfBook(book);
  counted.set(book.sections, { by: book.record.language, words });
  return words;
}

/** The rarer spelling is shown at as many places as this; its count says how many there are. */
const SHOWN = 5;

function* atEach(rarer: WordInBook, message: string, about: string): Generator<Breach> {
  for (const p of rarer.places.slice(0, SHOWN))
    yield {
      message,
      about,
      words: `${lastWords(p.before, 24)}${p.was}${firstWords(p.after, 24)}`.trim(),
      place: { section: p.section, block: p.block, offset: p.from },
    };
}

interface Spelling {
  word: string;
  /** How it is spelt, where forms of one word share that: with s or with z. */
  manner: string;
  count: number;
  first: WordInBook;
}
type Keyed = { key: string; manner: string } | null;

/** Words by a key that ways of spelling share; each way with how often it occurs, most often first. */
function ways(words: readonly WordInBook[], keyOf: (word: string) => Keyed): Spelling[][] {
  const groups = new Map<string, Map<string, Spelling>>();
  for (const w of words) {
    const lower = w.word.replaceAll('\u00ad', '').toLowerCase();
    const keyed = keyOf(lower);
    if (keyed === null) continue;
    const key = `${w.language} ${keyed.key}`;
    let group = groups.get(key);
    if (!group) groups.set(key, (group = new Map()));
    const known = group.get(lower);
    if (known) known.count += w.places.length;
    else group.set(lower, { word: w.word, manner: keyed.manner, count: w.places.length, first: w });
  }
  return [...groups.values()]
    .filter((g) => g.size > 1)
    .map((g) => [...g.values()].sort((a, b) => b.count - a.count));
}

function* twoWays(groups: readonly (readonly Spelling[])[]): Generator<Breach> {
  for (const [usual, ...others] of groups)
    for (const other of others) {
      if (!usual || other.manner === usual.manner) continue;
      // Another form of the word keeps its ending: "realise" becomes "realize" where "realized" is usual.
      const by =
        usual.manner.length === 1
          ? other.word.replace(/i[sz](?=\p{L}{1,6}$)/iu, `i${usual.manner}`)
          : usual.word;
      yield* atEach(
        other.first,
        `“${other.word}” is spelt “${usual.word}” elsewhere: ${times(other.count)} against ${times(usual.count)}.`,
        `${by.toLowerCase()} ${other.word.toLowerCase()}`,
      );
    }
}

/** Pairs that are two words: "re-sign" is not "resign". */
const TWO_WORDS = /^(?:re|co|un|pre)-|-(?:in|on|up|out|off|down|by|over|away|back|to|like)$/;

/** British spellings and their American ones; stems, from memory. `*` stands for any ending. */
const TRANSATLANTIC: readonly (readonly [RegExp, string])[] = [
  [
    /^(arb|ard|arm|behavi|cand|clam|col|demean|enam|end[e]av|fav|ferv|glam|harb|hon|hum|lab|neighb|od|parl|ranc|rig|rum|sav|splend|tum|val|vap|vig)our(?=$|s$|ed$|ing$|ite|able|ful|less|hood|ly$)/,
    '$1or',
  ],
  [/^(theat|cent|met|lit|fib|lust|meag|calib|somb|spect|sepulch|ochr?|manoeuv)re(?=$|s$)/, '$1er'],
  [/^gre(y)/, 'gra$1'],
  [
    /^(trave|cance|marve|counse|leve|mode|quarre|signa|tota|labe|dia|fue|jewe|que|shrive)ll(?=ed$|ing$|er$|ers$|ous$)/,
    '$1l',
  ],
  [/^(defen|offen|licen|preten)ce(?=$|s$)/, '$1se'],
  [/^(ana|para|cata)lys(?=e)/, '$1lyz'],
  [/^plough/, 'plow'],
  [/^jewellery/, 'jewelry'],
  [/^(dialog|catalog|monolog)ue/, '$1'],
  [/^(mo)uld/, '$1ld'],
  [/^pyjama/, 'pajama'],
  [/^(kerb)(?=$|s$)/, 'curb'],
  [/^tyre(?=$|s$)/, 'tire'],
  [/^(skil|wil|fulfi|enro|instal)(?=(ful|l|ment|s)$)/, '$1l'],
];
const IZE = /^(\p{L}{3,})(is|iz)(e|es|ed|ing|er|ers|ation|ations)$/u;
/** Words that end so in both manners. */
const NOT_IZE =
  /^(?:adv|surpr|exerc|superv|telev|compr|rev|dev|prem|prom|desp|disgu|m|dem|enterpr|franch|improv|inc|excis|exc|merchand|chast|pract|prec|conc|nois|pois|pra|ra|ar|w|r|s|pr|ce|pa)(?:is|iz)/;

/** A word by its American form; of words in -ize all forms share one key, and their manner is the letter. */
export function americanForm(word: string): { key: string; manner: string } {
  const iz = IZE.exec(word);
  if (iz && !NOT_IZE.test(word)) return { key: `${iz[1] as string}-`, manner: (iz[2] as string).charAt(1) };
  for (const [british, american] of TRANSATLANTIC) {
    const changed = word.replace(british, american);
    if (changed !== word) return { key: changed, manner: word };
  }
  return { key: word, manner: word };
}

/** Names below this have too many neighbours. */
const NAME = { letters: 5, often: 4, share: 8 };

/** Names without their genitive, with all their places; what is also written small is none. */
function namesIn(words: readonly WordInBook[]): Map<string, WordInBook[]> {
  const names = new Map<string, WordInBook[]>();
  const small = new Set(words.map((w) => w.word).filter((w) => /^\p{Ll}/u.test(w)));
  for (const w of words) {
    if (small.has(w.word.toLowerCase())) continue;
    if (!w.name || !/^\p{Lu}[\p{Ll}\p{M}]+(?:['\u2019]s)?$/u.test(w.word)) continue;
    const bare = w.word.replace(/['\u2019]s$/u, '');
    if (bare.length >= NAME.letters) names.set(bare, [...(names.get(bare) ?? []), w]);
  }
  return names;
}

/** A spelling without one of its letters, and the whole: names that share one differ by a letter. */
function* stumps(name: string): Generator<string> {
  yield name;
  for (let i = 0; i < name.length; i++) yield name.slice(0, i) + name.slice(i + 1);
}

/** Endings that make another word: Russia, Russian; German, Germany; a plural. */
const DERIVED = /^(?:s|n|y|i|a|es|d|ns)$/;
function isDerived(a: string, b: string): boolean {
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  if (short.length < long.length) return long.startsWith(short) && DERIVED.test(long.slice(short.length));
  return a.slice(0, -1) === b.slice(0, -1) && /[sn]/.test(a.slice(-1)) && /[sn]/.test(b.slice(-1));
}
const VOWEL = /[aeiouyàáâäèéêëìíîïòóôöùúûü]/iu;
/** One letter other, added, lost, or two changed about. */
function isNear(a: string, b: string): boolean {
  if (a.length === b.length) {
    const other = [...a].flatMap((c, i) => (c === b.charAt(i) ? [] : [i]));
    const [i, j] = other;
    // Storm and Story are two words; Marie and Maria may be one.
    if (other.length === 1)
      return i !== 0 && (i !== a.length - 1 || (VOWEL.test(a.slice(-1)) && VOWEL.test(b.slice(-1))));
    return (
      other.length === 2 &&
      j === (i ?? 0) + 1 &&
      a.charAt(i as number) === b.charAt(j) &&
      a.charAt(j) === b.charAt(i as number)
    );
  }
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  return (
    long.length - short.length === 1 &&
    [...long].some((_c, i) => i > 0 && long.slice(0, i) + long.slice(i + 1) === short)
  );
}

/** Names that stand in one paragraph are of two people. */
function meet(a: readonly WordInBook[], b: readonly WordInBook[]): boolean {
  const blocks = new Set(a.flatMap((w) => w.places.map((p) => p.block)));
  return b.some((w) => w.places.some((p) => blocks.has(p.block)));
}

function* nearNames(words: readonly WordInBook[], own: ReadonlySet<string>): Generator<Breach> {
  const names = namesIn(words);
  const count = (name: string): number => (names.get(name) ?? []).reduce((n, w) => n + w.places.length, 0);
  const byStump = new Map<string, string[]>();
  for (const name of names.keys())
    for (const s of stumps(name)) byStump.set(s, [...(byStump.get(s) ?? []), name]);
  for (const [name, all] of names) {
    const rare = count(name);
    if (own.has(name)) continue;
    const near = new Set([...stumps(name)].flatMap((s) => byStump.get(s) ?? []));
    let best: string | null = null;
    for (const other of near) {
      if (other === name || isDerived(name, other) || !isNear(name, other)) continue;
      const often = count(other);
      if (often >= NAME.often && often >= rare * NAME.share && (best === null || often > count(best)))
        best = other;
    }
    if (best !== null && !meet(all, names.get(best) ?? []))
      yield* atEach(
        all[0] as WordInBook,
        `“${name}” may be “${best}”, which occurs ${times(count(best))}.`,
        `${best} ${name}`,
      );
  }
}

export const SPELLING_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'wording/hyphenated-and-not',
    severity: 'caution',
    profiles: ['book'],
    source: 'common practice: one spelling of a word through a book',
    why: 'Proofreaders and reviewers notice it.',
    remedy: 'Choose one, and replace the other in Manuscript.',
    mend: 'usual-spelling',
    look: (subject) =>
      twoWays(
        ways(wordsIn(subject), (word) =>
          word.length < 5 || TWO_WORDS.test(word) || /['\u2019]/.test(word)
            ? null
            : { key: word.replaceAll('-', ''), manner: word },
        ),
      ),
  },
  {
    name: 'wording/two-spellings',
    severity: 'caution',
    profiles: ['book'],
    source: 'New Hart’s Rules, ch. 21, US and UK spelling (from memory)',
    why: 'Proofreaders and reviewers notice it.',
    remedy: 'Choose one, and replace the other in Manuscript.',
    mend: 'usual-spelling',
    look: (subject) =>
      primaryLanguage(subject.book.record.language) === 'en'
        ? twoWays(
            ways(
              wordsIn(subject).filter((w) => /^en/i.test(w.language)),
              americanForm,
            ),
          )
        : [],
  },
  {
    name: 'wording/name-spelling',
    severity: 'caution',
    profiles: ['book'],
    source: 'common practice: a list of names is kept and compared',
    why: 'A name spelt in two ways makes two people of one.',
    remedy: 'Correct it, or add the name to the words of the book if both are meant.',
    mend: 'usual-spelling',
    // Where every noun has a capital, names can’t be told from them.
    look: (subject) =>
      nounsInCapitals(subject.book.record.language)
        ? []
        : nearNames(wordsIn(subject), new Set(subject.book.words)),
  },
];
