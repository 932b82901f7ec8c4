/**
 * Records as the trade exchanges them. An ONIX message is held against the structure of release 3.0, written down apart from
 * the writer (fixtures/onix.rng, from memory of EDItEUR's specification), by libxml2, and read by libxml2's XPath.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, type Book } from '../src/book';
import {
  differences,
  readCarried,
  readOnix,
  readTable,
  writeOnix,
  writeRecordJson,
  writeTable,
} from '../src/onix';
import { AUDIENCES, EDITION_TYPES, recordSchema, ROLES } from '../src/record';
import { threeChapters } from './fixtures/books';

const base = threeChapters();
const full: Book = {
  ...base,
  record: recordSchema.parse({
    title: 'The Salt Clerk & <Sons>',
    subtitle: 'A novel in three tides',
    contributors: [
      {
        name: 'Maren Oakhollis',
        role: 'author',
        sortName: 'Oakhollis, Maren',
        life: 'Keeps a lock.\n\nAnd a cat.',
      },
      { name: 'Ida Vell', role: 'translator', sortName: 'Vell, Ida' },
      { name: 'Tom Pell', role: 'cover', sortName: 'Pell, Tom' },
    ],
    series: 'Estuary',
    volume: '2',
    collection: 'Tidewrack Classics',
    imprint: 'Tidewrack',
    publisher: 'Tidewrack Press',
    web: 'https://tidewrack.example',
    place: 'Pellmouth',
    year: '2026',
    published: '2027-02-12',
    editionStatement: 'Second edition, revised',
    editionNumber: 2,
    editionType: 'REV',
    copyrightHolder: 'M. Oakhollis',
    language: 'de',
    description: 'When the tide goes out.\n\nA second paragraph; with “quotes” & <marks>.',
    shortDescription: 'A ledger.',
    keywords: ['salt', 'debts repaid'],
    subjects: ['FBA', 'FS'],
    audience: 'young-adult',
    ages: { from: 12, to: null },
    territories: ['GB', 'IE'],
    price: { minor: 499, currency: 'GBP' },
    prices: [{ minor: 780, currency: 'JPY' }],
    related: [
      {
        title: 't2',
        name: 'Low Water',
        relation: 'same-author',
        print: '9799000000172',
        ebook: '9799000000189',
      },
      { title: 't3', name: 'Early Draft', relation: 'replaces' },
    ],
  }),
  editions: base.editions.map((e) =>
    e.form === 'print'
      ? { ...e, isbn: '979-9-000-00015-8', price: { minor: 1_099, currency: 'GBP' } }
      : { ...e, isbn: '9799000000165' },
  ),
};
const folder = mkdtempSync(join(tmpdir(), 'onix-'));
const kept = (xml: string): string => {
  const path = join(folder, 'message.xml');
  writeFileSync(path, xml);
  return path;
};
/** What libxml2 finds wrong. */
function faults(xml: string): string {
  try {
    execFileSync('xmllint', ['--noout', '--relaxng', resolve('core/test/fixtures/onix.rng'), kept(xml)], {
      stdio: 'pipe',
    });
    return '';
  } catch (e) {
    return String((e as { stderr: Buffer }).stderr);
  }
}
const onix = (b: Book): string => writeOnix(b, { sent: '2026-11-29T21:04:00Z', pages: { paperback: 212 } });
const xpath = (xml: string, path: string): string =>
  execFileSync('xmllint', [
    '--xpath',
    `string(${path.replace(/(^|\/|\[)([A-Z]\w+)/g, "$1*[local-name()='$2']")})`,
    kept(xml),
  ])
    .toString()
    .trim();

