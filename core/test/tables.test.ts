/** Tables: read from files by other hands, laid out, set, and written out again. */
import { Document, HeadingLevel, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from 'docx';
import { unzipSync, strFromU8 } from 'fflate';
import { parse, defaultTreeAdapter, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { makeWordFile } from '@pagina/make/word-file';
import { gridOf, headRows, schema, type Book } from '../src/book';
import { DisplayIndex, displayList, drawnPage } from '../src/compose';
import { readManuscript } from '../src/intake';
import { SectionWriter } from '../src/epub/xhtml';
import { book, prose, section } from './fixtures/books';
import { composed } from './fixtures/composed';

const read = async (bytes: Uint8Array, name: string): Promise<Book> => {
  const r = await readManuscript(bytes, name);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.book;
};
const tableIn = (b: Book): Node => {
  let found: Node | null = null;
  for (const s of b.sections)
    s.content.forEach((n) => {
      if (n.type.name === 'table') found ??= n;
    });
  if (!found) throw new Error('there is no table');
  return found;
};
/** "Year 1×2 head | …", row by row. */
const drawn = (table: Node): string[] => {
  const rows: string[] = [];
  table.forEach((r) => {
    const cells: string[] = [];
    r.forEach((c) => {
      const { colspan, rowspan, head, align } = c.attrs as Record<string, unknown>;
      const span = colspan === 1 && rowspan === 1 ? '' : ` ${String(colspan)}×${String(rowspan)}`;
      cells.push(
        `${c.textContent}${span}${head ? ' head' : ''}${align === 'left' ? '' : ` ${String(align)}`}`,
      );
    });
    rows.push(cells.join(' | '));
  });
  return rows;
};
const HTML = `<h1>Chapter 1</h1><p>Before it stood text.</p><p>Table 1. Ropes</p><table><thead><tr><th rowspan="2">Year</th><th colspan="2">Fathoms</th></tr>
<tr><th>Paid</th><th>Hung</th></tr></thead><tbody><tr><td>1871</td><td style="text-align: right">11</td><td style="text-align: right">9</td></tr>
<tr><td>1872</td><td colspan="2"><ul><li>None.</li><li>Then some.</li></ul></td></tr></tbody></table><p>After it stood text.</p>`;
const asHtml = (): Promise<Book> => read(new TextEncoder().encode(HTML), 'a.html');

describe('tables of files', () => {
  it('in HTML keep merged cells, heads, alignment, lists and the caption', async () => {
    const b = await asHtml();
    expect(drawn(tableIn(b))).toEqual([
      'Year 1×2 head | Fathoms 2×1 head',
      'Paid head | Hung head',
      '1871 | 11 right | 9 right',
      '1872 | None.Then some. 2×1',
    ]);
    expect(tableIn(b).child(3).child(1).firstChild?.type.name).toBe('list');
    const content = b.sections.at(-1)!.content;
    const names: string[] = [];
    content.forEach((n) => void names.push(n.type.name));
    expect(names).toEqual(['paragraph', 'tableCaption', 'table', 'paragraph']);
  });
  it('in a word file too (made by the docx library); a caption below goes above', async () => {
    const cell = (text: string, more = {}) => new TableCell({ children: [new Paragraph(text)], ...more });
    const bytes = new Uint8Array(
      await Packer.toBuffer(
        new Document({
          sections: [
            {
              children: [
                new Paragraph({ heading: HeadingLevel.HEADING_1, children: [new TextRun('The Ledger')] }),
                new Paragraph('Before it stood a sentence.'),
                new Table({
                  rows: [
                    new TableRow({
                      tableHeader: true,
                      children: [cell('Year', { rowSpan: 2 }), cell('Fathoms', { columnSpan: 2 })],
                    }),
                    new TableRow({ children: [cell('Paid'), cell('Hung')] }),
                    new TableRow({ children: [cell('1871'), cell('11'), cell('9')] }),
                  ],
                }),
                new Paragraph('Table 1. Ropes'),
                new Paragraph('After it stood a sentence.'),
              ],
            },
          ],
        }),
      ),
    );
    const b = await read(bytes, 'a.docx');
    expect(drawn(tableIn(b))).toEqual(['Year 1×2 head | Fathoms 2×1 head', 'Paid | Hung', '1871 | 11 | 9']);
    const names: string[] = [];
    b.sections.at(-1)!.content.forEach((n) => void names.push(n.type.name));
    expect(names).toEqual(['paragraph', 'tableCaption', 'table', 'paragraph']);
  });
  it('that are no captions stay text', async () => {
    const html =
      '<h1>Chapter 1</h1><p>Table 4 wants its bill, said the waiter.</p><p>He went on.</p><table><tr><td>a</td><td>b</td></tr></table>';
    const b = await read(new TextEncoder().encode(html), 'a.html');
    expect(b.sections.at(-1)!.content.child(0).type.name).toBe('paragraph');
  });
});

describe('the grid of a table (HTML Standard §4.9.12)', () => {
  const cell = fc.record({
    colspan: fc.integer({ min: 1, max: 3 }),
    rowspan: fc.integer({ min: 1, max: 3 }),
  });
  const tables = fc
    .array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 5 })
    .map((rows) =>
      schema.node(
        'table',
        { id: 't' },
        rows.map((r, i) =>
          schema.node(
            'row',
            { id: `r${i}` },
            r.map((attrs, k) =>
              schema.node('cell', { id: `c${i}-${k}`, ...attrs }, [
                schema.node('paragraph', { id: `p${i}-${k}` }, [schema.text(`w${i}-${k}`)]),
              ]),
            ),
          ),
        ),
      ),
    );
  it('has no place twice', () => {
    fc.assert(
      fc.property(tables, (t) => {
        const taken = new Set<string>();
        for (const c of gridOf(t).cells)
          for (let x = c.column; x < c.column + c.colspan; x++)
            for (let y = c.row; y < c.row + c.rowspan; y++) {
              expect(taken.has(`${x} ${y}`)).toBe(false);
              taken.add(`${x} ${y}`);
            }
      }),
    );
  });
  it('of any shape is set without losing a cell, inside the measure', async () => {
    await fc.assert(
      fc.asyncProperty(tables, async (t) => {
        const s = {
          ...section('a', 'chapter', [prose(30)]),
          content: schema.node('doc', null, [
            schema.node('paragraph', { id: 'p' }, [schema.text(prose(20))]),
            t,
          ]),
        };
        const c = await composed(book([s]));
        const index = new DisplayIndex();
        const text = c.pages.map((p) => displayList(drawnPage(c, p), c.words, index).text).join(' ');
        // A narrow column may divide a word of a cell: letters are counted, not words.
        const flat = text.replace(/[^a-z0-9-]/gi, '');
        t.descendants((n) => {
          if (n.isText) expect(flat).toContain(n.text!);
        });
        expect(c.report.overfullLines).toBe(0);
      }),
      { numRuns: 40 },
    );
  }, 60_000);
});

