/**
 * Ebooks of the older version, EPUB 2.0.1: valid by the W3C's DTD of XHTML 1.1 (as Debian keeps it, by xmllint), opened by a
 * reading library, and with the words of the newer version. And ebooks of very long sections, which come in several files.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { initEpubFile } from '@lingo-reader/epub-parser';
import { strFromU8, unzipSync } from 'fflate';
import type { Mark, Node } from 'prosemirror-model';
import { beforeAll, describe, expect, it } from 'vitest';
import { checkEpub } from '@pagina/core/check';
import { schema, type Book, type Section } from '@pagina/core/book';
import { readManuscript } from '@pagina/core/intake';
import { book, prose, section } from '../../core/test/fixtures/books';
import { png, styledManuscript } from '../../core/test/fixtures/manuscript';
import { makeEbook } from '../src';
import { note, uglyChapters } from './fixtures';
import { faultsOf } from '../../core/test/fixtures/checked';

const text = (words: string, ...marks: Mark[]): Node => schema.text(words, marks);
const para = (id: string, inline: Node[]): Node => schema.node('paragraph', { id }, inline);

const DTDS = '/usr/share/xml/w3c-sgml-lib/schema/dtd/catalog.xml';
/** What xmllint says of a file's pages by the DTD that they name. */
function invalid(parts: Record<string, Uint8Array>): string[] {
  const dir = mkdtempSync(join(tmpdir(), 'epub2-'));
  const pages = Object.entries(parts).flatMap(([name, bytes]) => {
    if (!name.endsWith('.xhtml')) return [];
    const path = join(dir, name);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, bytes);
    return [path];
  });
  expect(pages.length).toBeGreaterThan(0);
  const r = spawnSync('xmllint', ['--noout', '--nonet', '--valid', ...pages], {
    encoding: 'utf8',
    env: { ...process.env, XML_CATALOG_FILES: DTDS },
  });
  return r.stderr.split('\n').filter((l) => /error|warning/.test(l));
}
const older = (b: Book): Book => ({
  ...b,
  editions: b.editions.map((e) => (e.form === 'reflow' ? { ...e, version: '2.0.1' } : e)),
});
async function made(b: Book, pictures: (id: string) => Uint8Array | null = () => null): Promise<Uint8Array> {
  const r = await makeEbook(b, 'ebook', { pictures, print: { edition: 'paperback' } });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.bytes;
}

