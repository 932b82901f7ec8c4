/**
 * The account of an intake against the truth: what the test itself put into the file. Words are numbered, so that each
 * can be looked for; files are made by hand here, none by a program that shares code with a reader.
 */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { readManuscript, type Intake } from '../src/intake';

const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
const REL = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PKG = 'http://schemas.openxmlformats.org/package/2006';
/** The smallest .docx that there is (ECMA-376 part 2): content types, a relationship, the document; and footnotes. */
function docx(body: string, notes = ''): Uint8Array {
  const type = (part: string, kind: string): string =>
    `<Override PartName="/word/${part}.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.${kind}+xml"/>`;
  return zipSync({
    '[Content_Types].xml': strToU8(
      `<Types xmlns="${PKG}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${type('document', 'document.main')}${type('footnotes', 'footnotes')}</Types>`,
    ),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="${PKG}/relationships"><Relationship Id="r1" Type="${REL}/officeDocument" Target="word/document.xml"/></Relationships>`,
    ),
    'word/_rels/document.xml.rels': strToU8(
      `<Relationships xmlns="${PKG}/relationships"><Relationship Id="r2" Type="${REL}/footnotes" Target="footnotes.xml"/></Relationships>`,
    ),
    'word/document.xml': strToU8(
      `<w:document xmlns:w="${W}" xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math" xmlns:v="urn:schemas-microsoft-com:vml" xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"><w:body>${body}</w:body></w:document>`,
    ),
    'word/footnotes.xml': strToU8(`<w:footnotes xmlns:w="${W}">${notes}</w:footnotes>`),
  });
}
const p = (text: string): string => `<w:p><w:r><w:t xml:space="preserve">${text}</w:t></w:r></w:p>`;
const cell = (inside: string): string => `<w:tc>${inside}</w:tc>`;
const table = (rows: string[][]): string =>
  `<w:tbl>${rows.map((r) => `<w:tr>${r.map(cell).join('')}</w:tr>`).join('')}</w:tbl>`;

/** All words that the author can get at: in the sections, in the record, set aside. */
function held(i: Intake): string[] {
  const texts = i.book.sections.flatMap((s) => {
    const lines = [s.title, s.subtitle];
    s.content.descendants((n) => {
      if (n.isTextblock) lines.push(n.textBetween(0, n.content.size, ' ', ' '));
    });
    return lines;
  });
  const { record } = i.book;
  const inText = [...texts, ...i.setAside.map((s) => s.text)].join('\n').split(/\s+/).filter(Boolean);
  // A title page that says no more than the record is made from it: its words are there and nowhere else.
  const there = new Set(inText);
  return [...inText, ...inRecord(record).filter((w) => !there.has(w))];
}
const inRecord = ({ title, subtitle, contributors }: Intake['book']['record']): string[] =>
  [title, subtitle, ...contributors.map((c) => c.name)].join('\n').split(/\s+/).filter(Boolean);
async function read(bytes: Uint8Array, name: string): Promise<Intake> {
  const r = await readManuscript(bytes, name);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
/** How often each of the words w0, w1, … stands in what came of the file. */
async function counts(bytes: Uint8Array, name: string, words: number): Promise<number[]> {
  const all = held(await read(bytes, name)).map((w) => w.replace(/[^\w]/g, ''));
  return Array.from({ length: words }, (_, i) => all.filter((w) => w === `w${i}`).length);
}
const once = (n: number): number[] => Array<number>(n).fill(1);
const asideOf = (i: Intake, rule: string): string[] =>
  i.setAside.filter((s) => s.rule === rule).map((s) => s.text);

describe('a word file', () => {
  it('keeps the text of tables within tables', async () => {
    const body = p('w0') + table([[p('w1'), p('w2') + table([[p('w3'), p('w4')]]) + p('w5')]]) + p('w6');
    expect(await counts(docx(body), 'a.docx', 7)).toEqual(once(7));
  });
  it('keeps formulas on a line of signs, and says so', async () => {
    const formula =
      '<m:oMath><m:r><m:t>w1</m:t></m:r><m:f><m:num><m:r><m:t> w2</m:t></m:r></m:num><m:den><m:r><m:t>w3</m:t></m:r></m:den></m:f></m:oMath>';
    const bytes = docx(`<w:p><w:r><w:t>w0</w:t></w:r>${formula}<w:r><w:t> w4</w:t></w:r></w:p>`);
    expect(held(await read(bytes, 'a.docx'))).toEqual(['w0w1w2/(w3)', 'w4']);
    expect((await read(bytes, 'a.docx')).findings.map((f) => f.rule)).toContain('intake/formulas');
  });
  it('keeps or sets aside text boxes, once, although they stand there in two forms', async () => {
    const box = `<w:txbxContent>${p('w1 w2')}</w:txbxContent>`;
    const both = `<mc:AlternateContent><mc:Choice Requires="wps"><w:drawing><wps:txbx>${box}</wps:txbx></w:drawing></mc:Choice><mc:Fallback><w:pict><v:shape><v:textbox>${box}</v:textbox></v:shape></w:pict></mc:Fallback></mc:AlternateContent>`;
    const bytes = docx(`${p('w0')}<w:p><w:r>${both}</w:r></w:p>${p('w3')}`);
    expect(await counts(bytes, 'a.docx', 4)).toEqual(once(4));
  });
  it('leaves out what a tracked change took out, and says nothing of it', async () => {
    const bytes = docx(
      `<w:p><w:r><w:t>w0 </w:t></w:r><w:del><w:r><w:delText>gone</w:delText></w:r></w:del><w:ins><w:r><w:t>w1</w:t></w:r></w:ins></w:p>`,
    );
    const i = await read(bytes, 'a.docx');
    expect(held(i)).toEqual(['w0', 'w1']);
    expect(i.wordsIn).toBe(2);
  });
  it('keeps notes of several paragraphs, and those called from tables, captions, titles and quotations', async () => {
    const call = (id: number): string => `<w:r><w:footnoteReference w:id="${id}"/></w:r>`;
    const with_ = (text: string, id: number, style = ''): string =>
      `<w:p>${style ? `<w:pPr><w:pStyle w:val="${style}"/></w:pPr>` : ''}<w:r><w:t>${text}</w:t></w:r>${call(id)}</w:p>`;
    const notes = [2, 3, 4, 5]
      .map((id) => `<w:footnote w:id="${id}">${p(`w${id * 2}`)}${p(`w${id * 2 + 1}`)}</w:footnote>`)
      .join('');
    const body = `<w:p><w:pPr><w:outlineLvl w:val="0"/></w:pPr><w:r><w:t>Chapter w0</w:t></w:r>${call(2)}</w:p>${p('w1')}${table([[with_('w2', 3)]])}${with_('w3', 4)}${with_('more', 5, 'Quote')}`;
    const bytes = docx(body, notes);
    expect(await counts(bytes, 'a.docx', 12)).toEqual(once(12));
    const i = await read(bytes, 'a.docx');
    let calls = 0;
    let bodies = 0;
    for (const s of i.book.sections)
      s.content.descendants((n) => {
        if (n.type.name === 'note') calls++;
        if (n.type.name === 'noteBody') bodies++;
      });
    expect([calls, bodies]).toEqual([4, 4]);
    expect(asideOf(i, 'uncalled-notes')).toEqual([]);
  });
  it('gives a note that is called twice two numbers and no double id', async () => {
    const call = '<w:r><w:footnoteReference w:id="2"/></w:r>';
    const i = await read(
      docx(
        `<w:p><w:r><w:t>a</w:t></w:r>${call}<w:r><w:t>b</w:t></w:r>${call}</w:p>`,
        `<w:footnote w:id="2">${p('note')}</w:footnote>`,
      ),
      'a.docx',
    );
    const ids: string[] = [];
    const refs: string[] = [];
    i.book.sections[0]!.content.descendants((n) => {
      if (n.type.name === 'noteBody') ids.push(n.attrs.id as string);
      if (n.type.name === 'note') refs.push(n.attrs.ref as string);
    });
    expect(new Set(ids).size).toBe(2);
    expect(refs).toEqual(ids);
    expect(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0)).toBe(i.wordsIn);
  });
});

describe('a web page', () => {
  const html = (body: string): Uint8Array => strToU8(`<!doctype html><meta charset=utf-8><body>${body}`);
  it('keeps tables within tables once', async () => {
    const body = `<p>w0</p><table><tr><td>w1<table><tr><td>w2</td></tr></table></td></tr></table><table><tr><td>w3<td>w4<table><tr><td>w5<td>w6</table></table>`;
    expect(await counts(html(body), 'a.html', 7)).toEqual(once(7));
  });
  it('is not refused for one bad link', async () => {
    expect(
      await counts(html('<p>w0 <a href="#100%">w1</a> <a href="#%E0%A4%A">w2</a></p>'), 'a.html', 3),
    ).toEqual(once(3));
  });
  it('keeps formulas, and sets aside what forms and drawings say', async () => {
    const bytes = html(
      '<p>w0 <math><mi>w1</mi><mo>=</mo><mn>w2</mn></math></p><svg><text>w3 drawn</text></svg><textarea>w4 typed</textarea>',
    );
    expect(asideOf(await read(bytes, 'a.html'), 'not-carried-over').join(' ')).toBe('w3 drawn w4 typed');
    expect(held(await read(bytes, 'a.html'))).toEqual(expect.arrayContaining(['w1', '=', 'w2']));
  });
  it.each([
    ['several paragraphs in a box', '<div id=n><p><a href=#r>1</a> w1</p><p>w2</p></div>'],
    [
      'several paragraphs, the anchor in the first',
      '<div><p><a id=n href=#r>1</a> w1</p><p>w2</p></div><p>After.</p>',
    ],
    ['a label in a list of terms', '<dl><dt><a id=n href=#r>1</a></dt><dd><p>w1</p><p>w2</p></dd></dl>'],
    ['a label in a cell', '<table><tr><td><a id=n href=#r>1</a></td><td>w1 w2</td></tr></table>'],
    ['a label in a paragraph', '<p id=n><a href=#r>[1]</a></p><p>w1 w2</p><p>After.</p>'],
    ['a list item', '<ol><li id=n><p>w1</p><p>w2 <a href=#r>\u21a9</a></p></li></ol>'],
  ])('takes a note with %s out of the text whole', async (_, note) => {
    const i = await read(html(`<p>w0 text<a id=r href=#n>1</a> goes on.</p><hr>${note}`), 'a.html');
    const [s] = i.book.sections;
    const bodies: string[] = [];
    const text: string[] = [];
    s!.content.forEach((n) => void (n.type.name === 'noteBody' ? bodies : text).push(n.textContent));
    expect(bodies.join('|').replace(/\s/g, '')).toBe('w1w2');
    expect(text.join(' ')).not.toMatch(/w1|w2|\b1\b|\[1\]/);
  });
});

