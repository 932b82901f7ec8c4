import { describe, expect, it } from 'vitest';
import { apply, bookToJson, schema, type Book, type Change } from '../src/book';
import type { Outcome } from '../src/base';
import { appendixLabel } from '../src/base';
import {
  captionsOf,
  changeKind,
  contentsOf,
  copyrightLines,
  divide,
  headingsOf,
  inTurn,
  join,
  looksToDivide,
  numberAt,
  moveBefore,
  placesInRun,
  placesThatLook,
  remove,
} from '../src/order';
import { book, section, threeChapters } from './fixtures/books';

let n = 0;
const newId = (): string => `n${++n}`;
const made = (b: Book, change: Outcome<Change>): { book: Book; back: Book } => {
  if (!change.ok) throw new Error(change.refusal.message);
  const r = apply(b, change.value);
  if (!r.ok) throw new Error(r.refusal.message);
  const undone = apply(r.value.book, r.value.inverse);
  if (!undone.ok) throw new Error(undone.refusal.message);
  return { book: r.value.book, back: undone.value.book };
};
const ids = (b: Book): string[] => b.sections.map((s) => s.id);
const byMatter = (a: { matter: string }, b: { matter: string }): number =>
  ['front', 'body', 'back'].indexOf(a.matter) - ['front', 'body', 'back'].indexOf(b.matter);
const words = (b: Book): string =>
  b.sections
    .map((s) => `${s.title} ${s.content.textBetween(0, s.content.content.size, ' ')}`)
    .join(' ')
    .replace(/\s+/g, ' ');

describe('numbers', () => {
  it('are counted by kind, never doubled, and skip unnumbered chapters', () => {
    const b = book([
      section('p', 'part', [], { title: 'Water' }),
      section('a', 'chapter', ['x'], { title: 'A' }),
      section('b', 'chapter', ['x'], { numbered: false, title: 'B' }),
      section('c', 'chapter', ['x']),
    ]);
    const h = headingsOf(b.sections, b);
    expect([...h.values()].map((x) => [x.number, x.title])).toEqual([
      ['Part I', 'Water'],
      ['Chapter One', 'A'],
      ['', 'B'],
      ['Chapter Two', ''],
    ]);
  });
  it('speak the language of the book', () => {
    const b = book([section('a', 'chapter', ['x'])]);
    expect(headingsOf(b.sections, { ...b, record: { ...b.record, language: 'de' } }).get('a')?.number).toBe(
      'Kapitel 1',
    );
  });
});

it('contents leave out title and copyright page and nest chapters under parts', () => {
  const b = threeChapters();
  expect(contentsOf(b.sections, b).map((e) => [e.section.id, e.depth])).toEqual([
    ['p1', 0],
    ['c1', 1],
    ['c2', 1],
    ['ack', 0],
  ]);
});

it('contents show a subhead or a caption of two lines as one, its words apart, and no mark of a note', () => {
  const lines = [
    schema.text('Of Nets'),
    schema.node('lineBreak'),
    schema.text('and Boats'),
    schema.node('note', { ref: 'n' }),
  ];
  const content = schema.node('doc', null, [
    schema.node('subhead', { id: 'h', level: 1 }, lines),
    schema.node('figure', { id: 'f', picture: 'p' }, lines.slice(0, 3)),
  ]);
  const b = book([{ ...section('a', 'chapter', []), content }]);
  expect(contentsOf(b.sections, b, 3).map((e) => e.heading.title)).toContain('Of Nets and Boats');
  expect(captionsOf(b.sections, b, 'figures').map((e) => e.heading.title)).toEqual(['Of Nets and Boats']);
});

