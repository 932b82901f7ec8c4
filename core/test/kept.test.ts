/** A chapter that is changed again and again is set as if each time were the first: to the line, to the glyph. */
import { expect, it } from 'vitest';
import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { schema, type Book } from '../src/book';
import { ComposeCache, DisplayIndex, displayList, drawnPage, type Composition } from '../src/compose';
import { KeptParagraphs } from '../src/compose/blocks';
import { Trail } from '../src/compose/pages';
import { book, prose, section } from './fixtures/books';
import { composed } from './fixtures/composed';

const set = (b: Book, cache?: ComposeCache): Promise<Composition> => composed(b, { cache });
/** What is drawn, page by page. */
const drawn = (c: Composition) => {
  const index = new DisplayIndex();
  return c.pages.map((p) => {
    const { ops, text } = displayList(drawnPage(c, p), c.words, index);
    return `${p.label}: ${text}\n${ops.join(' ')}`;
  });
};
const chapter = (blocks: readonly Node[]): Book =>
  book([
    { ...section('c', 'chapter', [], { title: 'The Tide' }), content: schema.node('doc', null, blocks) },
  ]);

const words = fc
  .array(
    fc.constantFrom('tide', 'causeway', 'the', 'neighbourhood', 'of', 'well-known', '“Stop!”', 'afternoon'),
    {
      minLength: 1,
      maxLength: 90,
    },
  )
  .map((w) => w.join(' '));
const kind = fc.constantFrom(
  'paragraph',
  'paragraph',
  'paragraph',
  'called',
  'quotation',
  'subhead',
  'break',
  'verse',
);

function blockOf(id: string, what: string, text: string): Node[] {
  const p = (pid: string, more: Node[] = []): Node =>
    schema.node('paragraph', { id: pid }, [schema.text(text), ...more]);
  switch (what) {
    case 'called':
      return [
        p(id, [schema.node('note', { ref: `${id}n` })]),
        schema.node('noteBody', { id: `${id}n` }, [p(`${id}np`)]),
      ];
    case 'quotation':
      return [schema.node('quotation', { id }, [p(`${id}q`)])];
    case 'subhead':
      return [schema.node('subhead', { id, level: 2 }, [schema.text(text.slice(0, 30))])];
    case 'break':
      return [schema.node('break', { id, ornament: true })];
    case 'verse':
      return [
        schema.node('verse', { id }, [
          schema.node('stanza', { id: `${id}s` }, [
            schema.node('verseLine', { id: `${id}l` }, [schema.text(text.slice(0, 40))]),
          ]),
        ]),
      ];
    default:
      return [p(id)];
  }
}
interface Piece {
  id: string;
  what: string;
  text: string;
}
const doc = (pieces: readonly Piece[]): Node[] => {
  const blocks = pieces.flatMap((x) => blockOf(x.id, x.what, x.text));
  // Notes follow the text.
  return [
    ...blocks.filter((b) => b.type.name !== 'noteBody'),
    ...blocks.filter((b) => b.type.name === 'noteBody'),
  ];
};

