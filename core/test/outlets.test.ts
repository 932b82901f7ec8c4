import { describe, expect, it } from 'vitest';
import { unzipSync } from 'fflate';
import {
  coverOf,
  forOutlet,
  forScreen,
  productKeyOf,
  MANUSCRIPT,
  schema,
  templateOf,
  type Book,
  type Edition,
} from '../src/book';
import { checkEpub } from '../src/check';
import { writeEpub } from '../src/epub';
import {
  bookAddressAt,
  demandsOf,
  factsOf,
  fileFor,
  fileNameAt,
  isReady,
  linksToShops,
  OUTLETS,
  type Account,
  type MadeFile,
  type Outlet,
} from '../src/outlets';
import { book, section, threeChapters } from './fixtures/books';

const outlet = OUTLETS[0]!;
const demandsWith = (
  b: Book,
  made: MadeFile | null,
  revision: number,
  {
    at = outlet,
    account = null,
    edition = b.editions[1]!,
  }: { at?: Outlet; account?: Account | null; edition?: Edition } = {},
) => {
  const facts = factsOf({ outlet: at, book: b, edition, revision, files: [], account });
  return demandsOf(at, { ...facts, made: made ? { [fileFor(b, edition.id, at.id)]: made } : {} });
};
const state = (b: Book, made: MadeFile | null, revision = 0): Partial<Record<string, string>> =>
  Object.fromEntries(demandsWith(b, made, revision).map((d) => [d.name, d.state]));

it('tells demand by demand what a shop would refuse', () => {
  const b = threeChapters();
  expect(state(b, null)).toMatchObject({
    Title: 'met',
    Author: 'met',
    Description: 'not met',
    Price: 'not met',
    Cover: 'not met',
    ISBN: 'optional',
    Ebook: 'not met',
    'File name': 'met',
    Subtitle: 'optional',
    Keywords: 'optional',
  });
  const ready = {
    ...b,
    record: { ...b.record, description: 'x'.repeat(60), price: { minor: 499, currency: 'GBP' }, cover: 'c' },
    pictures: [{ id: 'c', name: '', type: 'image/jpeg' as const, width: 1_600, height: 2_560 }],
  };
  expect(isReady(demandsWith(ready, { upTo: 3, madeAt: 5, sha256: '', findings: [] }, 3))).toBe(true);
  expect(state(ready, { upTo: 2, madeAt: 5, sha256: '', findings: [] }, 3).Ebook).toBe('not met');
  expect(
    state(
      ready,
      { upTo: 3, madeAt: 5, sha256: '', findings: [{ rule: 'x', severity: 'blocker', message: '' }] },
      3,
    ).Ebook,
  ).toBe('not met');
});

it('names files by each outlet’s rule, and asks for what the name lacks', () => {
  const b = threeChapters();
  const of = (fileName: 'title' | 'isbn' | 'title-author', isbn = '', record = b.record) =>
    fileNameAt({ fileName, assigns: null }, record, { isbn }, '.epub');
  // The number of the ISBN Users’ Manual, from memory.
  expect(of('isbn', '978-92-95055-12-4')).toBe('9789295055124.epub');
  expect(of('isbn', '978-92-95055-12-5')).toBeNull();
  expect(of('isbn')).toBeNull();
  // An outlet that gives books their number takes those without one by their title.
  const assigning = { fileName: 'isbn', assigns: { hours: 12 } } as const;
  expect(fileNameAt(assigning, b.record, { isbn: '' }, '.epub')).toBe('the-causeway.epub');
  expect(fileNameAt(assigning, b.record, { isbn: '978-92-95055-12-5' }, '.epub')).toBeNull();
  expect(of('title', '', { ...b.record, title: 'Ein Café & mehr' })).toBe('ein-cafe-mehr.epub');
  expect(of('title', '', { ...b.record, title: ' ' })).toBeNull();
  expect(of('title-author', '', { ...b.record, contributors: [] })).toBeNull();
  expect(of('title-author')).toBe('the-causeway_ines-calloway.epub');
});

