/** Words of a manuscript, which tell whether a hyphen at a line's end parts a word or belongs to it. */

const PARTED = /(\p{Ll}+)[-\u00ad\u2010]$/u;
/** Letters of the longest word whose end is looked for. */
const LONGEST = 48;
const GOES_ON = /^(\p{Ll}+)/u;

export class Vocabulary {
  private known: Set<string> | null = null;

  /** `texts` are asked once, when the first hyphen has to be judged. */
  constructor(private readonly texts: () => Iterable<string>) {}

  private words(): Set<string> {
    if (this.known) return this.known;
    const all = new Set<string>();
    for (const text of this.texts())
      for (const word of text.toLowerCase().match(/\p{L}+(?:[-'\u2019]\p{L}+)*/gu) ?? []) all.add(word);
    return (this.known = all);
  }

  /** Two lines of one paragraph as one: with a space between, or the two halves of a word put together. */
  joined(above: string, below: string): string {
    const head = PARTED.exec(above.slice(-LONGEST))?.[1];
    const tail = GOES_ON.exec(below)?.[1];
    if (!head || !tail) return `${above} ${below}`;
    return this.isOneWord(head, tail) ? `${above.slice(0, -1)}${below}` : `${above}${below}`;
  }

  /** Whether the halves make a word without a hyphen. */
  private isOneWord(head: string, tail: string): boolean {
    const words = this.words();
    if (words.has(`${head}${tail}`)) return true;
    if (words.has(`${head}-${tail}`)) return false;
    // Two words that both occur by themselves are a compound of them.
    return !(head.length > 3 && tail.length > 3 && words.has(head) && words.has(tail));
  }
}
