/**
 * The index: its folios read off the PDF by Poppler’s pdftotext, its order by the alphabets of the languages, its fields
 * in the .docx by what ECMA-376-1 §17.16.5 says of XE and INDEX.
 */
import { unzipSync } from 'fflate';
import type { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { apply, schema, type Book, type Change, type IndexSee } from '@pagina/core/book';
import { readManuscript } from '@pagina/core/intake';
import { indexOf } from '@pagina/core/order';
import { changeOfEdits, occurrences, renamedEntry, withoutEntry } from '@pagina/core/tidy';
import { book, prose, section } from '../../core/test/fixtures/books';
import { makeEbook } from '../src';
import { makeWordFile } from '../src/word-file';
import { chapter, id, numbers, on, pagesOf, para, text } from './fixtures';
import { faultsOf } from '../../core/test/fixtures/checked';

const marked = (t: string, ...terms: string[]): Node =>
  schema.text(
    t,
    terms.map((term) => schema.mark('indexed', { term })),
  );
const withIndex = (chapters: Book['sections'], see: IndexSee[] = [], language = 'en-GB'): Book => {
  const b = book([...chapters, section('ix', 'index', [])], { indexSee: see });
  return { ...b, record: { ...b.record, language } };
};
/** All that stands from the page with the index's heading on. */
const indexIn = (pages: readonly string[]): string =>
  pages.slice(pages.findIndex((p) => /\b(Index|Register)\b/.test(p))).join(' ');
const done = (b: Book, change: Change | null): Book => {
  const applied = change && apply(b, change);
  if (!applied?.ok) throw new Error('the change could not be made');
  return applied.value.book;
};
const entriesOf = (b: Book): string[] =>
  indexOf(b.sections, b).flatMap((e) => [
    `${e.term} ${e.places.length}`,
    ...e.under.map((u) => `${e.term}: ${u.term} ${u.places.length}`),
  ]);

describe('folios of an index', () => {
  it.each([1, 2, 3, 4])('are those of the pages on which the words stand (random book %i)', async (seed) => {
    const below = numbers(seed);
    const terms: string[] = [];
    const paragraphs = Array.from({ length: 40 }, () => {
      const term = `zterm${String(terms.length).padStart(2, '0')}`;
      terms.push(term);
      return para(
        text(prose(30 + below(150), 1 + below(99))),
        marked(` ${term}mark `, term),
        text('and on.'),
      );
    });
    const pages = await pagesOf(
      withIndex([chapter([para(text('It opens.')), ...paragraphs], { title: 'One' })]),
    );
    const index = indexIn(pages);
    for (const term of terms) {
      const page = pages.findIndex((p) => p.includes(`${term}mark`)) + 1;
      expect(page).toBeGreaterThan(0);
      expect(index).toContain(`${term}, ${page}`);
      expect(index).not.toContain(`${term}, ${page}–`);
    }
  });
  it('are a range where the words marked go on over paragraphs and pages', async () => {
    const long = (n: number): Node => para(marked(`zpart${n} ${prose(240, n)}`, 'tides'));
    const pages = await pagesOf(
      withIndex([
        chapter([
          para(text('It opens.')),
          long(1),
          long(2),
          long(3),
          long(4),
          para(text(prose(300, 8))),
          para(marked('zlast', 'tides')),
        ]),
      ]),
    );
    const on = (w: string): number => pages.findIndex((p) => p.includes(w)) + 1;
    const [first, last, alone] = [on('zpart1'), on('zpart4'), on('zlast')];
    expect(last).toBeGreaterThan(first + 1);
    const m = /tides, (\d+)–(\d+), (\d+)/.exec(indexIn(pages));
    expect(Number(m?.[1])).toBe(first);
    expect(Number(m?.[2])).toBeGreaterThanOrEqual(last);
    expect(Number(m?.[3])).toBe(alone);
  });
});

describe('entries that lead to others', () => {
  const b = withIndex(
    [
      chapter([
        para(text('It opens.')),
        para(marked('neap', 'tides: neap'), text(' '), marked('moon', 'moon')),
      ]),
    ],
    [
      { term: 'ebb', to: 'tides' },
      { term: 'moon', to: 'tides' },
      { term: 'moon', to: 'eclipses' },
    ],
  );
  it('say see, or see also where they have places themselves', async () => {
    const index = indexIn(await pagesOf(b));
    expect(index).toContain('ebb, see tides');
    expect(index).toContain('moon, 1. See also eclipses; tides');
  });
  it('in the book’s language', async () => {
    const index = indexIn(await pagesOf({ ...b, record: { ...b.record, language: 'de' } }));
    expect(index).toContain('ebb, siehe tides');
    expect(index).toContain('moon, 1. Siehe auch');
  });
  it('in the ebook are links to the entry', async () => {
    const made = await makeEbook(b, 'ebook', { pictures: () => null, print: null });
    if (!made.ok) throw new Error(made.refusal.message);
    const page = Object.entries(unzipSync(made.value.bytes))
      .map(([, x]) => new TextDecoder().decode(x))
      .find((x) => x.includes('ul class="index"') && x.includes('ebb'))!;
    const [, hash] = /ebb, <em>see<\/em> <a href="#([^"]+)">tides<\/a>/.exec(page)!;
    expect(page).toContain(`<li id="${hash}">tides`);
    expect(page).toContain('<em>See also</em> eclipses; <a');
  });
});