describe('other kinds', () => {
  it('an OpenDocument text keeps text boxes and tables within tables', async () => {
    const ns = (n: string): string => `urn:oasis:names:tc:opendocument:xmlns:${n}:1.0`;
    const body = `<text:p>w0<draw:frame><draw:text-box><text:p>w1</text:p><text:p>w2</text:p></draw:text-box></draw:frame>w3</text:p><table:table><table:table-row><table:table-cell><text:p>w4</text:p><table:table><table:table-row><table:table-cell><text:p>w5</text:p></table:table-cell></table:table-row></table:table></table:table-cell><table:table-cell><text:p>w6</text:p></table:table-cell></table:table-row></table:table>`;
    const bytes = zipSync({
      mimetype: [strToU8('application/vnd.oasis.opendocument.text'), { level: 0 }],
      'content.xml': strToU8(
        `<office:document-content xmlns:office="${ns('office')}" xmlns:text="${ns('text')}" xmlns:table="${ns('table')}" xmlns:draw="${ns('drawing')}"><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
      ),
    });
    expect(await counts(bytes, 'a.odt', 7)).toEqual(once(7));
  });
  it('Rich Text in another code page and with hidden fallbacks is counted as it is read', async () => {
    const bytes = strToU8(
      "{\\rtf1\\ansi\\ansicpg1252{\\fonttbl{\\f0 Times;}}{\\info{\\title Not text}}w0 caf\\'e9 \\u8212?w1{\\*\\unknown gone}{\\footnote w2}\\par w3\\line w4}",
    );
    const i = await read(bytes, 'a.rtf');
    expect(await counts(bytes, 'a.rtf', 5)).toEqual(once(5));
    expect(i.wordsIn).toBe(6);
    expect(asideOf(i, 'not-carried-over')).toEqual([]);
  });
  it('Markdown and plain text are counted too', async () => {
    expect(
      await counts(
        strToU8('# w0\n\nw1 *w2* [w3](x "t")\n\n| w4 | w5 |\n|-|-|\n| w6 | w7 |\n\nw8[^1]\n\n[^1]: w9\n'),
        'a.md',
        10,
      ),
    ).toEqual(once(10));
    expect(await counts(strToU8('w0 _w1_\n\n    w2\tw3'), 'a.txt', 4)).toEqual(once(4));
  });
});

/** Ugly pages of any shape, every word numbered. */
const inside = ['b', 'i', 'span', 'code', 'sup', 'a', 'u', 'small', 'font', 'q', 'time', 'label'];
const blocks = [
  'p',
  'div',
  'blockquote',
  'li',
  'ul',
  'ol',
  'dl',
  'dt',
  'dd',
  'pre',
  'center',
  'table',
  'tr',
  'td',
  'th',
  'caption',
  'h2',
  'figure',
  'figcaption',
  'section',
  'details',
  'summary',
  'button',
  'select',
  'option',
  'ruby',
  'rt',
  'svg',
  'textarea',
  'article',
  'fieldset',
  'legend',
  'address',
];
const page = fc.array(
  fc.record({ tag: fc.constantFrom(...inside, ...blocks), open: fc.integer({ min: 0, max: 2 }) }),
  {
    minLength: 1,
    maxLength: 60,
  },
);
it('of any page, whatever its shape, every word is in the book or set aside, and none is twice', async () => {
  await fc.assert(
    fc.asyncProperty(page, async (parts) => {
      let n = 0;
      const markup = parts
        .map(({ tag, open }) => (open === 0 ? `</${tag}>` : `<${tag}>`) + (open === 2 ? '' : ` w${n++} `))
        .join('');
      expect(await counts(strToU8(`<!doctype html><body>${markup}`), 'a.html', n), markup).toEqual(once(n));
    }),
    { numRuns: 400 },
  );
}, 120_000);