describe('an ebook of the older version', () => {
  let bytes: Uint8Array;
  let parts: Record<string, Uint8Array>;
  let whole: Book;
  const file = (name: string): string => strFromU8(parts[`EPUB/${name}`]!);
  beforeAll(async () => {
    const read = await readManuscript(await styledManuscript(), 'a.docx');
    if (!read.ok) throw new Error(read.refusal.message);
    const b = read.value.book;
    const every = schema.node('doc', null, [
      para('a1', [
        text('Under', schema.mark('underline')),
        text('struck', schema.mark('strike')),
        text('mots', schema.mark('language', { tag: 'fr' })),
        note('n1'),
      ]),
      schema.node('list', { id: 'l1', ordered: true, start: 4, numbers: 'letters' }, [
        schema.node('item', { id: 'i1' }, [para('i1p', [text('d')])]),
      ]),
      schema.node('list', { id: 'l2', terms: true }, [
        schema.node('item', { id: 'i2' }, [para('i2p', [text('Term')]), para('i2q', [text('Meaning')])]),
      ]),
      schema.node('figure', { id: 'f1', picture: 'cover', alt: 'A boat', credit: 'Drawn' }, [text('Fig')]),
      schema.node('letter', { id: 'le' }, [para('lep', [text('Dear all')])]),
      schema.node('monospace', { id: 'mo' }, [text('a\nb')]),
      schema.node('pageBreak', { id: 'pb' }),
      schema.node('noteBody', { id: 'n1' }, [para('n1p', [text('A note.')])]),
    ]);
    whole = older({
      ...b,
      record: {
        ...b.record,
        title: 'Saltings & Sons',
        subtitle: 'A Novel',
        language: 'de',
        cover: 'cover',
        imprint: 'Tidewrack',
      },
      sections: [
        section('t', 'title-page', []),
        section('toc', 'contents', []),
        ...b.sections.filter((s) => s.kind !== 'contents' && s.kind !== 'title-page'),
        { ...section('every', 'chapter', [], { title: 'Every form' }), content: every },
      ],
      pictures: [...b.pictures, { id: 'cover', name: 'cover', type: 'image/png', width: 60, height: 90 }],
    });
    const own = png(60, 90);
    bytes = await made(whole, (id) => (id === 'cover' ? own : (read.value.files.get(id) ?? null)));
    parts = unzipSync(bytes);
  });

  it('has pages that are valid XHTML 1.1', () => expect(invalid(parts)).toEqual([]));
  it('of ugly books has valid pages too', async () => {
    for (let n = 0; n < 5; n++) {
      const b = older(book(uglyChapters(311 + n)));
      expect(invalid(unzipSync(await made(b))), `book ${n}`).toEqual([]);
    }
  });
  it('passes our own check', () => expect(faultsOf(bytes)).toEqual([]));
  it('says what OPF 2.0.1 asks for: roles, sorted names, a guide, a cover, contents as a page', () => {
    const opf = file('package.opf');
    expect(opf).toContain('version="2.0"');
    expect(opf).toMatch(/<dc:creator opf:role="aut" opf:file-as="[^"]+, [^"]+">/);
    expect(opf).toContain('<meta name="cover" content="cover-picture"/>');
    expect(opf).toContain('<reference type="cover" title="Umschlag" href="text/cover.xhtml"/>');
    expect(opf).toContain('href="text/contents.xhtml"/>');
    expect(opf).toMatch(/<reference type="text" title="Beginn des Textes" href="text\/s\d+\.xhtml"\/>/);
    expect(opf).not.toMatch(/properties=|property=|epub:type/);
    expect(opf).toMatch(/<spine toc="ncx">[^]*<itemref idref="contents"\/>/);
    expect(file('text/contents.xhtml')).toMatch(/>Kapitel \d+: Every form<\/a>/);
  });
  it('navigates by an NCX in the order of reading, page list and all', () => {
    const ncx = file('toc.ncx');
    const orders = [...ncx.matchAll(/playOrder="(\d+)"[^]*?src="([^"]+)"/g)].map(([, n, src]) => [
      Number(n),
      src,
    ]);
    expect(orders.length).toBeGreaterThan(5);
    const spine = [...file('package.opf').matchAll(/href="(text\/[^"]+)"/g)].map((m) => m[1]);
    const files = [...orders]
      .sort((a, b) => (a[0] as number) - (b[0] as number))
      .map(([, src]) => spine.indexOf(String(src).split('#')[0]));
    expect(files).toEqual([...files].sort((a, b) => a - b));
    expect(ncx).toContain('<pageList>');
  });
  it('is opened by a reading library, which finds its chapters', async () => {
    const path = join(mkdtempSync(join(tmpdir(), 'older-')), 'a.epub');
    writeFileSync(path, bytes);
    // An independent reader of EPUB files.
    const epub = await initEpubFile(path, mkdtempSync(join(tmpdir(), 'images-')));
    const titles = epub.getToc().map((t) => t.label);
    expect(titles.some((t) => t.endsWith('Every form'))).toBe(true);
    expect(epub.getSpine().length).toBeGreaterThan(5);
  });
});

