import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { apply, schema, type Book } from '../src/book';
import { changeOfEdits, findAll, firstWords, lastWords, type TextQuery } from '../src/tidy';
import { book, prose, section } from './fixtures/books';

const query = (find: string, more: Partial<TextQuery> = {}): TextQuery => ({
  find,
  by: '',
  matchCase: false,
  wholeWords: false,
  pattern: false,
  place: 'everywhere',
  ...more,
});
const found = (b: Book, q: TextQuery): string[] => {
  const r = findAll(b, q);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.map((e) => e.was);
};
function replaced(b: Book, q: TextQuery): string {
  const r = findAll(b, q);
  if (!r.ok) throw new Error(r.refusal.message);
  const change = changeOfEdits(b, r.value, 'Replace');
  const after = change && apply(b, change);
  if (after && !after.ok) throw new Error(after.refusal.message);
  return (after?.value.book ?? b).sections.map((s) => s.content.textContent).join('|');
}
const plain = (...texts: string[]): Book => book([section('a', 'chapter', texts)]);

const em = schema.marks.emphasis!.create();
const mixed = (): Book => {
  const content = schema.node('doc', null, [
    schema.node('paragraph', { id: 'p' }, [
      schema.text('A boat and '),
      schema.text('a boat', [em]),
      schema.node('note', { ref: 'n' }),
    ]),
    schema.node('subhead', { id: 'h', level: 1 }, [schema.text('The boat')]),
    schema.node('quotation', { id: 'q' }, [
      schema.node('paragraph', { id: 'q1' }, [schema.text('Boat quoted')]),
    ]),
    schema.node('noteBody', { id: 'n' }, [
      schema.node('paragraph', { id: 'n1' }, [schema.text('boat of a note')]),
    ]),
  ]);
  const b = plain('x');
  return { ...b, sections: [{ ...b.sections[0]!, content }] };
};

describe('what stands around a find', () => {
  it.each([
    ['or what to do about a ', 16, 'to do about a '],
    ['before the first ', 16, 'the first '],
    ['short ', 16, 'short '],
    ['an unbrokenlongword', 10, 'enlongword'],
    ['on the wet ', 8, 'the wet '],
  ])('begins with a whole word: %j', (before, most, shown) => {
    expect(lastWords(before, most)).toBe(shown);
  });
  it.each([
    [', and there is nothing to', 18, ', and there is'],
    [' does it for you', 8, ' does it'],
    ['ings', 8, 'ings'],
    ['unbrokenlongword', 8, 'unbroken'],
  ])('ends with one: %j', (after, most, shown) => {
    expect(firstWords(after, most)).toBe(shown);
  });
});

