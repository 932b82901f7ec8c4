/** A manuscript that comes in a second time, and two texts compared word by word. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, bookToJson, compareTexts, schema, type Book, type Section } from '../src/book';
import { addAfter, matchSections, renew, type Choice, type Match } from '../src/order';
import { book, prose, section, threeChapters } from './fixtures/books';

let n = 0;
const newId = (): string => `x${++n}`;
const text = (s: Section): string => s.content.textBetween(0, s.content.content.size, ' ', ' ');
const titles = (b: Book): string[] => b.sections.map((s) => s.title || s.kind);
const named = (b: Book, fresh: Book, m: readonly Match[]): string[] =>
  m.map((x) => {
    const of = (from: Book, id: string | null): string =>
      from.sections.find((s) => s.id === id)?.title ?? '–';
    return `${of(b, x.old)} = ${of(fresh, x.fresh)}`;
  });
function follow(b: Book, fresh: Book, choice: (m: Match) => Partial<Choice> = () => ({})): Book {
  const matches = matchSections(b, fresh);
  const choices = matches.map((m) => ({ follow: true, title: false, ...choice(m) }));
  const change = renew(b, fresh, matches, choices, newId);
  if (!change.ok) throw new Error(change.refusal.message);
  const r = apply(b, change.value);
  if (!r.ok) throw new Error(r.refusal.message);
  const back = apply(r.value.book, r.value.inverse);
  expect(back.ok && bookToJson(back.value.book)).toEqual(bookToJson(b));
  return r.value.book;
}
const chapter = (id: string, title: string, seed: number, more: string[] = []): Section =>
  section(id, 'chapter', [prose(80, seed), prose(80, seed + 100), ...more], { title });

describe('sections of a second manuscript', () => {
  const old = book([chapter('a', 'The Boat', 1), chapter('b', 'The Tide', 2), chapter('c', 'The Rope', 3)]);
  it('are matched by their text when titles changed and the order too', () => {
    const fresh = book([
      chapter('s1', 'The Rope', 3, ['And an end.']),
      chapter('s2', 'The Ferry', 1, ['More.']),
      chapter('s3', 'Something New', 77),
      chapter('s4', 'The Tide', 2),
    ]);
    expect(named(old, fresh, matchSections(old, fresh))).toEqual([
      'The Boat = The Ferry',
      '– = Something New',
      'The Tide = The Tide',
      'The Rope = The Rope',
    ]);
  });
  it('bring their text, and leave kind, place, editions and title as they are', () => {
    const own = {
      ...old,
      sections: old.sections.map((s) =>
        s.id === 'b' ? { ...s, kind: 'interlude' as const, leftOut: ['ebook'], subtitle: 'Ours' } : s,
      ),
    };
    const fresh = book([chapter('s1', 'The Boat', 1), chapter('s2', 'THE TIDE', 2, ['A new last line.'])]);
    const after = follow(own, fresh, (m) => (m.fresh === null ? { follow: false } : {}));
    expect(titles(after)).toEqual(['The Boat', 'The Tide', 'The Rope']);
    expect(after.sections[1]).toMatchObject({ kind: 'interlude', leftOut: ['ebook'], subtitle: 'Ours' });
    expect(text(after.sections[1]!)).toContain('A new last line.');
    expect(after.sections[0]).toBe(own.sections[0]);
  });
  it('leave paragraphs whose words are the same as they were set here', () => {
    const set = schema.node('doc', null, [
      schema.node('letter', { id: 'k1' }, [
        schema.node('paragraph', { id: 'k2' }, [schema.text('Dear clerk,', [schema.mark('smallCaps')])]),
      ]),
      schema.node('paragraph', { id: 'k3' }, [schema.text('The old words.')]),
    ]);
    const fresh = book([section('s1', 'chapter', ['Dear clerk,', 'The new words.'], { title: 'A Letter' })]);
    const after = follow(
      book([{ ...section('a', 'chapter', [], { title: 'A Letter' }), content: set }]),
      fresh,
    );
    const [first, second] = [after.sections[0]!.content.child(0), after.sections[0]!.content.child(1)];
    expect(first.eq(set.child(0))).toBe(true);
    expect(second.textContent).toBe('The new words.');
  });
  it('come in new, and go, only as the author chooses', () => {
    const fresh = book([
      chapter('s1', 'The Boat', 1),
      chapter('s2', 'The Ford', 50),
      chapter('s3', 'The Tide', 2),
    ]);
    expect(titles(follow(old, fresh))).toEqual(['The Boat', 'The Ford', 'The Tide']);
    const wary = follow(old, fresh, (m) => (m.old === null ? {} : { follow: false }));
    expect(titles(wary)).toEqual(['The Boat', 'The Ford', 'The Tide', 'The Rope']);
  });
  it('keep the notes of both: those of text that stays, and those that are new', () => {
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
    const content = follow(b, fresh).sections[0]!.content;
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
  it('leave pictures whose file is the same with their settings, and bring the new ones', () => {
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
      schema.node('doc', null, [
        ...figures,
        schema.node('paragraph', { id: 't' }, [schema.text('Some text of it.')]),
      ]);
    // Both books call a picture "p1", and mean another by it.
    const b = {
      ...book([{ ...chapter('a', 'X', 1), content: of(figure('f', 'p1', { width: 40, mask: 'oval' })) }]),
      pictures: [picture('p1', 'a')],
    };
    const fresh = {
      ...book([{ ...chapter('s', 'X', 1), content: of(figure('g', 'p1'), figure('h', 'p2')) }]),
      pictures: [picture('p1', 'b'), picture('p2', 'a')],
    };
    const after = follow(b, fresh);
    const [first, second] = [after.sections[0]!.content.child(0), after.sections[0]!.content.child(1)];
    expect(after.pictures.find((x) => x.id === first.attrs.picture)?.sha256?.[0]).toBe('b');
    expect(second.attrs).toMatchObject({ id: 'f', picture: 'p1', width: 40, mask: 'oval' });
    expect(after.pictures).toHaveLength(2);
  });
  it('are taken even when the book has nothing like them', () => {
    const r = renew(old, old, matchSections(old, old), [], newId);
    expect(r.ok ? '' : r.refusal.message).toBe('None of the new text was selected.');
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
