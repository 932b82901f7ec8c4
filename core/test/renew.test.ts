/** A manuscript that comes in a second time, and two texts compared word by word. */
import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { apply, bookToJson, compareTexts, schema, type Book, type Section } from '../src/book';
import { addAfter, compareNewer, firstChoice, renew, type Choice, type NewerRow } from '../src/order';
import { book, prose, section, threeChapters } from './fixtures/books';

let n = 0;
const newId = (): string => `x${++n}`;
const text = (s: Section): string => s.content.textBetween(0, s.content.content.size, ' ', ' ');
const titles = (b: Book): string[] => b.sections.map((s) => s.title || s.kind);
const named = (b: Book, fresh: Book, rows: readonly NewerRow[]): string[] =>
  rows.map((x) => {
    const of = (from: Book, id: string | null): string =>
      from.sections.find((s) => s.id === id)?.title ?? '–';
    return `${x.how}: ${of(b, x.old)} = ${of(fresh, x.fresh)}`;
  });
/** The book with a newer manuscript taken in; undone, it is as it was. */
function follow(
  b: Book,
  fresh: Book,
  before: Book | null,
  choice: (row: NewerRow) => Partial<Choice> = () => ({}),
): Book {
  const newer = compareNewer(b, fresh, before);
  const choices = newer.rows.map((row) => ({ ...firstChoice(row), ...choice(row) }));
  const change = renew(b, fresh, newer, choices, newId, 'a'.repeat(64));
  if (!change.ok) return b;
  const r = apply(b, change.value);
  if (!r.ok) throw new Error(r.refusal.message);
  const back = apply(r.value.book, r.value.inverse);
  expect(back.ok && bookToJson(back.value.book)).toEqual(bookToJson(b));
  return r.value.book;
}
const chapter = (id: string, title: string, seed: number, more: string[] = []): Section =>
  section(id, 'chapter', [prose(80, seed), prose(80, seed + 100), ...more], { title });

const paragraph = (id: string, words: string): Node => schema.node('paragraph', { id }, [schema.text(words)]);
const withContent = (b: Book, id: string, content: Node): Book => ({
  ...b,
  sections: b.sections.map((s) => (s.id === id ? { ...s, content } : s)),
});
const everything = { follow: true, title: true };

