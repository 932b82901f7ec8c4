import { describe, expect, it } from 'vitest';
import { fitOf } from '../../src/trade';
import { threeChapters } from '../fixtures/books';
import {
  linesChanged,
  linesMoved,
  matchViews,
  obstaclesOf,
  obstacleWords,
  outdated,
  type Impression,
  type View,
} from '../../src/proof';

const view = (mark: string, matter = mark, words: string[] = [matter], more: Partial<View> = {}): View => ({
  mark,
  matter,
  label: mark,
  path: '',
  words,
  places: words.map((_, i) => [36, 50 + 14 * i, 300, 11, 0]),
  ...more,
});
const impression = (views: View[], engine = 1): Impression => ({
  version: 1,
  engine,
  width: 396,
  height: 612,
  views,
});

describe('pages of two impressions', () => {
  it('are matched once each, in order, and are the same exactly where their marks are', () => {
    let seed = 5;
    const random = (n: number): number => (seed = (Math.imul(seed, 48271) >>> 0) % 0x7fffffff) % n;
    for (let run = 0; run < 300; run++) {
      const some = (): View[] =>
        Array.from({ length: random(14) }, () => view(`m${random(9)}`, `t${random(6)}`));
      const [a, b] = [some(), some()];
      const matches = matchViews(a, b);
      expect(matches.flatMap((m) => m.before ?? [])).toEqual(a.map((_, i) => i));
      expect(matches.flatMap((m) => m.now ?? [])).toEqual(b.map((_, i) => i));
      for (const m of matches) {
        const [x, y] = [m.before === null ? null : a[m.before]!, m.now === null ? null : b[m.now]!];
        if (m.how === 'same') expect(x!.mark).toBe(y!.mark);
        if (m.how === 'moved') expect([x!.matter, x!.mark !== y!.mark]).toEqual([y!.matter, true]);
        expect(m.how === 'added').toBe(x === null);
        expect(m.how === 'removed').toBe(y === null);
      }
    }
  });
  it('that only have another folio have moved, around the ones that were added', () => {
    const before = [view('1', 'a'), view('2', 'b'), view('3', 'c')];
    const now = [view('1', 'a'), view('2x', 'new'), view('3x', 'b'), view('4x', 'c')];
    expect(matchViews(before, now).map((m) => m.how)).toEqual(['same', 'added', 'moved', 'moved']);
  });
  it('of which there are thousands, all different, are paired in order', () => {
    const many = (t: string): View[] => Array.from({ length: 3_000 }, (_, i) => view(`${t}${i}`));
    const matches = matchViews(many('a'), many('b'));
    expect(matches).toHaveLength(3_000);
    expect(matches.every((m) => m.how === 'changed' && m.before === m.now)).toBe(true);
  });
  it('have their changed lines found; lines that only stand lower are the same', () => {
    const before = view('x', 'x', ['One line', 'another', 'the last']);
    const now = view('y', 'y', ['One line', 'a new one', 'another', 'the last']);
    expect(linesChanged(before, now)).toEqual({ out: [], in: [1] });
  });
  it('list the lines that a newer engine moved, without heads and folios', () => {
    const head = (folio: string, words: string[], mark: string): View =>
      view(mark, mark, [folio, ...words], {
        label: folio,
        places: [
          [36, 20, 30, 9, 1],
          ...words.map((_, i): View['places'][0] => [36, 50 + 14 * i, 300, 11, 0]),
        ],
      });
    const before = impression([
      head('1', ['The tide came', 'in over the flats.'], 'a'),
      head('2', ['Noon.'], 'b'),
    ]);
    const now = impression(
      [head('1', ['The tide', 'came in over the flats.'], 'c'), head('3', ['Noon.'], 'b')],
      2,
    );
    expect(linesMoved(before, now)).toEqual([
      { from: '1', to: '1', before: 'The tide came', now: 'The tide' },
      { from: '1', to: '1', before: 'in over the flats.', now: 'came in over the flats.' },
    ]);
  });
});

describe('a sign-off', () => {
  const shown = impression([view('1'), view('2')]);
  const ready = {
    file: { findings: [] },
    outdated: null,
    impression: shown,
    read: new Set(['1', '2']),
    comments: 0,
  };
  it('has nothing in its way when all pages of the present file were read and all comments closed', () => {
    expect(obstaclesOf(ready)).toEqual([]);
  });
  it('says all that is in its way at once', () => {
    const obstacles = obstaclesOf({
      ...ready,
      file: { findings: [{ rule: 'pdf/x', severity: 'blocker', message: '' }] },
      outdated: outdated(
        { edition: 'ebook', upTo: 3, fit: null },
        { book: threeChapters(), revision: 4, pages: 0 },
      ),
      read: new Set(['2']),
      comments: 2,
    });
    expect(obstacles.map((o) => obstacleWords(o, 'page'))).toEqual([
      'The book has changed since the file was made. Make it again.',
      'The checks found 1 blocker in the file.',
      '1 page isn’t marked as read.',
      '2 comments are still open.',
    ]);
  });
  it('of what someone else made is asked for anew when the edition outgrows it, not when the book changes', () => {
    const book = threeChapters();
    const print = book.editions.find((e) => e.form === 'print')!;
    const file = { edition: `${print.id}/attached-cover`, upTo: 1, fit: fitOf(print, 96) };
    expect(outdated(file, { book, revision: 9, pages: 96 })).toBeNull();
    // While the pages are not known, nothing is said of them.
    expect(outdated(file, { book, revision: 9, pages: 0 })).toBeNull();
    expect(outdated(file, { book, revision: 9, pages: 98 })).toMatch(/pages \(98, then 96\)/);
    expect(
      outdated({ ...file, edition: `${print.id}/attached-pages` }, { book, revision: 9, pages: 98 }),
    ).toBeNull();
    expect(outdated({ ...file, edition: 'gone/attached-cover' }, { book, revision: 9, pages: 96 })).toMatch(
      /no longer exists/,
    );
  });
  it('needs a file', () => {
    expect(obstaclesOf({ ...ready, file: null }).map((o) => o.kind)).toEqual(['not made']);
    expect(obstaclesOf({ ...ready, impression: null }).map((o) => o.kind)).toEqual(['not made']);
  });
});
