/** Places in a source and in the editor, the passage that is open, and outlines. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { editBetween, isTooDeep, type WantedEntry } from '@pagina/core/emend';
import { branchEnd, indented, moved } from '../src/emend/branches';
import { offsetAt } from '@pagina/core/base';
import { inEditor, inSource, lineOf, withPlainEnds } from '../src/emend/lines';
import { followed } from '../src/emend/passage';

const source = fc
  .array(fc.constantFrom('a', '<p>', '\r\n', '\n', ' ', '\u00e9'), { maxLength: 30 })
  .map((l) => l.join(''));

describe('places in a source', () => {
  it('and in the editor lead to each other, whatever ends the lines', () => {
    fc.assert(
      fc.property(source, fc.nat(30), (raw, n) => {
        const plain = withPlainEnds(raw);
        const at = Math.min(n, plain.length);
        expect(inEditor(raw, inSource(raw, at))).toBe(at);
        expect(withPlainEnds(raw.slice(0, inSource(raw, at)))).toBe(plain.slice(0, at));
      }),
    );
  });
  it('are told by line and column', () => {
    expect(offsetAt('one\r\ntwo\nthree', 3, 2)).toBe(10);
    expect(lineOf('one\r\ntwo\nthree', 10)).toBe(3);
    expect(offsetAt('one', 9, 9)).toBe(3);
  });
});

describe('the passage that is open', () => {
  it('holds the same words after a change before it, behind it, or in it', () => {
    const text = '<p>one</p><p>two</p><p>three</p>';
    const span = { from: 10, to: 20 };
    const after = (from: string, to: string): string => {
      const now = text.replace(from, to);
      const { from: a, to: b } = followed(span, text, now);
      return now.slice(a, b);
    };
    expect(after('one', 'a longer one')).toBe('<p>two</p>');
    expect(after('three', '3')).toBe('<p>two</p>');
    expect(after('two', 'two and more')).toBe('<p>two and more</p>');
    expect(editBetween('a', text, text)).toBeNull();
  });
  it('is not shown where elements are nested hundreds of levels deep', () => {
    expect(isTooDeep(`${'<i>'.repeat(501)}${'</i>'.repeat(501)}`)).toBe(true);
    expect(isTooDeep('<p><br/>x</p>'.repeat(5_000))).toBe(false);
  });
});

describe('an outline', () => {
  const outline = (...depths: number[]): WantedEntry[] =>
    depths.map((depth, from) => ({ from, label: String(from), path: 'a', fragment: '', depth }));
  const isOutline = (list: readonly WantedEntry[]): boolean =>
    list.every((e, i) => e.depth >= 0 && e.depth <= (list[i - 1]?.depth ?? -1) + 1);
  it('has entries moved with all that stands below them', () => {
    const list = outline(0, 1, 1, 0, 0);
    expect(branchEnd(list, 0)).toBe(3);
    expect(moved(list, 0, 1).entries.map((e) => e.from)).toEqual([3, 0, 1, 2, 4]);
    expect(moved(list, 3, -1).entries.map((e) => e.from)).toEqual([3, 0, 1, 2, 4]);
    expect(indented(list, 0, 1)).toBeNull();
    expect(indented(list, 3, 1)?.map((e) => e.depth)).toEqual([0, 1, 1, 1, 0]);
  });
  it('stays one, whatever is moved', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(3), { minLength: 1, maxLength: 9 }),
        fc.nat(8),
        fc.constantFrom(-1, 1),
        (steps, n, by) => {
          const depths: number[] = [];
          for (const s of steps) depths.push(Math.min(s, (depths.at(-1) ?? -1) + 1));
          const list = outline(...depths);
          const at = n % list.length;
          const { entries } = moved(list, at, by);
          expect(isOutline(entries)).toBe(true);
          expect(entries.map((e) => e.from).sort()).toEqual(list.map((e) => e.from).sort());
          expect(isOutline(indented(list, at, by) ?? [])).toBe(true);
        },
      ),
    );
  });
});
