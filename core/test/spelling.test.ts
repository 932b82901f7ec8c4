/** Words for a spelling check: which, where, in which language. */
import { describe, expect, it } from 'vitest';
import { schema } from '../src/book';
import { changeOfEdits, isOwnWord, lookedUp, partsOf, wordsOfBook } from '../src/tidy';
import { apply } from '../src/book';
import { book, section } from './fixtures/books';

const words = (...paragraphs: string[]) => wordsOfBook(book([section('a', 'chapter', paragraphs)]));

describe('words of the book', () => {
  it('are found with their places; addresses, numbers and monospace text are none', () => {
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'p' }, [
        schema.text('See www.example.org or write to a@b.org, '),
        schema.text('let x', [schema.mark('monospaced')]),
        schema.text(' in 1840. See?'),
      ]),
    ]);
    const found = wordsOfBook(book([{ ...section('a', 'chapter', []), content }]));
    expect(found.map((w) => `${w.word} ${w.places.map((p) => p.from).join()}`)).toEqual([
      'See 0,56',
      'or 20',
      'write 23',
      'to 29',
      'in 47',
    ]);
  });
  it('of another language are asked of its dictionary', () => {
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'p' }, [
        schema.text('He said '),
        schema.text('bonjour', [schema.mark('language', { tag: 'fr' })]),
      ]),
    ]);
    const found = wordsOfBook(book([{ ...section('a', 'chapter', []), content }]));
    expect(found.map((w) => `${w.word} ${w.language}`)).toEqual(['He en-GB', 'said en-GB', 'bonjour fr']);
  });
  it('that are always written large inside a sentence may be names', () => {
    const found = words('Then Pellmouth slept. Pellmouth had always slept, said Nessa.');
    expect(found.filter((w) => w.name).map((w) => w.word)).toEqual(['Pellmouth', 'Nessa']);
  });
  it('are replaced where they stand', () => {
    const b = book([section('a', 'chapter', ['They recieved it. He recieved it.'])]);
    const places = wordsOfBook(b).find((w) => w.word === 'recieved')!.places;
    const change = changeOfEdits(
      b,
      places.map((p) => ({ ...p, by: 'received' })),
      'Spell',
    )!;
    const after = apply(b, change);
    expect(after.ok && after.value.book.sections[0]?.content.textContent).toBe(
      'They received it. He received it.',
    );
  });
});

it('a word is looked up as dictionaries have it, and by its parts', () => {
  expect(lookedUp('don\u2019t')).toBe("don't");
  expect(lookedUp('co\u00adoperate')).toBe('cooperate');
  expect(partsOf('tide-clerk')).toEqual(['tide', 'clerk']);
  expect(partsOf('Tolley\u2019s')).toEqual(['Tolley']);
  expect(partsOf('l\u2019eau')).toEqual(['eau']);
  expect(partsOf('plain')).toEqual([]);
});

it('the book’s own words are right however they are written large', () => {
  const own = new Set(['tidewife', 'Pellmouth']);
  expect(
    ['tidewife', 'Tidewife', 'Pellmouth\u2019s', 'pellmouth', 'tide'].map((w) => isOwnWord(w, own)),
  ).toEqual([true, true, true, false, false]);
});
