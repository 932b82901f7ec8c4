import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  apply,
  bookFromJson,
  bookToJson,
  choicesOfEdition,
  editionChoicesSchema,
  editionsSchema,
  freshSection,
  newBook,
  pagesOf,
  printOf,
  undoing,
  type Book,
  type Change,
  sectionsIn,
} from '../src/book';
import {
  isLargePrint,
  editionAdded,
  editionByChoices,
  editionCopied,
  editionNamed,
  editionRemoved,
} from '../src/design';
import { recordSchema } from '../src/record';
import type { Outcome } from '../src/base';

const book = newBook('b', recordSchema.parse({ title: 'T' }), [freshSection('s1', 'chapter')]);
const changed = (b: Book, change: Change): Book => {
  const r = apply(b, change);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.book;
};

describe('choices of an edition', () => {
  const whole: Book = {
    ...book,
    editions: editionsSchema.parse([
      {
        id: 'p',
        name: 'Pocket',
        form: 'print',
        isbn: '978-92-95055-12-4',
        trim: '110 × 178 mm',
        inks: 'colour',
        paper: 'white-90',
        interior: 'Fathom',
        date: '2026-01-01',
      },
      {
        id: 'e',
        name: 'Ebook',
        form: 'reflow',
        isbn: '978-3-16-148410-0',
        version: '2.0.1',
        faces: 'own',
        pictures: 'small',
        pageList: 'p',
      },
      { id: 's', name: 'Taster', form: 'sample', of: 'e', extent: { by: 'chapters', amount: 3 } },
    ]),
  };
  it.each(['p', 'e', 's'])('go into another title without what belongs to the first: %s', (id) => {
    const edition = whole.editions.find((e) => e.id === id)!;
    // As they are kept: through JSON.
    const kept = editionChoicesSchema.parse(JSON.parse(JSON.stringify(choicesOfEdition(edition))));
    expect(kept).not.toHaveProperty('isbn');
    const added = editionByChoices(book, edition.name, kept, 'new');
    if (!added.ok) throw new Error(added.refusal.message);
    const made = changed(book, added.value).editions.at(-1)!;
    const { isbn, date, ...rest } = edition;
    expect([isbn !== '' || id === 's', date !== '' || id !== 'p']).toEqual([true, true]);
    expect(made).toEqual({
      ...rest,
      id: 'new',
      name: edition.name === 'Ebook' ? 'Ebook 2' : edition.name,
      isbn: '',
      date: '',
      // Editions of the title that they have come to.
      ...(edition.form === 'reflow' ? { pageList: 'paperback' } : {}),
      ...(edition.form === 'sample' ? { of: 'ebook' } : {}),
    });
  });
  it('find no ebook to take a sample of where there is none', () => {
    const print = { ...book, editions: book.editions.filter((e) => e.form === 'print') };
    const added = editionByChoices(print, 'Taster', choicesOfEdition(whole.editions[2]!), 'new');
    expect(added.ok && changed(print, added.value).editions.at(-1)).toMatchObject({
      form: 'sample',
      of: null,
    });
  });
});

