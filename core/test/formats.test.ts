import { beforeAll, describe, expect, it } from 'vitest';
import { htmlToOdt, OdtDocument } from 'odf-kit';
import htmlToRtf from 'html-to-rtf';
import JsRtf from 'jsrtf';
import { makeEbook, makePrint } from '@pagina/make';
import { schema, type Book } from '../src/book';
import { formatOf, readManuscript, wordsOfSection, type Intake } from '../src/intake';
import { openNovel } from '../../bench/open-novel';
import { book, prose, section, threeChapters } from './fixtures/books';
import { png, styledManuscript } from './fixtures/manuscript';
import { oldDocument } from './fixtures/old-doc';

const utf8 = (t: string): Uint8Array => new TextEncoder().encode(t);
async function read(bytes: Uint8Array, name = ''): Promise<Intake> {
  const r = await readManuscript(bytes, name);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
const refusal = async (bytes: Uint8Array, name: string): Promise<string> => {
  const r = await readManuscript(bytes, name);
  return r.ok ? '' : r.refusal.code;
};
/** Words in = words kept + words set aside. */
function expectAccounted(i: Intake): void {
  expect(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0)).toBe(i.wordsIn);
}
const told = (i: Intake): [string, string][] => i.book.sections.map((s) => [s.kind, s.title]);
const blocks = (i: Intake, at = 0): string[] => {
  const out: string[] = [];
  i.book.sections[at]!.content.forEach((n) => void out.push(n.type.name));
  return out;
};
/** Text of a section with its marks written as tags: "plain <em>so</em>". */
function marked(i: Intake, at = 0): string {
  let out = '';
  i.book.sections[at]!.content.descendants((n) => {
    if (n.isText) out += n.marks.reduceRight((t, m) => `<${m.type.name}>${t}</>`, n.text as string);
    else if (n.type.name === 'note') out += '[note]';
    return true;
  });
  return out;
}

describe('the kind of a manuscript', () => {
  it.each([
    ['a.rtf', '{\\rtf1 x}', 'rtf'],
    ['a.txt', '{\\rtf1 x}', 'rtf'],
    ['a', '%PDF-1.7', 'pdf'],
    ['', '<!DOCTYPE html><p>x', 'html'],
    ['a.md', 'text', 'markdown'],
    ['', '# The Boat\n\ntext', 'markdown'],
    ['a.txt', '# not a heading here', 'text'],
    ['a.bin', 'just words', 'text'],
  ])('of %j beginning %j is %s', (name, head, format) => {
    expect(formatOf(utf8(head), name)).toBe(format);
  });
  it('is told by bytes, whatever the name says', async () => {
    expect(formatOf(await styledManuscript(), 'a.odt')).toBe('docx');
    expect(formatOf(oldDocument(['x']), 'a.docx')).toBe('doc');
  });
  it.each([
    ['a.docx', 'intake/not-docx'],
    ['a.odt', 'intake/damaged'],
    ['a.rtf', 'intake/damaged'],
    ['a.doc', 'intake/damaged'],
    ['a.epub', 'epub/not-zip'],
    ['a.pdf', 'intake/damaged'],
  ])('%s with other bytes is refused', async (name, code) => {
    expect(await refusal(utf8('words and no more'), name)).toBe(code);
  });
  it('that no text can have is refused', async () => {
    expect(
      await refusal(
        Uint8Array.from({ length: 4000 }, (_, n) => n % 9),
        'a.txt',
      ),
    ).toBe('intake/binary');
    expect(await refusal(new Uint8Array(0), 'a.txt')).toBe('intake/empty');
  });
});

