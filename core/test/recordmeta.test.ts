/** The record in full: its codes, and what an ebook says of it, read by saxes and held against EPUB's own vocabulary. */
import { describe, expect, it } from 'vitest';
import { strFromU8, unzipSync } from 'fflate';
import { SaxesParser } from 'saxes';
import { makeEbook } from '@pagina/make';
import type { Book } from '../src/book';
import { checkEpub, checkBook } from '../src/check';
import { COUNTRIES, isSubjectCode, recordSchema, RELATOR, ROLES, SUBJECTS, subjectOf } from '../src/record';
import { threeChapters } from './fixtures/books';

const b = threeChapters();
const full: Book = {
  ...b,
  record: {
    ...b.record,
    series: 'The Estuary Books',
    volume: '2',
    collection: 'Tidewrack Classics',
    subjects: ['FV', 'FXRZ'],
    keywords: ['causeway'],
    published: '2026-11-30',
    contributors: [
      ...b.record.contributors,
      ...ROLES.map((role) => ({ name: `Ilse ${role}`, role, sortName: '', life: '', portrait: null })),
    ],
  },
};

async function packageOf(book: Book, version: '3.3' | '2.0.1'): Promise<{ bytes: Uint8Array; opf: string }> {
  const editions = book.editions.map((e) => (e.form === 'reflow' ? { ...e, version } : e));
  const made = await makeEbook({ ...book, editions }, 'ebook', { pictures: () => null, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  const opf = Object.entries(unzipSync(made.value.bytes)).find(([n]) => n.endsWith('.opf'));
  return { bytes: made.value.bytes, opf: strFromU8(opf![1]) };
}
/** Elements of a package with their attributes and text. */
function elements(xml: string): { name: string; attrs: Record<string, string>; text: string }[] {
  const all: { name: string; attrs: Record<string, string>; text: string }[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', (t) => all.push({ name: t.name, attrs: t.attributes as never, text: '' }));
  parser.on('text', (t) => (all.at(-1) ? (all.at(-1)!.text += t) : undefined));
  parser.write(xml).close();
  return all;
}

describe('an ebook', () => {
  it('says series, place in it, collection, subjects with their scheme, and day of publication', async () => {
    const { bytes, opf } = await packageOf(full, '3.3');
    const all = elements(opf);
    const refined = (id: string, property: string): string | undefined =>
      all.find((e) => e.attrs.refines === `#${id}` && e.attrs.property === property)?.text.trim();
    const collections = all.filter((e) => e.attrs.property === 'belongs-to-collection');
    expect(collections.map((e) => e.text.trim())).toEqual(['The Estuary Books', 'Tidewrack Classics']);
    expect(collections.map((e) => refined(e.attrs.id!, 'group-position'))).toEqual(['2', undefined]);
    const subjects = all.filter((e) => e.name === 'dc:subject');
    expect(subjects.map((e) => e.text.trim())).toEqual([
      'causeway',
      'Historical fiction',
      'Narrative theme: sense of place',
    ]);
    expect(
      subjects.slice(1).map((e) => [refined(e.attrs.id!, 'authority'), refined(e.attrs.id!, 'term')]),
    ).toEqual([
      ['Thema', 'FV'],
      ['Thema', 'FXRZ'],
    ]);
    expect(all.find((e) => e.name === 'dc:date')?.text.trim()).toBe('2026-11-30');
    const people = all.filter((e) => e.name === 'dc:contributor' || e.name === 'dc:creator');
    expect(people.slice(-ROLES.length).map((e) => refined(e.attrs.id!, 'role'))).toEqual(
      ROLES.map((r) => RELATOR[r]),
    );
    expect(checkEpub(bytes).ok).toBe(true);
    const found = checkEpub(bytes);
    expect(found.ok ? found.value.filter((f) => f.rule.startsWith('metadata/')) : null).toEqual([]);
  });
  it('of the older form says what that has a place for', async () => {
    const { bytes, opf } = await packageOf(full, '2.0.1');
    const all = elements(opf);
    expect(all.filter((e) => e.name === 'dc:subject').map((e) => e.text.trim())).toContain(
      'Historical fiction',
    );
    expect(all.find((e) => e.name === 'dc:date')?.text.trim()).toBe('2026-11-30');
    const found = checkEpub(bytes);
    expect(found.ok ? found.value.filter((f) => f.severity === 'blocker') : null).toEqual([]);
  });
  it('is silent about what the record doesn’t say', async () => {
    const { opf } = await packageOf(b, '3.3');
    expect(opf).not.toMatch(/belongs-to-collection|dc:subject|authority/);
  });
});

describe('codes of the record', () => {
  it('of countries are those that Intl has names for, each once', () => {
    const names = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'none' });
    expect(COUNTRIES.filter((c) => names.of(c) === undefined)).toEqual([]);
    // ISO 3166-1 has 249 of them.
    expect(new Set(COUNTRIES).size).toBe(249);
  });
  it('of subjects lie within one another, and each stands once', () => {
    expect(new Set(SUBJECTS.map((s) => s.code)).size).toBe(SUBJECTS.length);
    for (const { code, name } of SUBJECTS) {
      expect(isSubjectCode(code)).toBe(true);
      expect(name).not.toBe('');
      if (code.length > 1) expect(subjectOf(code.slice(0, -1))).not.toBeNull();
    }
    expect(subjectOf('FV')).toEqual({ code: 'FV', name: 'Historical fiction' });
    expect(subjectOf('FVZ')?.code).toBe('FV');
    expect(subjectOf('ZZ')).toBeNull();
  });
  it('are those of MARC for every role', () => {
    expect(Object.values(RELATOR).every((r) => /^[a-z]{3}$/.test(r))).toBe(true);
    expect(new Set(Object.values(RELATOR)).size).toBe(ROLES.length);
  });
  it('are read from records that earlier versions kept', () => {
    const old = recordSchema.parse({ title: 'Weirs', contributors: [{ name: 'Ada', role: 'author' }] });
    expect(old).toMatchObject({ series: '', subjects: [], territories: null, audience: 'general' });
  });
});

it('a record in full has nothing to be said against it', () => {
  const found = checkBook(full).filter((f) => f.rule.startsWith('record/'));
  expect(found.map((f) => f.rule)).toEqual([]);
});
