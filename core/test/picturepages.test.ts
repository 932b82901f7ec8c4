/** Pages laid out one by one: work on them, what they become elsewhere, and where they fall in print. */
import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  apply,
  asRunningText,
  bookFromJson,
  bookToJson,
  PAGE_LAYOUTS,
  schema,
  type Book,
  type BookJson,
  type Change,
  type PicturePageAttrs,
  type Section,
  type TextBoxAttrs,
} from '../src/book';
import { checkBook, checkPages, pagesFacts } from '../src/check';
import { pageOffsets, textLines, type Composition } from '../src/compose';
import {
  addBox,
  addPages,
  asPicturePages,
  divide,
  duplicatePages,
  findOnPages,
  isFromRecord,
  join,
  layAcross,
  layoutIn,
  layOut,
  moveBox,
  movePages,
  removeBox,
  removePages,
  setOnPages,
} from '../src/order';
import { book, everyBlock, section } from './fixtures/books';
import { composed } from './fixtures/composed';

let n = 0;
const newId = (): string => `n${++n}`;
interface PageGiven {
  id: string;
  words?: string[];
  attrs?: Partial<PicturePageAttrs>;
  box?: Partial<TextBoxAttrs>;
}
const page = ({ id, words = [], attrs, box }: PageGiven): Node =>
  schema.node(
    'picturePage',
    { ...attrs, id },
    words.map((w, i) =>
      schema.node('textBox', { ...box, id: `${id}b${i}` }, [
        schema.node('paragraph', { id: `${id}b${i}p` }, w === '' ? [] : [schema.text(w)]),
      ]),
    ),
  );
const pictured = (id: string, ...pages: PageGiven[]): Section =>
  section(id, 'picture-pages', [], { content: schema.node('doc', null, pages.map(page)) });
const PICTURE = { id: 'art', name: 'art.png', type: 'image/png' as const, width: 400, height: 300 };
const bookOf = (...sections: Section[]): Book => book(sections, { pictures: [PICTURE] });
const story = (): Section =>
  pictured(
    's',
    { id: 'a', words: ['One crow.'], attrs: { picture: 'art', alt: 'A crow' } },
    { id: 'b', words: ['Two crows, talking.', 'Caw.'] },
    { id: 'c' },
    { id: 'd', words: ['Home.'], attrs: { across: true } },
  );

const done = (b: Book, change: Change): Book => {
  const r = apply(b, change);
  if (!r.ok) throw new Error(r.refusal.message);
  const undone = apply(r.value.book, r.value.inverse);
  expect(undone.ok && bookToJson(undone.value.book)).toEqual(bookToJson(b));
  return r.value.book;
};
const sectionIn = (b: Book): Section => b.sections.find((s) => s.id === 's')!;
const after = (s: Section, make: (s: Section) => Change | null): Section => {
  const change = make(s);
  return change ? sectionIn(done(bookOf(s), change)) : s;
};
const order = (s: Section): string => s.content.children.map((p) => p.attrs.id as string).join(' ');
/** Words of a text in order, one block after the other. */
const wordsOf = (doc: Node): string[] =>
  doc.textBetween(0, doc.content.size, ' ', ' ').match(/[\p{L}\p{N}]+/gu) ?? [];

