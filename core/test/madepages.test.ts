/** Pages made from others (notes, index, contents, lists) keep up with the book at once, whatever is added or deleted. */
import { expect, it } from 'vitest';
import fc from 'fast-check';
import { schema, type Book, type Section, type SectionKind } from '../src/book';
import { checkBook } from '../src/check';
import { join } from '../src/order';
import { ComposeCache, DisplayIndex, displayList, drawnPage, type Composition } from '../src/compose';
import { book, prose, section } from './fixtures/books';
import { composed } from './fixtures/composed';

const drawn = (c: Composition): string[] => {
  const index = new DisplayIndex();
  return c.pages.map((p) => {
    const { ops, text } = displayList(drawnPage(c, p), c.words, index);
    return `${p.label}: ${text}\n${ops.join(' ')}`;
  });
};

/** A chapter with a note, an index entry and a picture with a caption. */
function chapter(n: number): Section {
  const p = (id: string, ...more: Parameters<typeof schema.node>[2][]) =>
    schema.node('paragraph', { id }, more as never);
  const content = schema.node('doc', null, [
    p(
      `c${n}a`,
      schema.text(`${prose(120, n)} the `) as never,
      schema.text('causeway', [schema.mark('indexed', { term: `causeway ${n % 2}` })]) as never,
      schema.node('note', { ref: `c${n}n` }) as never,
    ),
    p(`c${n}b`, schema.text(prose(900, n + 50)) as never),
    schema.node('noteBody', { id: `c${n}n` }, [
      p(`c${n}np`, schema.text(`Note ${n}: ${prose(12, n)}`) as never),
    ]),
  ]);
  return { ...section(`c${n}`, 'chapter', [], { title: `Chapter of ${n}` }), content };
}
const MADE: SectionKind[] = ['notes', 'index', 'contents', 'list-of-figures'];
const start = (): Book => book([chapter(1), chapter(2), chapter(3)]);
const withPage = (b: Book, kind: SectionKind): Book => {
  const page = section(`m-${kind}`, kind, []);
  const sections = b.sections.some((s) => s.kind === kind)
    ? b.sections.filter((s) => s.kind !== kind)
    : kind === 'contents' || kind === 'list-of-figures'
      ? [page, ...b.sections]
      : [...b.sections, page];
  return { ...b, sections };
};
const at = (b: Book, notes: string): Book => ({
  ...b,
  editions: b.editions.map((e) => ({ ...e, design: { ...e.design, set: { 'notes.at': notes } } })),
});

it('a book that gains and loses them is set as if it had always been so', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom('foot', 'section', 'book'),
      fc.array(fc.constantFrom(...MADE, 'chapter' as const), { minLength: 1, maxLength: 6 }),
      async (notes, changes) => {
        const cache = new ComposeCache();
        let b = at(start(), notes);
        await composed(b, { cache });
        for (const [i, kind] of changes.entries()) {
          b =
            kind === 'chapter'
              ? {
                  ...b,
                  sections: b.sections.map((s) => (s.id === 'c2' ? { ...chapter(2 + i * 10), id: 'c2' } : s)),
                }
              : withPage(b, kind);
          const [again, anew] = [await composed(b, { cache }), await composed(b)];
          expect(drawn(again)).toEqual(drawn(anew));
          expect(again.report.pages).toBe(anew.report.pages);
        }
      },
    ),
    { numRuns: 25 },
  );
}, 120_000);

it('the notes of the whole book stand in the section Notes as soon as there is one', async () => {
  const cache = new ComposeCache();
  const b = at(start(), 'book');
  const noted = (c: Composition): string[] =>
    drawn(c).flatMap((page, i) => [...page.matchAll(/Note (\d):/g)].map((m) => `${m[1]} on ${i}`));
  const before = noted(await composed(b, { cache }));
  const after = await composed(withPage(b, 'notes'), { cache });
  expect(before).toHaveLength(3);
  expect(noted(after)).toHaveLength(3);
  expect(new Set(noted(after).map((n) => n.split(' on ')[1])).size).toBe(1);
  expect(noted(await composed(b, { cache }))).toEqual(before);
});

it('no page that is made from others is said to have no text, and one that has nothing to show is', () => {
  const rules = (b: Book): (string | undefined)[] =>
    checkBook(b)
      .filter((f) => f.rule === 'order/empty-section')
      .map((f) => f.place?.section);
  for (const kind of MADE) expect(rules(withPage(at(start(), 'book'), kind))).toEqual([]);
  const bare = book([section('a', 'chapter', ['Words.'])]);
  expect(rules(withPage(bare, 'notes'))).toEqual(['m-notes']);
});

it('text is not joined to a page that would not show it', () => {
  const b = start();
  for (const kind of ['contents', 'list-of-figures', 'index', 'title-page'] as const) {
    const page = section('m', kind, []);
    const r = join(
      { ...b, record: { ...b.record, title: 'T' }, sections: [page, ...b.sections] },
      'c1',
      () => 'x',
    );
    expect([kind, r.ok]).toEqual([kind, false]);
    const written = section('m', kind, ['Own words.']);
    const w = join({ ...b, sections: [written, ...b.sections] }, 'c1', () => 'x');
    expect([kind, w.ok]).toEqual([kind, kind !== 'contents']);
  }
});
