/**
 * Hyphenation by Liang's patterns (F. M. Liang, *Word Hy-phen-a-tion by Com-put-er*, 1983), loaded per language when
 * first wanted. At least two letters stay before a hyphen and three after it; a book's own exceptions come first.
 *
 * The patterns are those of the `hyphen` package, which keeps them as a trie; walking it ourselves is ten times faster
 * than its text interface. At every place the highest level of all patterns that match there counts: odd divides.
 */
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
export function patternsFor(language: string): string | null {
  const l = language.toLowerCase();
  if (l === 'en-gb' || l === 'en-au' || l === 'en-nz' || l === 'en-ie' || l === 'en-za') return 'en-gb';
  const base = l.split('-')[0] ?? '';
  if (base === 'en') return 'en-us';
  return base in LOADERS ? base : null;
}

/** Loads patterns; a language without any is set unhyphenated. `exceptions` are written "rec-ord". */
export async function loadHyphenator(
  language: string,
  exceptions: readonly string[] = [],
): Promise<Hyphenator> {
  const key = patternsFor(language);
  const loader = key ? LOADERS[key] : undefined;
  if (!loader) return none;
  const { default: set } = await loader();
  const own = new Map(exceptions.map((e) => [e.replace(/-/g, '').toLowerCase(), positionsOf(e)]));
  const known = new Map<string, readonly number[]>();
  return (word) => {
    let points = known.get(word);
    if (!points) {
      const lower = word.toLowerCase();
      // A few capitals change length in lower case; such words stay whole.
      const all = lower.length !== word.length ? [] : (own.get(lower) ?? set[2][lower] ?? divide(lower, set));
      points = all.filter((p) => p >= LEFT && p <= word.length - RIGHT);
      known.set(word, points);
    }
    return points;
  };
}

/** "rec-ord" → [3]. */
function positionsOf(written: string): number[] {
  const points: number[] = [];
  let at = 0;
  for (const part of written.split('-').slice(0, -1)) points.push((at += part.length));
  return points;
}

function divide(word: string, [table, trie]: PatternSet): number[] {
  const n = word.length;
  const dotted = `.${word}.`;
  const levels = new Uint8Array(n + 3);
  for (let start = 0; start < dotted.length; start++) {
    let branch: Branch | null = trie;
    // A row's first level stands before the pattern's first letter; the leading dot has no place of its own.
    const base = start === 0 ? 0 : start - 1;
    for (let i = start; i < dotted.length && branch; i++) {
      const node: Node | undefined = branch[dotted[i] as string];
      if (node === undefined) break;
      const row = typeof node === 'number' ? table[node] : Array.isArray(node) ? table[node[1]] : undefined;
      if (row)
        for (let k = 0; k < row.length; k++)
          if ((row[k] as number) > (levels[base + k] ?? 255)) levels[base + k] = row[k] as number;
      branch = typeof node === 'number' ? null : Array.isArray(node) ? node[0] : node;
    }
  }
  const points: number[] = [];
  for (let i = 1; i < n; i++) if ((levels[i] as number) & 1) points.push(i);
  return points;
}