describe('an ONIX message', () => {
  it('has the structure of ONIX 3.0, by another hand', () => expect(faults(onix(full))).toBe(''));
  it('has it with a marked-up description too', () => {
    const description =
      '<p>Mud &amp; <em>carts<br/>and <strong>tides</strong></em>.</p><ul><li>one</li></ul>';
    expect(faults(onix({ ...full, record: { ...full.record, description } }))).toBe('');
  });
  it('says what the record says, by another reader', () => {
    const xml = onix(full);
    const paperback = '//Product[1]';
    expect(xpath(xml, '//SentDateTime')).toBe('20261129T210400Z');
    expect(xpath(xml, `${paperback}/ProductIdentifier/IDValue`)).toBe('9799000000158');
    expect(xpath(xml, `${paperback}/DescriptiveDetail/TitleDetail/TitleElement/TitleText`)).toBe(
      'The Salt Clerk & <Sons>',
    );
    expect(xpath(xml, `${paperback}/DescriptiveDetail/Extent/ExtentValue`)).toBe('212');
    // 8.5 inches are 215.9 mm.
    expect(xpath(xml, `${paperback}/DescriptiveDetail/Measure/Measurement`)).toBe('216');
    expect(xpath(xml, `${paperback}/DescriptiveDetail/Language/LanguageCode`)).toBe('ger');
    expect(xpath(xml, '//Product[2]/DescriptiveDetail/ProductForm')).toBe('ED');
    expect(xpath(xml, '//Product[2]/RelatedMaterial/RelatedProduct/ProductIdentifier/IDValue')).toBe(
      '9799000000158',
    );
    // A related title by its ISBN of the same form; one without an ISBN isn't named (list 51: by the same author).
    const other = "RelatedMaterial/RelatedProduct[ProductRelationCode='22']/ProductIdentifier/IDValue";
    expect(xpath(xml, `//Product[1]/${other}`)).toBe('9799000000172');
    expect(xpath(xml, `//Product[2]/${other}`)).toBe('9799000000189');
    expect(xpath(xml, "count(//RelatedProduct[ProductRelationCode='03'])")).toBe('0');
    expect(xpath(xml, '//Product[2]/ProductSupply/SupplyDetail/Price[2]/PriceAmount')).toBe('780');
  });
  it('is read back as the record that it was made of', () => {
    const read = readOnix(onix(full));
    if (!read.ok) throw new Error(read.refusal.message);
    const {
      cover: _c,
      clauses: _l,
      ownClause: _o,
      alsoBy: _a,
      adult: _d,
      publicDomain: _p,
      libraryPrice: _lp,
      bundlePrice: _b,
      related: _r,
      ...said
    } = full.record;
    expect(read.value.record).toEqual(said);
    expect(read.value.editions).toEqual([
      { form: 'print', isbn: '9799000000158', price: { minor: 1_099, currency: 'GBP' } },
      { form: 'reflow', isbn: '9799000000165', price: { minor: 499, currency: 'GBP' } },
    ]);
    expect(differences(full, read.value)).toEqual([]);
  });
  it('of any record at all has the structure, and is read again', () => {
    const line = fc
      .string({ unit: 'grapheme', maxLength: 30 })
      .map((s) => s.replace(/[\p{C}\s]+/gu, ' ').trim());
    fc.assert(
      fc.property(
        fc.record({
          title: line,
          subtitle: line,
          series: line,
          volume: fc.constantFrom('', '1', '2.5'),
          contributors: fc.array(
            fc.record({
              name: line.filter((n) => n !== ''),
              role: fc.constantFrom(...ROLES),
              sortName: fc.constant(''),
              life: line,
              portrait: fc.constant(null),
            }),
            { maxLength: 3 },
          ),
          editionType: fc.constantFrom(null, ...EDITION_TYPES),
          editionNumber: fc.option(fc.integer({ min: 1, max: 999 })),
          language: fc.constantFrom('en', 'pt-BR', 'xx', 'fr'),
          keywords: fc.array(
            line.filter((n) => n !== '' && !n.includes(';')),
            { maxLength: 3 },
          ),
          audience: fc.constantFrom(...AUDIENCES),
          ages: fc.record({ from: fc.option(fc.nat(18)), to: fc.option(fc.nat(99)) }),
          description: line,
          year: fc.constantFrom('', '2026'),
          place: line,
          territories: fc.option(fc.subarray(['GB', 'DE', 'AT'], { minLength: 1 })),
        }),
        (fields) => {
          const b = { ...full, record: { ...recordSchema.parse({}), ...fields } };
          const xml = onix(b);
          expect(faults(xml)).toBe('');
          const read = readOnix(xml);
          expect(read.ok && read.value.record.title).toBe(fields.title || 'Untitled');
        },
      ),
      { numRuns: 25 },
    );
  });
  it.each([
    ['', 'no XML'],
    ['<a>', 'no ONIX message with a product'],
    ['<ONIXMessage release="3.0"/>', 'no ONIX message with a product'],
    ['<ONIXmessage release="3.0"><product/></ONIXmessage>', 'short tags'],
  ])('%j is refused: %s', (xml, why) => {
    const read = readOnix(xml);
    expect(!read.ok && read.refusal.message).toContain(why);
  });
  it('of another program is read, with names in parts and a list of titles', () => {
    const read =
      readOnix(`<ONIXMessage release="3.0"><Product><ProductIdentifier><ProductIDType>15</ProductIDType><IDValue>9780306406157</IDValue></ProductIdentifier>
      <DescriptiveDetail><ProductForm>BC</ProductForm><TitleDetail><TitleType>01</TitleType><TitleElement><TitleElementLevel>01</TitleElementLevel><TitlePrefix>The</TitlePrefix><TitleWithoutPrefix>Weirs</TitleWithoutPrefix></TitleElement></TitleDetail>
      <Contributor><ContributorRole>A01</ContributorRole><NamesBeforeKey>Ines</NamesBeforeKey><KeyNames>Calloway</KeyNames></Contributor></DescriptiveDetail></Product>
      <Product><DescriptiveDetail><TitleDetail><TitleElement><TitleText>Another</TitleText></TitleElement></TitleDetail></DescriptiveDetail></Product></ONIXMessage>`);
    expect(read.ok && read.value).toMatchObject({
      record: { title: 'The Weirs', contributors: [{ name: 'Ines Calloway', role: 'author' }] },
      editions: [{ form: 'print', isbn: '9780306406157' }],
      unread: ['another title, “Another”'],
    });
  });
});