describe('our check of an older ebook', () => {
  it.each([
    ['older/element', 'text/s002.xhtml', '</body>', '<section><p>x</p></section></body>'],
    ['older/attribute', 'text/s002.xhtml', '<body', '<body role="main"'],
    ['spine/older-contents', 'package.opf', '<spine toc="ncx">', '<spine>'],
    ['ncx/order-number', 'toc.ncx', 'playOrder="2"', 'playOrder="0"'],
    ['ncx/identifier', 'toc.ncx', 'name="dtb:uid" content="', 'name="dtb:uid" content="x'],
  ])('finds %s', async (rule, name, was, by) => {
    const { zipSync, strToU8 } = await import('fflate');
    const b = older({
      ...book([
        section('a', 'chapter', [prose(30)], { title: 'One' }),
        section('b', 'chapter', [prose(30, 2)], { title: 'Two' }),
      ]),
    });
    const parts = unzipSync(await made(b));
    const text = strFromU8(parts[`EPUB/${name}`]!);
    expect(text).toContain(was);
    parts[`EPUB/${name}`] = strToU8(text.replace(was, by));
    const { mimetype, ...others } = parts;
    const checked = checkEpub(zipSync({ mimetype: [mimetype!, { level: 0 }], ...others }));
    expect(checked.ok && checked.value.map((f) => f.rule)).toContain(rule);
  });
});

describe('a very long section', () => {
  const blocks = 700;
  const at = Array.from({ length: blocks }, (_, i) => i);
  const onwards = schema.mark('link', { kind: 'place', target: `long#p${blocks - 2}` });
  const content = schema.node('doc', null, [
    ...at.map((i) =>
      i % 50 === 49
        ? schema.node('subhead', { id: `h${i}`, level: 1 }, [text(`Subhead ${i}`)])
        : para(`p${i}`, [
            text(`${prose(150, i)} `),
            ...(i % 40 === 7 ? [note(`n${i}`)] : []),
            ...(i === 3 ? [text('onwards', onwards)] : []),
          ]),
    ),
    ...at
      .filter((i) => i % 40 === 7)
      .map((i) => schema.node('noteBody', { id: `n${i}` }, [para(`q${i}`, [text(`Note ${i}.`)])])),
  ]);
  const long = (): Section => ({ ...section('long', 'chapter', []), content });
  it('comes in files of 260 kB at most, its notes, links and pages in the right ones', async () => {
    const b = book([long(), section('z', 'chapter', ['See back.'], { title: 'After' })]);
    const bytes = await made({
      ...b,
      editions: b.editions.map((e) => ({ ...e, contents: { heading: '', levels: 2 } })),
    });
    expect(faultsOf(bytes)).toEqual([]);
    const parts = unzipSync(bytes);
    const files = Object.entries(parts).filter(([n]) => n.startsWith('EPUB/text/s001'));
    expect(files.length).toBeGreaterThan(2);
    for (const [name, data] of files) {
      expect(data.length, name).toBeLessThanOrEqual(260_000);
      const page = strFromU8(data);
      // A note stands in the file that calls it.
      const calls = [...page.matchAll(/href="([^"]+)" epub:type="noteref"/g)].map((m) => m[1]!);
      expect(
        calls.every((c) => c.startsWith('#') && page.includes(`id="${c.slice(1)}"`)),
        name,
      ).toBe(true);
      // No subhead is the last thing of a file.
      expect(page).not.toMatch(/<\/h2>\s*<\/section>/);
    }
    const first = strFromU8(files[0]![1]);
    expect(first).toMatch(new RegExp(`<a href="s001-${files.length}\\.xhtml#p${blocks - 2}">onwards</a>`));
    const nav = strFromU8(parts['EPUB/nav.xhtml']!);
    expect(nav).toMatch(/href="text\/s001-2\.xhtml#h\d+">Subhead \d+</);
    expect(nav).toMatch(/href="text\/s001-2\.xhtml#page-\d+"/);
    // Every word once.
    const words = (t: string): number =>
      t
        .replace(/^[^]*<body[^>]*>/, '')
        .replace(/<span id="page[^>]*><\/span>/g, '')
        .replace(/<[^>]+>/g, ' ')
        .split(/\s+/)
        .filter(Boolean).length;
    const total = files.reduce((n, [, d]) => n + words(strFromU8(d)), 0);
    const own = b.sections[0]!.content.textBetween(0, b.sections[0]!.content.content.size, ' ')
      .split(/\s+/)
      .filter(Boolean).length;
    const calls = Math.ceil((blocks - 7) / 40);
    // A note's number stands at its call and before it.
    expect(total - own - 2 * calls).toBeLessThanOrEqual(3);
    expect(total - own).toBeGreaterThanOrEqual(0);
  });
});
