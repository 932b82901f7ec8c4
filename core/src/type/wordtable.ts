/**
 * Words by their text, found without cutting the text out of the paragraph it stands in: most words of a book are known
 * already. Open addressing, at most half full; the hash is FNV-1a over UTF-16 units, which whoever looks for the end of a
 * word takes on the way (`HASH`, `PRIME`).
 */
import { FNV_BASIS, FNV_PRIME } from '../base';

export const HASH = FNV_BASIS | 0;
export const PRIME = FNV_PRIME;

export function hashOf(text: string, from = 0, to = text.length): number {
  let h = HASH;
  for (let i = from; i < to; i++) h = Math.imul(h ^ text.charCodeAt(i), PRIME);
  return h;
}

export class WordTable<Word extends { readonly text: string }> {
  /** By place: the hash, and the index of the word plus one, 0 for a free place. */
  private slots = new Int32Array(1 << 11);
  private readonly words: Word[] = [];

  /** The word from `from` to `to` of a text; `hash` is that of these characters. */
  find(text: string, from: number, to: number, hash: number): Word | null {
    const { slots, words } = this;
    const mask = slots.length - 2;
    for (let at = placeOf(hash) & mask; slots[at + 1] !== 0; at = (at + 2) & mask) {
      if (slots[at] !== hash) continue;
      const word = words[(slots[at + 1] as number) - 1] as Word;
      if (word.text.length === to - from && text.startsWith(word.text, from)) return word;
    }
    return null;
  }

  add(word: Word, hash: number): void {
    this.words.push(word);
    if (this.words.length * 4 > this.slots.length) this.grow();
    this.put(hash, this.words.length);
  }

  private put(hash: number, value: number): void {
    const mask = this.slots.length - 2;
    let at = placeOf(hash) & mask;
    while (this.slots[at + 1] !== 0) at = (at + 2) & mask;
    this.slots[at] = hash;
    this.slots[at + 1] = value;
  }

  private grow(): void {
    const before = this.slots;
    this.slots = new Int32Array(before.length * 4);
    for (let at = 0; at < before.length; at += 2)
      if (before[at + 1] !== 0) this.put(before[at] as number, before[at + 1] as number);
  }
}

const placeOf = (hash: number): number => (hash ^ (hash >>> 15)) << 1;
