/**
 * Ebooks of a fixed layout. The words of each page are compared with those that poppler (pdftotext) reads from the same page
 * of the PDF; documents go through the W3C's Nu HTML checker (vnu-jar), xmllint and two reading libraries' own parser.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { initEpubFile } from '@lingo-reader/epub-parser';
import { strFromU8, unzipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { apply, schema, type Book } from '@pagina/core/book';
import { checkEpub } from '@pagina/core/check';
import { editionAdded, editionRemoved, INTERIOR_NAMES } from '@pagina/core/design';
import { readManuscript } from '@pagina/core/intake';
import { book, prose, section } from '../../core/test/fixtures/books';
import { png, styledManuscript } from '../../core/test/fixtures/manuscript';
import { makeFixed, makePrint } from '../src';
import { note, uglyChapters } from './fixtures';
import { faultsOf } from '../../core/test/fixtures/checked';

function withFixed(b: Book): Book {
  const added = editionAdded(b, 'fixed', 'fixed');
  if (!added.ok) throw new Error(added.refusal.message);
  const applied = apply(b, added.value);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.value.book;
}
const PICTURES = (): Uint8Array => png(40, 30);
async function made(b: Book, pictures: (id: string) => Uint8Array | null = () => null) {
  const whole = withFixed(b);
  const [fixed, print] = [
    await makeFixed(whole, 'fixed', { pictures }),
    await makePrint(whole, 'paperback', { pictures }),
  ];
  if (!fixed.ok) throw new Error(fixed.refusal.message);
  if (!print.ok) throw new Error(print.refusal.message);
  const { bytes } = fixed.value;
  return { bytes, parts: unzipSync(bytes), pdf: print.value.bytes, pages: fixed.value.pages };
}
const pagesOf = (parts: Record<string, Uint8Array>): [string, string][] =>
  Object.entries(parts).flatMap(([name, b]) =>
    /text\/p\d+\.xhtml$/.test(name) ? [[name, strFromU8(b)]] : [],
  );

/** Letters and figures alone: what is set between words differs from reader to reader. */
const letters = (text: string): string => text.normalize('NFKC').replace(/[^\p{L}\p{N}]/gu, '');
/** The words of a page in no order: a PDF's reader finds heads and feet where it will. */
const sorted = (text: string): string => [...letters(text)].sort().join('');
const ENTITIES: Record<string, string> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"' };
const shown = (xhtml: string): string =>
  (/<svg[\s\S]*<\/svg>/.exec(xhtml)?.[0] ?? '')
    .replace(/<title>[^<]*<\/title>/g, '')
    .replace(/<[^>]*>/g, ' ')
    .replace(/&\w+;/g, (e) => ENTITIES[e] ?? e);
function pdfPages(bytes: Uint8Array): string[] {
  const path = join(mkdtempSync(join(tmpdir(), 'fixed-')), 'a.pdf');
  writeFileSync(path, bytes);
  return spawnSync('pdftotext', ['-raw', path, '-'], { encoding: 'utf8' }).stdout.split('\f').slice(0, -1);
}
function vnu(files: [string, string][]): string {
  const dir = mkdtempSync(join(tmpdir(), 'fixed-'));
  const paths = files.map(([name, text]) => {
    const path = join(dir, name.split('/').at(-1) as string);
    writeFileSync(path, text);
    return path;
  });
  const jar = join(dirname(createRequire(import.meta.url).resolve('vnu-jar')), 'build/dist/vnu.jar');
  const out = spawnSync('java', ['-jar', jar, '--format', 'gnu', ...paths], { encoding: 'utf8' }).stderr;
  // EPUB's own attribute (EPUB 3.3 §6.1.3); and ARIA's, which SVG 2 allows everywhere (§5.13.2, from memory) and the
  // checker's SVG 1.1 does not know.
  return out
    .split('\n')
    .filter((l) => l.includes('error') && !/“type” not allowed|“aria-hidden” not allowed/.test(l))
    .join('\n');
}