describe('work on picture pages', () => {
  it('moves pages before and behind others, several at once and in their order', () => {
    expect(order(after(story(), (s) => movePages(s, ['c'], 0)))).toBe('c a b d');
    expect(order(after(story(), (s) => movePages(s, ['a', 'c'], 4)))).toBe('b d a c');
    expect(order(after(story(), (s) => movePages(s, ['d', 'b'], 1)))).toBe('a b d c');
    expect(movePages(story(), ['b'], 1)).toBeNull();
    expect(movePages(story(), ['b'], 2)).toBeNull();
  });
  it('adds, duplicates and deletes pages; one is always left', () => {
    const more = after(story(), (s) => addPages(s, 'a', newId, [{ picture: 'art' }, { picture: '' }]));
    expect(more.content.children.map((p) => p.attrs.picture as string)).toEqual([
      'art',
      'art',
      '',
      '',
      '',
      '',
    ]);
    const twice = after(story(), (s) => duplicatePages(s, ['b', 'a'], newId));
    expect(twice.content.children.map((p) => p.textContent)).toEqual([
      'One crow.',
      'Two crows, talking.Caw.',
      'One crow.',
      'Two crows, talking.Caw.',
      '',
      'Home.',
    ]);
    const none = after(story(), (s) => removePages(s, ['a', 'b', 'c', 'd'], newId));
    expect(none.content.childCount).toBe(1);
    expect(none.content.textContent).toBe('');
  });
  it('puts words on a page, in another order, and takes them away', () => {
    const made = addBox(story(), 'b', newId, [10, 10, 500, 100])!;
    const with3 = after(story(), () => made.change);
    expect(findOnPages(with3.content, made.id)?.index).toBe(2);
    const first = after(story(), (s) => moveBox(s, 'bb1', -1));
    expect(first.content.child(1).textContent).toBe('Caw.Two crows, talking.');
    expect(moveBox(story(), 'bb1', 1)).toBeNull();
    expect(after(story(), (s) => removeBox(s, 'bb0')).content.child(1).textContent).toBe('Caw.');
  });
  it('gives pages a layout, and knows it again', () => {
    for (const layout of PAGE_LAYOUTS.filter((l) => l !== 'picture' && l !== 'words')) {
      const s = after(story(), (x) => layOut(x, ['a'], layout, newId));
      expect(layoutIn(s.content.child(0)), layout).toBe(layout);
    }
    expect(layoutIn(after(story(), (x) => layOut(x, ['b'], 'words', newId)).content.child(1))).toBe('words');
    // A picture alone keeps words that somebody wrote.
    expect(after(story(), (x) => layOut(x, ['a'], 'picture', newId)).content.child(0).textContent).toBe(
      'One crow.',
    );
  });
  it('keeps words on the left page, as wide as they were, when a page is laid out across a spread, and back', () => {
    const frame = (s: Section, page: number): unknown => s.content.child(page).firstChild?.attrs.frame;
    const wide = after(story(), (s) => layAcross(s, 'b', true));
    expect(frame(story(), 1)).toEqual([100, 750, 800, 180]);
    expect(frame(wide, 1)).toEqual([50, 750, 400, 180]);
    expect(
      frame(
        after(wide, (s) => layAcross(s, 'b', false)),
        1,
      ),
    ).toEqual([100, 750, 800, 180]);
    const right = after(wide, (s) => setOnPages(s, ['bb0'], { frame: [560, 100, 400, 100] }));
    expect(
      frame(
        after(right, (s) => layAcross(s, 'b', false)),
        1,
      ),
    ).toEqual([120, 100, 800, 100]);
    expect(layAcross(story(), 'd', true)).toBeNull();
  });
  it('loses no word and doubles no id, whatever is done in whatever order', () => {
    const step = fc.record({ what: fc.nat(7), at: fc.nat(9), to: fc.nat(9) });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 14 }), (steps) => {
        let s = story();
        let words = wordsOf(s.content).sort();
        for (const { what, at, to } of steps) {
          const pages = s.content.children;
          const one = pages[at % pages.length]!;
          const id = one.attrs.id as string;
          const box = one.firstChild?.attrs.id as string | undefined;
          if (what === 0) s = after(s, (x) => movePages(x, [id], to % (pages.length + 1)));
          if (what === 1) {
            s = after(s, (x) => duplicatePages(x, [id], newId));
            words = [...words, ...wordsOf(schema.node('doc', null, [one]))].sort();
          }
          if (what === 2) s = after(s, (x) => layOut(x, [id], PAGE_LAYOUTS[to % 6]!, newId));
          if (what === 3 && box) s = after(s, (x) => moveBox(x, box, to % 2 ? 1 : -1));
          if (what === 4) s = after(s, (x) => addPages(x, id, newId));
          if (what === 5) s = after(s, (x) => addBox(x, id, newId, [0, 0, 300, 300])?.change ?? null);
          if (what === 6) s = after(s, (x) => layAcross(x, id, to % 2 === 0));
          if (what === 7 && box) s = after(s, (x) => setOnPages(x, [box], { size: 60 + to, lang: 'fr' }));
        }
        s.content.check();
        const ids: string[] = [];
        s.content.descendants((x) => void (typeof x.attrs.id === 'string' && ids.push(x.attrs.id)));
        expect(new Set(ids).size).toBe(ids.length);
        expect(wordsOf(s.content).sort()).toEqual(words);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a book with picture pages', () => {
  it('is kept as JSON, and one with a frame or a colour that is none is refused in a sentence', () => {
    const b = bookOf(story());
    const again = bookFromJson(JSON.parse(JSON.stringify(bookToJson(b))));
    expect(again.ok && bookToJson(again.value)).toEqual(bookToJson(b));
    for (const attrs of [
      { frame: [0, 0, 5000, 10] },
      { frame: 'whole' },
      { frame: [900, 0, 500, 500] },
      { ground: 'red" onload="x' },
      { crop: { x: 0, y: 0, zoom: 1 } },
      { fit: 'stretch' },
    ]) {
      const json = JSON.parse(JSON.stringify(bookToJson(b))) as BookJson;
      const content = json.sections[0]!.content as { content: { attrs: object }[] };
      Object.assign(content.content[0]!.attrs, attrs);
      const refused = bookFromJson(json);
      expect(!refused.ok && refused.refusal.message, JSON.stringify(attrs)).toMatch(/can’t read/);
    }
  });
  it('mixes no running text with them', () => {
    const mixed = schema.nodes.doc!.create(null, [page({ id: 'x' }), schema.node('paragraph', { id: 'y' })]);
    expect(() => mixed.check()).toThrow();
    const b = bookOf(section('t', 'chapter', ['Text.']), story());
    const refused = join(b, 's', newId);
    expect(!refused.ok && refused.refusal.message).toContain('running text');
  });
  it('is divided at a page and joined again', () => {
    const b = bookOf(story());
    const cut = divide(b, 's', 'c', newId);
    const two = done(b, cut.ok ? cut.value : { type: 'group', label: '', changes: [] });
    expect(two.sections.map((s) => s.content.childCount)).toEqual([2, 2]);
    const joined = join(two, two.sections[1]!.id, newId);
    expect(joined.ok && order(done(two, joined.value).sections[0]!)).toBe('a b c d');
  });
  it('takes a title page that is laid out as it is, and asks for what its pictures show', () => {
    const title = { ...pictured('t', { id: 'x' }), kind: 'title-page' as const, matter: 'front' as const };
    const b = bookOf(title, pictured('s', { id: 'y', attrs: { picture: 'art' } }));
    expect(isFromRecord(title, b.record)).toBe(false);
    expect(checkBook(b).filter((f) => f.rule === 'figure/no-alt')).toMatchObject([
      { place: { section: 's', block: 'y' } },
    ]);
  });
  it('is the same words as running text, its pictures as figures', () => {
    const text = asRunningText(story().content);
    text.check();
    expect(wordsOf(text)).toEqual(wordsOf(story().content));
    expect(text.children.map((x) => x.type.name)).toEqual([
      'figure',
      'paragraph',
      'pageBreak',
      'paragraph',
      'paragraph',
      'pageBreak',
      'pageBreak',
      'paragraph',
    ]);
    const { content } = everyBlock();
    expect(asRunningText(content)).toBe(content);
  });
  it('is made of running text: a page for each stretch between breaks, and no word lost', () => {
    const every = { ...everyBlock('s'), id: 's' };
    const before = wordsOf(every.content).sort();
    const laid = after(every, (s) => asPicturePages(s, newId));
    laid.content.check();
    expect(wordsOf(laid.content).sort()).toEqual(before);
    const tale = section('s', 'picture-pages', ['One.', 'Two.', 'Three.']);
    expect(after(tale, (s) => asPicturePages(s, newId)).content.children.map((p) => p.textContent)).toEqual([
      'One.',
      'Two.',
      'Three.',
    ]);
  });
});

describe('picture pages in print', () => {
  let c: Composition;
  const whole = (): Book =>
    bookOf(
      pictured(
        's',
        { id: 'a', words: ['One crow.'], box: { frame: [100, 100, 800, 200], face: 'Vollkorn' } },
        {
          id: 'b',
          words: ['On the left. On the right.'],
          attrs: { across: true, picture: 'art' },
          box: { frame: [550, 100, 400, 400] },
        },
        { id: 'c', words: ['Too much for so small a box of words.'], box: { frame: [100, 100, 200, 40] } },
        { id: 'd', words: ['Near.'], attrs: { across: true }, box: { frame: [480, 0, 200, 100] } },
      ),
    );
  beforeAll(async () => {
    c = await composed(whole());
  });
  const said = (i: number): string =>
    [...textLines(c.pages[i]!.body)]
      .flatMap((l) => l.words.map((w) => (w === null ? ' ' : c.words.texts[w])))
      .join('');

  it('stand where they were counted: one across a spread begins on a left-hand page', () => {
    expect(pageOffsets(whole().sections[0]!.content, 'recto').map((o) => o.from)).toEqual([0, 1, 3, 5]);
    // 1 · 2–3 · 4 · a blank 5 · 6–7, and a blank that makes them even.
    expect(c.pages).toHaveLength(8);
    expect([0, 1, 2, 3, 4, 5].map(said)).toEqual([
      'One crow.',
      '',
      'On the left. On the right.',
      expect.stringContaining('Too much'),
      '',
      '',
    ]);
  });
  it('are drawn over the edges, and the file gets a bleed for them alone', async () => {
    expect(c.bleed).toBe(9_000);
    const plain = await composed(
      bookOf(pictured('s', { id: 'a', words: ['One.'], box: { frame: [100, 100, 800, 200] } })),
    );
    expect(plain.bleed).toBe(0);
  });
  it('report words that don’t fit, and words that may be cut off', () => {
    expect(c.report).toMatchObject({ oversetBoxes: 1, unsafeBoxes: 1 });
    const found = checkPages(whole(), pagesFacts(c, whole())).filter((f) => /box|edge/.test(f.rule));
    expect(found.map((f) => [f.rule, f.place?.block])).toEqual([
      ['type/overset-box', 'cb0p'],
      ['type/near-edge', 'db0p'],
    ]);
  });
});