const NO_NOTES = kind.map((k) => (k === 'called' ? 'paragraph' : k));
it.each([
  { of: 'a few pages, with notes', kinds: kind, pieces: [3, 25], runs: 50 },
  { of: 'many pages, without', kinds: NO_NOTES, pieces: [90, 220], runs: 25 },
])(
  'whatever is changed, deleted, put in or moved: $of',
  async ({ kinds, pieces: [least, most], runs }) => {
    const change = fc.record({
      how: fc.constantFrom('text', 'text', 'text', 'text', 'out', 'in', 'move', 'kind'),
      at: fc.nat(),
      to: fc.nat(),
      text: words,
      what: kinds,
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ what: kinds, text: words }), { minLength: least, maxLength: most }),
        fc.array(change, { minLength: 1, maxLength: 8 }),
        async (start, changes) => {
          const cache = new ComposeCache();
          let pieces: Piece[] = start.map((x, i) => ({ ...x, id: `b${i}` }));
          await set(chapter(doc(pieces)), cache);
          for (const [n, c] of changes.entries()) {
            const at = c.at % pieces.length;
            const one = pieces[at] as Piece;
            if (c.how === 'text') pieces = pieces.with(at, { ...one, text: c.text });
            else if (c.how === 'kind') pieces = pieces.with(at, { ...one, what: c.what });
            else if (c.how === 'in')
              pieces = pieces.toSpliced(at, 0, { id: `n${n}`, what: c.what, text: c.text });
            else if (c.how === 'out' && pieces.length > 1) pieces = pieces.toSpliced(at, 1);
            else if (c.how === 'move')
              pieces = pieces.toSpliced(at, 1).toSpliced(c.to % pieces.length, 0, one);
            const again = await set(chapter(doc(pieces)), cache);
            expect(drawn(again)).toEqual(drawn(await set(chapter(doc(pieces)))));
          }
        },
      ),
      { numRuns: runs },
    );
  },
  120_000,
);

it('finds the pages after a change again where they have come to be the same', async () => {
  const passed: number[] = [];
  const own = Trail.prototype.pass;
  Trail.prototype.pass = function (at, states) {
    passed.push(at);
    return own.call(this, at, states);
  };
  try {
    const cache = new ComposeCache();
    const pieces = Array.from({ length: 900 }, (_, i) => ({
      id: `b${i}`,
      what: 'paragraph',
      text: prose(20 + ((i * 37) % 70), i),
    }));
    await set(chapter(doc(pieces)), cache);
    const change = async (i: number, text: string): Promise<void> => {
      passed.length = 0;
      pieces[i] = { ...(pieces[i] as Piece), text };
      const again = await set(chapter(doc(pieces)), cache);
      expect(drawn(again)).toEqual(drawn(await set(chapter(doc(pieces)))));
    };
    const length = (i: number): number => 20 + ((i * 37) % 70);
    await change(300, prose(length(300) + 1, 300));
    const spans: number[] = [];
    for (const i of [300, 301, 20, 500, 320, 310, 640]) {
      await change(i, prose(length(i) + 2, i));
      spans.push(passed.length === 0 ? 0 : Math.max(...passed) - Math.min(...passed));
    }
    // Of 900 blocks. Where a paragraph becomes a line longer, the pages may stay others to the end.
    expect(spans.sort((a, b) => a - b)[3]).toBeLessThan(100);
  } finally {
    Trail.prototype.pass = own;
  }
}, 60_000);

it('sets one paragraph anew, not the others; and none of another design', async () => {
  const cache = new ComposeCache();
  const pieces = Array.from({ length: 40 }, (_, i) => ({
    id: `b${i}`,
    what: 'paragraph',
    text: `The tide came in over the causeway, and it was the ${i}th time that afternoon. `.repeat(4).trim(),
  }));
  const b = chapter(doc(pieces));
  await set(b, cache);
  const hits = { known: 0, all: 0 };
  const own = KeptParagraphs.prototype.set;
  KeptParagraphs.prototype.set = function (node, ...rest) {
    const before = this['before'].get(node.attrs.id as string)?.set;
    const made = own.call(this, node, ...rest);
    hits.all++;
    if (made === before) hits.known++;
    return made;
  };
  try {
    const change = (i: number): Book =>
      chapter(doc(pieces.with(i, { ...(pieces[i] as Piece), text: 'Ebb.' })));
    // The first change keeps the lines; the ones after find them.
    await set(change(20), cache);
    expect(hits).toEqual({ known: 0, all: 40 });
    await set(change(21), cache);
    expect(hits).toEqual({ known: 38, all: 80 });
    const large = { ...change(22), editions: b.editions.map((e) => ({ ...e, interior: 'Cairn' })) };
    const again = await set(large, cache);
    expect(hits).toEqual({ known: 38, all: 120 });
    expect(drawn(again)).toEqual(drawn(await set(large)));
  } finally {
    KeptParagraphs.prototype.set = own;
  }
});