describe('the order of an index', () => {
  const words = ['Zorn', 'Ärger', 'Abend', 'Ålesund', 'zehn', 'Äpfel', '1871'];
  const of = (language: string): Book =>
    withIndex([chapter([para(text('It opens.')), ...words.map((w) => para(marked(w, w)))])], [], language);
  const letters = async (language: string): Promise<string> => {
    const pages = await pagesOf(
      on(of(language), { design: { from: {}, set: { 'index.letters': true, 'index.columns': 1 } } }),
    );
    return pages.at(-1) === '' ? pages.at(-2)! : pages.at(-1)!;
  };
  it('is that of the language, and so are its letters: å and ä end the Swedish alphabet', async () => {
    const entries = (language: string): string[] =>
      indexOf(of(language).sections, of(language)).map((e) => `${e.letter} ${e.term}`);
    expect(entries('sv')).toEqual([
      ' 1871',
      'A Abend',
      'Z zehn',
      'Z Zorn',
      'Å Ålesund',
      'Ä Äpfel',
      'Ä Ärger',
    ]);
    expect(entries('de')).toEqual([
      ' 1871',
      'A Abend',
      'A Ålesund',
      'A Äpfel',
      'A Ärger',
      'Z zehn',
      'Z Zorn',
    ]);
    expect(await letters('de')).toMatch(/1871, \d+ a Abend, \d+ Ålesund, \d+ Äpfel, \d+ Ärger, \d+ z zehn/i);
    expect(await letters('sv')).toMatch(/z zehn, \d+ Zorn, \d+ å Ålesund, \d+ ä Äpfel/i);
  });
});

