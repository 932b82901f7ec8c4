/**
 * Words by their text, found without cutting the text out of the paragraph it stands in: most words of a book are known
 * already. Open addressing, at most half full; the hash is FNV-1a over UTF-16 units.
 */
import type { Word } from './style';

export class WordTable {
  /** Index of a word plus one, 0 for a free place. */
  private slots = new Int32Array(1 << 10);
  private readonly words: Word[] = [];
  private readonly hashes: number[] = [];

  find(text: string, from: number, to: number): Word | null {
    const { slots, words, hashes } = this;
    const hash = hashOf(text, from, to);
    const mask = slots.length - 1;
    for (let at = hash & mask; slots[at] !== 0; at = (at + 1) & mask) {
      const index = (slots[at] as number) - 1;
      if (hashes[index] === hash && same((words[index] as Word).text, text, from, to))
        return words[index] as Word;
    }
    return null;
  }

  add(word: Word): void {
    const hash = hashOf(word.text, 0, word.text.length);
    this.words.push(word);
    this.hashes.push(hash);
    if (this.words.length * 2 > this.slots.length) this.grow();
    else this.put(hash, this.words.length);
  }

  private put(hash: number, value: number): void {
    const mask = this.slots.length - 1;
    let at = hash & mask;
    while (this.slots[at] !== 0) at = (at + 1) & mask;
    this.slots[at] = value;
  }

  private grow(): void {
    this.slots = new Int32Array(this.slots.length * 4);
    this.hashes.forEach((hash, index) => this.put(hash, index + 1));
  }
}

function hashOf(text: string, from: number, to: number): number {
  let h = 0x811c9dc5;
  for (let i = from; i < to; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return (h ^ (h >>> 15)) & 0x3fffffff;
}

function same(word: string, text: string, from: number, to: number): boolean {
  if (word.length !== to - from) return false;
  for (let i = 0; i < word.length; i++) if (word.charCodeAt(i) !== text.charCodeAt(from + i)) return false;
  return true;
}