describe('a table that goes over a page', () => {
  const cell = (text: string, head = false): Node =>
    schema.node('cell', { id: `c-${text}`, head }, [
      schema.node('paragraph', { id: `p-${text}` }, [schema.text(text)]),
    ]);
  const long = (heads: number, rows: number): Book => {
    const row = (r: number): Node =>
      schema.node('row', { id: `r${r}` }, [
        cell(r < heads ? `head${r}x` : `row${r}x`, r < heads),
        cell(`b${r}`, r < heads),
      ]);
    const table = schema.node(
      'table',
      { id: 't' },
      Array.from({ length: heads + rows }, (_, r) => row(r)),
    );
    const content = section('a', 'chapter', [prose(60)]).content.content.append(
      schema.node('doc', null, [table, schema.node('paragraph', { id: 'z' }, [schema.text('After it.')])])
        .content,
    );
    return book([{ ...section('a', 'chapter', []), content: schema.node('doc', null, content) }]);
  };
  const pagesOf = async (b: Book): Promise<string[]> => {
    const c = await composed(b);
    expect(c.report.overfullLines).toBe(0);
    return c.pages.map((p) => displayList(drawnPage(c, p), c.words, new DisplayIndex()).text);
  };
  it.each([
    [1, 70],
    [2, 70],
    [3, 120],
  ])('has its %i head rows on every page, and every row once', async (heads, rows) => {
    const pages = await pagesOf(long(heads, rows));
    const on = pages.filter((p) => /row\d/.test(p));
    expect(on.length).toBeGreaterThan(1);
    for (const p of on)
      for (let h = 0; h < heads; h++) expect(p.split(`head${h}x`).length - 1, p.slice(0, 80)).toBe(1);
    const all = pages.join(' ');
    for (let r = heads; r < heads + rows; r++) expect(all.split(`row${r}x`)).toHaveLength(2);
  });
});

describe('tables in files', () => {
  it('of an ebook are tables with caption, heads and merged cells (read by parse5)', async () => {
    const b = await asHtml();
    const writer = new SectionWriter({
      pictureHref: () => null,
      pages: new Map(),
      placeHref: () => null,
      reference: (r) => r.words,
      captionLabel: () => '',
      noteMarks: () => new Map(),
      noteHref: () => null,
      shopHref: () => null,
      here: (id) => `#${id}`,
      formulas: true,
    });
    const html = writer
      .body(b.sections.at(-1)!.content)
      .map((p) => p.html)
      .join('\n');
    const all: Tree.Element[] = [];
    const walk = (n: Tree.ChildNode): void => {
      if (defaultTreeAdapter.isElementNode(n)) all.push(n);
      if ('childNodes' in n) n.childNodes.forEach(walk);
    };
    parse(`<!doctype html><body>${html}`).childNodes.forEach(walk);
    const count = (tag: string, attr = ''): number =>
      all.filter((e) => e.tagName === tag && (!attr || e.attrs.some((a) => `${a.name}=${a.value}` === attr)))
        .length;
    expect([count('table'), count('caption'), count('thead'), count('th'), count('td')]).toEqual([
      1, 1, 1, 4, 5,
    ]);
    expect([
      count('th', 'rowspan=2'),
      count('th', 'colspan=2'),
      count('td', 'colspan=2'),
      count('td', 'class=right'),
    ]).toEqual([1, 1, 1, 2]);
    expect(count('tbody')).toBe(1);
    expect(headRows(tableIn(b))).toBe(2);
  });
  it('of a word file come back as they were', async () => {
    const b = await asHtml();
    const made = await makeWordFile(b, () => null);
    if (!made.ok) throw new Error(made.refusal.message);
    const xml = strFromU8(unzipSync(made.value)['word/document.xml']!);
    expect(xml).toMatch(/<w:gridSpan w:val="2"\/>/);
    const again = await read(made.value, 'a.docx');
    expect(drawn(tableIn(again))).toEqual(drawn(tableIn(b)));
  });
});