describe('a newer manuscript', () => {
  const old = book([chapter('a', 'The Boat', 1), chapter('b', 'The Tide', 2), chapter('c', 'The Rope', 3)]);
  it('is paired by text first, whatever the titles say and wherever sections stand', () => {
    const fresh = book([
      chapter('s1', 'The Rope', 3, ['And an end.']),
      chapter('s2', 'The Tide', 1, ['More.']),
      chapter('s3', 'Something New', 77),
      chapter('s4', 'The Boat', 2),
    ]);
    expect(named(old, fresh, compareNewer(old, fresh, old).rows)).toEqual([
      'changed: The Boat = The Tide',
      'new: – = Something New',
      'changed: The Tide = The Boat',
      'changed: The Rope = The Rope',
    ]);
  });
  it('offers nothing where it is as it was before, whatever was done to the book', () => {
    const before = old;
    const [a, b, c] = old.sections as [Section, Section, Section];
    const own = book([
      { ...c, title: 'My Own Title', kind: 'interlude' },
      {
        ...a,
        content: schema.node('doc', null, [
          schema.node('quotation', { id: 'q' }, [a.content.child(0)]),
          paragraph('x', 'Words of mine.'),
        ]),
      },
      chapter('mine', 'Written Here', 99),
      b,
    ]);
    const newer = compareNewer(own, before, before);
    expect(newer.rows).toEqual([]);
    expect(newer.same).toBe(3);
  });
  it('leaves kind, place, editions, title and styles as they are, and brings what it changed', () => {
    const styled = schema.node('doc', null, [
      schema.node('letter', { id: 'k' }, [old.sections[1]!.content.child(0)]),
      old.sections[1]!.content.child(1),
    ]);
    const own = withContent(
      {
        ...old,
        sections: old.sections.map((s) =>
          s.id === 'b' ? { ...s, kind: 'interlude' as const, leftOut: ['ebook'] } : s,
        ),
      },
      'b',
      styled,
    );
    const fresh = book([
      chapter('s1', 'The Boat', 1),
      chapter('s2', 'THE TIDE', 2, ['A new last line.']),
      chapter('s3', 'The Rope', 3),
    ]);
    const after = follow(own, fresh, old);
    expect(titles(after)).toEqual(['The Boat', 'THE TIDE', 'The Rope']);
    expect(after.sections[1]).toMatchObject({ kind: 'interlude', leftOut: ['ebook'] });
    expect(after.sections[1]!.content.child(0).eq(styled.child(0))).toBe(true);
    expect(text(after.sections[1]!)).toContain('A new last line.');
    expect(after.sections[0]).toBe(own.sections[0]);
    expect(after.reading).toBe('a'.repeat(64));
  });
  it('asks where both changed the same words, and keeps the book’s until it is told', () => {
    const was = book([
      section('a', 'chapter', ['One stands first.', 'Two was here all along.', 'Three is last.'], {
        title: 'X',
      }),
    ]);
    const own = book([
      section('a', 'chapter', ['One stands first.', 'Two is mine all along.', 'Three is last.'], {
        title: 'Mine',
      }),
    ]);
    const fresh = book([
      section('s', 'chapter', ['One stands first.', 'Two is theirs all along.', 'Three came last.'], {
        title: 'Theirs',
      }),
    ]);
    const { rows } = compareNewer(own, fresh, was);
    expect(rows.map((r) => [r.title, r.pieces.map((p) => [p.from, p.to, p.contested])])).toEqual([
      [
        'contested',
        [
          [1, 2, true],
          [2, 3, false],
        ],
      ],
    ]);
    expect(text(follow(own, fresh, was).sections[0]!)).toBe(
      'One stands first. Two is mine all along. Three came last.',
    );
    expect(follow(own, fresh, was).sections[0]!.title).toBe('Mine');
    const theirs = follow(own, fresh, was, () => ({ ...everything, theirs: true })).sections[0]!;
    expect(text(theirs)).toBe('One stands first. Two is theirs all along. Three came last.');
    expect(theirs.title).toBe('Theirs');
  });
  it('finds its places in sections that were split, joined and moved here', () => {
    const texts = [1, 2, 3, 4, 5, 6].map((i) => prose(40, i));
    const was = book([section('a', 'chapter', texts, { title: 'Whole' })]);
    const own = book([
      section('z', 'chapter', texts.slice(3), { title: 'Second' }),
      section('a', 'chapter', texts.slice(0, 3), { title: 'First' }),
    ]);
    const changed = texts.with(1, `${texts[1]} Mended.`).with(4, `${texts[4]} Mended too.`);
    const fresh = book([section('s', 'chapter', [...changed, 'A last word.'], { title: 'Whole' })]);
    const after = follow(own, fresh, was);
    expect(after.sections.map((s) => [s.title, text(s)])).toEqual([
      ['Second', [...changed.slice(3), 'A last word.'].join(' ')],
      ['First', changed.slice(0, 3).join(' ')],
    ]);
  });
  it('deletes nothing and overwrites nothing that the author did not choose', () => {
    const fresh = book([
      chapter('s1', 'The Boat', 1),
      chapter('s2', 'The Ford', 50),
      chapter('s3', 'The Tide', 2),
    ]);
    expect(titles(follow(old, fresh, old))).toEqual(['The Boat', 'The Ford', 'The Tide', 'The Rope']);
    expect(titles(follow(old, fresh, old, () => everything))).toEqual(['The Boat', 'The Ford', 'The Tide']);
    // Nothing is known of the manuscript before: what differs may be the author's own work.
    const blank = compareNewer(old, book([chapter('s1', 'The Boat', 1, ['Other.'])]), null);
    expect(blank.rows.map(firstChoice).every((c) => !c.follow && !c.title)).toBe(true);
  });
  it('gives new words the shape that their paragraph was given here', () => {
    const was = book([section('a', 'chapter', ['One.', 'A line to quote.', 'Three.'], { title: 'X' })]);
    const own = withContent(
      was,
      'a',
      schema.node('doc', null, [
        was.sections[0]!.content.child(0),
        schema.node('quotation', { id: 'q' }, [was.sections[0]!.content.child(1)]),
        was.sections[0]!.content.child(2),
      ]),
    );
    const fresh = book([
      section('s', 'chapter', ['One.', 'A line to quote, longer.', 'Three.'], { title: 'X' }),
    ]);
    const after = follow(own, fresh, was).sections[0]!.content;
    expect([after.child(1).type.name, after.child(1).attrs.id, after.child(1).textContent]).toEqual([
      'quotation',
      'q',
      'A line to quote, longer.',
    ]);
  });
  it('keeps the notes of both: those of text that stays, and those that are new', () => {
    const noted = (id: string, words: string, note: string) => [
      schema.node('paragraph', { id }, [schema.text(words), schema.node('note', { ref: `${id}n` })]),
      schema.node('noteBody', { id: `${id}n` }, [
        schema.node('paragraph', { id: `${id}p` }, [schema.text(note)]),
      ]),
    ];
    const doc = (parts: ReturnType<typeof noted>[]) =>
      schema.node('doc', null, [...parts.map((p) => p[0]!), ...parts.map((p) => p[1]!)]);
    const b = book([
      { ...chapter('a', 'X', 1), content: doc([noted('u', 'One', 'first'), noted('v', 'Two', 'second')]) },
    ]);
    const fresh = book([
      {
        ...chapter('s1', 'X', 1),
        content: doc([noted('u', 'One', 'first'), noted('v', 'Two', 'second, mended')]),
      },
    ]);
    const content = follow(b, fresh, b).sections[0]!.content;
    const refs: string[] = [];
    content.descendants((x) => {
      if (x.type.name === 'note') refs.push(x.attrs.ref as string);
    });
    const bodies = new Map<string, string>();
    content.forEach((x) => {
      if (x.type.name === 'noteBody') bodies.set(x.attrs.id as string, x.textContent);
    });
    expect(refs.map((r) => bodies.get(r))).toEqual(['first', 'second, mended']);
    expect(new Set(refs).size).toBe(2);
  });
  it('leaves pictures whose file is the same with their settings, and brings the new ones', () => {
    const picture = (id: string, sha: string) => ({
      id,
      name: '',
      type: 'image/png' as const,
      width: 4,
      height: 4,
      sha256: sha.repeat(64),
    });
    const figure = (id: string, pic: string, more = {}) =>
      schema.node('figure', { id, picture: pic, ...more });
    const of = (...figures: ReturnType<typeof figure>[]) =>
      schema.node('doc', null, [...figures, paragraph('t', 'Some text of it.')]);
    const was = {
      ...book([{ ...chapter('a', 'X', 1), content: of(figure('f', 'p1')) }]),
      pictures: [picture('p1', 'a')],
    };
    const b = withContent(was, 'a', of(figure('f', 'p1', { width: 40, mask: 'oval' })));
    // Both books call a picture "p1", and mean another by it.
    const fresh = {
      ...book([{ ...chapter('s', 'X', 1), content: of(figure('g', 'p1'), figure('h', 'p2')) }]),
      pictures: [picture('p1', 'b'), picture('p2', 'a')],
    };
    const after = follow(b, fresh, was);
    const [first, second] = [after.sections[0]!.content.child(0), after.sections[0]!.content.child(1)];
    expect(after.pictures.find((x) => x.id === first.attrs.picture)?.sha256?.[0]).toBe('b');
    expect(second.attrs).toMatchObject({ id: 'f', picture: 'p1', width: 40, mask: 'oval' });
    expect(after.pictures).toHaveLength(2);
  });
  it('of which nothing was chosen changes nothing', () => {
    const newer = compareNewer(old, old, old);
    const r = renew(old, old, newer, [], newId);
    expect(r.ok ? '' : r.refusal.message).toBe('None of the new text was selected.');
  });
  it('and changes here, both at random: what only one side changed is in the book afterwards, and no word of either is lost', () => {
    const edit = fc.record({ at: fc.nat(), how: fc.constantFrom('change', 'delete', 'insert') });
    const edited = (
      texts: readonly string[],
      edits: readonly { at: number; how: string }[],
      who: string,
    ): string[] => {
      let now = [...texts];
      edits.forEach(({ at, how }, i) => {
        const k = now.length === 0 ? 0 : at % now.length;
        if (how === 'change' && now.length > 0) now = now.with(k, `${who} ${i} changed ${now[k]}`);
        else if (how === 'delete' && now.length > 1) now = now.toSpliced(k, 1);
        else now = now.toSpliced(k, 0, `${who} ${i} wrote this line that was not here before`);
      });
      return now;
    };
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 5 }), fc.array(edit, { maxLength: 5 }), (mine, theirs) => {
        const texts = Array.from({ length: 12 }, (_, i) => `${prose(12, i)} (${i})`);
        const of = (id: string, t: string[]): Book => book([section(id, 'chapter', t, { title: 'X' })]);
        const [was, own, fresh] = [
          of('a', texts),
          of('a', edited(texts, mine, 'Mine')),
          of('s', edited(texts, theirs, 'Theirs')),
        ];
        const kept = text(follow(own, fresh, was).sections[0]!);
        // What the author wrote here is never lost, unless it is chosen so.
        for (const line of own.sections[0]!.content.content.content.map((n) => n.textContent))
          if (line.startsWith('Mine')) expect(kept).toContain(line);
        if (mine.length === 0) expect(kept).toBe(text(fresh.sections[0]!));
        if (theirs.length === 0) expect(kept).toBe(text(own.sections[0]!));
        const both = text(follow(own, fresh, was, () => ({ ...everything, theirs: true })).sections[0]!);
        for (const line of fresh.sections[0]!.content.content.content.map((n) => n.textContent))
          if (line.startsWith('Theirs')) expect(both).toContain(line);
      }),
      { numRuns: 300 },
    );
  });
});

