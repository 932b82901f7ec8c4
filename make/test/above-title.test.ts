/** A picture above a chapter’s title stays above it: in print, in both ebooks, in a word processor’s file, and on its way back. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Document, HeadingLevel, ImageRun, Packer, Paragraph } from 'docx';
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { picturesAbove, schema, type Book } from '@pagina/core/book';
import { checkEpub } from '@pagina/core/check';
import { readManuscript } from '@pagina/core/intake';
import { book, prose, section } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';
import { makeEbook, makePrint } from '../src';
import { makeWordFile } from '../src/word-file';

const PICTURE = png(600, 400);
const pictures = (): Uint8Array => PICTURE;
const figure = (id: string, place: string, caption = '') =>
  schema.node(
    'figure',
    { id, picture: 'p', alt: `Picture ${id}`, place },
    caption ? [schema.text(caption)] : [],
  );
const tale = (...figures: ReturnType<typeof figure>[]): Book =>
  book(
    [
      section('one', 'chapter', [prose(300, 1)], { title: 'Before' }),
      section('two', 'chapter', [], {
        title: 'Heron',
        content: schema.node('doc', null, [
          ...figures,
          schema.node('paragraph', { id: 'x' }, [schema.text(prose(400, 2))]),
        ]),
      }),
      section('three', 'chapter', [prose(40, 3)], { title: 'After' }),
    ],
    { pictures: [{ id: 'p', name: 'p.png', type: 'image/png', width: 600, height: 400 }] },
  );

/** Where on its page poppler finds the picture’s foot, and the title’s head, in points from the top. */
async function places(b: Book): Promise<{ picture: number; title: number; pages: number[] }> {
  const made = await makePrint(b, 'paperback', { pictures });
  if (!made.ok) throw new Error(made.refusal.message);
  const dir = mkdtempSync(join(tmpdir(), 'above-'));
  writeFileSync(join(dir, 'a.pdf'), made.value.bytes);
  execFileSync('pdftohtml', ['-xml', '-q', join(dir, 'a.pdf'), join(dir, 'a')]);
  const xml = execFileSync('cat', [join(dir, 'a.xml')], { encoding: 'utf8' });
  const pages = xml.split('<page ').slice(1);
  const at = pages.findIndex((p) => p.includes('<image '));
  const page = pages[at] ?? '';
  const image = /<image top="(-?\d+)" left="-?\d+" width="\d+" height="(\d+)"/.exec(page);
  const title = /<text top="(\d+)"[^>]*>(?:<[^>]+>)*[^<]*Heron/.exec(page);
  return {
    picture: Number(image?.[1]) + Number(image?.[2]),
    title: Number(title?.[1]),
    pages: [at, pages.findIndex((p) => p.includes('Heron'))],
  };
}

describe('a picture above a chapter’s title', () => {
  it('is printed above it, on the page with which the chapter begins', async () => {
    const { picture, title, pages } = await places(tale(figure('f', 'above')));
    expect(picture).toBeLessThanOrEqual(title);
    expect(pages[0]).toBe(pages[1]);
    const below = await places(tale(figure('f', 'here')));
    expect(below.picture).toBeGreaterThan(below.title);
  });
  it('leaves room for the title and some text, however tall it is, and several share what there is', async () => {
    const tall = { ...tale(figure('f', 'above'), figure('g', 'above', 'With a caption')) };
    const b = { ...tall, pictures: [{ ...tall.pictures[0]!, width: 300, height: 1_400 }] };
    const made = await makePrint(b, 'paperback', { pictures: () => png(300, 1_400) });
    if (!made.ok) throw new Error(made.refusal.message);
    const { composition } = made.value;
    const first = composition.pages[composition.starts.get('two')!]!;
    expect(first.body.pictures).toEqual(['p', 'p']);
    expect(first.body.blocks).toContain('x');
    expect(composition.report).toMatchObject({ overfullLines: 0, strandedHeadings: 0 });
  });
  it('stands above it in both forms of ebook, whose contents lead to the chapter’s file', async () => {
    for (const version of ['3.3', '2.0.1'] as const) {
      const b = tale(figure('f', 'above'));
      const editions = b.editions.map((e) => (e.form === 'reflow' ? { ...e, version } : e));
      const made = await makeEbook({ ...b, editions }, 'ebook', { pictures, print: null });
      if (!made.ok) throw new Error(made.refusal.message);
      const parts = unzipSync(made.value.bytes);
      const page = Object.entries(parts).find(
        ([name, x]) => /text\/s\d+\.xhtml$/.test(name) && strFromU8(x).includes('>Heron<'),
      )!;
      const body = strFromU8(page[1]).replace(/^[^]*<body/, '');
      expect(body.indexOf('<img ')).toBeGreaterThan(0);
      expect(body.indexOf('<img ')).toBeLessThan(body.indexOf('<h1'));
      expect(strFromU8(parts['EPUB/nav.xhtml'] ?? parts['EPUB/toc.ncx']!)).toContain(
        page[0].split('/').at(-1),
      );
      const checked = checkEpub(made.value.bytes);
      expect(checked.ok && checked.value.filter((f) => f.severity !== 'note')).toEqual([]);
    }
  });
  it('goes to a word processor and comes back', async () => {
    const made = await makeWordFile(tale(figure('f', 'above')), pictures);
    if (!made.ok) throw new Error(made.refusal.message);
    const again = await readManuscript(made.value);
    if (!again.ok) throw new Error(again.refusal.message);
    const chapters = again.value.book.sections.filter((s) => s.kind === 'chapter');
    expect(chapters.map((s) => [s.title, picturesAbove(s).length])).toEqual([
      ['Before', 0],
      ['Heron', 1],
      ['After', 0],
    ]);
  });
  it('is taken from a manuscript that has it there, and one below the heading is left below', async () => {
    const image = () =>
      new Paragraph({
        children: [new ImageRun({ type: 'png', data: PICTURE, transformation: { width: 90, height: 60 } })],
      });
    const heading = (text: string) => new Paragraph({ text, heading: HeadingLevel.HEADING_1 });
    const file = await Packer.toBuffer(
      new Document({
        sections: [
          {
            children: [
              heading('Chapter 1'),
              new Paragraph(prose(80, 1)),
              image(),
              heading('Chapter 2'),
              image(),
              new Paragraph(prose(80, 2)),
              heading('Chapter 3'),
              new Paragraph(prose(80, 3)),
            ],
          },
        ],
      }),
    );
    const read = await readManuscript(new Uint8Array(file));
    if (!read.ok) throw new Error(read.refusal.message);
    const chapters = read.value.book.sections.filter((s) => s.kind === 'chapter');
    expect(chapters.map((s) => picturesAbove(s).length)).toEqual([0, 1, 0]);
    expect(chapters[1]!.content.children.map((n) => n.type.name)).toEqual(['figure', 'figure', 'paragraph']);
  });
});
