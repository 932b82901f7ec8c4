import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { Slice } from 'prosemirror-model';
import { ReplaceStep, Step, Transform } from 'prosemirror-transform';
import {
  apply,
  bookFromJson,
  bookToJson,
  changeSchema,
  placeAt,
  moveSteps,
  schema,
  withFreshIds,
  type Book,
  type Change,
} from '../src/book';
import { book, prose, section, threeChapters } from './fixtures/books';

const applied = (b: Book, c: Change): { book: Book; inverse: Change } => {
  const r = apply(b, c);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
};
const insertText = (at: number, text: string): unknown =>
  new ReplaceStep(
    at,
    at,
    new Slice(schema.nodes.paragraph!.create(null, schema.text(text)).content, 0, 0),
  ).toJSON();

describe('changes', () => {
  const start = threeChapters();
  const ids = start.sections.map((s) => s.id);
  const change: fc.Arbitrary<Change> = fc.oneof(
    fc.record({
      type: fc.constant('text' as const),
      section: fc.constantFrom('c1', 'c2'),
      steps: fc.array(
        fc.integer({ min: 1, max: 40 }).map((at) => insertText(at, 'salt ')),
        { minLength: 1, maxLength: 4 },
      ),
    }),
    fc.record({
      type: fc.constant('move-section' as const),
      id: fc.constantFrom(...ids),
      index: fc.integer({ min: 0, max: 8 }),
    }),
    fc.record({ type: fc.constant('remove-section' as const), id: fc.constantFrom(...ids) }),
    fc.record({
      type: fc.constant('set-section' as const),
      id: fc.constantFrom(...ids),
      fields: fc.record({ title: fc.string(), numbered: fc.boolean() }),
    }),
    fc.record({
      type: fc.constant('set-record' as const),
      fields: fc.record({ title: fc.string(), keywords: fc.array(fc.string()) }),
    }),
    fc.record({
      type: fc.constant('set-edition' as const),
      id: fc.constantFrom('paperback', 'ebook'),
      fields: fc.record({ isbn: fc.string() }),
    }),
  );
  it('taken back in reverse leave the book as it was, whatever they were', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (changes) => {
        let b = start;
        const back: Change[] = [];
        for (const c of changes) {
          const r = apply(b, c);
          if (!r.ok) continue;
          b = r.value.book;
          back.unshift(r.value.inverse);
        }
        for (const c of back) b = applied(b, c).book;
        expect(bookToJson(b)).toEqual(bookToJson(start));
      }),
      { numRuns: 150 },
    );
  });
  it('survive being kept as JSON', () => {
    const { book: after, inverse } = applied(start, { type: 'remove-section', id: 'c1' });
    expect(bookToJson(applied(after, JSON.parse(JSON.stringify(inverse)) as Change).book)).toEqual(
      bookToJson(start),
    );
  });
  it('read from JSON name only the fields they name', () => {
    for (const c of [
      { type: 'set-record', fields: { imprint: 'x' } },
      { type: 'set-edition', id: 'ebook', fields: { isbn: '1' } },
      { type: 'set-section', id: 'c1', fields: { title: 't' } },
    ])
      expect(changeSchema.parse(c)).toEqual(c);
    expect(() => changeSchema.parse({ type: 'set-record', fields: { keywords: 'no list' } })).toThrow();
  });
  it('that do not fit are refused and change nothing', () => {
    for (const c of [
      { type: 'text', section: 'gone', steps: [] },
      { type: 'text', section: 'c1', steps: [{ stepType: 'replace', from: 90_000, to: 90_001 }] },
      { type: 'set-edition', id: 'vinyl', fields: {} },
    ] as Change[])
      expect(apply(start, c).ok).toBe(false);
  });
  it('in a group are all or nothing', () => {
    const r = apply(start, {
      type: 'group',
      label: 'x',
      changes: [
        { type: 'remove-section', id: 'c1' },
        { type: 'remove-section', id: 'c1' },
      ],
    });
    expect(r.ok).toBe(false);
  });
});

describe('rebasing', () => {
  it('moves typing over what another tab typed before it', () => {
    const doc = section('x', 'chapter', ['One two three.']).content;
    const theirs = insertText(1, 'Zero ');
    const mine = [insertText(5, 'and a half '), insertText(16, '!')];
    const { steps, lost } = moveSteps(mine, [{ step: theirs }]);
    expect(lost).toBe(0);
    const tr = new Transform(doc);
    for (const s of [theirs, ...steps]) tr.step(Step.fromJSON(schema, s));
    const alone = new Transform(doc);
    for (const s of mine) alone.step(Step.fromJSON(schema, s));
    expect(tr.doc.textContent).toBe(`Zero ${alone.doc.textContent}`);
  });
  it('counts what has lost its place', () => {
    const doc = section('x', 'chapter', ['One two three.', 'Four.']).content;
    const gone = new ReplaceStep(0, doc.child(0).nodeSize, Slice.empty).toJSON();
    expect(moveSteps([new ReplaceStep(3, 6, Slice.empty).toJSON()], [{ step: gone }]).lost).toBe(1);
  });
});

describe('places', () => {
  it('are found again after the text before them has grown', () => {
    const doc = section('x', 'chapter', [prose(10), 'Here it is.']).content;
    let pos = 0;
    doc.descendants((node, at) => {
      if (node.attrs.id === 'x-1') pos = at + 1 + 5;
    });
    expect(doc.textBetween(pos, pos + 2)).toBe('it');
    expect(placeAt('x', doc, pos)).toEqual({ section: 'x', block: 'x-1', offset: 5 });
  });
  it('stay unique when text is pasted twice', () => {
    const doc = section('x', 'chapter', ['a', 'b']).content;
    const twice = schema.node('doc', null, doc.content.append(doc.content));
    let n = 0;
    const fresh = withFreshIds(twice, () => `new${n++}`);
    const seen = new Set<string>();
    fresh.forEach((b) => seen.add(b.attrs.id as string));
    expect(seen.size).toBe(4);
  });
});

it('a book goes to JSON and back without loss, and other JSON is refused in a sentence', () => {
  const b = book([section('a', 'chapter', ['Text.'])]);
  const again = bookFromJson(JSON.parse(JSON.stringify(bookToJson(b))));
  expect(again.ok && bookToJson(again.value)).toEqual(bookToJson(b));
  for (const bad of [
    null,
    {},
    { version: 2 },
    {
      ...bookToJson(b),
      sections: [{ id: 'x', kind: 'chapter', matter: 'body', content: { type: 'nonsense' } }],
    },
  ]) {
    const r = bookFromJson(bad);
    expect(r.ok ? '' : r.refusal.message).toMatch(/^\S.*\.$/);
  }
});