describe('editions', () => {
  it('have the fields of their own form and no others', () => {
    const [paperback, ebook] = book.editions;
    expect(paperback).toHaveProperty('trim');
    expect(ebook).not.toHaveProperty('trim');
    expect(ebook).toHaveProperty('pageList', 'paperback');
    expect(paperback).not.toHaveProperty('pageList');
  });
  it('of books saved before are read: an ebook loses the trim it never used and gives the first print edition’s folios', () => {
    const common = { isbn: '', interior: 'Harrow', design: { from: {}, set: {} }, date: '' };
    const old = {
      ...bookToJson(book),
      editions: [
        {
          id: 'e',
          name: 'Ebook',
          form: 'reflow',
          trim: '5.5 × 8.5 in',
          standard: 'x-1a',
          paper: 'cream-80',
          ...common,
        },
        {
          id: 'p',
          name: 'Paperback',
          form: 'print',
          trim: '6 × 9 in',
          standard: 'x-4',
          paper: 'cream-80',
          ...common,
        },
        { id: 'q', name: 'Large print', form: 'print', trim: '7 × 10 in', ...common },
      ],
    };
    const read = bookFromJson(JSON.parse(JSON.stringify(old)));
    if (!read.ok) throw new Error(read.refusal.message);
    expect(read.value.editions[0]).toMatchObject({ form: 'reflow', pageList: 'p' });
    expect(read.value.editions[0]).not.toHaveProperty('trim');
    expect(printOf(read.value, 'p')).toMatchObject({ trim: '6 × 9 in', standard: 'x-4' });
    expect(bookFromJson(JSON.parse(JSON.stringify(bookToJson(read.value))))).toEqual(read);
  });
  it('name the edition whose folios they give, or none', () => {
    expect(pagesOf(book, 'ebook')?.id).toBe('paperback');
    expect(pagesOf(book, 'paperback')?.id).toBe('paperback');
    const without = changed(book, { type: 'set-edition', id: 'ebook', fields: { pageList: null } });
    expect(pagesOf(without, 'ebook')).toBeUndefined();
    expect(editionsSchema.parse(without.editions)).toEqual(without.editions);
  });
  it('take no setting of another form, and say so', () => {
    const r = apply(book, { type: 'set-edition', id: 'ebook', fields: { trim: '6 × 9 in' } });
    expect(r.ok ? '' : r.refusal.message).toMatch(/doesn’t have that setting/);
  });
  it('are changed and changed back', () => {
    const r = apply(book, { type: 'set-edition', id: 'paperback', fields: { trim: '6 × 9 in' } });
    if (!r.ok) throw new Error(r.refusal.message);
    expect(printOf(r.value.book, 'paperback')?.trim).toBe('6 × 9 in');
    expect(changed(r.value.book, r.value.inverse).editions).toEqual(book.editions);
  });
});

const made = <T>(o: Outcome<T>): T => {
  if (!o.ok) throw new Error(o.refusal.message);
  return o.value;
};
const namesOf = (b: Book): string[] => b.editions.map((e) => e.name);
const printed = (b: Book, id: string) => printOf(b, id)!;