describe('HTML', () => {
  it('keeps what text is and leaves out what it is not', async () => {
    const i = await read(
      utf8(`<!doctype html><title>Saltings</title><style>.sc{font-variant:small-caps} p.c{text-align:center}</style>
        <h1>Chapter One<br>The Boat</h1>
        <p style="color:red">Plain <i>it</i> <b>bo</b> <span class="sc">caps</span> H<sub>2</sub>O <s>out</s> <a href="https://example.org/a">link</a>.</p>
        <script>alert('no')</script><p style="display:none">hidden</p>
        <ul><li>one<ul><li>deeper</li></ul></li><li>two</li></ul>
        <blockquote><p>Quoted.</p></blockquote><hr><pre>  keep   this</pre>
        <table><tr><td>a</td><td>b</td></tr></table>
        <h2>A subhead</h2><p class="c">End.</p>
        <h1>Chapter Two</h1><p>More.</p>`),
    );
    expect(told(i)).toEqual([
      ['chapter', 'The Boat'],
      ['chapter', ''],
    ]);
    expect(i.book.record.title).toBe('Saltings');
    expect(blocks(i)).toEqual([
      'paragraph',
      'list',
      'quotation',
      'break',
      'monospace',
      'table',
      'subhead',
      'passage',
    ]);
    expect(marked(i)).toContain(
      'Plain <emphasis>it</> <strong>bo</> <smallCaps>caps</> H<sub>2</>O <strike>out</> <link>link</>.',
    );
    expect(marked(i)).not.toMatch(/alert|hidden/);
    expectAccounted(i);
  });
  it('finds notes by what they say they are, and by links that lead back', async () => {
    for (const html of [
      '<p>Text<a epub:type="noteref" href="#n">1</a>.</p><aside epub:type="footnote" id="n"><p>The note.</p></aside>',
      '<p>Text<sup><a id="r1" href="#f1">1</a></sup>.</p><ol><li id="f1"><p>The note. <a href="#r1">↩</a></p></li></ol>',
      '<p>Text<a name="_ref1" href="#_fn1">[1]</a>.</p><div><p><a name="_fn1" href="#_ref1">[1]</a> The note.</p></div>',
    ]) {
      const i = await read(utf8(`<html><h1>A</h1>${html}<h1>B</h1><p>x</p></html>`));
      expect(blocks(i)).toEqual(['paragraph', 'noteBody']);
      expect(i.book.sections[0]!.content.lastChild!.textContent.trim()).toBe('The note.');
    }
  });
  it('takes a chapter that a numbered link leads to for no note', async () => {
    const i = await read(
      utf8(
        '<html><p>See <a id="r" href="#c">2</a>.</p><div id="c"><h1>The Tide</h1><p>It came. <a href="#r">back</a></p></div></html>',
      ),
    );
    expect(told(i).map(([, t]) => t)).toContain('The Tide');
    expect(i.book.sections.map((s) => s.content.textContent).join(' ')).toContain('It came.');
    expectAccounted(i);
  });
  it('takes pictures from data addresses and fetches none', async () => {
    const data = Buffer.from(png(30, 20)).toString('base64');
    const i = await read(
      utf8(
        `<html><p>x</p><img src="data:image/png;base64,${data}" alt="A boat"><img src="http://127.0.0.1:9/a.png"></html>`,
      ),
    );
    expect(i.book.pictures.map((p) => [p.width, p.height])).toEqual([[30, 20]]);
    expect(i.findings.map((f) => f.rule)).toContain('intake/external-picture');
  });
  it('pasted from a word processor is read by its styles', async () => {
    const i = await read(
      utf8(`<html><body><!--StartFragment--><p class=MsoToc1>One 3</p><p class="MsoHeading1">Chapter One</p>
        <p class=MsoNormal style='text-indent:.25in'><i style='mso-bidi-font-style:normal'>Now</i> and&nbsp;<span style='mso-spacerun:yes'>  </span>then.<o:p></o:p></p>
        <p class=MsoNormal>&nbsp;</p><p class=MsoQuote>Said.</p><!--EndFragment--></body></html>`),
    );
    expect(blocks(i, i.book.sections.length - 1)).toEqual(['paragraph', 'quotation']);
    expectAccounted(i);
  });
  it('that is broken is read as a browser reads it', async () => {
    const i = await read(utf8('<html><p>One <b>two<p>three</b> <<< &amp; four'));
    expect(marked(i).replace(/<\/?\w*>/g, '')).toMatch(/One\s+two.*three.*<<< & four/s);
    expectAccounted(i);
  });
});