describe('a table', () => {
  it('comes back as it went', () => {
    const read = readTable(writeTable(full));
    if (!read.ok) throw new Error(read.refusal.message);
    const { record, editions } = read.value;
    expect(record).toMatchObject({
      title: full.record.title,
      description: full.record.description,
      keywords: full.record.keywords,
      territories: ['GB', 'IE'],
      price: full.record.price,
    });
    expect(record.contributors?.map((c) => [c.name, c.role])).toEqual(
      full.record.contributors.map((c) => [c.name, c.role]),
    );
    expect(editions.map((e) => e.isbn)).toEqual(['9799000000158', '9799000000165']);
  });
  it('keeps a title that begins like a formula from being worked out, and gives it back whole', () => {
    const b = { ...full, record: { ...full.record, title: '=1+1' } };
    expect(writeTable(b)).toContain(`'=1+1`);
    const read = readTable(writeTable(b));
    expect(read.ok && read.value.record.title).toBe('=1+1');
  });
  it('needs a title among its heads, and tells of columns that it doesn’t know', () => {
    expect(readTable('a,b\n1,2').ok).toBe(false);
    const read = readTable('Title;Shelf mark\nWeirs;9b');
    expect(read.ok && read.value).toMatchObject({
      record: { title: 'Weirs' },
      unread: ['the column “Shelf mark”'],
    });
  });
});

describe('whatever is brought in', () => {
  it('is known by what it is', () => {
    const of = (text: string): string | false | undefined => {
      const r = readCarried(text);
      return r.ok && r.value.record.title;
    };
    for (const text of [onix(full), writeTable(full), writeRecordJson(full)])
      expect(of(text)).toBe(full.record.title);
    expect(of('Title: The Weirs\nAuthor: Ines Calloway\nISBN (ebook): 978-0-306-40615-7')).toBe('The Weirs');
    for (const text of ['', 'Once upon a time.', '{"a":1}', '[]', '{', 'null'])
      expect(readCarried(text).ok).toBe(false);
  });
  it('is taken in field by field, and the rest stays', () => {
    const json = JSON.parse(writeRecordJson(full)) as { record: Record<string, unknown> };
    json.record = { title: 'Other', year: 5, nonsense: 1, __proto__: 2, adult: true };
    const read = readCarried(JSON.stringify(json));
    if (!read.ok) throw new Error(read.refusal.message);
    expect(read.value.unread).toEqual(['the field “year”', 'the field “nonsense”']);
    const found = differences(full, read.value);
    expect(found.map((d) => [d.key, d.now, d.then])).toEqual([
      ['title', full.record.title, 'Other'],
      ['adult', 'no', 'yes'],
    ]);
    const applied = apply(full, { type: 'group', label: '', changes: found.map((d) => d.change) });
    expect(applied.ok && applied.value.book.record).toMatchObject({
      title: 'Other',
      adult: true,
      year: '2026',
    });
  });
});
