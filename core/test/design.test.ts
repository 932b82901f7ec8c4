import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { typeSource } from '@pagina/make';
import {
  designOf,
  designSchema,
  designWithout,
  FAMILY_NAMES,
  interiorOf,
  INTERIOR_NAMES,
  INTERIOR_NOTES,
  INTERIORS,
  isLargePrint,
  withLargePrint,
  withoutLargePrint,
  measureOf,
  numberingWith,
  PARTS,
  plainMargins,
  rowsOf,
  settingAt,
  suggestedMargins,
  trimOf,
  TRIMS,
  withChoice,
  withMany,
  withPart,
  type DesignChoice,
  type Trim,
} from '../src/design';
import { unzipSync } from 'fflate';
import { Fragment } from 'prosemirror-model';
import {
  printEditionSchema,
  FIGURE_PLACES,
  newBook,
  schema,
  type Book,
  type PrintEdition,
} from '../src/book';
import { checkBook } from '../src/check';
import { writeEpub } from '../src/epub';
import { png } from './fixtures/manuscript';
import { inches, mm, pt } from '../src/base';
import {
  compose,
  HYPHENATED,
  partOf,
  sheetLines,
  textLines,
  type Composition,
  type TypeSource,
} from '../src/compose';
import { lowestListPrice, paperOf, PAPERS, printingCost, spineWidth } from '../src/trade';
import { book, everyBlock, prose, section } from './fixtures/books';
import { faultsOf } from './fixtures/checked';

const choice = (interior = 'Harrow', set: Record<string, unknown> = {}): DesignChoice => ({
  interior,
  design: { from: {}, set },
});
const trim = (name: string): Trim => trimOf(name)!;

describe('an interior', () => {
  it.each(INTERIOR_NAMES)('%s is a design that the schema knows, with a word on what it is for', (name) => {
    expect(designSchema.parse(INTERIORS[name])).toEqual(INTERIORS[name]);
    expect(INTERIOR_NOTES[name]).toMatch(/^[A-Z].+\.$/);
  });
  it('really differs from each other: in the text, the openings, the title page and most other parts', () => {
    for (const a of INTERIOR_NAMES)
      for (const b of INTERIOR_NAMES) {
        if (a >= b) continue;
        const differs = (p: (typeof PARTS)[number]): boolean =>
          JSON.stringify(INTERIORS[a]![p]) !== JSON.stringify(INTERIORS[b]![p]);
        for (const part of ['text', 'opening', 'titlePage', 'partPage', 'heads', 'breaks'] as const)
          expect([a, b, part, differs(part)]).toEqual([a, b, part, true]);
        expect(PARTS.filter(differs).length).toBeGreaterThanOrEqual(10);
      }
  });
});

