/** What is found in a book before any file is made, and where a file and its record do not agree. */
import { describe, expect, it } from 'vitest';
import type { Node } from 'prosemirror-model';
import { checkBook, checkFileAgreement, checkPages, pagesFacts, type FileFacts } from '../src/check';
import { schema, type Book, type Edition, type Section } from '../src/book';
import type { Finding } from '../src/base';
import type { Composition } from '../src/compose';
import { recordSchema } from '../src/record';
import { book, prose, section, threeChapters } from './fixtures/books';
import { composed } from './fixtures/composed';

const rules = (b: Book): string[] => checkBook(b).map((f) => f.rule);
const withText = (text: string): Book => whole([section('c1', 'chapter', [text], { title: 'The Carts' })]);
/** A book with title page and copyright page made from its record, and these sections. */
const whole = (sections: Section[], more: Partial<Book> = {}): Book =>
  book([section('t', 'title-page', []), section('c', 'copyright-page', []), ...sections], more);
const doc = (...blocks: Node[]): Node => schema.node('doc', null, blocks);
const figure = (id: string, alt: string): Node => schema.node('figure', { id, picture: 'p', alt });
const page = (kind: 'title-page' | 'copyright-page', ...lines: string[]): Section =>
  section(kind, kind, lines);
const chapter = section('c1', 'chapter', [prose(50)], { title: 'The Carts' });

it('finds nothing in a book in order', () => expect(checkBook(threeChapters())).toEqual([]));

describe('pages of a book', () => {
  it('must have a title page and a copyright page', () =>
    expect(rules(book([chapter]))).toEqual(['order/no-title-page', 'order/no-copyright-page']));
  it('may be empty only where the book makes them', () => {
    const made = ['contents', 'half-title', 'index', 'list-of-figures', 'part'] as const;
    const found_ = rules(whole([...made.map((kind) => section(kind, kind, [])), chapter]));
    expect(found_).not.toContain('order/empty-section');
    const found = checkBook(whole([section('d', 'dedication', []), section('e', 'chapter', [])]));
    expect(found.map((f) => [f.rule, f.place?.section])).toEqual([
      ['order/empty-section', 'd'],
      ['order/empty-section', 'e'],
    ]);
  });
  it('may stand without a title where they have a number', () => {
    const nameless = (more: Partial<Section>): string[] =>
      rules(whole([section('n', 'chapter', [prose(20)], more)]));
    expect(nameless({ title: '' })).toEqual([]);
    expect(nameless({ title: '', numbered: false })).toEqual(['order/untitled-chapter']);
    // A title that is kept for the contents alone is none on the page.
    expect(nameless({ title: 'The Carts', titled: false, numbered: false })).toEqual([
      'order/untitled-chapter',
    ]);
  });
  it.each([
    ['Chapter 3: The Boat', true],
    ['CHAPTER THREE', true],
    ['Chapter Twenty-One — The Boat', true],
    ['Chapitre premier', true],
    ['3. Kapitel: Das Boot', true],
    ['Chapter and Verse', false],
    ['Part of the Tide', false],
    ['The Third Chapter of Accidents', false],
    ['Seven', false],
  ])('carry no number of their own beside the one that is printed: %s', (title, doubled) => {
    const of = (numbered: boolean): string[] =>
      rules(whole([section('c1', 'chapter', [prose(20)], { title, numbered })]));
    expect(of(true)).toEqual(doubled ? ['order/doubled-number'] : []);
    expect(of(false)).toEqual([]);
  });
});

describe('a picture', () => {
  it('has words for those who do not see it, each in its place', () => {
    const content = doc(figure('f1', 'Posts in the mud'), figure('f2', ''), figure('f3', '  '));
    const found = checkBook(whole([{ ...chapter, content }])).filter((f) => f.rule === 'figure/no-alt');
    expect(found.map((f) => [f.rule, f.place?.block])).toEqual([
      ['figure/no-alt', 'f2'],
      ['figure/no-alt', 'f3'],
    ]);
  });
});

// Marks for what is to come: common practice.
describe('text that was to be replaced', () => {
  it.each(['The road TK was wet.', 'TKTK', 'See page XXXX.', 'on [XX] May', 'Lorem ipsum dolor sit amet'])(
    'is found: %s',
    (text) => expect(rules(withText(text))).toEqual(['wording/placeholder']),
  );
  it.each(['Pope John XXIII and Louis XXX', 'the ATK road', 'tk, tk, said the hen', 'Exxxcellent', 'TKO'])(
    'is not seen in: %s',
    (text) => expect(rules(withText(text))).toEqual([]),
  );
});