describe('a manuscript added after', () => {
  it('stands in its own parts, with its pictures and links, and the book’s pages made by itself stay single', () => {
    const link = schema.mark('link', { kind: 'place', target: 'c2#c2-0' });
    const picture = {
      id: 'p1',
      name: '',
      type: 'image/png' as const,
      width: 2,
      height: 2,
      sha256: 'f'.repeat(64),
    };
    const other = threeChapters();
    const fresh: Book = {
      ...other,
      pictures: [picture],
      sections: other.sections.map((s) =>
        s.id === 'c1'
          ? {
              ...s,
              content: schema.node('doc', null, [
                schema.node('figure', { id: 'f', picture: 'p1' }),
                schema.node('paragraph', { id: 'z' }, [schema.text('See the rope', [link])]),
              ]),
            }
          : s,
      ),
    };
    const b = { ...threeChapters(), pictures: [{ ...picture, sha256: 'e'.repeat(64) }] };
    const change = addAfter(b, fresh, 'c2', newId);
    const r = change.ok ? apply(b, change.value) : change;
    if (!r.ok) throw new Error(r.refusal.message);
    const after = r.value.book;
    expect(after.sections.map((s) => s.kind)).toEqual([
      'title-page',
      'copyright-page',
      'contents',
      'part',
      'chapter',
      'chapter',
      'part',
      'chapter',
      'chapter',
      'acknowledgements',
      'acknowledgements',
    ]);
    const [part, first, second] = after.sections.slice(6, 9);
    expect([part!.parent, first!.parent, second!.parent]).toEqual([null, part!.id, part!.id]);
    expect(first!.content.child(0).attrs.picture).toBe(after.pictures[1]!.id);
    expect(first!.content.child(1).child(0).marks[0]!.attrs.target).toBe(
      `${second!.id}#${second!.content.child(0).attrs.id as string}`,
    );
  });
});

