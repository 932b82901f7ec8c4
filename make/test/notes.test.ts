/**
 * Footnotes and endnotes kept apart, from the file that comes in to the files made. Files that come in are written by
 * the docx library or by hand after the formats' own words; the PDF is read by Poppler’s pdftotext, page by page.
 */
import {
  Document,
  EndnoteReferenceRun,
  FootnoteReferenceRun,
  HeadingLevel,
  Packer,
  Paragraph,
  TextRun,
} from 'docx';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { apply, type Book, type NoteKind } from '@pagina/core/book';
import { readManuscript } from '@pagina/core/intake';
import { notesOfKind } from '@pagina/core/order';
import { book, prose, section } from '../../core/test/fixtures/books';
import { makeEbook } from '../src';
import { makeWordFile } from '../src/word-file';
import { chapter, note, noteBody, on, pagesOf, para, text } from './fixtures';

const withNotes = (b: Book, notes: Record<string, string>): Book =>
  on(b, {
    design: { from: {}, set: Object.fromEntries(Object.entries(notes).map(([k, v]) => [`notes.${k}`, v])) },
  });
const kindsIn = async (bytes: Uint8Array, name: string): Promise<string[]> => {
  const r = await readManuscript(bytes, name);
  if (!r.ok) throw new Error(r.refusal.message);
  const found: string[] = [];
  for (const s of r.value.book.sections)
    s.content.descendants((n) => {
      if (n.type.name === 'noteBody') found.push(`${n.textContent}: ${n.attrs.kind as string}`);
    });
  return found;
};
const bytes = (s: string): Uint8Array => new TextEncoder().encode(s);
const WANTED = ['Below the page.: foot', 'After the text.: end'];

describe('the kind of a note comes in with it', () => {
  it('from a .docx (written by the docx library)', async () => {
    const file = await Packer.toBuffer(
      new Document({
        footnotes: { 1: { children: [new Paragraph('Below the page.')] } },
        endnotes: { 1: { children: [new Paragraph('After the text.')] } },
        sections: [
          {
            children: [
              new Paragraph({ heading: HeadingLevel.HEADING_1, text: 'Chapter 1' }),
              new Paragraph({
                children: [
                  new TextRun('A word'),
                  new FootnoteReferenceRun(1),
                  new TextRun(' and another'),
                  new EndnoteReferenceRun(1),
                ],
              }),
            ],
          },
        ],
      }),
    );
    expect(await kindsIn(new Uint8Array(file), 'a.docx')).toEqual(WANTED);
  });
  it('from Rich Text (specification 1.9.1, \\footnote with \\ftnalt)', async () => {
    const rtf = String.raw`{\rtf1\ansi {\b Chapter 1}\par A word{\super\chftn{\footnote\pard\plain Below the page.}} and another{\super\chftn{\footnote\ftnalt\pard\plain After the text.}}.\par}`;
    expect(await kindsIn(bytes(rtf), 'a.rtf')).toEqual(WANTED);
  });
  it('from HTML (EPUB Structural Semantics, DPUB-ARIA)', async () => {
    const html = `<h1>Chapter 1</h1><p>A word<a href="#f" role="doc-noteref">*</a> and another<a href="#e" role="doc-noteref">1</a>.</p>
<aside id="f" role="doc-footnote"><p>Below the page.</p></aside><section role="doc-endnotes"><ol><li id="e"><p>After the text.</p></li></ol></section>`;
    expect(await kindsIn(bytes(html), 'a.html')).toEqual(WANTED);
  });
});

/** Two chapters with notes of both kinds, and a section for the notes. */
const both = (gather = true): Book =>
  book([
    ...['one', 'two'].map((name) =>
      chapter(
        [
          para(text('It opens here.')),
          para(
            text(`Foot ${name} a`),
            note(`${name}f1`),
            text(` end ${name} a`),
            note(`${name}e1`),
            text('.'),
          ),
          para(text(prose(500, 7))),
          para(
            text(`End ${name} b`),
            note(`${name}e2`),
            text(` foot ${name} b`),
            note(`${name}f2`),
            text('.'),
          ),
          noteBody(`${name}e2`, `zend-${name}-2`),
          noteBody(`${name}f1`, `zfoot-${name}-1`),
          noteBody(`${name}f2`, `zfoot-${name}-2`),
          noteBody(`${name}e1`, `zend-${name}-1`),
        ].map((n) =>
          n.type.name === 'noteBody' && n.textContent.startsWith('zend')
            ? n.type.create({ ...n.attrs, kind: 'end' satisfies NoteKind }, n.content)
            : n,
        ),
        { title: `Chapter ${name}`, id: name },
      ),
    ),
    ...(gather ? [section('notes', 'notes', [])] : []),
  ]);

