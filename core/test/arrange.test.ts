/** The order as a tree: gathering, nesting, moving many, numbering, contents, and pages made from the record. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, bookToJson, schema, settle, type Book, type Change } from '../src/book';
import type { Outcome } from '../src/base';
import {
  addAtItsPlace,
  changeKind,
  contentsOf,
  copyrightLines,
  dissolve,
  duplicate,
  familyOf,
  fromRecordAgain,
  gather,
  headingsOf,
  isFromRecord,
  moveBefore,
  moveBy,
  nest,
  remove,
  recordContent,
  writtenOut,
} from '../src/order';
import { CLAUSES, imprintWords } from '../src/record';
import { book, section, threeChapters } from './fixtures/books';

let n = 0;
const newId = (): string => `n${++n}`;
const made = (b: Book, change: Outcome<Change>): Book => {
  if (!change.ok) throw new Error(change.refusal.message);
  const r = apply(b, change.value);
  if (!r.ok) throw new Error(r.refusal.message);
  const undone = apply(r.value.book, r.value.inverse);
  if (!undone.ok) throw new Error(undone.refusal.message);
  expect(bookToJson(undone.value.book)).toEqual(bookToJson(b));
  return r.value.book;
};
/** "a b(c d) e": the order with what stands in parts in brackets. */
const drawn = (b: Book): string => {
  const draw = (parent: string | null): string =>
    b.sections
      .filter((s) => s.parent === parent)
      .map((s) => s.id + (s.kind === 'part' ? `(${draw(s.id)})` : ''))
      .join(' ');
  return draw(null);
};
const chapters = (...ids: string[]) => ids.map((id) => section(id, 'chapter', [`Text of ${id}.`]));
const six = (): Book => book([section('t', 'title-page', []), ...chapters('a', 'b', 'c', 'd', 'e', 'f')]);
const gathered = (b: Book, ids: string[], as: string): Book =>
  made(
    b,
    gather(b, ids, () => as),
  );

describe('parts', () => {
  it('are gathered from sections that stand apart, where the first of them stands', () => {
    expect(drawn(gathered(six(), ['b', 'd', 'e'], 'P'))).toBe('t a P(b d e) c f');
  });
  it('split when their last chapters are gathered, and nest when those in the middle are', () => {
    const whole = gathered(six(), ['a', 'b', 'c', 'd', 'e', 'f'], 'P');
    expect(drawn(gathered(whole, ['d', 'e', 'f'], 'Q'))).toBe('t P(a b c) Q(d e f)');
    expect(drawn(gathered(whole, ['b', 'c'], 'Q'))).toBe('t P(a Q(b c) d e f)');
  });
  it('hold other parts', () => {
    const two = gathered(gathered(six(), ['a', 'b'], 'P'), ['c', 'd'], 'Q');
    const over = gathered(two, ['P', 'Q'], 'Book');
    expect(drawn(over)).toBe('t Book(P(a b) Q(c d)) e f');
    expect(familyOf(over.sections, 'Book').length).toBe(7);
    expect([...headingsOf(over.sections, over).values()].map((h) => h.number).filter((x) => x)).toEqual([
      'Part I',
      'Part I',
      'Chapter One',
      'Chapter Two',
      'Part II',
      'Chapter Three',
      'Chapter Four',
      'Chapter Five',
      'Chapter Six',
    ]);
    expect(drawn(made(over, dissolve(over, 'Book')))).toBe('t P(a b) Q(c d) e f');
  });
  it('are dissolved without losing their own text', () => {
    const b = gathered(six(), ['a', 'b'], 'P');
    expect(drawn(made(b, dissolve(b, 'P')))).toBe('t a b c d e f');
    const written = {
      ...b,
      sections: b.sections.map((s) =>
        s.id === 'P' ? { ...s, content: section('x', 'part', ['Words.']).content } : s,
      ),
    };
    const after = made(written, dissolve(written, 'P'));
    expect(after.sections.find((s) => s.id === 'P')?.kind).toBe('plain');
    expect(dissolve(b, 'a').ok).toBe(false);
  });
  it('take in what stands below them, and let it go to stand after them', () => {
    const b = gathered(six(), ['a', 'b'], 'P');
    const into = made(b, nest(b, ['c', 'd'], 'in'));
    expect(drawn(into)).toBe('t P(a b c d) e f');
    expect(drawn(made(into, nest(into, ['b'], 'out')))).toBe('t P(a c d) b e f');
    const refusal = nest(six(), ['b'], 'in');
    expect(refusal.ok ? '' : refusal.refusal.message).toBe('There is no part above it to move it into.');
    expect(nest(six(), ['b'], 'out').ok).toBe(false);
  });
  it('hold only sections of the body', () => {
    const r = gather(six(), ['t', 'a'], newId);
    expect(r.ok ? '' : r.refusal.message).toBe(
      'Only sections of the body can go into a part; the title page isn’t one.',
    );
  });
});

