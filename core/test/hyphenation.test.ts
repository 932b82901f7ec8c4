import { describe, expect, it } from 'vitest';
import createHyphenator from 'hyphen';
import enUs from 'hyphen/patterns/en-us';
import de from 'hyphen/patterns/de-1996';
import { loadHyphenator } from '../src/type';
import { openNovelChapters } from '../../bench/open-novel';

const shown = (points: readonly number[], word: string): string => {
  let out = '';
  [...word].forEach((ch, i) => (out += (points.includes(i) ? '-' : '') + ch));
  return out;
};

describe('hyphenation', () => {
  it('divides the words of Liang’s thesis as it prints them', async () => {
    // F. M. Liang, Word Hy-phen-a-tion by Com-put-er, Stanford 1983, title and p. 1 (from memory); at least 2 before and 3 after.
    const h = await loadHyphenator('en-US');
    expect(['hyphenation', 'computer', 'algorithm'].map((w) => shown(h(w), w))).toEqual([
      'hy-phen-ation',
      'com-puter',
      'al-go-rithm',
    ]);
  });
  it('agrees with the pattern package’s own hyphenator on every word of the open novel', async () => {
    const theirs = createHyphenator(enUs as never, { hyphenChar: '-', minWordLength: 5 }) as unknown as (
      t: string,
    ) => string;
    const h = await loadHyphenator('en-US');
    const words = new Set(openNovelChapters().flatMap((c) => c.text.match(/\b[a-z]{5,}\b/g) ?? []));
    expect(words.size).toBeGreaterThan(10_000);
    const wrong = [...words].filter((w) => {
      const points = theirs(w)
        .split('-')
        .slice(0, -1)
        .reduce<number[]>((p, part) => [...p, (p.at(-1) ?? 0) + part.length], [])
        .filter((p) => p >= 2 && p <= w.length - 3);
      return points.join() !== h(w).join();
    });
    expect(wrong).toEqual([]);
  });
  it('agrees with it in German', async () => {
    const theirs = createHyphenator(de as never, { hyphenChar: '-', minWordLength: 5 }) as unknown as (
      t: string,
    ) => string;
    const h = await loadHyphenator('de');
    for (const w of ['Donaudampfschifffahrt', 'Verlagswesen', 'Buchgestaltung', 'Silbentrennung']) {
      const points = theirs(w)
        .split('-')
        .slice(0, -1)
        .reduce<number[]>((p, part) => [...p, (p.at(-1) ?? 0) + part.length], [])
        .filter((p) => p >= 2 && p <= w.length - 3);
      expect(h(w)).toEqual(points);
    }
  });
  it('keeps the exceptions of the pattern files, and the book’s own before them', async () => {
    const set = (enUs as unknown as { default?: unknown[] }).default ?? (enUs as unknown as unknown[]);
    const exceptions = set[2] as Record<string, number[]>;
    const h = await loadHyphenator('en-US', ['ta-ble']);
    expect(Object.keys(exceptions).length).toBeGreaterThan(5);
    for (const [w, points] of Object.entries(exceptions))
      expect(h(w)).toEqual(points.filter((p) => p >= 2 && p <= w.length - 3));
    expect(h('table')).toEqual([2]);
  });
  it('leaves languages without patterns alone', async () =>
    expect((await loadHyphenator('eo'))('internacia')).toEqual([]));
});