describe('rearranging', () => {
  it('divides before a block, takes notes along, and undoes to the letter', () => {
    const note = schema.node('note', { ref: 'f1' });
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'a' }, [schema.text('Before.')]),
      schema.node('subhead', { id: 'h', level: 1 }, [schema.text('The Rope')]),
      schema.node('paragraph', { id: 'b' }, [schema.text('After'), note]),
      schema.node('noteBody', { id: 'f1' }, [
        schema.node('paragraph', { id: 'f1p' }, [schema.text('A note.')]),
      ]),
    ]);
    const start = book([{ ...section('x', 'chapter', []), content }]);
    const { book: after, back } = made(start, divide(start, 'x', 'h', newId));
    expect(after.sections.map((s) => [s.title, s.content.textContent])).toEqual([
      ['', 'Before.'],
      ['The Rope', 'AfterA note.'],
    ]);
    expect(bookToJson(back)).toEqual(bookToJson(start));
    expect(divide(start, 'x', 'a', newId).ok).toBe(false);
  });
  it('joins without losing a word', () => {
    const start = threeChapters();
    const { book: after, back } = made(start, join(start, 'c2', newId));
    expect(ids(after)).not.toContain('c2');
    expect(words(after).split(' ').sort()).toEqual(words(start).split(' ').sort());
    expect(bookToJson(back)).toEqual(bookToJson(start));
  });
  it('divides everywhere where it looks alike, in one change, though blocks get new ids', () => {
    const texts = ['Chapter 1', 'One.', 'Chapter 2', 'Two.', 'A line.', 'Chapter 13', 'Three.'];
    const start = book([
      section('x', 'chapter', texts),
      section('n', 'acknowledgements', ['A.', 'Chapter 9']),
    ]);
    const block = (i: number): string => start.sections[0]!.content.child(i).attrs.id as string;
    const looks = looksToDivide(start, { section: 'x', block: block(2) })!;
    expect(looksToDivide(start, { section: 'x', block: 'gone' })).toBe(null);
    const first = made(start, divide(start, 'x', block(2), newId)).book;
    const all = inTurn(first, placesThatLook(first, looks), 'Divide', (now, p) =>
      divide(now, p.section, p.block, newId),
    );
    const { book: after, back } = made(first, all);
    // The lines that head the new sections leave their text: numbers come from the order.
    expect(after.sections.map((s) => s.content.firstChild!.textContent)).toEqual([
      'Chapter 1',
      'Two.',
      'Three.',
      'A.',
    ]);
    expect(bookToJson(back)).toEqual(bookToJson(first));
    expect(inTurn(after, placesThatLook(after, looks), '', () => all).ok).toBe(false);
  });
  it('divides where a count goes on, in words and in roman numbers, and leaves numbers in the text alone', () => {
    const long = (n: number): string =>
      `${'The tide went out over the flats and came in again. '.repeat(6)}${n}`;
    const heads = ['IV', 'V: The Well', 'VII', 'VIII'];
    const texts = [long(0), ...heads.flatMap((h, i) => [h, long(i), i === 1 ? 'XI' : 'I', long(i)])];
    const start = book([section('x', 'chapter', texts), section('y', 'chapter', [long(9), 'IX', long(10)])]);
    const at = (text: string) => {
      let id = '';
      start.sections[0]!.content.forEach(
        (n) => (id ||= n.textContent === text ? (n.attrs.id as string) : ''),
      );
      return { section: 'x', block: id };
    };
    const number = numberAt(start, at('V: The Well'))!;
    expect(number).toEqual({ number: 5, labelled: false });
    const textOf = (b: Book, p: { section: string; block: string }): string => {
      let text = '';
      b.sections
        .find((s) => s.id === p.section)!
        .content.forEach((n) => {
          if (n.attrs.id === p.block) text = n.textContent;
        });
      return text;
    };
    expect(placesInRun(start, 'x', number).map((p) => textOf(start, p))).toEqual(['IX', 'VIII', 'VII', 'IV']);
    const first = made(start, divide(start, 'x', at('V: The Well').block, newId)).book;
    const all = inTurn(first, placesInRun(first, 'x', number), 'Split', (now, p) =>
      divide(now, p.section, p.block, newId),
    );
    const { book: after, back } = made(first, all);
    expect(after.sections).toHaveLength(7);
    expect(after.sections.map((s) => s.title)).toEqual(['', '', 'The Well', '', '', '', '']);
    expect(bookToJson(back)).toEqual(bookToJson(first));
    expect(numberAt(start, { section: 'x', block: 'gone' })).toBeNull();
  });
  it('letters appendices where there are several, and each as its manuscript does', () => {
    const numbers = (...fields: Partial<ReturnType<typeof section>>[]): string[] => {
      const b = book([
        section('c', 'chapter', ['x']),
        ...fields.map((f, i) => section(`a${i}`, 'appendix', ['x'], f)),
      ]);
      return [...headingsOf(b.sections, b).values()].slice(1).map((h) => h.number);
    };
    expect(numbers({})).toEqual(['']);
    expect(numbers({}, {}, {})).toEqual(['Appendix A', 'Appendix B', 'Appendix C']);
    expect(numbers({ number: 1 })).toEqual(['Appendix A']);
    expect(numbers({ numbered: false }, {}, { number: 4 }, {})).toEqual([
      '',
      'Appendix A',
      'Appendix D',
      'Appendix E',
    ]);
    for (const [line, wanted] of [
      ['Appendix A: Tolls', { typed: 'Appendix A', number: 1, title: 'Tolls' }],
      ['APPENDIX II', { typed: 'APPENDIX II', number: 2, title: '' }],
      ['Anhang 3 – Die Boote', { typed: 'Anhang 3', number: 3, title: 'Die Boote' }],
      ['Appendix I. Sources', { typed: 'Appendix I', number: 1, title: 'Sources' }],
      ['Appendix to the second edition', null],
      ['Appendices', null],
    ] as const)
      expect(appendixLabel(line)).toEqual(wanted);
  });
  it('moves a part with its chapters', () => {
    const start = book(
      [...threeChapters().sections, section('end', 'epilogue', ['It ended.'])].sort(byMatter),
    );
    const { book: after, back } = made(start, moveBefore(start, ['p1'], 'ack'));
    expect(ids(after)).toEqual(['t', 'c', 'toc', 'end', 'p1', 'c1', 'c2', 'ack']);
    expect(after.sections.find((s) => s.id === 'c2')?.parent).toBe('p1');
    expect(bookToJson(back)).toEqual(bookToJson(start));
    const up = made(after, moveBefore(after, ['p1'], 'end'));
    expect(ids(up.book)).toEqual(ids(start));
  });
  it('keeps chapters and parts in the body', () => {
    const start = threeChapters();
    for (const to of ['t', null]) {
      const r = moveBefore(start, ['p1'], to);
      expect(r.ok ? '' : r.refusal.message).toBe('A part belongs in the body of the book.');
    }
  });
  it('takes a chapter out of its part when it is moved before it', () => {
    const start = threeChapters();
    const { book: after } = made(start, moveBefore(start, ['c2'], 'p1'));
    expect(ids(after)).toEqual(['t', 'c', 'toc', 'c2', 'p1', 'c1', 'ack']);
    expect(after.sections.find((s) => s.id === 'c2')?.parent).toBeNull();
  });
  it('changes a kind in one action, matter and all', () => {
    const start = threeChapters();
    const { book: after, back } = made(start, changeKind(start, ['p1'], 'chapter'));
    expect(after.sections.filter((s) => s.parent !== null)).toEqual([]);
    expect(bookToJson(back)).toEqual(bookToJson(start));
    const moved = made(start, changeKind(start, ['ack'], 'foreword')).book;
    expect(ids(moved)).toEqual(['t', 'c', 'toc', 'ack', 'p1', 'c1', 'c2']);
    expect(moved.sections[3]?.matter).toBe('front');
  });
  it('deletes with undo', () => {
    const start = threeChapters();
    const { book: after, back } = made(start, remove(start, ['p1']));
    expect(after.sections.length).toBe(start.sections.length - 1);
    expect(bookToJson(back)).toEqual(bookToJson(start));
  });
});

it('the copyright page shows the ISBN of its own edition only', () => {
  const b = threeChapters();
  const [paperback] = b.editions.map((e, i) => ({
    ...e,
    isbn: ['978-92-95055-12-4', '978-0-306-40615-7'][i] as string,
  }));
  expect(copyrightLines(b.record, paperback!).join()).toContain('978-92-95055-12-4');
  expect(copyrightLines(b.record, paperback!).join()).not.toContain('978-0-306-40615-7');
});