describe('settings of one’s own', () => {
  it('are kept only where they depart from the interior, and are taken back by themselves', () => {
    const larger = withChoice(choice(), 'opening.title.size', pt(26))!;
    expect(larger.set).toEqual({ 'opening.title.size': 26_000 });
    const back = withChoice({ interior: 'Harrow', design: larger }, 'opening.title.size', pt(20))!;
    expect(back.set).toEqual({});
    expect(designOf({ interior: 'Harrow', design: larger }).opening.title.size).toBe(26_000);
    expect(designWithout({ interior: 'Harrow', design: larger }, 'opening.title').set).toEqual({});
  });
  it('that do not exist, or do not fit, are not taken', () => {
    expect(withChoice(choice(), 'opening.colour', 'red')).toBeNull();
    expect(withChoice(choice(), 'text.size', pt(2))).toBeNull();
    expect(withChoice(choice(), 'text.family', 'Nothing Sans')).toBeNull();
    expect(withChoice(choice(), 'opening.title', 'large')).toBeNull();
  });
  it('of another version are passed over, and an unknown interior is the plain one', () => {
    const odd = choice('Long Gone', { 'text.size': 'huge', 'text.leading': pt(15), 'a.b': 1 });
    expect(designOf(odd)).toEqual({
      ...INTERIORS.Harrow,
      text: { ...INTERIORS.Harrow!.text, leading: 15_000 },
    });
  });
  it('of a part are given up when the part is taken from another interior', () => {
    const own = withMany(choice(), { 'heads.rule': true, 'text.size': pt(12) });
    const taken = withPart({ interior: 'Harrow', design: own }, 'heads', 'Marram');
    expect(taken).toEqual({ from: { heads: 'Marram' }, set: { 'text.size': 12_000 } });
    const design = designOf({ interior: 'Harrow', design: taken });
    expect(design.heads).toEqual(INTERIORS.Marram!.heads);
    expect(design.opening).toEqual(INTERIORS.Harrow!.opening);
    expect(withPart({ interior: 'Harrow', design: taken }, 'heads', 'Harrow').from).toEqual({});
  });
  it('make large print of 16 points or more with open leading, from every interior', () => {
    for (const name of INTERIOR_NAMES) {
      const { text, notes, quotation, subheads, pictures } = designOf({
        interior: name,
        design: withLargePrint(choice(name)),
      });
      expect(text.size).toBeGreaterThanOrEqual(pt(16));
      expect(text.leading / text.size).toBeGreaterThanOrEqual(1.2);
      expect([text.set, text.hyphens]).toEqual(['ragged', false]);
      // Small text grows with it (16/11 of nine points is thirteen).
      expect(notes.size).toBeGreaterThanOrEqual(pt(12));
      expect(quotation.size).toBeGreaterThanOrEqual(pt(14));
      for (const line of Object.values(subheads)) expect(line.size).toBeGreaterThanOrEqual(pt(14));
      expect(pictures.caption.size).toBeGreaterThanOrEqual(pt(12));
    }
  });
  it('take large print off again, and have what was their own', () => {
    const own = { 'text.size': pt(10.5), 'notes.at': 'section', 'text.leading': pt(13.5) };
    const large = { ...choice('Harrow', own), design: withLargePrint(choice('Harrow', own)) };
    expect(isLargePrint(large)).toBe(true);
    expect(designOf(large).text.size).toBe(pt(16));
    // An earlier version kept the settings alone.
    const { before: _, ...older } = large.design;
    expect(isLargePrint({ ...large, design: older })).toBe(true);
    expect(isLargePrint(choice('Harrow', { 'text.size': pt(18) }))).toBe(false);
    // What is set meanwhile stays, where large print does not stand in for it.
    const set = { ...large, design: withChoice(large, 'verse.cut', 'italic')! };
    const again = withoutLargePrint(set);
    expect(again.before).toBeUndefined();
    expect(again.set).toEqual({ ...own, 'verse.cut': 'italic' });
  });
  it('number chapters where the book itself says nothing', () => {
    const plain = newBook('x', book([]).record, []).numbering;
    expect(numberingWith(plain, INTERIORS.Marram!)).toMatchObject({ chapters: 'arabic', chapterWord: false });
    expect(numberingWith({ ...plain, chapters: 'roman' }, INTERIORS.Marram!)).toMatchObject({
      chapters: 'roman',
      chapterWord: true,
    });
    expect(numberingWith(plain, INTERIORS.Harrow!)).toBe(plain);
  });
});

describe('trims and margins', () => {
  it('are read as people type them, and only where a book can be of that size', () => {
    expect(trimOf('140 × 210 mm')).toMatchObject({ width: mm(140), height: mm(210) });
    expect(trimOf('5.5x8.5in')?.name).toBe('5.5 × 8.5 in');
    for (const wrong of ['', 'A5', '2 x 3 in', '30 x 40 in', '5.5']) expect(trimOf(wrong)).toBeNull();
  });
  it('follow the trade’s figures, inside wider than outside (common practice)', () => {
    expect(plainMargins(trim('6 × 9 in'))).toMatchObject({ inside: inches(0.875), outside: inches(0.75) });
    expect(plainMargins(trim('5.5 × 8.5 in')).inside).toBeGreaterThanOrEqual(inches(0.75));
    for (const t of TRIMS) expect(plainMargins(t).inside).toBeGreaterThan(plainMargins(t).outside);
  });
  it('grow inside with the pages, with the reason in a sentence', () => {
    const at = (pages: number) => suggestedMargins(trim('5.5 × 8.5 in'), pages);
    expect(at(200).margins.inside).toBe(inches(0.75));
    expect(at(500).margins.inside).toBe(inches(0.875));
    expect(at(800).margins.inside).toBeGreaterThan(at(500).margins.inside);
    expect(at(500).reason).toMatch(/^500 pages do not open flat: 0\.875 in inside instead of 0\.75/);
  });
});