describe('Markdown', () => {
  it('comes in with its headings, notes, lists and emphasis (CommonMark 0.31)', async () => {
    const i = await read(
      utf8(
        '---\ntitle: "Saltings"\nauthor: Ada Marsh\n---\n\n# The Boat\n\nText *here*[^1] and **there**.\n\n## Sub\n\n1. a\n2. b\n\n> Quote\n\n---\n\n| a | b |\n|---|---|\n| c | d |\n\n# Second\n\nEnd.\n\n[^1]: A note.\n',
      ),
      'a.md',
    );
    expect(told(i)).toEqual([
      ['chapter', 'The Boat'],
      ['chapter', 'Second'],
    ]);
    expect([i.book.record.title, i.book.record.contributors[0]?.name]).toEqual(['Saltings', 'Ada Marsh']);
    expect(blocks(i)).toEqual(['paragraph', 'subhead', 'list', 'quotation', 'break', 'table', 'noteBody']);
    expect(marked(i)).toContain('Text <emphasis>here</>[note] and <strong>there</>.');
    expectAccounted(i);
  });
});

describe('plain text', () => {
  const lines = (t: string, width: number): string => {
    const out: string[] = [''];
    for (const w of t.split(' '))
      if ((out.at(-1) as string).length + w.length < width) out[out.length - 1] += ` ${w}`;
      else out.push(w);
    return out.map((l) => l.trim()).join('\n');
  };
  it('with a line a paragraph, and wrapped with blank lines between, is the same book', async () => {
    const [a, b, c] = [prose(60, 1), prose(80, 2), prose(70, 3)] as [string, string, string];
    const flat = await read(utf8(`CHAPTER ONE\n\n${a}\n\n${b}\n\n\nCHAPTER TWO\n\n${c}\n`), 'a.txt');
    const wrapped = await read(
      utf8(`CHAPTER ONE\n\n${lines(a, 66)}\n\n${lines(b, 66)}\n\n\nCHAPTER TWO\n\n${lines(c, 66)}\n`),
      'a.txt',
    );
    expect(flat.book.sections.map((s) => s.content.textContent)).toEqual([a + b, c]);
    expect(wrapped.book.sections.map((s) => s.content.textContent)).toEqual([a + b, c]);
    expectAccounted(wrapped);
  });
  it('is decoded by its bytes', async () => {
    const texts = [
      utf8('Señor — naïve'),
      new Uint8Array([0xff, 0xfe, ...Buffer.from('Señor — naïve', 'utf16le')]),
      Uint8Array.from([...'Señor \u0097 naïve'].map((c) => c.charCodeAt(0))),
    ];
    for (const t of texts)
      expect((await read(t, 'a.txt')).book.sections[0]!.content.textContent).toBe('Señor — naïve');
  });
  it('keeps typed emphasis and form feeds', async () => {
    const i = await read(utf8('Part One\f\nIt was _so_ and some_snake_name.'), 'a.txt');
    expect(marked(i, i.book.sections.length - 1)).toBe('It was <emphasis>so</> and some_snake_name.');
  });
});

