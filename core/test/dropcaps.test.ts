/**
 * Drop capitals in every face, of two to four lines, with accents and quotation marks. Their geometry is read from the page
 * that is drawn: the letter stands on the last of its lines and reaches to the capitals of the first (common practice).
 */
import { describe, expect, it } from 'vitest';
import {
  DisplayIndex,
  displayList,
  drawnPage,
  GLYPH,
  TEXT,
  TEXT_HEAD,
  type Composition,
} from '../src/compose';
import { printEditionSchema } from '../src/book';
import { FAMILY_NAMES } from '../src/design';
import type { Face } from '../src/type';
import { book, prose, section } from './fixtures/books';
import { composed } from './fixtures/composed';

interface Run {
  face: Face;
  size: number;
  x: number;
  y: number;
  /** Of its ink, from the page's left edge, in millipoints. */
  left: number;
  right: number;
  top: number;
  text: string;
}
/** A chapter's first page in a family and a number of lines. */
async function opening(
  text: string,
  family: string,
  lines: number,
): Promise<{ c: Composition; runs: Run[] }> {
  const b = book([section('a', 'chapter', [text, prose(200, 2)], { title: '', numbered: false })]);
  const set = { 'text.family': family, 'opening.words': 'drop-capital', 'opening.dropLines': lines };
  const edition = printEditionSchema.parse({
    id: 'print',
    name: 'Paperback',
    form: 'print',
    interior: 'Harrow',
    design: { from: {}, set },
  });
  const c = await composed({ ...b, editions: [edition] }, {}, 'print');
  const index = new DisplayIndex();
  const { ops, text: shown } = displayList(drawnPage(c, c.pages[0]!), c.words, index);
  const runs: Run[] = [];
  let char = 0;
  for (let at = 0; at < ops.length && ops[at] === TEXT;) {
    const face = c.words.faces[index.faces[ops[at + 1]!]!]!;
    const size = ops[at + 2]!;
    const scale = size / face.upem;
    const count = ops[at + 5]!;
    let x = ops[at + 3]!;
    const run: Run = {
      face,
      size,
      x,
      y: ops[at + 4]!,
      left: Infinity,
      right: -Infinity,
      top: Infinity,
      text: '',
    };
    for (let g = 0; g < count; g++) {
      const k = at + TEXT_HEAD + g * GLYPH;
      const ink = face.inkOf(ops[k]!);
      run.left = Math.min(run.left, x + ink.left * scale);
      run.right = Math.max(run.right, x + (ink.left + ink.width) * scale);
      run.top = Math.min(run.top, run.y - ink.top * scale);
      run.text += shown.slice(char, char + ops[k + 4]!);
      char += ops[k + 4]!;
      x += ops[k + 1]!;
    }
    runs.push(run);
    at += TEXT_HEAD + count * GLYPH;
  }
  return { c, runs };
}

/** A tenth of a point. */
const NEAR = 100;
async function held(text: string, family: string, lines: number): Promise<Run> {
  const { c, runs } = await opening(text, family, lines);
  const { text: set, trim, margins } = c.interior;
  const drop = runs.reduce((a, b) => (b.size > a.size ? b : a));
  const body = runs.filter((r) => r.size === set.size && r.face === drop.face);
  const baselines = [...new Set(body.map((r) => r.y))].sort((a, b) => a - b);
  const [first, last] = [baselines[0]!, baselines[lines - 1]!];
  const what = `${text.slice(0, 8)} in ${family}, ${lines} lines`;
  expect(drop.y, what).toBe(last);
  expect(last - first, what).toBe((lines - 1) * set.leading);
  // Its capital height ends where that of the first line does.
  const capitals = (size: number): number => (drop.face.capHeight * size) / drop.face.upem;
  expect(Math.abs(drop.y - capitals(drop.size) - (first - capitals(set.size))), what).toBeLessThan(NEAR);
  // It begins at the edge of the text, and the lines beside it after its ink.
  const edge = c.pages[0]!.side === 'recto' ? margins.inside : margins.outside;
  expect(Math.abs(drop.left - edge), what).toBeLessThan(NEAR * 4);
  for (const r of body.filter(
    (b) => b.y <= last && b.x > edge - NEAR && !/^["'\u2018\u201c]$/.test(b.text.trim()),
  ))
    expect(r.left, `${r.text} beside ${what}`).toBeGreaterThan(drop.right);
  const below = body.filter((b) => b.y > last);
  expect(Math.min(...below.map((b) => b.left)), what).toBeLessThan(edge + set.size);
  // Stops and hyphens hang a little over the other edge.
  expect(Math.max(...runs.map((r) => r.right)), what).toBeLessThan(
    edge + trim.width - margins.inside - margins.outside + NEAR * 30,
  );
  // No letter is lost.
  const plain = (t: string): string => t.replace(/\s/g, '').toLowerCase();
  expect(plain(runs.map((r) => r.text).join('')), what).toContain(plain(text).slice(0, 24));
  return drop;
}

describe('a drop capital', () => {
  it.each(FAMILY_NAMES)(
    'stands on its last line and reaches to the capitals of the first, in %s',
    async (family) => {
      for (const lines of [2, 3, 4])
        for (const letter of ['T', 'W', 'J']) await held(`${letter}he ${prose(90)}`, family, lines);
    },
  );
  it.each(FAMILY_NAMES)('keeps its accent, which stands above the line, in %s', async (family) => {
    const plain = await held(`Elan ${prose(90)}`, family, 3);
    for (const letter of ['É', 'Å', 'Ö', 'Ñ', 'Ž']) {
      const drop = await held(`${letter}lan ${prose(90)}`, family, 3);
      expect(drop.text).toBe(letter);
      expect(drop.size).toBe(plain.size);
      expect(drop.top, `${letter} in ${family}`).toBeLessThan(plain.top - NEAR);
    }
  });
  it.each(['\u201c', '\u2018', '"', "'"])(
    'takes the mark %s with it, outside the text and at its own size',
    async (mark) => {
      for (const family of ['EB Garamond', 'Literata']) {
        const { c, runs } = await opening(`${mark}Every ${prose(90)}`, family, 3);
        const drop = runs.reduce((a, b) => (b.size > a.size ? b : a));
        const quote = runs.find((r) => r.text === mark)!;
        expect(drop.text).toBe('E');
        expect(quote.size).toBe(c.interior.text.size);
        expect(quote.right).toBeLessThanOrEqual(drop.left);
        const edge = c.pages[0]!.side === 'recto' ? c.interior.margins.inside : c.interior.margins.outside;
        expect(Math.abs(drop.left - edge)).toBeLessThan(NEAR * 4);
      }
    },
  );
});

describe('a text that has no capital to drop', () => {
  it.each([
    ['a figure', '1857 was the year. '],
    ['a dash', '— Well, he said. '],
    ['a bracket', '(It was the tide.) '],
    ['a ligature', 'ﬁne weather. '],
    ['a sharp s', 'ßo it was. '],
  ])('begins plainly: %s', async (_, text) => {
    const { c, runs } = await opening(text + prose(90), 'EB Garamond', 3);
    expect(Math.max(...runs.map((r) => r.size))).toBe(c.interior.text.size);
  });
  it('of one short line has none, since nothing would stand beside it', async () => {
    const { c, runs } = await opening('Rain.', 'EB Garamond', 3);
    expect(Math.max(...runs.map((r) => r.size))).toBe(c.interior.text.size);
  });
});