const everything = (): Book =>
  book(
    [
      section('t', 'title-page', []),
      section('toc', 'contents', []),
      section('c1', 'chapter', [], {
        title: 'Weirs & “Locks”',
        content: schema.node('doc', null, [
          schema.node('paragraph', { id: 'a' }, [
            schema.text(`Office, fjord and waffle: ${prose(160, 4)} `),
            schema.text('small caps', [schema.mark('smallCaps')]),
            schema.text(' in 1914, '),
            schema.text('slanted', [schema.mark('emphasis')]),
            note('n1'),
            schema.text(' and '),
            schema.text('onward', [schema.mark('link', { kind: 'place', target: 'c2' })]),
            schema.text('.'),
          ]),
          schema.node('subhead', { id: 's', level: 1 }, [schema.text('A Subhead')]),
          schema.node('list', { id: 'l', ordered: true }, [
            schema.node('item', { id: 'i' }, [
              schema.node('paragraph', { id: 'ip' }, [schema.text('An item')]),
            ]),
          ]),
          schema.node('quotation', { id: 'q' }, [
            schema.node('paragraph', { id: 'qp' }, [schema.text('Said.')]),
          ]),
          schema.node('figure', { id: 'f', picture: 'p', alt: 'A weir <low>' }, [schema.text('A weir')]),
          schema.node('noteBody', { id: 'n1' }, [
            schema.node('paragraph', { id: 'n1p' }, [schema.text('A note on weirs.')]),
          ]),
        ]),
      }),
      section('c2', 'chapter', [prose(700, 5), prose(90, 6)], { title: 'Onward' }),
    ],
    { pictures: [{ id: 'p', name: 'p.png', type: 'image/png', width: 40, height: 30 }] },
  );