it('letters are headings in the ebook too, where the design asks for them', async () => {
  const b = withIndex([
    chapter([para(marked('a', 'Abend')), para(marked('z', 'zehn')), para(marked('y', '1871'))]),
  ]);
  const editions = b.editions.map((e) => ({ ...e, design: { from: {}, set: { 'index.letters': true } } }));
  const made = await makeEbook({ ...b, editions }, 'ebook', { pictures: () => null, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  expect(faultsOf(made.value.bytes)).toEqual([]);
  const page = Object.entries(unzipSync(made.value.bytes))
    .map(([, x]) => new TextDecoder().decode(x))
    .find((x) => x.includes('ul class="index"') && x.includes('Abend'))!;
  expect(page.replace(/<[^>]+>/g, ' ').replace(/\s+/g, ' ')).toContain('Index 1871 1 A Abend 1 Z zehn 1');
});

describe('work on an index', () => {
  const b = withIndex(
    [
      chapter([para(text('The lock, the locks, and a Lock. '), marked('Lock', 'locks'), text(' again.'))], {
        id: 'c1',
      }),
      chapter([para(text('No lock here.')), schema.node('monospace', { id: id() }, [text('lock')])], {
        id: 'c2',
      }),
    ],
    [{ term: 'sluices', to: 'locks' }],
  );
  const sought = { find: 'lock', matchCase: false, wholeWords: true };
  it('marks every occurrence that is not yet marked, and none in monospace', () => {
    const found = occurrences(b, sought, 'locks');
    expect(found.ok && found.value.map((e) => e.was)).toEqual(['lock', 'Lock', 'lock']);
    const now = done(b, changeOfEdits(b, found.ok ? found.value : [], 'Mark'));
    expect(entriesOf(now)).toEqual(['locks 4', 'sluices 0']);
    const again = occurrences(now, sought, 'locks');
    expect(again.ok && again.value).toEqual([]);
    expect(now.sections.map((s) => s.content.textContent)).toEqual(
      b.sections.map((s) => s.content.textContent),
    );
  });
  it('renames entries with what stands under them, and puts two together', () => {
    const terms = withIndex([
      chapter([
        para(
          marked('a', 'tides'),
          text(' '),
          marked('b', 'tides: neap'),
          text(' '),
          marked('c', 'seas', 'tides'),
        ),
      ]),
    ]);
    expect(entriesOf(done(terms, renamedEntry(terms, 'tides', 'seas')))).toEqual(['seas 2', 'seas: neap 1']);
    expect(entriesOf(done(terms, renamedEntry(terms, 'tides: neap', 'neap tides')))).toEqual([
      'neap tides 1',
      'seas 1',
      'tides 2',
    ]);
    expect(entriesOf(done(terms, withoutEntry(terms, 'tides')))).toEqual(['seas 1']);
    const led = done(b, renamedEntry(b, 'locks', 'gates'));
    expect(led.indexSee).toEqual([{ term: 'sluices', to: 'gates' }]);
  });
});

it('a .docx has its entries and its index as fields, and comes in again the same', async () => {
  const b = withIndex(
    [
      chapter(
        [
          para(text('The '), marked('neap tide', 'tides: neap'), text(' came.')),
          para(marked('"Mole"', '"Mole": a hulk')),
          para(text('It went '), marked('on and on,', 'floods')),
          para(marked('for days,', 'floods')),
          para(marked('and then', 'floods'), text(' it was over.')),
          para(text('No '), marked('flood', 'floods'), text(' came again.')),
        ],
        { title: 'One' },
      ),
    ],
    [{ term: 'ebb', to: 'tides' }],
  );
  const made = await makeWordFile(b, () => null);
  if (!made.ok) throw new Error(made.refusal.message);
  const xml = new TextDecoder().decode(unzipSync(made.value)['word/document.xml']);
  expect(xml).toContain('XE &quot;tides:neap&quot;');
  expect(xml).toMatch(/INDEX \\e/);
  expect(xml.match(/XE &quot;floods&quot; \\r &quot;(\w+)&quot;/g)).toHaveLength(1);
  expect(xml.match(/XE &quot;floods&quot;/g)).toHaveLength(2);
  const again = await readManuscript(made.value, 'again.docx');
  if (!again.ok) throw new Error(again.refusal.message);
  expect(entriesOf(again.value.book)).toEqual(entriesOf(b));
  expect(entriesOf(b)).toContain('floods 2');
  expect(again.value.book.indexSee).toEqual([{ term: 'ebb', to: 'tides' }]);
  expect(again.value.book.sections.at(-1)?.kind).toBe('index');
  expect(again.value.book.sections.at(-1)?.content.textContent).toBe('');
});