describe('find', () => {
  it('finds words whatever their case, or in theirs', () => {
    const b = plain('Boat, boat, BOAT, boats.');
    expect(found(b, query('boat'))).toEqual(['Boat', 'boat', 'BOAT', 'boat']);
    expect(found(b, query('boat', { matchCase: true }))).toEqual(['boat', 'boat']);
    expect(found(b, query('boat', { wholeWords: true }))).toEqual(['Boat', 'boat', 'BOAT']);
  });
  it('knows words in any script, and takes no-break spaces for spaces', () => {
    const b = plain('Île et îlot; École\u00a0normale; naïveté.');
    expect(found(b, query('île', { wholeWords: true }))).toEqual(['Île']);
    expect(found(b, query('école normale'))).toEqual(['École\u00a0normale']);
    expect(found(b, query('naïve', { wholeWords: true }))).toEqual([]);
  });
  it('takes signs as they are, unless they are a pattern', () => {
    const b = plain('What? (1) a.b a+b $5 a/b');
    for (const s of ['?', '(1)', 'a.b', 'a+b', '$5', 'a/b']) expect(found(b, query(s))).toEqual([s]);
    expect(found(b, query('a.b', { pattern: true }))).toEqual(['a.b', 'a+b', 'a/b']);
  });
  it('finds every printable sign by itself', () => {
    for (let code = 33; code < 127; code++) {
      const sign = String.fromCharCode(code);
      expect([sign, found(plain(`a ${sign} b`), query(sign))[0]?.toLowerCase()]).toEqual([
        sign,
        sign.toLowerCase(),
      ]);
    }
    expect(found(plain('a well-known boat'), query('well-known'))).toEqual(['well-known']);
  });
  it('says in one sentence what is wrong with a pattern', () => {
    const r = findAll(plain('x'), query('(a', { pattern: true }));
    expect(r.ok ? '' : r.refusal.message).toMatch(/^The expression can’t be read: .+\.$/);
  });
  it('says that it neither looks around nor refers back', () => {
    const said = (find: string): string => {
      const r = findAll(plain('x'), query(find, { pattern: true }));
      return r.ok ? '' : r.refusal.message;
    };
    expect(said('(?<=a)b')).toMatch(/^Lookahead and lookbehind aren’t supported/);
    expect(said('b(?!a)')).toMatch(/^Lookahead and lookbehind aren’t supported/);
    expect(said('(a)\\1')).toMatch(/^Backreferences aren’t supported/);
  });
  it('takes a time that grows with the text and no faster, whatever the pattern', () => {
    // The classic case of running away: 2^40 steps for an engine that tries every way.
    const b = plain(`${'a'.repeat(40)}!`);
    for (const find of ['(a+)+$', '(a|aa)+$', '([a-z]+)*$', '(.*a){20}b'])
      expect(found(b, query(find, { pattern: true, place: 'paragraph' }))).toEqual([]);
  });
  it('finds with random patterns what the language’s own engine finds', () => {
    const part = fc.constantFrom('a', 'b', '.', '[ab]', 'a*', '(a|b)', 'b?', '\\s', 'a{2}');
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom('a', 'b', 'c', ' '), maxLength: 30 }),
        fc.array(part, { minLength: 1, maxLength: 4 }),
        (text, parts) => {
          const own = [...`z${text}`.matchAll(new RegExp(parts.join(''), 'giu'))].map((m) => m[0]);
          expect(
            found(plain(`z${text}`), query(parts.join(''), { pattern: true, place: 'paragraph' })),
          ).toEqual(own.filter(Boolean));
        },
      ),
      { numRuns: 300 },
    );
  });
  it('looks in titles, in captions, in notes and in the record, and replaces there', () => {
    const start = mixed();
    const b: Book = {
      ...start,
      sections: start.sections.map((s) => ({ ...s, title: 'The Boat Home', subtitle: 'A boat' })),
      record: {
        ...start.record,
        title: 'Boats',
        description: 'Of a boat.',
        keywords: ['sea', 'boat'],
        contributors: [
          { name: 'Kit Boat', role: 'author', sortName: '', life: 'Kit has a boat.', portrait: null },
        ],
      },
    };
    const count = (place: TextQuery['place']): number => found(b, query('boat', { place })).length;
    expect([count('title'), count('record'), count('everywhere')]).toEqual([2, 5, 12]);
    const r = findAll(b, query('boat', { by: 'ferry' }));
    const change = changeOfEdits(b, r.ok ? r.value : [], 'Replace')!;
    const after = apply(b, change);
    if (!after.ok) throw new Error(after.refusal.message);
    const { sections, record } = after.value.book;
    expect([sections[0]!.title, sections[0]!.subtitle]).toEqual(['The ferry Home', 'A ferry']);
    expect(record).toMatchObject({ title: 'ferrys', description: 'Of a ferry.', keywords: ['sea', 'ferry'] });
    expect(record.contributors[0]).toMatchObject({
      name: 'Kit ferry',
      life: 'Kit has a ferry.',
      role: 'author',
    });
    const back = apply(after.value.book, after.value.inverse);
    expect(back.ok && [back.value.book.record, back.value.book.sections[0]!.title]).toEqual([
      b.record,
      'The Boat Home',
    ]);
  });
  it.each([
    ['everywhere', 5],
    ['paragraph', 2],
    ['subhead', 1],
    ['quotation', 1],
    ['noteBody', 1],
    ['emphasis', 1],
    ['verse', 0],
  ] as const)('looks in %s: %i', (place, count) => {
    expect(found(mixed(), query('boat', { place })).length).toBe(count);
  });
  it('shows what stands around, and finds nothing for nothing', () => {
    const r = findAll(plain(`${prose(30)} The boat came. ${prose(30)}`), query('boat'));
    expect(r.ok && r.value[0]!.before.endsWith('The ')).toBe(true);
    expect(r.ok && r.value[0]!.after.startsWith(' came.')).toBe(true);
    expect(found(plain('boat'), query(''))).toEqual([]);
    expect(found(plain('boat'), query('x*', { pattern: true }))).toEqual([]);
  });
});

describe('replace', () => {
  it('puts groups where the pattern’s words say', () => {
    expect(
      replaced(plain('Marsh, Ada and Pell, Tom'), query('(\\w+), (\\w+)', { pattern: true, by: '$2 $1' })),
    ).toBe('Ada Marsh and Tom Pell');
    expect(replaced(plain('5 miles'), query('(\\d) miles', { pattern: true, by: '$$$1 [$&]' }))).toBe(
      '$5 [5 miles]',
    );
    expect(replaced(plain('5 miles'), query('5 miles', { by: '$1' }))).toBe('$1');
  });
  it('takes the marks of what it replaces, and leaves notes where they are', () => {
    const b = mixed();
    const r = findAll(b, query('boat', { by: 'ferry' }));
    const after = apply(b, changeOfEdits(b, r.ok ? r.value : [], 'Replace')!);
    if (!after.ok) throw new Error();
    const p = after.value.book.sections[0]!.content.firstChild!;
    expect(p.textContent).toBe('A ferry and a ferry');
    expect(p.child(1).marks.map((m) => m.type.name)).toEqual(['emphasis']);
    expect(p.lastChild!.type.name).toBe('note');
    const back = apply(after.value.book, after.value.inverse);
    expect(back.ok && back.value.book.sections[0]!.content.eq(b.sections[0]!.content)).toBe(true);
  });
  it('of random words in random texts is what String.prototype.replaceAll gives', () => {
    const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'c', ' '), maxLength: 40 });
    fc.assert(
      fc.property(
        fc.array(letters, { minLength: 1, maxLength: 6 }),
        fc.string({ unit: fc.constantFrom('a', 'b'), minLength: 1, maxLength: 2 }),
        fc.string({ unit: fc.constantFrom('x', 'y'), maxLength: 3 }),
        (texts, find, by) => {
          const b = plain(...texts.map((t) => `z${t}z`));
          const wanted = texts.map((t) => `z${t}z`.replaceAll(find, by)).join('');
          expect(replaced(b, query(find, { by, matchCase: true }))).toBe(wanted);
        },
      ),
      { numRuns: 200 },
    );
  });
});