describe('an ebook of a fixed layout', () => {
  let file: Awaited<ReturnType<typeof made>>;
  beforeAll(async () => {
    file = await made(everything(), PICTURES);
  });
  const page = (sign: string): string =>
    pagesOf(file.parts).find(([, x]) => letters(shown(x)).includes(letters(sign)))![1];

  it('has every page of the printed book, on its side of the spread', () => {
    const opf = strFromU8(file.parts['EPUB/package.opf']!);
    expect(pagesOf(file.parts)).toHaveLength(file.pages);
    expect(opf).toContain('<meta property="rendition:layout">pre-paginated</meta>');
    expect(opf.match(/page-spread-right/g)!.length + opf.match(/page-spread-left/g)!.length).toBe(file.pages);
    expect(opf).toContain('<itemref idref="p1" properties="page-spread-right"/>');
    expect(page('onward')).toContain('<meta name="viewport" content="width=396, height=612"/>');
  });
  it('shows on each page the words that the PDF shows there', () => {
    const printed = pdfPages(file.pdf);
    expect(printed).toHaveLength(file.pages);
    pagesOf(file.parts).forEach(([name, xhtml], i) =>
      expect(sorted(shown(xhtml)), name).toBe(sorted(printed[i]!)),
    );
  });
  it('sets all its words as text, in typefaces that come with their licence', () => {
    for (const [, xhtml] of pagesOf(file.parts)) expect(xhtml).not.toContain('<path aria-hidden');
    const names = Object.keys(file.parts);
    expect(names.filter((n) => n.endsWith('.ttf')).length).toBeGreaterThanOrEqual(2);
    expect(names).toContain('META-INF/licence-eb-garamond.txt');
    const css = strFromU8(file.parts['EPUB/style.css']!);
    expect(css.startsWith('@charset')).toBe(true);
    for (const [, url] of css.matchAll(/url\("([^"]+)"\)/g)) expect(names).toContain(`EPUB/${url}`);
  });
  it('says what is a heading, a list, a note, a picture, and keeps heads and folios from being read aloud', () => {
    const opening = page('fjord');
    expect(opening).toMatch(/<g role="heading" aria-level="1">\n<text/);
    expect(page('Subhead')).toContain('role="heading" aria-level="2" id="s"');
    expect(page('An item')).toMatch(/<g role="list">\n<g role="listitem">\n<g id="ip">/);
    expect(page('A weir')).toContain('<title>A weir &lt;low&gt;</title></image>');
    expect(page('A note on weirs')).toContain('role="doc-footnote"');
  });
  it('leads from words and note calls to their places, and every link of the file arrives', () => {
    const links = [...page('onward').matchAll(/<a href="([^"]+)"><title>([^<]+)/g)].map((m) => [m[2], m[1]]);
    expect(links.find(([name]) => name?.startsWith('onward'))?.[1]).toMatch(/^p\d+\.xhtml$/);
    expect(links.map(([, href]) => href)).toContainEqual(expect.stringMatching(/^p\d+\.xhtml#n1p$/));
    const ids = new Map(
      pagesOf(file.parts).map(([n, x]) => [
        n.split('/').at(-1),
        new Set([...x.matchAll(/ id="([^"]+)"/g)].map((m) => m[1])),
      ]),
    );
    const nav = strFromU8(file.parts['EPUB/nav.xhtml']!);
    for (const [, href] of [...pagesOf(file.parts).map(([, x]) => x), nav]
      .join('')
      .matchAll(/<a [^>]*?href="([^"]+)"/g)) {
      const [path, id] = href!.replace('text/', '').split('#');
      expect(ids.has(path), href).toBe(true);
      if (id) expect(ids.get(path)!.has(id), href).toBe(true);
    }
  });
  it('is valid by the W3C’s checker, has nothing for our own checks to say, and is the same to the byte twice', async () => {
    expect(vnu(pagesOf(file.parts))).toBe('');
    expect(faultsOf(file.bytes)).toEqual([]);
    expect((await made(everything(), PICTURES)).bytes).toEqual(file.bytes);
  });
  it('opens in the lingo reader’s library with the contents of the printed book', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'fixed-'));
    const path = join(folder, 'a.epub');
    writeFileSync(path, file.bytes);
    const opened = await initEpubFile(path, folder);
    expect(opened.getToc().map((t) => t.label)).toEqual(
      ['Chapter One: Weirs &amp; “Locks”', 'Chapter Two: Onward'].map((l) => l.replace('&amp;', '&')),
    );
    expect(opened.getSpine()).toHaveLength(file.pages);
    opened.destroy();
  });
  it('says in a sentence that its print edition is gone', async () => {
    const b = withFixed(everything());
    const removed = editionRemoved(b, 'paperback');
    const without = removed.ok ? apply(b, removed.value) : null;
    if (!without?.ok) throw new Error('not removed');
    const refused = await makeFixed(without.value.book, 'fixed', { pictures: PICTURES });
    expect(!refused.ok && refused.refusal.message).toContain('has been removed');
  });
});

describe('pages of every sort', () => {
  it.each(INTERIOR_NAMES)('have the words of the PDF in the interior %s', async (interior) => {
    const b = everything();
    const { parts, pdf } = await made(
      { ...b, editions: b.editions.map((e) => ({ ...e, interior })) },
      PICTURES,
    );
    const printed = pdfPages(pdf);
    pagesOf(parts).forEach(([name, xhtml], i) =>
      expect(sorted(shown(xhtml)), name).toBe(sorted(printed[i]!)),
    );
  });
  it('of a whole manuscript, and of an ugly one, have no blocker', async () => {
    const read = await readManuscript(await styledManuscript(), 'a.docx');
    if (!read.ok) throw new Error(read.refusal.message);
    for (const b of [
      { ...read.value.book, record: { ...read.value.book.record, title: 'T' } },
      book(uglyChapters(977)),
      book([section('c', 'chapter', ['One line.'])]),
    ]) {
      const { bytes, parts, pdf } = await made(b);
      const checked = checkEpub(bytes);
      expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker')).toEqual([]);
      const printed = pdfPages(pdf);
      pagesOf(parts).forEach(([name, xhtml], i) =>
        expect(sorted(shown(xhtml)), name).toBe(sorted(printed[i]!)),
      );
    }
  });
});