describe('many sections at once', () => {
  it('move together, in their order', () => {
    expect(drawn(made(six(), moveBefore(six(), ['e', 'b'], 'a')))).toBe('t b e a c d f');
    expect(drawn(made(six(), moveBefore(six(), ['a', 'c'], null)))).toBe('t b d e f a c');
  });
  it('move by one place past whatever stands there', () => {
    expect(drawn(made(six(), moveBy(six(), ['b', 'c'], 1)))).toBe('t a d b c e f');
    expect(drawn(made(six(), moveBy(six(), ['b', 'c'], -1)))).toBe('t b c a d e f');
    const r = moveBy(six(), ['f'], 1);
    expect(r.ok ? '' : r.refusal.message).toBe('It’s already at the end of the book.');
  });
  it('change kind together and go to the matter it belongs to', () => {
    const b = made(six(), changeKind(six(), ['e', 'f'], 'afterword'));
    expect(b.sections.slice(-2).map((s) => [s.kind, s.matter])).toEqual([
      ['afterword', 'back'],
      ['afterword', 'back'],
    ]);
    const first = made(six(), changeKind(six(), ['d'], 'dedication'));
    expect(drawn(first)).toBe('t d a b c e f');
  });
  it('are deleted together; what stood in a deleted part moves up', () => {
    const b = gathered(six(), ['a', 'b', 'c'], 'P');
    expect(drawn(made(b, remove(b, ['P', 'b', 'f'])))).toBe('t a c d e');
  });
});

it('duplicates a section with its notes, under new ids', () => {
  const content = schema.node('doc', null, [
    schema.node('paragraph', { id: 'x' }, [schema.text('Text'), schema.node('note', { ref: 'f' })]),
    schema.node('noteBody', { id: 'f' }, [schema.node('paragraph', { id: 'fp' }, [schema.text('Note.')])]),
  ]);
  const start = book([{ ...section('a', 'chapter', []), content }]);
  const b = made(start, duplicate(start, 'a', newId));
  const [one, two] = b.sections.map((s) => s.content);
  expect(two?.textContent).toBe(one?.textContent);
  expect(two?.child(0).child(1).attrs.ref).toBe(two?.child(1).attrs.id);
  expect(two?.child(1).attrs.id).not.toBe('f');
});

it('any rearrangement of any book can be undone, and leaves every section in a part that stands above it', () => {
  const step = fc.record({
    what: fc.constantFrom('move', 'up', 'down', 'gather', 'in', 'out', 'dissolve', 'remove', 'kind', 'copy'),
    pick: fc.array(fc.nat(30), { minLength: 1, maxLength: 4 }),
    to: fc.nat(30),
  });
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
      let b = threeChapters();
      for (const { what, pick, to } of steps) {
        const at = (i: number): string => b.sections[i % b.sections.length]?.id ?? '';
        const ids = [...new Set(pick.map(at))];
        const todo: Record<typeof what, () => Outcome<Change>> = {
          move: () => moveBefore(b, ids, to === 30 ? null : at(to)),
          up: () => moveBy(b, ids, -1),
          down: () => moveBy(b, ids, 1),
          gather: () => gather(b, ids, newId),
          in: () => nest(b, ids, 'in'),
          out: () => nest(b, ids, 'out'),
          dissolve: () => dissolve(b, at(to)),
          remove: () => remove(b, ids.slice(0, 1)),
          kind: () =>
            changeKind(b, ids, (['part', 'chapter', 'preface', 'index'] as const)[to % 4] ?? 'part'),
          copy: () => duplicate(b, at(to), newId),
        };
        const change = todo[what]();
        if (!change.ok) continue;
        const before = new Set(b.sections.map((s) => s.id));
        b = made(b, change);
        if (what !== 'remove' && what !== 'dissolve')
          for (const id of before) expect(b.sections.some((s) => s.id === id)).toBe(true);
        expect(settle(b.sections)).toEqual(b.sections);
        expect(new Set(b.sections.map((s) => s.id)).size).toBe(b.sections.length);
        if (b.sections.length < 2) return;
      }
    }),
    { numRuns: 300 },
  );
});

