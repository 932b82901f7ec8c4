/**
 * Hyphenation by Liang's patterns (F. M. Liang, *Word Hy-phen-a-tion by Com-put-er*, 1983), loaded per language when
 * first wanted. At least two letters stay before a hyphen and three after it; a book's own exceptions come first.
 *
 * The patterns are those of the `hyphen` package, which keeps them as a trie of objects. Their shapes are thousands, and
 * an engine looks their letters up slowly; so the trie is read once into a table of numbers (`Trie`). At every place the
 * highest level of all patterns that match there counts: odd divides.
 */
import { primaryLanguage } from '../base';

const LEFT = 2;
const RIGHT = 3;

/** Positions in a word (UTF-16 offsets) before which it may be divided, ascending. */
export type Hyphenator = (word: string) => readonly number[];

/** A branch by letter, a leaf (number of a row of levels), or both. */
type Branch = { [letter: string]: Node };
type Node = Branch | number | [Branch, number];
type PatternSet = [levels: number[][], trie: Branch, exceptions: Record<string, number[]>];

type Patterns = { default: PatternSet };
const LOADERS: Record<string, () => Promise<Patterns>> = {
  'en-us': () => import('hyphen/patterns/en-us') as Promise<Patterns>,
  'en-gb': () => import('hyphen/patterns/en-gb') as Promise<Patterns>,
  fr: () => import('hyphen/patterns/fr') as Promise<Patterns>,
  de: () => import('hyphen/patterns/de-1996') as Promise<Patterns>,
  es: () => import('hyphen/patterns/es') as Promise<Patterns>,
  it: () => import('hyphen/patterns/it') as Promise<Patterns>,
  pt: () => import('hyphen/patterns/pt') as Promise<Patterns>,
  nl: () => import('hyphen/patterns/nl') as Promise<Patterns>,
};

const none: Hyphenator = () => [];

/** The pattern set for a BCP 47 tag: "en" and unknown regions of English mean American patterns. */
function patternsFor(language: string): string | null {
  const l = language.toLowerCase();
  if (l === 'en-gb' || l === 'en-au' || l === 'en-nz' || l === 'en-ie' || l === 'en-za') return 'en-gb';
  const base = primaryLanguage(l);
  if (base === 'en') return 'en-us';
  return Object.hasOwn(LOADERS, base) ? base : null;
}

interface Read {
  trie: Trie;
  exceptional: ReadonlyMap<string, readonly number[]>;
}
const read = new Map<string, Promise<Read>>();

/** Patterns by their name in `LOADERS`, read once; a load that fails is tried again when they are next wanted. */
async function patternsAt(key: string): Promise<Read | null> {
  const loader = Object.hasOwn(LOADERS, key) ? LOADERS[key] : undefined;
  if (!loader) return null;
  let patterns = read.get(key);
  if (!patterns) {
    patterns = loader().then(({ default: set }) => ({
      trie: new Trie(set),
      exceptional: new Map(Object.entries(set[2])),
    }));
    read.set(key, patterns);
    patterns.catch(() => read.delete(key));
  }
  return patterns;
}

/** Loads patterns; a language without any is set unhyphenated. `exceptions` are written "rec-ord". */
export async function loadHyphenator(
  language: string,
  exceptions: readonly string[] = [],
): Promise<Hyphenator> {
  const key = patternsFor(language);
  const patterns = key ? await patternsAt(key) : null;
  if (!patterns) return none;
  const { trie, exceptional } = patterns;
  const own = new Map(exceptions.map((e) => [e.replace(/-/g, '').toLowerCase(), positionsOf(e)]));
  return (word) => {
    const lower = word.toLowerCase();
    // A few capitals change length in lower case; such words stay whole.
    if (lower.length !== word.length) return [];
    const given = own.get(lower) ?? exceptional.get(lower);
    return given
      ? given.filter((p) => p >= LEFT && p <= word.length - RIGHT)
      : trie.divide(lower, LEFT, word.length - RIGHT);
  };
}

/** "rec-ord" → [3]. */
function positionsOf(written: string): number[] {
  const points: number[] = [];
  let at = 0;
  for (const part of written.split('-').slice(0, -1)) points.push((at += part.length));
  return points;
}

/** No pattern has a UTF-16 unit from here on. */
const LETTERS = 0x250;

/**
 * A pattern trie as numbers. A row of `next` belongs to a branch and has a place for every letter: 0 for no pattern, else
 * the number of an entry. Of an entry, `branches` says where it goes on (0: nowhere), `rows` which levels it gives (−1: none).
 */
class Trie {
  private readonly letters = new Uint8Array(LETTERS);
  private readonly next: Int32Array;
  private readonly branches: Int32Array;
  private readonly rows: Int32Array;
  private readonly width: number;
  private readonly table: readonly (readonly number[])[];
  private levels = new Uint8Array(64);

  constructor([table, root]: PatternSet) {
    this.table = table;
    const trees: Branch[] = [root];
    const entries: { tree: number; letter: number; branch: number; row: number }[] = [];
    let count = 0;
    for (let t = 0; t < trees.length; t++) {
      const tree = trees[t] as Branch;
      for (const key in tree) {
        const unit = key.charCodeAt(0);
        if (unit >= LETTERS) continue;
        const letter = (this.letters[unit] ||= ++count);
        const node = tree[key] as Node;
        const branch = typeof node === 'number' ? null : Array.isArray(node) ? node[0] : node;
        const row = typeof node === 'number' ? node : Array.isArray(node) ? node[1] : -1;
        entries.push({ tree: t, letter, branch: branch ? trees.push(branch) - 1 : 0, row });
      }
    }
    this.width = count + 1;
    this.next = new Int32Array(trees.length * this.width);
    this.branches = new Int32Array(entries.length + 1);
    this.rows = new Int32Array(entries.length + 1).fill(-1);
    entries.forEach(({ tree, letter, branch, row }, i) => {
      this.next[tree * this.width + letter] = i + 1;
      this.branches[i + 1] = branch;
      this.rows[i + 1] = row;
    });
  }

  /** Places of a word in lower case before which it may be divided, from `least` to `most`. */
  divide(word: string, least: number, most: number): number[] {
    const { letters, next, branches, rows, table, width } = this;
    const n = word.length;
    if (this.levels.length < n + 3) this.levels = new Uint8Array(n * 2);
    const levels = this.levels.fill(0, 0, n + 3);
    const dot = letters[46] as number;
    // Dots stand for the word's two ends: place −1 and place n.
    for (let start = -1; start < n; start++) {
      let tree = 0;
      for (let i = start; i <= n; i++) {
        const unit = i < 0 || i === n ? 0 : word.charCodeAt(i);
        const letter = unit === 0 ? dot : unit < LETTERS ? (letters[unit] as number) : 0;
        const entry = next[tree * width + letter] as number;
        if (entry === 0) break;
        const given = rows[entry] as number;
        if (given >= 0) {
          const row = table[given] as readonly number[];
          // A row's first level stands before the pattern's first letter; the leading dot has no place of its own.
          const base = start < 0 ? 0 : start;
          for (let k = 0; k < row.length; k++)
            if ((row[k] as number) > (levels[base + k] as number)) levels[base + k] = row[k] as number;
        }
        tree = branches[entry] as number;
        if (tree === 0) break;
      }
    }
    const points: number[] = [];
    for (let i = Math.max(1, least); i <= most && i < n; i++) if ((levels[i] as number) & 1) points.push(i);
    return points;
  }
}