describe('EPUB', () => {
  let novel: Book;
  beforeAll(() => void (novel = openNovel()));
  const epubOf = async (b: Book, pictures = new Map<string, Uint8Array>()): Promise<Uint8Array> => {
    const id = b.editions.find((e) => e.form === 'reflow')!.id;
    const made = await makeEbook(b, id, { pictures: (p) => pictures.get(p) ?? null, print: null });
    if (!made.ok) throw new Error(made.refusal.message);
    return made.value.bytes;
  };
  it('of the open novel is the novel again, chapter by chapter and word by word', async () => {
    const i = await read(await epubOf(novel), 'novel.epub');
    // The book calls its last section a chapter; its words say better.
    const kinds = novel.sections.map((s) => [s.title === 'Epilogue' ? 'epilogue' : s.kind, s.title]);
    expect(told(i)).toEqual(kinds);
    expect(i.book.sections.map((s) => s.content.textContent)).toEqual(
      novel.sections.map((s) => s.content.textContent),
    );
    expectAccounted(i);
  }, 60_000);
  it('gives pages that are the chapters again when they are read as HTML', async () => {
    const { unzipSync } = await import('fflate');
    const pages = Object.entries(unzipSync(await epubOf(novel))).filter(([n]) => /text\/s\d+/.test(n));
    expect(pages.length).toBe(novel.sections.length);
    for (const [k, [, page]] of pages.slice(0, 20).entries()) {
      const i = await read(page, 'chapter.html');
      expect(told(i)).toEqual([['chapter', novel.sections[k]!.title]]);
      expect(i.book.sections[0]!.content.textContent).toBe(novel.sections[k]!.content.textContent);
    }
  });
  it('keeps kinds, blocks, marks, notes and pictures', async () => {
    const em = schema.marks.emphasis!.create();
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'a' }, [
        schema.text('One '),
        schema.text('two', [em]),
        schema.node('note', { ref: 'n' }),
      ]),
      schema.node('subhead', { id: 'b', level: 1 }, [schema.text('Under')]),
      schema.node('verse', { id: 'v' }, [
        schema.node(
          'stanza',
          { id: 's1' },
          ['l1', 'l2'].map((id) => schema.node('verseLine', { id }, [schema.text(`Line ${id}`)])),
        ),
        schema.node('stanza', { id: 's2' }, [
          schema.node('verseLine', { id: 'l3', indent: 1 }, [schema.text('Line three')]),
        ]),
      ]),
      schema.node('letter', { id: 'e' }, [
        schema.node('paragraph', { id: 'e1' }, [schema.text('Dear all,')]),
      ]),
      schema.node('quotation', { id: 'q' }, [
        schema.node('paragraph', { id: 'q1' }, [schema.text('Said so.')]),
      ]),
      schema.node('figure', { id: 'f', picture: 'map', alt: 'A map' }, [schema.text('The flats')]),
      schema.node('break', { id: 'k', ornament: true }),
      schema.node('paragraph', { id: 'z' }, [schema.text('End.')]),
      schema.node('noteBody', { id: 'n' }, [
        schema.node('paragraph', { id: 'np' }, [schema.text('A note.')]),
      ]),
    ]);
    const b = book(
      [
        section('d', 'dedication', ['For all of them.']),
        section('p', 'part', [], { title: 'Ebb' }),
        { ...section('c', 'chapter', [], { title: 'The Boat', parent: 'p' }), content },
        section('e', 'epilogue', ['After.'], { title: 'Epilogue' }),
        section('k', 'acknowledgements', ['Thanks.'], { title: 'Acknowledgements' }),
      ],
      { pictures: [{ id: 'map', name: '', type: 'image/png', width: 30, height: 20 }] },
    );
    const i = await read(await epubOf(b, new Map([['map', png(30, 20)]])), 'a.epub');
    expect(told(i)).toEqual([
      ['dedication', ''],
      ['part', 'Ebb'],
      ['chapter', 'The Boat'],
      ['epilogue', 'Epilogue'],
      ['acknowledgements', 'Acknowledgements'],
    ]);
    expect(blocks(i, 2)).toEqual([
      'paragraph',
      'subhead',
      'verse',
      'letter',
      'quotation',
      'figure',
      'break',
      'paragraph',
      'noteBody',
    ]);
    const chapter = i.book.sections[2]!.content;
    const verse = chapter.child(2);
    expect([verse.childCount, verse.child(1).firstChild!.attrs.indent]).toEqual([2, 1]);
    expect(chapter.child(5).attrs).toMatchObject({ alt: 'A map' });
    expect(chapter.child(5).textContent).toBe('The flats');
    expect(marked(i, 2)).toContain('One <emphasis>two</>[note]');
    expect(chapter.lastChild!.textContent).toBe('A note.');
    expect(i.book.sections[2]!.parent).toBe(i.book.sections[1]!.id);
    expectAccounted(i);
  });
});

