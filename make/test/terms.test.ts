/**
 * Lists of terms and what they mean: read from web pages and word files, printed, and written as ebooks and word files that
 * come in as they were. Where lines stand in print is asked of pdftotext (poppler); the word file of another hand is
 * written by the docx library.
 */
import { Document, Packer, Paragraph } from 'docx';
import { strFromU8, strToU8, unzipSync } from 'fflate';
import type { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { parseXml } from '@pagina/core/base';
import { schema, type Book } from '@pagina/core/book';
import { readManuscript, type Intake } from '@pagina/core/intake';
import { makeEbook } from '@pagina/make';
import { makeWordFile } from '../src/word-file';
import { book, prose } from '../../core/test/fixtures/books';
import { boxesOf, chapter, pagesOf, para, text } from './fixtures';

async function read(bytes: Uint8Array, name: string): Promise<Intake> {
  const r = await readManuscript(bytes, name);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
/** Every list of terms, an item a line: the term, and what it means, behind bars. */
function termsOf(b: Book): string[][] {
  const found: string[][] = [];
  for (const s of b.sections)
    s.content.descendants((n) => {
      if (n.type.name !== 'list' || n.attrs.terms !== true) return true;
      const lines: string[] = [];
      n.forEach((item) => {
        const parts: string[] = [];
        item.forEach((p) => void parts.push(p.textContent));
        lines.push(parts.join(' | '));
      });
      found.push(lines);
      return false;
    });
  return found;
}
const TERMS = ['Bight | a loop of rope', 'Fid | a pin of wood | also of bone', 'Hitch'];
const page = `<!doctype html><body><h1>Chapter 1</h1><p>${prose(40, 1)}</p>
<dl><dt>Bight</dt><dd>a loop of rope</dd><dt>Fid</dt><dd><p>a pin of wood</p><p>also of bone</p></dd><dt>Hitch</dt></dl>
<p>${prose(40, 2)}</p>`;

describe('a list of terms', () => {
  it('of a web page keeps its shape, and one after another list stays apart from it', async () => {
    expect(termsOf((await read(strToU8(page), 'a.html')).book)).toEqual([TERMS]);
    const beside = page.replace('<dl>', '<ul><li>one</li><li><p>two</p><p>and more of it</p></li></ul><dl>');
    const { book: b } = await read(strToU8(beside), 'a.html');
    expect(termsOf(b)).toEqual([TERMS]);
    const lists: Node[] = [];
    b.sections.forEach((s) => s.content.forEach((n) => void (n.type.name === 'list' && lists.push(n))));
    // An item of two paragraphs is one item.
    expect(lists.map((l) => l.childCount)).toEqual([2, 3]);
  });
  it('of a word file is known by its styles', async () => {
    const line = (style: string, t: string): Paragraph => new Paragraph({ style, text: t });
    const file = new Document({
      styles: {
        paragraphStyles: [
          { id: 'DT', name: 'Definition Term' },
          { id: 'DD', name: 'Definition' },
        ],
      },
      sections: [
        {
          children: [
            new Paragraph(prose(40, 1)),
            line('DT', 'Bight'),
            line('DD', 'a loop of rope'),
            line('DT', 'Fid'),
            line('DD', 'a pin of wood'),
            line('DD', 'also of bone'),
            line('DT', 'Hitch'),
            new Paragraph(prose(40, 2)),
          ],
        },
      ],
    });
    const i = await read(new Uint8Array(await Packer.toBuffer(file)), 'a.docx');
    expect(termsOf(i.book)).toEqual([TERMS]);
  });
  it('is written as one, and comes in again as it was', async () => {
    const { book: b } = await read(strToU8(page), 'a.html');
    const titled = { ...b, record: { ...b.record, title: 'Knots' } };
    const edition = titled.editions.find((e) => e.form === 'reflow')!;
    const ebook = await makeEbook(titled, edition.id, { pictures: () => null, print: null });
    if (!ebook.ok) throw new Error(ebook.refusal.message);
    const xhtml = Object.values(unzipSync(ebook.value.bytes))
      .map((x) => strFromU8(x))
      .find((x) => x.includes('<dl'))!;
    expect(parseXml(xhtml).fault).toBeNull();
    expect([...xhtml.matchAll(/<(dt|dd)\b/g)].map((m) => m[1])).toEqual(['dt', 'dd', 'dt', 'dd', 'dt', 'dd']);
    expect(termsOf((await read(ebook.value.bytes, 'a.epub')).book)).toEqual([TERMS]);
    const word = await makeWordFile(titled, () => null);
    if (!word.ok) throw new Error(word.refusal.message);
    expect(termsOf((await read(word.value, 'a.docx')).book)).toEqual([TERMS]);
  });
  it('stands with its terms at the margin and what they mean moved in; no term is alone at a foot', async () => {
    const item = (n: number): Node =>
      schema.node('item', { id: `i${n}` }, [
        para(text(`Term${n}x`)),
        para(text(`Meaning${n}x ${prose(20, n)}`)),
      ]);
    const b = book([
      chapter([
        para(text(prose(60, 1))),
        schema.node(
          'list',
          { id: 'l', terms: true },
          Array.from({ length: 90 }, (_, n) => item(n)),
        ),
      ]),
    ]);
    const boxes = await boxesOf(b);
    const where = new Map<string, { page: number; x: number }>();
    boxes.split('<page ').forEach((p, n) => {
      for (const m of p.matchAll(/<word xMin="([\d.]+)"[^>]*>((?:Term|Meaning)\d+x)</g))
        where.set(m[2]!, { page: n, x: Number(m[1]) });
    });
    expect(where.size).toBe(180);
    for (let n = 0; n < 90; n++) {
      const [term, meaning] = [where.get(`Term${n}x`)!, where.get(`Meaning${n}x`)!];
      expect(meaning.page).toBe(term.page);
      expect(meaning.x).toBeGreaterThan(term.x + 8);
    }
  });
});

describe('what belongs together stands on one page', () => {
  it('a quotation’s last line and who said it', async () => {
    const quotation = (n: number): Node =>
      schema.node('quotation', { id: `q${n}` }, [
        para(text(`${prose(12 + ((n * 7) % 50), n)} Last${n}x`)),
        schema.node('attribution', { id: `a${n}` }, [text(`Said${n}x`)]),
      ]);
    const blocks = Array.from({ length: 80 }, (_, n) => [
      para(text(prose(20 + ((n * 11) % 60), n + 3))),
      quotation(n),
    ]);
    const pages = await pagesOf(book([chapter(blocks.flat())]));
    for (let n = 0; n < 80; n++)
      expect(
        pages.findIndex((p) => p.includes(`Said${n}x`)),
        `${n}`,
      ).toBe(pages.findIndex((p) => p.includes(`Last${n}x`)));
  });
});