describe('editions added, copied, renamed and removed', () => {
  const lanes = changed(book, { type: 'set-section', id: 's1', fields: { leftOut: ['paperback'] } });
  it('are added like the first of their form, with names of their own', () => {
    let b = changed(book, {
      type: 'set-edition',
      id: 'paperback',
      fields: { interior: 'Lantern', paper: 'white-90' },
    });
    for (const [what, id] of [
      ['print', 'p2'],
      ['print', 'p3'],
      ['large', 'l'],
      ['ebook', 'e2'],
    ] as const)
      b = changed(b, made(editionAdded(b, what, id)));
    expect(namesOf(b)).toEqual([
      'Paperback',
      'Ebook',
      'Print edition',
      'Print edition 2',
      'Large print',
      'Ebook 2',
    ]);
    expect(printed(b, 'p2')).toMatchObject({ interior: 'Lantern', paper: 'white-90', isbn: '' });
    expect(isLargePrint(printed(b, 'l'))).toBe(true);
    expect(isLargePrint(printed(b, 'paperback'))).toBe(false);
    expect(b.editions.at(-1)).toMatchObject({ form: 'reflow', pageList: 'paperback' });
    for (const e of b.editions) expect(e.purpose).not.toBe('');
  });
  it('of a fixed layout show the pages of the first print edition, and none when that is removed', () => {
    const b = changed(lanes, made(editionAdded(lanes, 'fixed', 'f')));
    expect(b.editions.at(-1)).toMatchObject({ form: 'fixed', of: 'paperback', name: 'Fixed-layout ebook' });
    expect(pagesOf(b, 'f')?.id).toBe('paperback');
    expect(sectionsIn(b, 'f')).toEqual(sectionsIn(b, 'paperback'));
    const without = changed(b, made(editionRemoved(b, 'paperback')));
    expect(without.editions.find((e) => e.id === 'f')).toMatchObject({ of: null });
    expect(sectionsIn(without, 'f')).toEqual([]);
  });
  it('are copied with their design and the sections that they carry, without the ISBN', () => {
    const b = changed(
      changed(lanes, {
        type: 'set-edition',
        id: 'paperback',
        fields: { isbn: '9783161484100', trim: '6 × 9 in' },
      }),
      made(editionCopied(lanes, 'paperback', 'c')),
    );
    expect(namesOf(b)).toEqual(['Paperback', 'Paperback, copy', 'Ebook']);
    expect(b.sections[0]!.leftOut).toEqual(['paperback', 'c']);
    const twice = changed(b, made(editionCopied(b, 'paperback', 'd')));
    expect(namesOf(twice).slice(0, 3)).toEqual(['Paperback', 'Paperback, copy 2', 'Paperback, copy']);
    expect(printed(twice, 'd')).toMatchObject({ isbn: '', trim: '6 × 9 in' });
  });
  it('are removed with the page lists that they gave, but never the last of them', () => {
    const b = changed(book, made(editionRemoved(book, 'paperback')));
    expect(b.editions).toMatchObject([{ id: 'ebook', pageList: null }]);
    expect(editionRemoved(b, 'ebook')).toMatchObject({ ok: false, refusal: { code: 'edition/last' } });
    expect(apply(b, { type: 'remove-edition', id: 'ebook' }).ok).toBe(false);
    expect(editionRemoved(b, 'paperback')).toMatchObject({ ok: false, refusal: { code: 'edition/gone' } });
  });
  it('bear names that nobody takes for one another', () => {
    for (const name of ['', '   ', 'ebook', ' EBOOK ', 'x'.repeat(61)])
      expect(editionNamed(book, 'paperback', { name }).ok, name).toBe(false);
    const b = changed(book, made(editionNamed(book, 'paperback', { name: '  Softcover   edition ' })));
    expect(namesOf(b)[0]).toBe('Softcover edition');
  });
  it('are at most so many', () => {
    let b = book;
    for (let n = 0; n < 22; n++) b = changed(b, made(editionAdded(b, 'print', `p${n}`)));
    expect(new Set(namesOf(b)).size).toBe(24);
    expect(editionAdded(b, 'ebook', 'one-more').ok).toBe(false);
    expect(editionCopied(b, 'ebook', 'one-more').ok).toBe(false);
  });
  it('come back whole by Undo, whatever was done in whatever order', () => {
    const step = fc.record({
      what: fc.constantFrom('print', 'large', 'ebook', 'sample', 'fixed', 'copy', 'remove', 'name'),
      at: fc.nat(9),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        let b = lanes;
        const back: Change[] = [];
        steps.forEach(({ what, at }, n) => {
          const { id } = b.editions[at % b.editions.length]!;
          const change =
            what === 'copy'
              ? editionCopied(b, id, `n${n}`)
              : what === 'remove'
                ? editionRemoved(b, id)
                : what === 'name'
                  ? editionNamed(b, id, { name: `Name ${n}`, purpose: `For ${n}` })
                  : editionAdded(b, what as 'print', `n${n}`);
          if (!change.ok) return;
          const r = made(apply(b, change.value));
          b = r.book;
          back.unshift(r.inverse);
        });
        expect(bookToJson(made(bookFromJson(bookToJson(b))))).toEqual(bookToJson(b));
        for (const c of back) b = changed(b, c);
        expect(bookToJson(b)).toEqual(bookToJson(lanes));
      }),
      { numRuns: 200 },
    );
  });
  it('that have been changed since are not taken away by an Undo of their adding', () => {
    const add = made(editionAdded(book, 'large', 'l'));
    const added = made(apply(book, add));
    const set: Change = { type: 'set-edition', id: 'l', fields: { isbn: '9783161484100' } };
    const after = changed(added.book, set);
    const undo = undoing(after, add, added.inverse, [{ revision: 2, change: set, reverses: null }]);
    expect(undo).toMatchObject({ ok: false, refusal: { code: 'undo/changed' } });
    const other: Change = { type: 'set-edition', id: 'ebook', fields: { isbn: '9783161484100' } };
    const fine = made(
      undoing(changed(added.book, other), add, added.inverse, [
        { revision: 2, change: other, reverses: null },
      ]),
    );
    expect(namesOf(changed(changed(added.book, other), fine))).toEqual(['Paperback', 'Ebook']);
  });
});