describe('numbers', () => {
  const two = (): Book => gathered(gathered(six(), ['a', 'b', 'c'], 'P'), ['d', 'e', 'f'], 'Q');
  const numbers = (b: Book): string[] =>
    [...headingsOf(b.sections, b).values()].map((h) => h.number).filter((x) => x !== '');
  it('count through the book, or starting again in every part', () => {
    const b = two();
    expect(numbers({ ...b, numbering: { ...b.numbering, chapters: 'arabic', chapterWord: false } })).toEqual([
      'Part I',
      '1',
      '2',
      '3',
      'Part II',
      '4',
      '5',
      '6',
    ]);
    expect(
      numbers({
        ...b,
        numbering: { ...b.numbering, count: 'by-part', chapters: 'roman', parts: 'words' },
      }),
    ).toEqual([
      'Part One',
      'Chapter I',
      'Chapter II',
      'Chapter III',
      'Part Two',
      'Chapter I',
      'Chapter II',
      'Chapter III',
    ]);
  });
  it('are written in the words of the language', () => {
    const b = two();
    const inWords = (language: string): string | undefined =>
      numbers({
        ...b,
        record: { ...b.record, language },
        numbering: { ...b.numbering, chapters: 'words' },
      })[2];
    expect(['de', 'fr', 'es', 'it', 'pt', 'nl'].map(inWords)).toEqual([
      'Kapitel Zwei',
      'Chapitre Deux',
      'Capítulo Dos',
      'Capitolo Due',
      'Capítulo Dois',
      'Hoofdstuk Twee',
    ]);
  });
  it('stand with the title, alone, without it, or not at all', () => {
    const shown = (numbered: boolean, titled: boolean): string[] => {
      const b = book([section('a', 'chapter', ['x'], { title: 'The Boat', numbered, titled })]);
      const h = headingsOf(b.sections, b).get('a');
      return [h?.number ?? '', h?.title ?? '', h?.label ?? ''];
    };
    expect(shown(true, true)).toEqual(['Chapter One', 'The Boat', 'The Boat']);
    expect(shown(true, false)).toEqual(['Chapter One', '', 'Chapter One']);
    expect(shown(false, true)).toEqual(['', 'The Boat', 'The Boat']);
    expect(shown(false, false)).toEqual(['', '', 'The Boat']);
  });
});

describe('the contents list', () => {
  const withSubheads = (): Book => {
    const sub = (id: string, level: number, text: string) =>
      schema.node('subhead', { id, level }, [schema.text(text)]);
    const b = gathered(six(), ['a', 'b'], 'P');
    const content = schema.node('doc', null, [sub('h1', 1, 'The Rope'), sub('h2', 2, 'Its End')]);
    return { ...b, sections: b.sections.map((s) => (s.id === 'a' || s.id === 'c' ? { ...s, content } : s)) };
  };
  const listed = (levels: 1 | 2 | 3 | null): string =>
    contentsOf(withSubheads().sections, withSubheads(), levels)
      .map((e) => `${'-'.repeat(e.depth)}${e.block ?? e.section.id}`)
      .join(' ');
  it('is one to three levels deep', () => {
    expect(listed(null)).toBe('P -a -b c d e f');
    expect(listed(1)).toBe('P c d e f');
    expect(listed(2)).toBe('P -a -b c -h1 d e f');
    expect(listed(3)).toBe('P -a --h1 -b c -h1 --h2 d e f');
  });
  it('bears the edition’s own heading, or the usual one of the language', () => {
    const b = book([section('toc', 'contents', [])]);
    const title = (language: string, heading: string): string | undefined =>
      headingsOf(
        b.sections,
        { ...b, record: { ...b.record, language } },
        { contents: { heading, levels: null } },
      ).get('toc')?.title;
    expect(title('en', '')).toBe('Contents');
    expect(title('de', '')).toBe('Inhalt');
    expect(title('fr', 'Sommaire')).toBe('Sommaire');
  });
});

describe('pages made from the record', () => {
  const paperback = (b: Book) => b.editions[0]!;
  it('keep up with it until they are written by hand, and can be made from it again', () => {
    const b = book([section('c', 'copyright-page', []), ...chapters('a')]);
    expect(isFromRecord(b.sections[0]!, b.record)).toBe(true);
    const change = writtenOut(b.sections[0]!, b, paperback(b), newId);
    const byHand = made(b, { ok: true, value: change });
    expect(isFromRecord(byHand.sections[0]!, b.record)).toBe(false);
    expect(byHand.sections[0]!.content.textContent).toContain('Copyright © 2026 Ines Calloway');
    const again = made(byHand, { ok: true, value: fromRecordAgain(byHand.sections[0]!, newId) });
    expect(isFromRecord(again.sections[0]!, b.record)).toBe(true);
  });
  it('say the chosen clauses in the language of the book', () => {
    const b = book([]);
    const page = (language: string): string =>
      copyrightLines(
        { ...b.record, language, clauses: [...CLAUSES], ownClause: 'Set by hand.' },
        paperback(b),
      ).join('\n');
    expect(page('en')).toContain('The moral right of Ines Calloway');
    expect(page('fr')).toContain('Tous droits réservés');
    expect(page('de-AT')).toContain('Alle Rechte vorbehalten');
    expect(page('es')).toContain('Set by hand.');
    for (const language of ['en', 'fr', 'de', 'es', 'it'])
      for (const c of CLAUSES)
        expect(imprintWords(language).clauses[c]('A. N. Author').length).toBeGreaterThan(5);
  });
  it('tell of the author and of other books when the record does', () => {
    const start = book(chapters('a'));
    const called = made(start, addAtItsPlace(start, 'also-by', newId));
    const page = called.sections.at(-1)!;
    expect([page.kind, isFromRecord(page, called.record)]).toEqual(['also-by', false]);
    const record = { ...called.record, alsoBy: ['The Weir', 'Low Water'] };
    expect(isFromRecord(page, record)).toBe(true);
    expect(recordContent(page, record).textContent).toBe('The WeirLow Water');
  });
});