describe('the record and the pages', () => {
  it('name title and author', () => {
    const record = recordSchema.parse({ language: 'en-GB' });
    expect(rules(whole([chapter], { record }))).toEqual(['record/no-title', 'record/no-author']);
  });
  it('have a year of four digits, or none', () => {
    const of = (year: string): string[] =>
      rules(whole([chapter], { record: { ...whole([chapter]).record, year } }));
    expect([of('2026'), of('')]).toEqual([[], []]);
    expect(of('20x6')).toEqual(['record/year']);
  });
  it('agree in the title page, however it is typed', () => {
    const of = (...lines: string[]): string[] =>
      rules(book([page('title-page', ...lines), page('copyright-page'), chapter])).filter((r) =>
        /^agree/.test(r),
      );
    expect(of('THE CAUSEWAY', 'a novel', 'by Ines  Calloway')).toEqual([]);
    expect(of('The Cause-way', 'Ines Calloway')).toEqual(['agree/title-page']);
    expect(of('The Causeway', 'I. Calloway')).toEqual(['agree/title-page-author']);
    // Lines broken by hand are words apart.
    const broken = (...lines: string[]): Node =>
      schema.node(
        'paragraph',
        { id: 'p' },
        lines.flatMap((l) => [schema.text(l), schema.node('lineBreak')]),
      );
    const page_ = { ...page('title-page'), content: doc(broken('THE', 'CAUSEWAY', 'BY INES', 'CALLOWAY')) };
    expect(rules(book([page_, page('copyright-page'), chapter]))).toEqual([]);
    // Left empty, the page is made from the record.
    expect(of()).toEqual([]);
  });
  it('agree in the ISBN that the copyright page shows', () => {
    const b = whole([chapter]);
    const of = (line: string): string[] =>
      rules({
        ...b,
        editions: b.editions.map((e, i) => (i === 0 ? { ...e, isbn: '978-3-16-148410-0' } : e)),
        sections: [page('title-page'), page('copyright-page', `© Ines Calloway, 2026. ${line}`), chapter],
      });
    // The example of the ISBN Users' Manual, with spaces, hyphens and dashes (from memory).
    for (const isbn of ['978-3-16-148410-0', '9783161484100', '978 3 16 148410 0', '978–3–16–148410–0'])
      expect(of(`ISBN ${isbn} (paperback)`)).toEqual([]);
    expect(of('ISBN 978-3-16-148411-7')).toEqual(['agree/copyright-isbn']);
    expect(of('First printed in 1978, again in 1979.')).toEqual([]);
  });
  it('have one valid ISBN for each edition', () => {
    const b = whole([chapter]);
    const of = (...isbns: string[]): string[] =>
      rules({ ...b, editions: b.editions.map((e, i) => ({ ...e, isbn: isbns[i] ?? '' })) });
    expect(b.editions.length).toBeGreaterThan(1);
    expect(of()).toEqual([]);
    expect(of('9783161484100')).toEqual([]);
    expect(of('9783161484100', '978-3-16-148410-0')).toEqual(['record/same-isbn']);
    expect(of('9783161484101')).toEqual(['record/invalid-isbn']);
    expect(of('12345')).toEqual(['record/invalid-isbn']);
  });
});

describe('a made file', () => {
  const b = whole([chapter]);
  const ebook = { ...b.editions.find((e) => e.form === 'reflow')!, isbn: '978-3-16-148410-0' };
  const print = b.editions.find((e) => e.form === 'print')!;
  const right: FileFacts = {
    title: 'The Causeway',
    subtitle: '',
    author: 'Ines Calloway',
    isbn: '9783161484100',
    editionStatement: '',
    name: 'the-causeway-ebook.epub',
  };
  const of = (facts: Partial<FileFacts>, edition: Edition = ebook): string[] =>
    checkFileAgreement(b, edition, { ...right, ...facts }).map((f) => f.rule);
  it('agrees with the record', () => {
    expect(of({})).toEqual([]);
    expect(of({ name: 'out/The-Causeway.epub' })).toEqual([]);
    expect(of({ isbn: '' }, print)).toEqual([]);
  });
  it.each<[Partial<FileFacts>, string]>([
    [{ title: 'The Cart' }, 'agree/file-title'],
    [{ title: '' }, 'agree/file-title'],
    [{ title: 'The Causeway: A Novel' }, 'agree/file-title'],
    [{ title: 'The causeway' }, 'agree/file-title'],
    [{ subtitle: 'A Winter' }, 'agree/file-subtitle'],
    [{ editionStatement: 'Second edition' }, 'agree/file-edition-statement'],
    [{ author: 'Inès Calloway' }, 'agree/file-author'],
    [{ author: 'Somebody' }, 'agree/file-author'],
    [{ isbn: '9783161484117' }, 'agree/file-isbn'],
    [{ isbn: '' }, 'agree/file-isbn'],
    [{ name: 'final-final.epub' }, 'agree/file-name'],
  ])('is refused with %j', (facts, rule) => {
    expect(of(facts)).toEqual([rule]);
    const [found] = checkFileAgreement(b, ebook, { ...right, ...facts });
    expect(found).toMatchObject({ severity: 'blocker', file: facts.name ?? right.name });
    expect(found?.remedy).toBe('Make the ebook again.');
  });
  it('carries no ISBN that the record does not have', () =>
    expect(of({}, { ...ebook, isbn: '' })).toEqual(['agree/file-isbn']));
});