describe('printing on demand', () => {
  it('makes a spine of half as many leaves as pages (common practice)', () => {
    expect(spineWidth(300, paperOf('cream-80'))).toBe(mm((150 * 127) / 1000));
    expect(spineWidth(301, PAPERS[0])).toBe(spineWidth(302, PAPERS[0]));
    expect(paperOf('no such paper')).toBe(PAPERS[0]);
    // Two boards of 3 mm.
    expect(spineWidth(300, paperOf('cream-80'), 'hardback')).toBe(mm((150 * 127) / 1000 + 6));
  });
  it('costs a fixed sum a copy and so much a page, and is not done for too few or too many', () => {
    const novel = trim('5.5 × 8.5 in');
    expect(printingCost(300, novel, false)).toEqual({ minor: 78 + 315, currency: 'GBP' });
    expect(printingCost(300, trim('7 × 10 in'), false)!.minor).toBeGreaterThan(
      printingCost(300, novel, false)!.minor,
    );
    expect(printingCost(300, novel, true)!.minor).toBeGreaterThan(printingCost(300, novel, false)!.minor * 3);
    expect(printingCost(300, novel, false, 'hardback')).toEqual({ minor: 395 + 78 + 315, currency: 'GBP' });
    expect([printingCost(10, novel, false), printingCost(2000, novel, false)]).toEqual([null, null]);
    // A shop that keeps four tenths leaves 600 of 1000.
    expect(lowestListPrice({ minor: 600, currency: 'GBP' })).toEqual({ minor: 1000, currency: 'GBP' });
  });
});

