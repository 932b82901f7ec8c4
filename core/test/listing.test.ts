/** What outlets list, against the record: every field, both ways, and what a change costs in time. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import type { Edition } from '../src/book';
import { allRules, checkListing } from '../src/check';
import { changesAt, factsOf, outletNamed, toldFields, type ToldFields } from '../src/outlets';
import { listedAs, listedDifferently, LISTED_FIELDS, type ListedAs, type ListedField } from '../src/trade';
import { threeChapters } from './fixtures/books';

const whole = threeChapters();
const book = {
  placing: {},
  record: {
    ...whole.record,
    subtitle: 'A novel of the tide',
    editionStatement: 'Second edition',
    description: 'Mud, carts, and a causeway that was not there the day before.',
    keywords: ['tides', 'carts'],
    price: { minor: 499, currency: 'GBP' },
  },
};
const ebook: Edition = { ...whole.editions.find((e) => e.id === 'ebook')!, isbn: '978-92-95055-12-4' };
const paperback = whole.editions.find((e) => e.id === 'paperback')!;
const lanternquay = outletNamed('lanternquay')!;
const told = listedAs(book, ebook, { id: 'lanternquay', takes: LISTED_FIELDS });
const rulesOf = (listed: ListedAs, newer: { name: string } | null = null): string[] =>
  checkListing({ book, edition: ebook, outlet: lanternquay, listed, newer }).map((f) => f.rule);

const OTHER: Required<ListedAs> = {
  title: 'The Causeways',
  subtitle: '',
  authors: ['Tom Pell'],
  isbn: '9780306406157',
  editionStatement: 'Third edition',
  description: 'Another.',
  keywords: ['tides'],
  language: 'de',
  price: { minor: 599, currency: 'GBP' },
};
const RULE: Record<ListedField, string> = {
  title: 'listing/title',
  subtitle: 'listing/subtitle',
  authors: 'listing/author',
  isbn: 'listing/isbn',
  editionStatement: 'listing/edition-statement',
  description: 'listing/description',
  keywords: 'listing/keywords',
  language: 'listing/language',
  price: 'listing/price',
};

describe('a listing', () => {
  it('that is as the record is has no findings', () => {
    expect(rulesOf(told)).toEqual([]);
    expect(rulesOf({})).toEqual([]);
  });
  it.each(LISTED_FIELDS)('with another %s is told of by its rule alone', (field) => {
    expect(rulesOf({ ...told, [field]: OTHER[field] })).toEqual([RULE[field]]);
    // An outlet that doesn’t take it lists nothing that could differ.
    const { [field]: _left, ...others } = told;
    expect(rulesOf(others)).toEqual([]);
  });
  it('with an older file than the one signed off is told of', () => {
    expect(rulesOf(told, { name: 'the-causeway-ebook.epub' })).toEqual(['listing/file']);
  });
  it('shows both texts, and leaves long ones to be compared letter by letter', () => {
    const of = (listed: ListedAs) =>
      checkListing({ book, edition: ebook, outlet: lanternquay, listed, newer: null });
    expect(of({ ...told, price: OTHER.price })).toMatchObject([
      {
        message: 'Lanternquay lists the price “£5.99”; the record has “£4.99”.',
        differs: { found: '£5.99', wanted: '£4.99' },
        outlet: 'lanternquay',
      },
    ]);
    expect(of({ ...told, price: null })).toMatchObject([
      { message: 'Lanternquay lists no price; the record has “£4.99”.' },
    ]);
    expect(of({ ...told, description: 'x'.repeat(2_000) })[0]?.message).toBe(
      'Lanternquay lists another description than the record has.',
    );
  });
  it('has its rules in the list of all rules', () => {
    const names = allRules().map((r) => r.name);
    expect([...Object.values(RULE), 'listing/file'].filter((n) => !names.includes(n))).toEqual([]);
  });
  it('has the price of its own edition', () => {
    const printed: Edition = { ...paperback, price: { minor: 1_299, currency: 'GBP' } } as Edition;
    expect(listedAs(book, printed, { id: 'lanternquay', takes: ['price'] })).toEqual({
      price: { minor: 1_299, currency: 'GBP' },
    });
  });
  it('differs in exactly the fields that were changed', () => {
    fc.assert(
      fc.property(fc.subarray(LISTED_FIELDS), (fields) => {
        const now = Object.fromEntries(fields.map((f) => [f, OTHER[f]]));
        expect(listedDifferently({ ...told, ...now }, told)).toEqual(LISTED_FIELDS.filter((f) => f in now));
      }),
    );
  });
});

describe('bringing an outlet up to date', () => {
  const facts = factsOf({
    outlet: lanternquay,
    book: { ...whole, ...book },
    edition: ebook,
    revision: 0,
    files: [],
  });
  const changes = (
    listed: ListedAs,
    delivered = 'a',
    file: string | null = 'a',
    told: ToldFields | null = null,
  ) => changesAt(lanternquay, facts, { delivered, listed, told }, file);
  it('sends details alone where the file has none of them', () => {
    expect(changes({ ...told, price: OTHER.price, description: '' })).toEqual({
      has: true,
      details: ['description', 'price'],
      inFile: [],
      unsure: false,
      reviewed: false,
    });
  });
  it('needs a new file where a detail stands in it, and is looked at again', () => {
    expect(changes({ ...told, title: 'The Causeways' })).toEqual({
      has: true,
      details: ['title'],
      inFile: ['title'],
      unsure: false,
      reviewed: true,
    });
    expect(changes(told, 'a', 'b')).toMatchObject({ has: false, details: [], reviewed: true });
    expect(changes(told, '', null)).toMatchObject({ has: false });
  });
  it('tells everything again where an answer was lost, and asks for no new file because of that', () => {
    const lost = changes(told, 'a', 'a', {});
    expect(lost).toMatchObject({ has: true, unsure: true, inFile: [] });
    expect(lost.details).toContain('title');
    // What it lists otherwise stands in the file all the same.
    expect(changes({ ...told, title: 'The Causeways' }, 'a', 'a', {}).inFile).toEqual(['title']);
  });
  it('sends again what readers don’t see, such as a choice, where it was told otherwise', () => {
    const now = toldFields(lanternquay, facts);
    expect(now).toMatchObject({ title: [book.record.title], lending: ['No'] });
    expect(now).not.toHaveProperty('name');
    expect(changes(told, 'a', 'a', now).details).toEqual([]);
    expect(changes(told, 'a', 'a', { ...now, lending: ['Yes'] }).details).toEqual(['lending']);
    expect(changes({ ...told, price: OTHER.price }, 'a', 'a', { ...now, lending: ['Yes'] }).details).toEqual([
      'price',
      'lending',
    ]);
  });
});