describe('OpenDocument text, made by odf-kit', () => {
  it('keeps headings, emphasis, lists, tables, pictures and page breaks', async () => {
    const doc = new OdtDocument();
    doc.addHeading('Chapter One: The Boat', 1);
    doc.addParagraph((p) => {
      p.addText('Plain ');
      p.addText('it', { italic: true });
      p.addText(' and ');
      p.addText('bo', { bold: true });
    });
    doc.addHeading('A subhead', 2);
    doc.addList(['one', 'two'], { type: 'numbered' });
    doc.addImage(png(40, 30), { width: '4cm', height: '3cm', mimeType: 'image/png' });
    doc.addTable([
      ['a', 'b'],
      ['c', 'd'],
    ]);
    doc.addPageBreak();
    doc.addHeading('Chapter Two', 1);
    doc.addParagraph('More.');
    const i = await read(await doc.save(), 'a.odt');
    expect(told(i)).toEqual([
      ['chapter', 'The Boat'],
      ['chapter', ''],
    ]);
    expect(blocks(i)).toEqual(['paragraph', 'subhead', 'list', 'figure', 'table']);
    expect(marked(i)).toContain('Plain <emphasis>it</> and <strong>bo</>');
    expect(i.book.sections[0]!.content.child(2).attrs.ordered).toBe(true);
    expectAccounted(i);
  });
  it('of a long text loses no word', async () => {
    const html = Array.from(
      { length: 12 },
      (_, n) =>
        `<h1>Chapter ${n + 1}</h1>${[1, 2, 3].map((k) => `<p>${prose(200, n * 3 + k)}</p>`).join('')}`,
    );
    const i = await read(await htmlToOdt(html.join('')), 'a.odt');
    expect(i.book.sections.length).toBe(12);
    expect(i.book.sections.map(wordsOfSection)).toEqual(Array(12).fill(600));
    expectAccounted(i);
  });
});