describe('two texts compared', () => {
  const doc = (...paragraphs: string[]) => section('a', 'chapter', paragraphs).content;
  const shown = (a: string[], b: string[]): string[] =>
    compareTexts(doc(...a), doc(...b)).paragraphs.map((p) =>
      p.runs
        .map((r) => (r.how === 'same' ? r.text : r.how === 'in' ? `+${r.text}+` : `-${r.text}-`))
        .join(''),
    );
  it('show the words that came and went', () => {
    expect(
      shown(['The tide came in.', 'He went.'], ['The tide went slowly out.', 'He went.', 'Nobody saw.']),
    ).toEqual(['The tide -came in-+went slowly out+.', 'He went.', '+Nobody saw.+']);
    const c = compareTexts(doc('One two three.'), doc('One three four.'));
    expect([c.wordsIn, c.wordsOut]).toEqual([1, 1]);
  });
  it('tell a paragraph that was replaced from one that was changed', () => {
    expect(shown(['A wholly other thing.'], ['Nothing like what stood here before, at all.'])).toHaveLength(
      2,
    );
  });
  it('say when only the setting differs', () => {
    const bold = schema.node('doc', null, [
      schema.node('paragraph', { id: 'q' }, [schema.text('Same.', [schema.mark('strong')])]),
    ]);
    expect(compareTexts(doc('Same.'), bold)).toMatchObject({ wordsIn: 0, wordsOut: 0, restyled: true });
  });
  it('of any sort give back both texts from their runs', () => {
    const paragraphs = fc.array(fc.string({ minLength: 1, maxLength: 30 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(paragraphs, paragraphs, (a, b) => {
        const { paragraphs: all } = compareTexts(doc(...a), doc(...b));
        if (doc(...a).eq(doc(...b))) return;
        const side = (how: 'in' | 'out'): string =>
          all
            .map((p) =>
              p.runs
                .filter((r) => r.how === 'same' || r.how === how)
                .map((r) => r.text)
                .join(''),
            )
            .join('');
        expect([side('out'), side('in')]).toEqual([a.join(''), b.join('')]);
      }),
    );
  });
});
