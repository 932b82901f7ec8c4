import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { family, typeSource } from '@pagina/make';
import {
  compose,
  DisplayIndex,
  displayList,
  drawnPage,
  GLYPH,
  nextOp,
  sheetLines,
  TEXT,
  TEXT_HEAD,
  textLines,
  type Composition,
  type TypeSource,
} from '../src/compose';
import { TypeCase, WordCopy, WordParts, type Style } from '../src/type';
import { threeChapters } from './fixtures/books';

let source: TypeSource;
let composition: Composition;
beforeAll(async () => {
  source = await typeSource();
  const made = await compose(threeChapters(), 'paperback', source);
  if (!made.ok) throw new Error(made.refusal.message);
  composition = made.value;
});
const style = (): Style =>
  new TypeCase(source.harfbuzz).style(family('EB Garamond'), 'regular', {
    size: 11_000,
    features: 'onum',
    language: 'en',
    rise: 0,
    tracking: 0,
  });

describe('words', () => {
  it('are shaped once, however and wherever they are met', () => {
    const s = style();
    const text = 'The tide, the tide; THE tide';
    const first = s.wordIn(text, 4, 9);
    expect(first.text).toBe('tide,');
    expect(s.word('tide,')).toBe(first);
    expect(s.wordIn('tide, tide', 0, 5)).toBe(first);
    expect(s.word('tide')).not.toBe(first);
  });
  it('are found by their letters alone, whatever the letters are', () => {
    const s = style();
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 200 }),
        (words) => {
          const made = words.map((w) => s.word(w));
          words.forEach((w, i) => {
            expect(made[i]!.text).toBe(w);
            expect(s.word(w)).toBe(made[i]);
          });
        },
      ),
      { numRuns: 40 },
    );
  });
  it('with a stop are as wide as the engine says when it shapes them whole', () => {
    const s = style();
    const face = s.face;
    for (const text of ['boat.', 'water,', 'Yes!', 'fjord?', 'VAT.', 'rope;', 'Tow:']) {
      const g = face.shape(text, 'onum', 'en');
      let width = 0;
      for (let i = 0; i < g.count; i++) width += s.scale(face, g.advances[i] as number);
      expect(Math.abs(s.word(text).width - width)).toBeLessThanOrEqual(2);
    }
  });
  it('without a glyph say so, and show a box in its place', () => {
    const s = style();
    const w = s.word('a\u{1F40B}b');
    expect([w.missing, s.spec.words.texts[w.number]]).toEqual(['\u{1F40B}', 'a\u{1F40B}b']);
    // Glyph 0 is every face's box (OpenType 1.9, "glyf").
    expect(w.width).toBeGreaterThan(s.word('ab').width);
  });
  it('go to another thread in parts and are the same there', () => {
    const s = style();
    const parts = new WordParts(s.spec.words);
    const copy = new WordCopy();
    const texts = [['the', 'tide,', 'naïve'], ['Ωμέγα', 'office', 'b'], []];
    for (const batch of texts) {
      batch.forEach((t) => s.word(t));
      copy.add(parts.next());
    }
    const book = s.spec.words;
    expect(copy.texts).toEqual(book.texts);
    expect(copy.spaces).toEqual(book.spaces);
    const end = book.length;
    expect([...copy.starts]).toEqual([...book.starts.slice(0, book.texts.length)]);
    expect([...copy.data.slice(0, end)]).toEqual([...book.data.slice(0, end)]);
  });
});

describe('sheets', () => {
  it('are walked command by command to their end', () => {
    for (const page of composition.pages)
      for (const { ops } of [page.body, page.furniture]) {
        let at = 0;
        while (at < ops.length) at = nextOp(ops, at);
        expect(at).toBe(ops.length);
      }
  });
  it('say of every line its block, its place in it, and its words', () => {
    const wanted = new Map<string, string>();
    for (const s of threeChapters().sections)
      s.content.descendants((n) => {
        if (n.isTextblock) wanted.set(n.attrs.id as string, n.textContent);
        return !n.isTextblock;
      });
    const contents = new Set(composition.pages.filter((p) => p.section === 'toc').map((p) => p.index));
    for (const page of composition.pages) {
      if (contents.has(page.index)) continue;
      for (const line of textLines(page.body)) {
        const text = wanted.get(line.block) ?? '';
        const first = line.words.find((w) => w !== null);
        const shown = composition.words.texts[first as number] as string;
        // A drop cap, and a divided word, begin or end inside a word of the text.
        expect(text.slice(line.offset).toLowerCase()).toMatch(
          new RegExp(`^${shown.replace(/-$/, '').replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`, 'i'),
        );
      }
    }
  });
  it('draw to the same text, glyph for character', () => {
    for (const page of composition.pages) {
      const list = displayList(drawnPage(composition, page), composition.words, new DisplayIndex());
      let chars = 0;
      for (let at = 0; at < list.ops.length;) {
        if (list.ops[at] !== TEXT) {
          at += list.ops[at] === 2 ? 5 : 7;
          continue;
        }
        const n = list.ops[at + 5] as number;
        for (let g = 0; g < n; g++) chars += list.ops[at + TEXT_HEAD + g * GLYPH + 4] as number;
        at += TEXT_HEAD + n * GLYPH;
      }
      expect(chars).toBe(list.text.length);
      const said = [page.furniture, page.body]
        .flatMap((s) => [...sheetLines(s)])
        .flatMap((l) => l.words)
        .map((w) => (w === null ? ' ' : composition.words.texts[w]))
        .join('');
      expect(list.text.replace(/\s/g, '')).toBe(said.replace(/\s/g, ''));
    }
  });
  it('are handed out page by page while others are set, and those of the last round are the book’s', async () => {
    const seen = new Set<unknown>();
    const made = await compose(threeChapters(), 'paperback', source, { onPage: (p) => void seen.add(p) });
    if (!made.ok) throw new Error(made.refusal.message);
    for (const p of made.value.pages) expect(p.blank || seen.has(p)).toBe(true);
    // Only the contents page is set twice: it cannot know its folios before.
    expect(seen.size - made.value.pages.filter((p) => !p.blank).length).toBe(1);
  });
});