describe('Rich Text', () => {
  it('made by html-to-rtf keeps words, emphasis and breaks', async () => {
    const rtf = htmlToRtf.convertHtmlToRtf(
      `<p><b>Chapter One</b></p><p>Plain <i>it</i> and <b>bo</b>.</p><p>${prose(40)}</p>`,
    );
    const i = await read(Buffer.from(rtf as string, 'latin1'), 'a.rtf');
    expect(i.book.sections.at(-1)!.content.textContent).toContain(prose(40));
    expect(marked(i, i.book.sections.length - 1)).toContain('<emphasis>it</>');
    expectAccounted(i);
  });
  it('made by jsrtf keeps accents', async () => {
    const doc = new JsRtf();
    doc.writeText('Señor naïve «so»', new JsRtf.Format({ paragraph: true }));
    const i = await read(Buffer.from(doc.createDocument(), 'latin1'), 'a.rtf');
    expect(i.book.sections[0]!.content.textContent).toContain('Señor naïve «so»');
  });
  it('keeps merged cells and heads of tables, whether they are said in words or by the edges of cells', async () => {
    const rtf = String.raw`{\rtf1 Before the table stands this line.\par
\trowd\trhdr\cellx3000\cellx6000\cellx9000 \pard\intbl Net\cell Yards\cell Loft\cell\row
\trowd\clvmgf\cellx3000\cellx6000\cellx9000 \pard\intbl Drift\cell 90\cell A\cell\row
\trowd\clvmrg\cellx3000\cellx9000 \pard\intbl\cell 80, and in two lofts\cell\row
\trowd\clmgf\cellx3000\clmrg\cellx6000\cellx9000 \pard\intbl All\cell\cell 170\cell\row
\pard After it stands this one.\par}`;
    const i = await read(Buffer.from(rtf, 'latin1'), 'nets.rtf');
    const rows: string[][] = [];
    i.book.sections[0]!.content.descendants((n) => {
      if (n.type.name === 'row') rows.push([]);
      if (n.type.name === 'cell')
        rows
          .at(-1)!
          .push(`${n.textContent} ${n.attrs.colspan}x${n.attrs.rowspan}${n.attrs.head ? ' head' : ''}`);
    });
    expect(rows).toEqual([
      ['Net 1x1 head', 'Yards 1x1 head', 'Loft 1x1 head'],
      ['Drift 1x2', '90 1x1', 'A 1x1'],
      ['80, and in two lofts 2x1'],
      ['All 2x1', '170 1x1'],
    ]);
    expect(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0)).toBe(i.wordsIn);
  });
  it('written by hand to the specification keeps styles, notes, links, pictures and tables', async () => {
    const hex = Buffer.from(png(8, 8)).toString('hex');
    const rtf = String.raw`{\rtf1\ansi\ansicpg1252\deff0{\fonttbl{\f0\froman Times;}{\f1\fmodern Courier New;}{\f2\fcharset204 Times Cyr;}}
{\stylesheet{\s0 Normal;}{\s1\outlinelevel0\b\qc heading 1;}{\s2 Quotation;}}
{\info{\title Saltings}{\author Ada Marsh}}
{\header Saltings\par}
\pard\s1\b\qc Chapter One\par
\pard\s0\plain Plain {\i it} and {\b bo}, caf\'e9, \u8220?so\u8221?, {\f2 \'cf\'f0}{\footnote \pard\plain {\super\chftn} A note.}.{\*\unknown words}\par
{\field{\*\fldinst HYPERLINK "https://example.org/"}{\fldrslt a link}} {\v hidden}{\deleted gone} {\f1 code}\line next\par
\pard\s2 Quoted.\par
\pard{\pict\pngblip ${hex}}\par
\trowd\pard\intbl a\cell b\cell\row\pard
\page\pard\s1 Chapter Two\par\pard\plain More.\par}`;
    const i = await read(Buffer.from(rtf, 'latin1'), 'a.rtf');
    expect(told(i)).toEqual([
      ['chapter', ''],
      ['chapter', ''],
    ]);
    expect([i.book.record.title, i.book.record.contributors[0]?.name]).toEqual(['Saltings', 'Ada Marsh']);
    expect(blocks(i)).toEqual(['paragraph', 'paragraph', 'quotation', 'figure', 'table', 'noteBody']);
    expect(marked(i)).toContain('Plain <emphasis>it</> and <strong>bo</>, café, “so”, Пр[note].');
    expect(marked(i)).toContain('<link>a link</>');
    expect(marked(i)).toContain('<monospaced>code</>');
    expect(marked(i)).not.toMatch(/hidden|gone|words|Saltings/);
    expectAccounted(i);
  });
  it('leads links to its bookmarks to places of the book', async () => {
    // \bkmkstart and the switch \l of HYPERLINK: Rich Text specification 1.9.1, "Bookmarks" and "Fields".
    const rtf = String.raw`{\rtf1\ansi{\stylesheet{\s1\outlinelevel0 heading 1;}}
\pard\s1 {\*\bkmkstart first}Chapter One{\*\bkmkend first}\par
\pard\plain See {\field{\*\fldinst HYPERLINK \\l "rope"}{\fldrslt the rope}}, {\field{\*\fldinst HYPERLINK \\l "gone"}{\fldrslt nothing}}.\par
\pard\s1 Chapter Two\par
\pard\plain {\*\bkmkstart rope}{\*\bkmkend rope}The rope, as in {\field{\*\fldinst HYPERLINK \\l "first"}{\fldrslt the first}}.\par}`;
    const i = await read(Buffer.from(rtf, 'latin1'), 'a.rtf');
    const [one, two] = i.book.sections;
    const links = [one!, two!].map((s) => {
      const found: [string, unknown][] = [];
      s.content.descendants((n) => {
        for (const mark of n.marks) if (mark.type.name === 'link') found.push([n.text!, mark.attrs.target]);
      });
      return found;
    });
    const rope = two!.content.firstChild!.attrs.id as string;
    expect(links).toEqual([[['the rope', `${two!.id}#${rope}`]], [['the first', one!.id]]]);
    expectAccounted(i);
  });
  it.each([
    ['in a note', '{\\rtf1 Before.\\par Text{\\footnote A note cut', ['Before.', 'Text', 'A note cut']],
    ['in a row', '{\\rtf1 Before.\\par\\trowd\\intbl one\\cell two\\cell', ['Before.', 'one', 'two']],
  ])('that is cut short %s loses nothing that came before', async (_, rtf, words) => {
    const i = await read(utf8(rtf), 'a.rtf');
    const text = i.book.sections.map((s) => s.content.textContent).join(' ');
    for (const w of words) expect(text).toContain(w);
    expectAccounted(i);
  });
  it('that is cut short gives what there is', async () => {
    const i = await read(utf8('{\\rtf1\\ansi Words {\\i and mo'), 'a.rtf');
    expect(i.book.sections[0]!.content.textContent).toBe('Words and mo');
  });
});