it('refuses an ebook that this outlet would send back, and says why', () => {
  const b = threeChapters();
  const refused = { rule: 'outlet/script', severity: 'caution' as const, message: 'No scripts.' };
  const of = (id: string) =>
    state(b, { upTo: 0, madeAt: 5, sha256: '', findings: [{ ...refused, outlet: id }] }).Ebook;
  expect([of(outlet.id), of('another')]).toEqual(['not met', 'met']);
});

describe('links to books in a shop', () => {
  // The ISBN of the Users' Manual itself, from memory.
  const ISBN = '9789295055124';
  const linked = (): Book => {
    const mark = schema.mark('link', { kind: 'shop', target: ISBN });
    const words = [schema.text('Read '), schema.text('the book before', [mark]), schema.text('.')];
    return book([
      section('c', 'chapter', [], {
        title: 'The Tide',
        content: schema.node('doc', null, [schema.node('paragraph', { id: 'p' }, words)]),
      }),
    ]);
  };
  const page = (b: Book, bookAddress?: (isbn: string) => string | null): string => {
    const made = writeEpub({ book: b, edition: 'ebook', pictures: new Map(), print: null, bookAddress });
    if (!made.ok) throw new Error(made.refusal.message);
    const faults = checkEpub(made.value);
    expect(faults.ok && faults.value.filter((f) => f.severity === 'blocker')).toEqual([]);
    return new TextDecoder().decode(unzipSync(made.value)['EPUB/text/s001.xhtml']);
  };

  it('lead to the outlet that a file is made for, with the code of one who leads there', () => {
    expect(bookAddressAt(outlet, '978-92-95055-12-4', '')).toBe(
      'https://lanternquay.example/isbn/9789295055124',
    );
    expect(bookAddressAt(outlet, ISBN, 'shingle-7')).toBe(
      'https://lanternquay.example/isbn/9789295055124?by=shingle-7',
    );
    expect(bookAddressAt({ ...outlet, affiliate: null }, ISBN, 'shingle-7')).not.toContain('shingle');
    expect(bookAddressAt(outlet, '9789295055125', '')).toBeNull();
    expect(page(linked(), (isbn) => bookAddressAt(outlet, isbn, 'a&b'))).toContain(
      'Read <a href="https://lanternquay.example/isbn/9789295055124?by=a%26b">the book before</a>.',
    );
  });
  it('are words alone in a file that is made for no outlet', () => {
    expect(page(linked())).toContain('Read the book before.');
  });
  it('ask for a file of the outlet’s own, made since the code was changed', () => {
    const b = linked();
    expect([linksToShops(b, 'ebook'), linksToShops(threeChapters(), 'ebook')]).toEqual([true, false]);
    expect(fileFor(b, 'ebook', outlet.id)).toBe('ebook/for/lanternquay');
    expect(fileFor(threeChapters(), 'ebook', outlet.id)).toBe('ebook');
    const ebook = (made: number, account: Account | null) =>
      demandsWith(b, { upTo: 3, madeAt: made, sha256: '', findings: [] }, 3, { account }).find(
        (d) => d.name === 'Ebook',
      );
    expect(ebook(10, null)?.state).toBe('met');
    expect(ebook(10, { affiliate: 'x', changedAt: 9, connected: true })?.state).toBe('met');
    expect(ebook(10, { affiliate: 'x', changedAt: 11, connected: true })?.why).toMatch(/code has changed/);
  });
});

it('names what a file is made of so that it can be read back', () => {
  expect(productKeyOf(forScreen('paperback'))).toEqual({
    edition: 'paperback',
    form: 'screen',
    outlet: null,
  });
  expect(productKeyOf(forOutlet('ebook', 'lanternquay'))).toEqual({
    edition: 'ebook',
    form: 'outlet',
    outlet: 'lanternquay',
  });
  expect(productKeyOf(coverOf('paperback'))).toMatchObject({ edition: 'paperback', form: 'cover' });
  expect(productKeyOf(templateOf('paperback')).form).toBe('template');
  expect(productKeyOf(MANUSCRIPT).edition).toBeNull();
  expect(productKeyOf('ebook')).toEqual({ edition: 'ebook', form: 'whole', outlet: null });
});