let source: TypeSource;
beforeAll(async () => {
  source = await typeSource();
});
const inDesign = (b: Book, fields: Partial<PrintEdition>): Book => ({
  ...b,
  editions: [printEditionSchema.parse({ id: 'print', name: 'Paperback', form: 'print', ...fields })],
});
async function set(b: Book, fields: Partial<PrintEdition>): Promise<Composition> {
  const r = await compose(inDesign(b, fields), 'print', source);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
/** Letters of a text in order of the alphabet, capitals and small ones alike. */
const letters = (t: string): string => [...t.toLowerCase().replace(/[\s\d.,;:*•-]/g, '')].sort().join('');
/** Whether sorted letters are all among other sorted letters. */
function holds(shown: string, wanted: string): boolean {
  let at = 0;
  for (const letter of shown) if (letter === wanted[at]) at++;
  return at === wanted.length;
}
const shownIn = (c: Composition, all = false): string =>
  c.pages
    .flatMap((p) =>
      [...(all ? sheetLines(p.body) : textLines(p.body))].map((l) => {
        const t = l.words.map((w) => (w === null ? ' ' : c.words.texts[w])).join('');
        return l.flags & HYPHENATED ? t.slice(0, -1) : t;
      }),
    )
    .join(' ');
const writtenIn = (b: Book): string =>
  b.sections.map((s) => s.content.textBetween(0, s.content.content.size, ' ', ' ')).join(' ');
const whole = (): Book =>
  book([
    section('t', 'title-page', []),
    section('toc', 'contents', []),
    section('p1', 'part', [], { title: 'Water' }),
    { ...everyBlock(), parent: 'p1' },
    section('c2', 'chapter', [prose(1800, 11)], { title: 'Rope', parent: 'p1' }),
  ]);

describe('every interior', () => {
  it.each(INTERIOR_NAMES)('%s sets every block without a fault, and no word is lost', async (name) => {
    const b = whole();
    const c = await set(b, { interior: name });
    expect(c.missing).toEqual([]);
    expect(c.report).toMatchObject({ widows: 0, orphans: 0, overfullLines: 0, strandedHeadings: 0 });
    expect(c.report.looseLines / c.report.lines).toBeLessThan(0.12);
    expect(holds(letters(shownIn(c, true)), letters(writtenIn(b)))).toBe(true);
    const rows = rowsOf(c.interior);
    for (const p of c.pages) expect(p.used).toBeLessThanOrEqual(rows);
  });
  it.each(INTERIOR_NAMES)('%s says of its lines which setting they belong to', async (name) => {
    const c = await set(whole(), { interior: name });
    const parts = new Set(
      c.pages.flatMap((p) =>
        [p.body, p.furniture].flatMap((s) => [...sheetLines(s)].map((l) => partOf(l.flags))),
      ),
    );
    for (const part of [
      'opening.number',
      'opening.title',
      'opening.subtitle',
      'titlePage.title',
      'partPage.title',
      'contents.first',
    ])
      expect(parts).toContain(part);
    for (const part of parts) if (part) expect(settingAt(INTERIORS[name]!, part)).toBeDefined();
  });
  it.each(FAMILY_NAMES)('can be set in %s, with small capitals in every cut', async (family) => {
    const c = await set(whole(), {
      design: {
        from: {},
        set: {
          'text.family': family,
          'subheads.second.letters': 'small-capitals',
          'heads.line.cut': 'bold-italic',
        },
      },
    });
    expect(c.missing).toEqual([]);
    expect(c.report.overfullLines).toBe(0);
  });
});

describe('a design', () => {
  it('puts notes at the foot, after each chapter, or into the section of that name', async () => {
    const b = whole();
    const noteText = 'A first note with a few words in it.';
    const pageOf = (c: Composition, words: string): number =>
      c.pages.findIndex((p) =>
        [...sheetLines(p.body)].some((l) =>
          l.words
            .map((w) => (w === null ? ' ' : c.words.texts[w]))
            .join('')
            .includes(words),
        ),
      );
    const foot = await set(b, {});
    const after = await set(b, { interior: 'Rushlight' });
    expect(pageOf(foot, noteText)).toBe(foot.starts.get('every'));
    expect(pageOf(after, noteText)).toBeGreaterThan(after.starts.get('every')!);
    expect(pageOf(after, noteText)).toBeLessThan(after.starts.get('c2')!);
    const gathered: Book = { ...b, sections: [...b.sections, section('notes', 'notes', [''])] };
    const end = await set(gathered, { design: { from: {}, set: { 'notes.at': 'book' } } });
    expect(pageOf(end, noteText)).toBe(end.starts.get('notes'));
    // Without such a section they follow their chapter.
    const none = await set(b, { design: { from: {}, set: { 'notes.at': 'book' } } });
    expect(pageOf(none, noteText)).toBeLessThan(none.starts.get('c2')!);
  });
  it('sets ragged lines with even spaces, and divides no word where that is not wanted', async () => {
    const c = await set(whole(), { interior: 'Ferrier' });
    expect(c.report.hyphenatedLines).toBe(0);
    expect(c.report.looseLines).toBe(0);
  });
  it('starts chapters on a recto or on the next page', async () => {
    const b = book([1, 2, 3, 4, 5].map((i) => section(`c${i}`, 'chapter', [prose(200 * i, i)])));
    const sides = (c: Composition): string[] => [...c.starts.values()].map((i) => c.pages[i]!.side);
    expect(new Set(sides(await set(b, {})))).toEqual(new Set(['recto']));
    expect(sides(await set(b, { design: { from: {}, set: { 'opening.start': 'any' } } }))).toContain('verso');
  });
  it('leaves room for text or says that it does not', async () => {
    const r = await compose(
      inDesign(whole(), {
        design: { from: {}, set: { 'page.inside': inches(3), 'page.outside': inches(2.3) } },
      }),
      'print',
      source,
    );
    expect(r.ok ? '' : r.refusal.message).toMatch(/margins leave no room/);
  });
  it('balances a heading of two lines', async () => {
    const title = 'In which the carts are moved at last and nobody thanks anybody for it';
    const c = await set(book([section('c', 'chapter', [prose(300)], { title })]), {});
    const widths = [...sheetLines(c.pages[0]!.body)]
      .filter((l) => partOf(l.flags) === 'opening.title')
      .map((l) => measureOf(c.interior) - 2 * l.x);
    expect(widths.length).toBe(2);
    expect(Math.min(...widths) / Math.max(...widths)).toBeGreaterThan(0.75);
  });
});

describe('an index that makes itself', () => {
  const marked = (text: string, term: string) => schema.text(text, [schema.mark('indexed', { term })]);
  const chapter = (id: string, blocks: ReturnType<typeof marked>[][]) => ({
    ...section(id, 'chapter', []),
    content: schema.node(
      'doc',
      null,
      blocks.map((inline, i) => schema.node('paragraph', { id: `${id}-${i}` }, inline)),
    ),
  });
  const plain = (words: number, seed: number) => schema.text(` ${prose(words, seed)} `);
  const b = book([
    chapter('c1', [
      [plain(60, 1), marked('the carts', 'carts'), plain(300, 2)],
      [
        plain(200, 3),
        marked('spring tide', 'tides: spring'),
        plain(40, 4),
        marked(prose(420, 5), 'causeway'),
      ],
    ]),
    chapter('c2', [
      [plain(20, 6), marked('the carts', 'carts'), plain(30, 7), marked('a neap', 'tides: neap')],
      [
        marked('Élan', 'élan'),
        plain(30, 8),
        marked('the tide', 'tides'),
        plain(20, 9),
        marked('carts', 'carts'),
      ],
    ]),
    section('index', 'index', []),
  ]);
  const linesOf = (c: Composition): string[] =>
    c.pages
      .filter((p) => p.section === 'index')
      .flatMap((p) => [...sheetLines(p.body)])
      .map((l) => l.words.map((w) => (w === null ? ' ' : c.words.texts[w])).join(''));

  it('lists terms in order with the folios of their passages, ranges and terms under terms', async () => {
    const c = await set(b, {});
    // Folios by a reader of the pages that knows nothing of the index: the page on which the passage's words stand.
    const labelOf = (words: string, from = 0): string =>
      c.pages.slice(from).find((p) =>
        [...textLines(p.body)]
          .map((l) => l.words.map((w) => (w === null ? ' ' : c.words.texts[w])).join(''))
          .join(' ')
          .includes(words),
      )!.label;
    const second = labelOf('a neap', c.starts.get('c2'));
    const shown = linesOf(c);
    expect(shown[0]).toBe('Index');
    expect(shown.slice(1).map((t) => t.replace(/, .*/, ''))).toEqual([
      'carts',
      'causeway',
      'élan',
      'tides',
      'neap',
      'spring',
    ]);
    expect(shown[1]).toBe(`carts, ${labelOf('the carts')}, ${second}`);
    expect(shown[2]).toMatch(/^causeway, \d+\u2013\d+$/);
    expect(shown[5]).toBe(`neap, ${second}`);
  });
  it('stands in two columns that are about level, over as many pages as it needs', async () => {
    const many = Array.from({ length: 150 }, (_, i) => [
      marked(`word ${i}`, `term ${String(i).padStart(3, '0')}`),
    ]);
    const c = await set(book([chapter('c', many), section('index', 'index', [])]), {});
    const pages = c.pages.filter((p) => p.section === 'index' && !p.blank);
    expect(pages.length).toBeGreaterThan(1);
    const terms = linesOf(c).filter((t) => t.startsWith('term'));
    expect(new Set(terms).size).toBe(150);
    const columns = [...sheetLines(pages.at(-1)!.body)].filter((l) => l.block === '');
    const left = columns.filter((l) => l.x < measureOf(c.interior) / 2).length;
    expect(Math.abs(left - (columns.length - left))).toBeLessThanOrEqual(2);
    for (const p of pages) expect(p.used).toBeLessThanOrEqual(rowsOf(c.interior));
  });
  it('leaves no letter and no term over others alone at a column’s foot', async () => {
    const alphabet = 'abcdefghijklmnopqrstuvwxyz'.split('');
    const many = alphabet.flatMap((l) =>
      [1, 2, 3, 4].map((i) => [marked(`${l}${i}`, i === 4 ? `${l}${i}: under` : `${l}${i} term`)]),
    );
    const c = await set(book([chapter('c', many), section('index', 'index', [])]), {});
    const middle = measureOf(c.interior) / 2;
    for (const p of c.pages.filter((x) => x.section === 'index' && !x.blank)) {
      const lines = [...sheetLines(p.body)].filter((l) => partOf(l.flags) === '');
      for (const column of [lines.filter((l) => l.x < middle), lines.filter((l) => l.x >= middle)]) {
        const words = column.map((l) => l.words.map((w) => (w === null ? ' ' : c.words.texts[w])).join(''));
        expect(words.at(-1) ?? '').not.toMatch(/^[a-y][14]/);
      }
    }
  });
  it('is a list of links in the ebook', () => {
    const ebook = writeEpub({ book: b, edition: 'ebook', pictures: new Map(), print: null });
    if (!ebook.ok) throw new Error(ebook.refusal.message);
    expect(faultsOf(ebook.value)).toEqual([]);
    const page = new TextDecoder().decode(unzipSync(ebook.value)['EPUB/text/s003.xhtml']);
    expect(page).toContain(
      '<li id="entry-1">carts <a href="s001.xhtml#c1-0">1</a>, <a href="s002.xhtml#c2-0">2</a>, <a href="s002.xhtml#c2-1">3</a></li>',
    );
  });
});

it('a list of figures is made by itself, with the folios on which they stand, in print and in the ebook', async () => {
  const map = (id: string, words: string) =>
    schema.node('figure', { id, picture: 'p1', alt: 'A map' }, words ? [schema.text(words)] : []);
  const text = (id: string): ReturnType<typeof map> =>
    schema.node('paragraph', { id }, [schema.text(prose(500, id.length))]);
  const chapter = (id: string, blocks: ReturnType<typeof map>[]) => ({
    ...section(id, 'chapter', []),
    content: schema.node('doc', null, blocks),
  });
  const b: Book = {
    ...book([
      section('list', 'list-of-figures', []),
      chapter('c1', [text('t1'), map('f1', 'The flats'), map('f0', '')]),
      chapter('c2', [text('t22'), text('t333'), map('f2', 'The causeway at noon')]),
    ]),
    pictures: [{ id: 'p1', name: 'p1', type: 'image/png', width: 900, height: 500 }],
  };
  const c = await set(b, {});
  const shown = [...sheetLines(c.pages[c.starts.get('list')!]!.body)].map((l) =>
    l.words.map((w) => (w === null ? ' ' : c.words.texts[w])).join(''),
  );
  const folioOf = (block: string): string => c.pages.find((p) => p.body.blocks.includes(block))!.label;
  expect(shown.filter((t) => !/^[. ]*$/.test(t))).toEqual([
    'Figures',
    'The flats',
    folioOf('f1'),
    'The causeway at noon',
    folioOf('f2'),
  ]);
  expect(folioOf('f1')).not.toBe(folioOf('f2'));
  const ebook = writeEpub({
    book: b,
    edition: 'ebook',
    pictures: new Map([['p1', png(9, 5)]]),
    print: null,
  });
  if (!ebook.ok) throw new Error(ebook.refusal.message);
  expect(faultsOf(ebook.value)).toEqual([]);
  const page = new TextDecoder().decode(unzipSync(ebook.value)['EPUB/text/s001.xhtml']);
  expect(page).toContain('<a href="s003.xhtml#f2">The causeway at noon</a>');
  expect(checkBook(b).filter((f) => f.rule === 'order/empty-section')).toEqual([]);
});

it('a specimen sets its own sections alone, on the folios that they have in the whole book', async () => {
  const b = whole();
  const all = await set(b, {});
  const pages = new Map(
    b.sections.map((s) => [s.id, all.pages.filter((p) => p.section === s.id && !p.blank).length]),
  );
  const r = await compose(inDesign(b, {}), 'print', source, {
    only: { sections: new Set(['c2', 'toc']), pages },
  });
  if (!r.ok) throw new Error(r.refusal.message);
  const { starts, pages: made } = r.value;
  expect(starts).toEqual(all.starts);
  const seen = (c: Composition, index: number): unknown[] =>
    [...sheetLines(c.pages[index]!.body)].map((l) => [
      l.x,
      l.y,
      l.words.map((w) => (w === null ? ' ' : c.words.texts[w])).join(''),
    ]);
  for (const p of made) {
    const same = all.pages[p.index]!;
    if (p.section === 'c2')
      expect([p.label, seen(r.value, p.index)]).toEqual([same.label, seen(all, p.index)]);
    if (p.section === 'every') expect(p.blank).toBe(true);
  }
});

/** The same book with its figures standing otherwise. */
const withFigures = (b: Book, attrs: object): Book => ({
  ...b,
  sections: b.sections.map((s) => {
    const blocks = s.content.children.map((n) =>
      n.type.name === 'figure' ? n.type.create({ ...n.attrs, ...attrs }, n.content) : n,
    );
    return { ...s, content: s.content.copy(Fragment.fromArray(blocks)) };
  }),
});

it('random designs on random trims never fail, overfill a page or lose a word', async () => {
  const one = <T>(...of: T[]): fc.Arbitrary<T> => fc.constantFrom(...of);
  const length = (least: number, most: number): fc.Arbitrary<number> =>
    fc.integer({ min: pt(least), max: pt(most) });
  const settings = fc.record(
    {
      'text.family': one(...FAMILY_NAMES),
      'text.size': length(7, 24),
      'text.leading': length(9, 32),
      'text.set': one('justified', 'ragged'),
      'text.paragraphs': one('indent', 'space'),
      'text.hyphens': fc.boolean(),
      'opening.sink': fc.integer({ min: 0, max: 24 }),
      'opening.gap': fc.integer({ min: 1, max: 16 }),
      'opening.number.size': length(5, 90),
      'opening.title.size': length(5, 90),
      'opening.title.letters': one('typed', 'capitals', 'small-capitals'),
      'opening.ornament': one('', '❦', '* * *'),
      'opening.rules': one('none', 'above', 'below', 'both'),
      'opening.words': one('drop-capital', 'small-capitals', 'plain'),
      'opening.dropLines': one(2, 3, 4),
      'quotation.size': length(6, 30),
      'quotation.inset': one('both', 'left', 'none'),
      'verse.inset': length(0, 100),
      'breaks.sign': one('', '❧', 'a long sign of words'),
      'breaks.resume': one('flush', 'indent', 'small-capitals'),
      'notes.at': one('foot', 'section', 'book'),
      'notes.size': length(5, 20),
      'notes.leading': length(6, 26),
      'heads.folio': one('head', 'foot-centre', 'foot-fore-edge', 'none'),
      'heads.rule': fc.boolean(),
      'contents.set': one('ranged', 'centred'),
      'contents.leader': one('dots', 'rule', 'none'),
      'subheads.first.size': length(6, 40),
      'page.inside': length(18, 110),
    },
    { requiredKeys: [] },
  );
  const sizes = fc.tuple(fc.integer({ min: 350, max: 900 }), fc.integer({ min: 500, max: 1200 }));
  const figures = fc.record({
    place: one(...FIGURE_PLACES),
    beside: one('none', 'left', 'right'),
    width: fc.integer({ min: 10, max: 100 }),
  });
  const b = whole();
  const wanted = letters(writtenIn(b));
  await fc.assert(
    fc.asyncProperty(one(...INTERIOR_NAMES), settings, sizes, figures, async (interior, own, [w, h], at) => {
      const edition = { interior, trim: `${w / 100} x ${h / 100} in`, design: { from: {}, set: own } };
      const r = await compose(inDesign(withFigures(b, at), edition), 'print', source);
      if (!r.ok) return expect(r.refusal.code).toBe('compose/margins');
      const c = r.value;
      const inside = interiorOf(edition, trim(edition.trim));
      for (const p of c.pages) expect(p.used).toBeLessThanOrEqual(rowsOf(inside));
      // Every letter of the manuscript is there, among those that the design adds.
      expect(holds(letters(shownIn(c, true)), wanted)).toBe(true);
    }),
    { numRuns: 60 },
  );
}, 180_000);