describe('the old binary form', () => {
  it('gives its words and notes, and tells what is lost', async () => {
    const i = await read(
      oldDocument(['CHAPTER ONE', '', prose(40, 1), 'CHAPTER TWO', '', prose(30, 2)], ['A note.']),
      'a.doc',
    );
    expect(told(i).map(([k]) => k)).toEqual(['chapter', 'chapter', 'notes']);
    expect(i.book.sections[0]!.content.textContent).toBe(prose(40, 1));
    expect(i.book.sections[2]!.content.textContent).toContain('A note.');
    expect(i.findings.map((f) => f.rule)).toContain('intake/old-doc');
    expectAccounted(i);
  });
});

describe('the PDF of an earlier printing', () => {
  it('gives the open novel back: hyphens undone, heads and folios left out', async () => {
    const novel = openNovel();
    const b: Book = { ...novel, sections: novel.sections.slice(0, 12) };
    const made = await makePrint(b, 'paperback', { pictures: () => null });
    if (!made.ok) throw new Error(made.refusal.message);
    const i = await read(made.value.bytes, 'novel.pdf');
    expect(told(i)).toEqual(b.sections.map((s) => [s.kind, s.title]));
    const letters = (t: string): string => t.normalize('NFKC').replace(/\s+/g, '').toLowerCase();
    const [got, wanted] = [i, { book: b }].map((x) =>
      x.book.sections.map((s) => letters(s.content.textContent)),
    );
    // A hyphen at a line's end that was the author's cannot be told from one that was not.
    const same = wanted!.map((w, n) => w.replace(/-/g, '') === got![n]!.replace(/-/g, ''));
    expect(same).toEqual(Array(12).fill(true));
    const words = b.sections.reduce((n, s) => n + wordsOfSection(s), 0);
    expect(Math.abs(i.wordsOut - words) / words).toBeLessThan(0.002);
    expect(i.findings.map((f) => f.rule)).toContain('intake/from-pdf');
    expectAccounted(i);
  }, 60_000);
  it('with a drop cap, a contents page and front matter is a book again', async () => {
    const b = threeChapters();
    const made = await makePrint(b, 'paperback', { pictures: () => null });
    if (!made.ok) throw new Error(made.refusal.message);
    const i = await read(made.value.bytes, 'a.pdf');
    expect(told(i).filter(([k]) => k === 'chapter').length).toBe(2);
    expectAccounted(i);
  });
});