describe('places that links and references lead to', () => {
  const linked = (target: string): Book => {
    const link = schema.text('there', [schema.mark('link', { kind: 'place', target })]);
    const reference = schema.node('reference', { target, shows: 'page', words: 'page 3' });
    const p = schema.node('paragraph', { id: 'p' }, [link, reference]);
    return whole([{ ...section('c1', 'chapter', [], { title: 'The Carts' }), content: doc(p) }]);
  };
  it('that are gone are found, at the words that lead there', () => {
    for (const dead of ['c9', 'c1#nothing', '']) {
      const found = checkBook(linked(dead));
      expect(found.map((f) => f.rule)).toEqual(['reference/dead-place', 'reference/dead-place']);
      expect(found[0]?.place).toEqual({ section: 'c1', block: 'p' });
    }
  });
  it('that are there are not', () => {
    expect(rules(linked('c1'))).toEqual([]);
    expect(rules(linked('c1#p'))).toEqual([]);
  });
});

describe('decorative pictures', () => {
  it('need no alternative text', () => {
    const decorative = schema.node('figure', { id: 'f', picture: 'p', decorative: true });
    const of = (f: Node): string[] =>
      rules(
        whole([{ ...chapter, content: doc(schema.node('paragraph', { id: 'x' }, [schema.text('A.')]), f) }]),
      ).filter((r) => r !== 'figure/missing-file');
    expect(of(figure('f', ''))).toEqual(['figure/no-alt']);
    expect(of(decorative)).toEqual([]);
  });
});

describe('a made file', () => {
  it('of a book without a title, or of an edition without text, is not in order', () => {
    const facts: FileFacts = {
      title: '',
      subtitle: null,
      author: 'Ines Calloway',
      isbn: '',
      editionStatement: null,
      name: 'untitled.pdf',
    };
    const b = threeChapters();
    const [edition] = b.editions as [Edition];
    const of = (x: Book): string[] => checkFileAgreement(x, edition, facts).map((f) => f.rule);
    expect(of({ ...b, record: { ...b.record, title: '' } })).toContain('agree/file-untitled');
    expect(of({ ...b, sections: [section('t', 'title-page', [])] })).toContain('agree/file-empty');
    expect(of(b)).not.toContain('agree/file-empty');
  });
});

describe('words that no line can hold', () => {
  const ofWords = (b: Book, c: Composition): Finding[] =>
    checkPages(b, pagesFacts(c, b)).filter((f) => /cut|overfull/.test(f.rule));
  const long = 'Unpronounceablenessofthelongestwordthatwasevertypedintoanarrowcolumnofatable';
  it('are found where they are cut: in a column of a table, and in the text', async () => {
    const cell = (id: string, text: string): Node =>
      schema.node('cell', { id: `c${id}` }, [schema.node('paragraph', { id }, [schema.text(text)])]);
    const row = (r: number): Node =>
      schema.node(
        'row',
        { id: `r${r}` },
        [1, 2, 3, 4].map((c) => cell(`w${r}${c}`, r === 0 && c === 2 ? long : 'a b')),
      );
    const table = schema.node('table', { id: 't' }, [row(0), row(1)]);
    const plain = schema.node('paragraph', { id: 'p' }, [schema.text(`Said ${long.repeat(2)} once.`)]);
    const b = whole([{ ...chapter, content: doc(plain, table) }]);
    const found = ofWords(b, await composed(b));
    expect(found.map((f) => [f.rule, f.place?.block])).toEqual([
      ['type/cut-word', 'p'],
      ['type/cut-word', 'w02'],
    ]);
    expect(found[1]?.message).toContain('column');
    expect(ofWords(b, await composed(whole([chapter])))).toEqual([]);
  });
});
