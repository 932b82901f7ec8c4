/**
 * What outlets are told, asked for and paid, and what they mean for one another. That outlets differ in these ways is common
 * practice; the outlets and their figures are invented, and the sums here are worked by hand beside each case.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  apply,
  placingSchema,
  undoing,
  type Book,
  type Change,
  type Edition,
  type Placing,
} from '../src/book';
import { checkPlacing, PLACING_RULES, type PlacedAt, type PlacingSubject } from '../src/check';
import { writeEpub } from '../src/epub';
import {
  changedImprint,
  closedAt,
  comparedPlans,
  conflictsOf,
  demandsOf,
  editionAt,
  editionsFor,
  factsOf,
  FIELDS_IN_ORDER,
  inTheWayOf,
  meantOf,
  imprintSchema,
  lackingAt,
  NEW_IMPRINT,
  outletFrom,
  outletNamed,
  OUTLETS,
  outletsOf,
  ownOutletSchema,
  progressOf,
  salesAt,
  termsOn,
  sheetOf,
  tell,
  type KnownFile,
  type Outlet,
  type OutletField,
} from '../src/outlets';
import { BESIDE, isBeside } from '../src/book';
import { isSubjectCode, recordSchema } from '../src/record';
import { section, threeChapters } from './fixtures/books';

const LONG = 'When the tide goes out farther than anyone has seen it go, a granddaughter stays three days. '
  .repeat(4)
  .trim();
const base = threeChapters();
const novel: Book = {
  ...base,
  record: {
    ...base.record,
    description: LONG,
    shortDescription: 'Three days and one ledger.',
    keywords: ['salt', 'tides', 'debts repaid'],
    subjects: ['FBA', 'FS'],
    published: '2027-02-12',
    imprint: 'Tidewrack Press',
    price: { minor: 499, currency: 'GBP' },
    cover: 'c',
  },
  pictures: [{ id: 'c', name: 'c.jpg', type: 'image/jpeg', width: 1_600, height: 2_560 }],
  editions: base.editions.map((e) =>
    e.form === 'print'
      ? { ...e, isbn: '9799000000158', price: { minor: 1_099, currency: 'GBP' } }
      : { ...e, isbn: '9799000000165' },
  ),
};
const file = (edition: string, more: Partial<KnownFile> = {}): KnownFile => ({
  edition,
  upTo: 0,
  madeAt: 1,
  findings: [],
  pages: 0,
  size: 210_000,
  sha256: `of ${edition}`,
  signedOffAt: null,
  ...more,
});
const FILES = [
  file('ebook'),
  file('paperback', { pages: 200 }),
  file('paperback/cover'),
  file('manuscript/for/sallowby'),
];
const edition = (form: Edition['form']): Edition => novel.editions.find((e) => e.form === form)!;
const outlet = (id: string): Outlet => outletNamed(id)!;
const placed = (book: Book, id: string, fields: Partial<Placing>): Book => ({
  ...book,
  placing: { ...book.placing, [id]: placingSchema.parse({ ...book.placing[id], ...fields }) },
});
const factsAt = (id: string, book: Book = novel, files = FILES, at = outlet(id)) =>
  factsOf({ outlet: at, book, edition: editionsFor(at, book)[0]!, revision: 0, files });
const toldAt = (id: string, field: OutletField, book: Book = novel) => {
  const at = outlet(id);
  return tell(
    at,
    at.asks.find((a) => a.field === field)!,
    factsAt(id, book),
  );
};
const withRecord = (fields: Partial<Book['record']>): Book => ({
  ...novel,
  record: { ...novel.record, ...fields },
});

describe('the outlets', () => {
  it('are seven kinds, each a different mixture, and none asks for a field twice', () => {
    expect(OUTLETS).toHaveLength(7);
    for (const o of OUTLETS) {
      const fields = o.asks.map((a) => a.field);
      expect(new Set(fields).size).toBe(fields.length);
      for (const host of o.hosts) expect(host).toMatch(/\.example$/);
      expect(o.plans.length + o.passes.length).toBeGreaterThan(0);
      for (const step of o.steps) expect(fields).toContain(step);
    }
    // No two ask for the same.
    expect(new Set(OUTLETS.map((o) => JSON.stringify(o.asks))).size).toBe(7);
  });
  it('are all satisfied by a book that has everything, but for what is the author’s to choose', () => {
    const chosen = OUTLETS.reduce(
      (b, o) =>
        placed(b, o.id, { chosen: true, rights: true, preview: 10, shops: ['gannetstone', 'own-sales'] }),
      novel,
    );
    for (const o of OUTLETS)
      expect(demandsOf(o, factsAt(o.id, chosen)).filter((d) => d.state === 'not met')).toEqual([]);
  });
  it('say of an empty book, each in its own words, what is missing, and none of them throws', () => {
    const empty: Book = { ...base, record: recordSchema.parse({}) };
    for (const o of OUTLETS) {
      const missing = demandsOf(o, factsAt(o.id, empty, [])).filter((d) => d.state === 'not met');
      expect(missing.length).toBeGreaterThan(4);
      for (const d of missing) expect(d.why).toMatch(/\.$/);
    }
  });
});

describe('a field in an outlet’s own form', () => {
  it('a name is in one box or in two', () => {
    expect(toldAt('lanternquay', 'authors').text).toBe('Ines Calloway');
    expect(toldAt('marram', 'authors').parts).toEqual(['Calloway', 'Ines']);
  });
  it('an edition is a number, in words, or a code of ONIX list 21', () => {
    const b = withRecord({
      editionNumber: 2,
      editionType: 'REV',
      editionStatement: 'Second edition, revised',
    });
    expect(['packstone', 'lanternquay', 'shelfmoor'].map((id) => toldAt(id, 'edition', b).text)).toEqual([
      '2',
      'Second edition, revised',
      'REV',
    ]);
    expect(toldAt('packstone', 'edition').text).toBe('1');
  });
  it('keywords are in one field with that outlet’s separator, or one by one, and no more words than it takes', () => {
    expect(toldAt('lanternquay', 'keywords').text).toBe('salt; tides; debts repaid');
    expect(toldAt('sallowby', 'keywords').text).toBe('salt | tides | debts repaid');
    expect(toldAt('marram', 'keywords').parts).toEqual(['salt', 'tides', 'debts repaid']);
    const long = withRecord({ keywords: ['a debt repaid late'] });
    expect(toldAt('marram', 'keywords', long).fault).toMatch(/more than 3 words/);
    expect(toldAt('sallowby', 'keywords', long).fault).toMatch(/more than 2 words/);
    expect(toldAt('lanternquay', 'keywords', long).fault).toBeNull();
    expect(toldAt('sallowby', 'keywords', withRecord({ keywords: ['a|b'] })).fault).toMatch(/separates/);
    expect(
      toldAt(
        'lanternquay',
        'keywords',
        withRecord({ keywords: Array.from({ length: 8 }, (_, i) => `k${i}`) }),
      ).fault,
    ).toMatch(/only 7 are accepted/);
  });
  it('a description has markup where it is taken, and is measured as the outlet counts', () => {
    const b = withRecord({ description: 'Salt & tide.\n\nA <ledger>.' });
    expect(toldAt('packstone', 'description', b).text).toBe(
      '<p>Salt &amp; tide.</p><p>A &lt;ledger&gt;.</p>',
    );
    expect(toldAt('marram', 'description', b).text).toBe('Salt & tide.\n\nA <ledger>.');
    // 1,993 characters are within Marram's 2,000; with <p> and </p> Lanternquay counts seven more.
    const exact = withRecord({ description: 'x'.repeat(3_494) });
    expect(toldAt('lanternquay', 'description', exact).fault).toMatch(/3,501 characters; only 3,500/);
    expect(
      toldAt('lanternquay', 'description', withRecord({ description: 'x'.repeat(3_493) })).fault,
    ).toBeNull();
  });
  it('subjects are codes, or the outlet’s own shelves', () => {
    expect(toldAt('packstone', 'subjects').parts).toEqual(['FBA', 'FS']);
    expect(toldAt('marram', 'subjects').parts).toEqual(['Novels', 'General']);
    expect(toldAt('sallowby', 'subjects').text).toBe('Novels › General; Novels › Families');
    expect(toldAt('packstone', 'subjects', withRecord({ subjects: ['FBA', 'FS', 'FXR'] })).fault).toMatch(
      /only 2 are accepted/,
    );
    expect(toldAt('marram', 'subjects', withRecord({ subjects: [] })).fault).toMatch(/no subjects/);
  });
  it('an ebook has the pages of its print edition, or one for every 300 words', () => {
    expect(toldAt('marram', 'pages').text).toBe('200');
    const words = factsOf({
      outlet: outlet('marram'),
      book: novel,
      edition: novel.editions[1]!,
      revision: 0,
      files: [],
    });
    const asked = outlet('marram').asks.find((a) => a.field === 'pages')!;
    const text = novel.sections.map((s) => s.content.textBetween(0, s.content.content.size, ' ')).join(' ');
    const counted = text.split(/\s+/).filter((w) => /\p{L}/u.test(w)).length;
    expect(tell(outlet('marram'), asked, words).shown).toBe(
      `${Math.ceil(counted / 300)}: one for every 300 words`,
    );
  });
  it('territories are those where it sells and the record allows', () => {
    expect(toldAt('packstone', 'territories').text).toBe('The whole world');
    expect(toldAt('shelfmoor', 'territories', withRecord({ territories: ['GB', 'FR'] })).parts).toEqual([
      'GB',
    ]);
    expect(toldAt('shelfmoor', 'territories', withRecord({ territories: ['FR'] })).fault).toMatch(
      /none of the territories/,
    );
  });
  it('adult books are taken, refused, or shown to adults', () => {
    const b = withRecord({ adult: true });
    expect(toldAt('pocketfell', 'adult', b).fault).toMatch(/doesn’t sell/);
    expect(toldAt('lanternquay', 'adult', b)).toMatchObject({
      fault: null,
      shown: expect.stringMatching(/adults only/),
    });
  });
  it('an aggregator’s shop that knows the older EPUB alone asks for it while it is chosen', () => {
    expect(toldAt('packstone', 'ebook', placed(novel, 'packstone', { shops: null })).fault).toMatch(
      /Plover takes EPUB 2.0.1 only/,
    );
    expect(
      toldAt('packstone', 'ebook', placed(novel, 'packstone', { shops: ['gannetstone'] })).fault,
    ).toBeNull();
    expect(toldAt('packstone', 'shops', placed(novel, 'packstone', { shops: [] })).fault).toMatch(
      /at least one/,
    );
  });
  it('a variant is told in place of the record, at that outlet alone', () => {
    const b = placed(novel, 'sallowby', { variants: { title: 'Salt', keywords: ['one'] } });
    expect(toldAt('sallowby', 'title', b).text).toBe('Salt');
    expect(toldAt('marram', 'title', b).text).toBe(novel.record.title);
  });
  it('a price is refused in a currency that the outlet doesn’t sell in, and below its least', () => {
    expect(
      toldAt('pocketfell', 'price', withRecord({ price: { minor: 499, currency: 'SEK' } })).fault,
    ).toMatch(/sells in GBP/);
    expect(
      toldAt('pocketfell', 'price', withRecord({ price: { minor: 99, currency: 'GBP' } })).fault,
    ).toMatch(/below £1.49/);
    expect(
      toldAt('sallowby', 'price', withRecord({ price: { minor: 0, currency: 'GBP' } })).fault,
    ).toBeNull();
  });
  it('a library pays so much that the author earns no less than in the shops', () => {
    // Of all shops Sallowby leaves most: (4.99 − 0.25) × 0.85 = 4.029. Shelfmoor keeps half: of 8.99, 4.495 is left; of 7.99, 3.995.
    expect(toldAt('shelfmoor', 'libraryPrice').text).toBe('8.99');
    // Of those that were chosen, Lanternquay: 3.38; half of 6.99 is 3.495.
    const there = placed(novel, 'lanternquay', { chosen: true });
    expect(toldAt('shelfmoor', 'libraryPrice', there).text).toBe('6.99');
    expect(
      toldAt('shelfmoor', 'libraryPrice', withRecord({ libraryPrice: { minor: 1_500, currency: 'GBP' } }))
        .text,
    ).toBe('15.00');
  });
  it('whatever is in the record, an outlet is told text, and a fault is a sentence', () => {
    const word = fc.string({ unit: 'grapheme', maxLength: 40 });
    fc.assert(
      fc.property(
        fc.record({
          title: word,
          subtitle: word,
          description: word,
          keywords: fc.array(word, { maxLength: 15 }),
          subjects: fc.array(fc.stringMatching(/^[A-Z][A-Z0-9]{0,3}$/), { maxLength: 5 }),
          volume: word,
          published: word,
          language: word,
        }),
        (fields) => {
          expect(fields.subjects.every(isSubjectCode)).toBe(true);
          const b = withRecord(fields);
          for (const o of OUTLETS)
            for (const row of sheetOf(o, factsAt(o.id, b))) {
              expect(row.texts.every((t) => typeof t === 'string' && t !== '')).toBe(true);
              if (row.state === 'not met') expect(row.why).not.toBe('');
            }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('the copying sheet', () => {
  it('has the outlet’s fields in its order, and files under the names that it wants', () => {
    const rows = sheetOf(outlet('quayhead'), factsAt('quayhead'));
    expect(rows.map((r) => r.field)).toEqual(outlet('quayhead').asks.map((a) => a.field));
    expect(rows.flatMap((r) => r.files)).toEqual([
      { part: 'pages', product: 'paperback', name: '9799000000158_pages.pdf' },
      { part: 'cover sheet', product: 'paperback/cover', name: '9799000000158_cover.pdf' },
    ]);
    const cover = sheetOf(outlet('marram'), factsAt('marram')).find((r) => r.field === 'cover');
    expect(cover?.files).toEqual([{ product: '', name: '9799000000165.jpg' }]);
    expect(
      sheetOf(outlet('sallowby'), factsAt('sallowby')).find((r) => r.field === 'wordFile')?.files,
    ).toEqual([
      { part: 'word', product: 'manuscript/for/sallowby', name: 'the-causeway_ines-calloway.docx' },
    ]);
  });
  it('a tick stands for the text that was entered, and shows when that has changed', () => {
    const first = sheetOf(outlet('marram'), factsAt('marram')).find((r) => r.field === 'title')!;
    const ticked = placed(novel, 'marram', { ticked: { title: first.digest } });
    const row = (b: Book) =>
      sheetOf(outlet('marram'), factsAt('marram', b)).find((r) => r.field === 'title')?.done;
    expect([row(novel), row(ticked)]).toEqual(['no', 'yes']);
    expect(row({ ...ticked, record: { ...ticked.record, title: 'Another' } })).toBe('changed since');
    expect(progressOf(sheetOf(outlet('marram'), factsAt('marram', ticked))).done).toBe(1);
  });
  it('a tick of a file stands for that file, and one of several boxes is live when all are', () => {
    const rows = (b: Book, files = FILES) => sheetOf(outlet('marram'), factsAt('marram', b, files));
    const digests = Object.fromEntries(rows(novel).map((r) => [r.field, r.digest]));
    const entered = placed(novel, 'marram', { ticked: digests, state: 'on sale' });
    expect(rows(entered).every((r) => r.done === 'yes')).toBe(true);
    const states = new Map(
      demandsOf(outlet('marram'), factsAt('marram', entered)).map((d) => [d.field, d.state]),
    );
    expect([states.get('authors'), states.get('keywords'), states.get('ebook')]).toEqual([
      'live',
      'live',
      'live',
    ]);
    const made = FILES.map((f) => (f.edition === 'ebook' ? { ...f, sha256: 'another' } : f));
    expect(
      rows(entered, made)
        .filter((r) => r.done === 'changed since')
        .map((r) => r.field),
    ).toEqual(['ebook']);
    const cover: Book = {
      ...entered,
      record: { ...entered.record, cover: 'd' },
      pictures: [...novel.pictures, { ...novel.pictures[0]!, id: 'd' }],
    };
    expect(
      rows(cover)
        .filter((r) => r.done === 'changed since')
        .map((r) => r.field),
    ).toEqual(['cover']);
  });
  it('is of the edition that was chosen for the outlet', () => {
    const second: Edition = { ...edition('reflow'), id: 'older', name: 'Older ebook', isbn: '' };
    const two: Book = { ...novel, editions: [...novel.editions, second] };
    expect(editionAt(outlet('marram'), two)?.id).toBe('ebook');
    const other = placed(two, 'marram', { edition: 'older' });
    expect(editionAt(outlet('marram'), other)?.id).toBe('older');
    expect(editionAt(outlet('marram'), placed(two, 'marram', { edition: 'gone' }))?.id).toBe('ebook');
  });
  it('a step opens when the ones before it are complete', () => {
    const at = outlet('marram');
    const closed = (b: Book): OutletField[] => closedAt(at, demandsOf(at, factsAt('marram', b)));
    expect(closed(withRecord({ description: '' }))).toContain('price');
    expect(closed(withRecord({ description: '' }))).not.toContain('isbn');
    expect(closed(placed(novel, 'marram', { rights: true }))).toEqual([]);
  });
});

describe('what a sale brings', () => {
  const at = (id: string, territory: string, book: Book = novel) =>
    salesAt(outlet(id), factsAt(id, book)).filter((s) => s.market.territory === territory);
  it('at home: 0.21 MB at 0.09 are 0.02; 4.97 less 32 % are 3.38; the plain rate leaves 2.00', () => {
    const [gb] = at('lanternquay', 'GB');
    expect(gb?.sales.map((s) => [s.plan.id, s.author])).toEqual([
      ['wide', 338],
      ['plain', 200],
    ]);
    // 0.68 (4.99 − 0.09 m) = 0.4 × 4.99: m = 0.28 × 4.99 / 0.0612 = 22.83.
    const compared = comparedPlans(gb!, 210_000);
    expect(compared?.size && (Number(compared.size.n) / Number(compared.size.d)).toFixed(2)).toBe('22.83');
    // They are equal at five pence for this file, where neither may be chosen.
    expect(compared?.price).toBeNull();
  });
  it('through an aggregator: each shop’s share first, then a tenth of the rest', () => {
    const shops = placed(novel, 'packstone', { shops: ['gannetstone', 'fernhythe'] });
    // 4.99 × 0.55 × 0.9 = 2.47005; (4.99 − 0.79) × 0.9 = 3.78.
    expect(at('packstone', 'GB', shops).map((s) => [s.shop, s.sales[0]?.author])).toEqual([
      ['Gannetstone', 247],
      ['Fernhythe', 378],
    ]);
  });
  it('in print: the shop’s share first, then the printing: 78 + 200 × 1.05 pence = 2.88', () => {
    // 10.99 × 0.6 = 6.594 − 2.88 = 3.714; 10.99 × 0.45 = 4.9455 − 2.88 = 2.0655.
    expect(at('quayhead', 'GB').map((s) => [s.shop, s.sales[0]?.author])).toEqual([
      ['Its own sales', 371],
      ['Bookshops', 207],
    ]);
  });
  it('is by the terms of the day: 66 % of 4.99 are 3.2934, and 64 % from 1 April are 3.1936', () => {
    const earned = (day: string): number | undefined =>
      salesAt(termsOn(outlet('marram'), day), factsAt('marram')).find((s) => s.market.territory === 'GB')
        ?.sales[0]?.author;
    expect([earned('2027-03-31'), earned('2027-04-01'), earned('2030-01-01')]).toEqual([329, 319, 319]);
    expect(termsOn(outlet('quayhead'), '2030-01-01')).toBe(outlet('quayhead'));
  });
  it('is nothing where the book is not sold', () => {
    expect(at('lanternquay', 'DE', withRecord({ territories: ['GB'] }))).toEqual([]);
    expect(salesAt(outlet('lanternquay'), factsAt('lanternquay', withRecord({ price: null })))).toEqual([]);
    expect(salesAt(outlet('quayhead'), factsAt('quayhead', novel, []))).toEqual([]);
  });
});

const place = (id: string, more: Partial<PlacedAt> = {}): PlacedAt => ({
  id,
  name: id,
  edition: edition('reflow'),
  exclusiveUntil: '',
  passes: [],
  adds: null,
  lowest: null,
  list: null,
  preorder: null,
  ...more,
});
const found = (subject: Partial<PlacingSubject>): string[] =>
  checkPlacing({ book: novel, placed: [], prices: [], today: '2026-11-29', ...subject }).map((f) => f.rule);
const gbp = (minor: number) => ({ minor, currency: 'GBP' });
const preorder = { least: 4, most: 90, file: 10 };
const appearing = (published: string) => ({ book: withRecord({ published }) });

describe('conflicts between outlets (common practice)', () => {
  it.each<[string, Partial<PlacingSubject>, Partial<PlacingSubject>]>([
    [
      'placing/exclusive',
      { placed: [place('a', { exclusiveUntil: '2027-01-01' }), place('b')] },
      {
        placed: [
          place('a', { exclusiveUntil: '2026-11-28' }),
          place('b'),
          place('p', { edition: edition('print') }),
        ],
      },
    ],
    [
      'placing/reached-twice',
      { placed: [place('b'), place('a', { passes: [{ id: 'b', name: 'B' }] })] },
      { placed: [place('b'), place('a', { passes: [{ id: 'c', name: 'C' }] })] },
    ],
    [
      'placing/below-printing',
      { placed: [place('p', { edition: edition('print'), list: gbp(499), lowest: gbp(599) })] },
      { placed: [place('p', { edition: edition('print'), list: gbp(599), lowest: gbp(599) })] },
    ],
    [
      'placing/lower-price',
      { placed: [place('a')], prices: [{ given: gbp(399), worth: gbp(599) }] },
      { placed: [place('a')], prices: [{ given: gbp(499), worth: gbp(599) }] },
    ],
    [
      'placing/added-pages',
      { placed: [place('a', { adds: { words: 'a page', kinds: ['chapter'] } })] },
      { placed: [place('a', { adds: { words: 'a page', kinds: ['also-by'] } })] },
    ],
    [
      'placing/pre-order-begins',
      { placed: [place('a', { preorder })], ...appearing('2027-03-01') },
      { placed: [place('a', { preorder })], ...appearing('2027-02-27') },
    ],
    [
      'placing/final-file-due',
      { placed: [place('a', { preorder })], ...appearing('2026-12-10') },
      { placed: [place('a', { preorder })], ...appearing('2026-12-30') },
    ],
  ])('%s is found, and not where there is none', (rule, bad, good) => {
    expect(found(bad)).toContain(rule);
    expect(found(good)).not.toContain(rule);
  });
  it('has a case for every rule', () => {
    expect(PLACING_RULES.map((r) => r.name)).toHaveLength(7);
  });
  it('stand in the way of the edition that they are about, also one that is about to go to an outlet that wasn’t chosen', () => {
    const alone = placed(novel, 'lanternquay', { chosen: true, exclusiveUntil: '2027-01-01' });
    const blocked = (form: Edition['form'], sent: { outlet: string; edition: string } | null): string[] =>
      inTheWayOf(edition(form), alone, meantOf(alone, FILES, [], NEW_IMPRINT, sent), '2026-11-29').map(
        (f) => f.rule,
      );
    expect(blocked('reflow', null)).toEqual([]);
    expect(blocked('reflow', { outlet: 'marram', edition: 'ebook' })).toEqual(['placing/exclusive']);
    expect(blocked('print', { outlet: 'marram', edition: 'ebook' })).toEqual([]);
    const there = [{ outlet: 'marram', edition: 'ebook', delivered: 'x' }];
    const found = conflictsOf(alone, meantOf(alone, FILES, there, NEW_IMPRINT), '2026-11-29');
    expect(found.map((f) => f.rule)).toEqual(['placing/exclusive']);
  });
  it('are looked for among the outlets that were chosen, or have the book', () => {
    const meant = (b: Book, listed: readonly string[] = []) =>
      OUTLETS.map((o) => ({
        outlet: o,
        edition: editionsFor(o, b)[0]!,
        facts: factsAt(o.id, b),
        listed: listed.includes(o.id),
      }));
    const both = placed(placed(novel, 'shelfmoor', { chosen: true }), 'packstone', { chosen: true });
    const rules = (b: Book, listed?: string[]): string[] =>
      conflictsOf(b, meant(b, listed), '2026-11-29').map((f) => f.rule);
    expect(rules(novel)).toEqual([]);
    expect(rules(both)).toEqual(['placing/reached-twice']);
    expect(rules(placed(novel, 'packstone', { chosen: true }), ['shelfmoor'])).toEqual([
      'placing/reached-twice',
    ]);
    const alone = placed(novel, 'lanternquay', { chosen: true, exclusiveUntil: '2027-01-01' });
    expect(rules(alone)).toEqual([]);
    expect(rules(placed(alone, 'marram', { chosen: true }))).toEqual(['placing/exclusive']);
    const cheap: Book = {
      ...placed(novel, 'quayhead', { chosen: true }),
      editions: novel.editions.map((e) => (e.form === 'print' ? { ...e, price: gbp(599) } : e)),
    };
    // Bookshops leave 45 %: 2.88 / 0.45 = 6.40.
    expect(rules(cheap)).toEqual(['placing/below-printing']);
    expect(
      rules(
        placed(
          { ...novel, record: { ...novel.record, prices: [{ minor: 199, currency: 'USD' }] } },
          'marram',
          { chosen: true },
        ),
      ),
    ).toEqual(['placing/lower-price']);
  });
});

describe('the author’s choices', () => {
  const change = (fields: Partial<Placing>): Change => ({ type: 'set-placing', outlet: 'marram', fields });
  it('are changes with an inverse, undone over later ones where nobody changed them since', () => {
    const one = apply(novel, change({ rights: true, preview: 10 }));
    if (!one.ok) throw new Error();
    expect(one.value.book.placing.marram).toMatchObject({ rights: true, preview: 10, chosen: false });
    const two = apply(one.value.book, change({ preview: 15 }));
    if (!two.ok) throw new Error();
    const undo = undoing(two.value.book, change({ rights: true, preview: 10 }), one.value.inverse, [
      { revision: 2, change: change({ preview: 15 }), reverses: null },
    ]);
    if (!undo.ok) throw new Error();
    const back = apply(two.value.book, undo.value);
    expect(back.ok && back.value.book.placing.marram).toMatchObject({ rights: false, preview: 15 });
  });
  it('of ticks and texts are set one by one, so that seven windows keep each other’s', () => {
    const ticks = ['title', 'subtitle', 'authors'].map((field): Change => ({
      type: 'set-tick',
      outlet: 'marram',
      field,
      digest: field,
    }));
    const text: Change = { type: 'set-variant', outlet: 'marram', field: 'keywords', value: ['a'] };
    let now = novel;
    const inverses: Change[] = [];
    for (const c of [...ticks, text]) {
      const r = apply(now, c);
      if (!r.ok) throw new Error();
      now = r.value.book;
      inverses.push(r.value.inverse);
    }
    expect(now.placing.marram?.ticked).toEqual({ title: 'title', subtitle: 'subtitle', authors: 'authors' });
    expect(now.placing.marram?.variants).toEqual({ keywords: ['a'] });
    // The first tick is undone over the others; one that was set again since stays.
    const log = [...ticks.slice(1), text].map((change, i) => ({ revision: i + 2, change, reverses: null }));
    const undo = undoing(now, ticks[0]!, inverses[0]!, log);
    const back = undo.ok && apply(now, undo.value);
    expect(back && back.ok && Object.keys(back.value.book.placing.marram!.ticked)).toEqual([
      'subtitle',
      'authors',
    ]);
    const again = apply(now, { ...ticks[0], digest: 'other' } as Change);
    const kept =
      again.ok &&
      undoing(again.value.book, ticks[0]!, inverses[0]!, [
        { revision: 2, change: { ...ticks[0], digest: 'other' } as Change, reverses: null },
      ]);
    const same = again.ok && kept && kept.ok && apply(again.value.book, kept.value);
    expect(same && same.ok && same.value.book.placing.marram?.ticked.title).toBe('other');
    for (const inverse of [...inverses].reverse()) {
      const r = apply(now, inverse);
      if (r.ok) now = r.value.book;
    }
    expect(now.placing.marram).toEqual(placingSchema.parse({}));
    const wrong = apply(novel, { type: 'set-variant', outlet: 'marram', field: 'title', value: ['a'] });
    expect(wrong.ok).toBe(false);
  });
  it('and what else no file shows leave an ebook as it is, to the byte', () => {
    const made = (b: Book): Uint8Array => {
      const r = writeEpub({ book: b, edition: 'ebook', pictures: new Map(), print: null });
      if (!r.ok) throw new Error(r.refusal.message);
      return r.value;
    };
    const plain = { ...novel, record: { ...novel.record, cover: null }, pictures: [] };
    const other: Book['record'] = {
      ...plain.record,
      price: gbp(999),
      prices: [gbp(1)],
      libraryPrice: gbp(2),
      bundlePrice: gbp(3),
      shortDescription: 'Other.',
      audience: 'children',
      ages: { from: 3, to: 5 },
      adult: true,
      publicDomain: true,
      territories: ['GB'],
    };
    const changed = (Object.keys(other) as (keyof typeof other)[]).filter(
      (k) => other[k] !== plain.record[k],
    );
    expect(changed.sort()).toEqual([...BESIDE].sort());
    expect(Buffer.from(made({ ...plain, record: other })).equals(made(plain))).toBe(true);
    expect(isBeside({ type: 'set-record', fields: { price: null } }, plain)).toBe(true);
    expect(isBeside({ type: 'set-record', fields: { price: null, title: 'x' } }, plain)).toBe(false);
    expect(
      isBeside({ type: 'group', label: '', changes: [change({}), { type: 'set-words', words: [] }] }, plain),
    ).toBe(false);
    // Related titles are read on the page “Also by”, and in no file of a book without one.
    const related: Book['record']['related'] = [
      { title: 't2', name: 'Low Water', relation: 'same-author', print: '', ebook: '9799000000165' },
    ];
    const naming: Change = { type: 'set-record', fields: { related } };
    expect(Buffer.from(made({ ...plain, record: { ...plain.record, related } })).equals(made(plain))).toBe(
      true,
    );
    expect(isBeside(naming, plain)).toBe(true);
    const page = { ...plain, sections: [...plain.sections, section('ab', 'also-by', [])] };
    expect(Buffer.from(made({ ...page, record: { ...page.record, related } })).equals(made(page))).toBe(
      false,
    );
    expect(isBeside(naming, page)).toBe(false);
  });
});

describe('the imprint', () => {
  const own = ownOutletSchema.parse({
    id: 'own-1',
    name: 'Corner Shelf',
    sells: 'reflow',
    asks: [{ field: 'title' }, { field: 'keywords', most: 2, called: 'Tags' }],
  });
  it('keeps outlets of the author’s own among the others, and none of a name that is taken', () => {
    const kept = changedImprint(NEW_IMPRINT, { set: 'outlet', outlet: own });
    if (!kept.ok) throw new Error();
    expect(outletsOf(kept.value).map((o) => o.name)).toContain('Corner Shelf');
    for (const name of ['corner shelf', 'MARRAM'])
      expect(changedImprint(kept.value, { set: 'outlet', outlet: { ...own, id: 'own-2', name } }).ok).toBe(
        false,
      );
    const renamed = changedImprint(kept.value, { set: 'outlet', outlet: { ...own, name: 'Corner' } });
    expect(renamed.ok && renamed.value.outlets.map((o) => o.name)).toEqual(['Corner']);
    const gone = changedImprint(kept.value, { set: 'no outlet', id: 'own-1' });
    expect(gone.ok && gone.value.outlets).toEqual([]);
  });
  it('makes a copying sheet for one', () => {
    const at = outletFrom(own);
    const rows = sheetOf(at, factsAt('', novel, FILES, at));
    expect(rows.map((r) => [r.called, r.state])).toEqual([
      ['Title', 'met'],
      ['Tags', 'not met'],
    ]);
    const every = outletFrom({
      ...own,
      asks: FIELDS_IN_ORDER.map((field) => ({ field, called: '', need: 'needed' })),
    });
    expect(sheetOf(every, factsAt('', novel, FILES, every))).toHaveLength(FIELDS_IN_ORDER.length);
  });
  it('says what an account still needs, and keeps taxes and accounts one by one', () => {
    expect(lackingAt(outlet('marram'), NEW_IMPRINT)).toEqual(['payment', 'address']);
    const given = changedImprint(NEW_IMPRINT, {
      set: 'account',
      outlet: 'marram',
      account: { given: ['payment', 'address'] },
    });
    expect(given.ok && lackingAt(outlet('marram'), given.value)).toEqual([]);
    const taxed = changedImprint(NEW_IMPRINT, {
      set: 'tax',
      territory: 'DE',
      tax: { ebook: 1_900, print: 700 },
    });
    expect(taxed.ok && taxed.value.taxes).toEqual({ DE: { ebook: 1_900, print: 700 } });
    const back = taxed.ok && changedImprint(taxed.value, { set: 'tax', territory: 'DE', tax: null });
    expect(back && back.ok && back.value.taxes).toEqual({});
    expect(imprintSchema.parse({})).toEqual(NEW_IMPRINT);
  });
});