describe('in print', () => {
  it('footnotes stand at the feet with signs, endnotes in the section “Notes” by chapter, numbered', async () => {
    const pages = await pagesOf(both());
    const on = (words: string): number => pages.findIndex((p) => p.includes(words));
    for (const name of ['one', 'two']) {
      expect(on(`* zfoot-${name}-1`)).toBe(on(`Foot ${name} a*`));
      expect(on(`† zfoot-${name}-2`)).toBe(on(`foot ${name} b†`));
      expect(on(`end ${name} a1`)).toBeGreaterThanOrEqual(0);
      expect(on(`End ${name} b2`)).toBeGreaterThanOrEqual(0);
    }
    const last = pages.filter((p) => p.includes('zend')).join(' ');
    expect(last).toMatch(/Chapter one 1 zend-one-1 2 zend-one-2 Chapter two 1 zend-two-1 2 zend-two-2/);
    expect(last).not.toContain('zfoot');
  });
  it('together they are one row of numbers', async () => {
    const pages = await pagesOf(withNotes(both(), { ends: 'together' }));
    const all = pages.join(' ');
    expect(all).toMatch(/1 zfoot-one-1 2 zend-one-1/);
    expect(all).toMatch(/3 zend-one-2 4 zfoot-one-2/);
  });
  it('after each chapter, and where there is no section for them', async () => {
    for (const pages of [await pagesOf(withNotes(both(), { ends: 'section' })), await pagesOf(both(false))]) {
      const all = pages.join(' ');
      expect(all).toMatch(/Notes 1 zend-one-1 2 zend-one-2/);
      expect(all.indexOf('zend-one-2')).toBeLessThan(all.indexOf('Foot two a'));
    }
  });
  it('notes of one kind alone are numbered as ever', async () => {
    const all = notesOfKind(both(), 'end').change;
    const done = all && apply(both(), all);
    if (!done?.ok) throw new Error('not applied');
    const pages = await pagesOf(done.value.book);
    expect(pages.join(' ')).toMatch(/1 zfoot-one-1 2 zend-one-1/);
  });
});

describe('in the ebook', () => {
  it('endnotes stand in the section “Notes” with links both ways, footnotes in their chapter', async () => {
    const made = await makeEbook(both(), 'ebook', { pictures: () => null, print: null });
    if (!made.ok) throw new Error(made.refusal.message);
    const pages = new Map(
      Object.entries(unzipSync(made.value.bytes))
        .filter(([n]) => n.startsWith('EPUB/text/'))
        .map(([n, b]) => [n.slice(10), new TextDecoder().decode(b)]),
    );
    const [gathered] = [...pages].find(([, t]) => t.includes('zend-one-1'))!;
    expect(pages.get(gathered)).toContain('zend-two-2');
    for (const [name, page] of pages) {
      if (!page.includes('doc-noteref')) continue;
      expect(page).toMatch(/doc-footnote[^]*zfoot-(one|two)-1/);
      const calls = [...page.matchAll(/<a id="([^"]*)" href="([^"]*)"[^>]*role="doc-noteref">([^<]*)</g)];
      expect(calls.map((c) => c[3])).toEqual(['*', '1', '2', '†']);
      for (const [, id, href] of calls) {
        const [file, hash] = href!.split('#');
        const target = pages.get(file || name)!;
        expect(target).toContain(`id="${hash}"`);
        const back = `${file ? name : ''}#${id}`;
        expect(target.slice(target.indexOf(`id="${hash}"`))).toContain(`href="${back}" role="doc-backlink"`);
      }
    }
  });
});

it('a .docx has them as footnotes and endnotes, and comes in again so', async () => {
  const made = await makeWordFile(both(), () => null);
  if (!made.ok) throw new Error(made.refusal.message);
  const read = (name: string): string => new TextDecoder().decode(unzipSync(made.value)[`word/${name}.xml`]);
  expect(read('footnotes')).toContain('zfoot-two-2');
  expect(read('footnotes')).not.toContain('zend');
  expect(read('endnotes')).toContain('zend-two-2');
  const again = await kindsIn(made.value, 'again.docx');
  expect(again.filter((k) => k.startsWith('zend')).every((k) => k.endsWith(': end'))).toBe(true);
  expect(again.filter((k) => k.startsWith('zfoot')).every((k) => k.endsWith(': foot'))).toBe(true);
  expect(again).toHaveLength(8);
});
