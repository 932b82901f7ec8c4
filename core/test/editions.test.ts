import { describe, expect, it } from 'vitest';
import {
  apply,
  bookFromJson,
  bookToJson,
  editionsSchema,
  freshSection,
  newBook,
  pagesOf,
  printOf,
  type Book,
  type Change,
} from '../src/book';
import { recordSchema } from '../src/record';

const book = newBook('b', recordSchema.parse({ title: 'T' }), [freshSection('s1', 'chapter')]);
const changed = (b: Book, change: Change): Book => {
  const r = apply(b, change);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.book;
};

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
