/**
 * Formulas of word files and of web pages come in as a line of signs with the formula beside it. The word files are
 * written by the docx library, whose formulas are those of ECMA-376 part 1, §22.1; the terms of a formula are known from how it was written.
 */
import {
  Document,
  Math as Formula,
  MathFraction,
  MathFunction,
  MathIntegral,
  MathLimitLower,
  MathPreSubSuperScript,
  MathRadical,
  MathRoundBrackets,
  MathRun,
  MathSubScript,
  MathSubSuperScript,
  MathSum,
  MathSuperScript,
  Packer,
  Paragraph,
  TextRun,
  type MathComponent,
} from 'docx';
import { unzipSync, strFromU8, strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { firstOf, parseXml, type XmlNode } from '@pagina/core/base';
import { schema } from '@pagina/core/book';
import { readManuscript, type Intake } from '@pagina/core/intake';
import { makeEbook } from '@pagina/make';
import { prose } from '../../core/test/fixtures/books';

const run = (text: string): MathComponent => new MathRun(text);

/** Formulas as they are written; the line that a reader of mathematics would type for each; elements of its MathML. */
const CASES: [name: string, formula: MathComponent[], line: string, mathml: RegExp][] = [
  ['a sum', [run('a+b=c')], 'a + b = c', /<mi>a<\/mi><mo>\+<\/mo><mi>b<\/mi><mo>=<\/mo><mi>c<\/mi>/],
  [
    'a fraction',
    [run('y='), new MathFraction({ numerator: [run('a+b')], denominator: [run('2c')] })],
    'y = (a + b)/(2c)',
    /<mfrac><mrow><mi>a<\/mi><mo>\+<\/mo><mi>b<\/mi><\/mrow><mrow><mn>2<\/mn><mi>c<\/mi><\/mrow><\/mfrac>/,
  ],
  [
    'a plain fraction',
    [new MathFraction({ numerator: [run('1')], denominator: [run('x')] })],
    '1/x',
    /<mfrac><mn>1<\/mn><mi>x<\/mi><\/mfrac>/,
  ],
  [
    'a power',
    [run('E=m'), new MathSuperScript({ children: [run('c')], superScript: [run('2')] })],
    'E = mc^2',
    /<msup><mi>c<\/mi><mn>2<\/mn><\/msup>/,
  ],
  [
    'an index',
    [new MathSubScript({ children: [run('x')], subScript: [run('i')] })],
    'x_i',
    /<msub><mi>x<\/mi><mi>i<\/mi><\/msub>/,
  ],
  [
    'an index and a power',
    [new MathSubSuperScript({ children: [run('x')], subScript: [run('1')], superScript: [run('2')] })],
    'x_1^2',
    /<msubsup><mi>x<\/mi><mn>1<\/mn><mn>2<\/mn><\/msubsup>/,
  ],
  [
    'what stands before a letter',
    [new MathPreSubSuperScript({ children: [run('C')], subScript: [run('6')], superScript: [run('14')] })],
    '_6^14C',
    /<mmultiscripts><mi>C<\/mi><mprescripts\/><mn>6<\/mn><mn>14<\/mn><\/mmultiscripts>/,
  ],
  [
    'a square root',
    [new MathRadical({ children: [run('x+1')] })],
    '√(x + 1)',
    /<msqrt><mrow><mi>x<\/mi><mo>\+<\/mo><mn>1<\/mn><\/mrow><\/msqrt>/,
  ],
  [
    'a cube root',
    [new MathRadical({ children: [run('x')], degree: [run('3')] })],
    '^3√x',
    /<mroot><mi>x<\/mi><mn>3<\/mn><\/mroot>/,
  ],
  [
    'a sum over a range',
    [new MathSum({ children: [run('i')], subScript: [run('i=1')], superScript: [run('n')] })],
    '∑_i=1^n i',
    /<mo>∑<\/mo><mrow><mi>i<\/mi><mo>=<\/mo><mn>1<\/mn><\/mrow><mi>n<\/mi>/,
  ],
  [
    'an integral',
    [new MathIntegral({ children: [run('f')], subScript: [run('0')], superScript: [run('1')] })],
    '∫_0^1 f',
    /<msubsup><mo>∫<\/mo><mn>0<\/mn><mn>1<\/mn><\/msubsup>/,
  ],
  [
    'brackets',
    [run('2'), new MathRoundBrackets({ children: [run('a-b')] })],
    '2(a − b)',
    /<mo fence="true">\(<\/mo>/,
  ],
  [
    'a function',
    [new MathFunction({ name: [run('sin')], children: [run('x')] })],
    'sin x',
    /<mo>\u2061<\/mo><mi>x<\/mi>/,
  ],
  ['a function without its own form', [run('2ln'), run('n')], '2 ln n', /<mi>ln<\/mi><mi>n<\/mi>/],
  ['a limit', [new MathLimitLower({ children: [run('lim')], limit: [run('n→∞')] })], 'lim_n→∞', /<munder>/],
];

const packed = (formulas: MathComponent[][]): Promise<Buffer> =>
  Packer.toBuffer(
    new Document({
      sections: [
        { children: formulas.map((children) => new Paragraph({ children: [new Formula({ children })] })) },
      ],
    }),
  );
async function wordFile(blocks: Paragraph[]): Promise<Intake> {
  const bytes = await Packer.toBuffer(new Document({ sections: [{ children: blocks }] }));
  return read(bytes, 'formulas.docx');
}
async function read(bytes: Uint8Array, name: string): Promise<Intake> {
  const r = await readManuscript(bytes, name);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
interface Found {
  line: string;
  mathml: string;
  around: string;
}
/** Formulas of a book: their signs, raised ones behind ^ and lowered ones behind _, and what the paragraph says. */
function formulasOf({ book }: Intake): Found[] {
  const found: Found[] = [];
  let last = '';
  for (const s of book.sections)
    s.content.descendants((block) => {
      let open: Found | null = null;
      block.forEach((n) => {
        const mark = n.marks.find((m) => m.type.name === 'formula');
        if (!mark) return void (open = null);
        if (!open || open.mathml !== mark.attrs.mathml) {
          open = { line: '', mathml: mark.attrs.mathml as string, around: block.textContent };
          found.push(open);
        }
        const has = (name: string): boolean => n.marks.some((m) => m.type.name === name);
        const script = has('super') ? '^' : has('sub') ? '_' : '';
        open.line += `${script === last && open.line !== '' ? '' : script}${n.text}`;
        last = script;
      });
      return !block.isTextblock;
    });
  return found;
}
const balanced = (i: Intake): void => {
  expect(i.setAside.filter((s) => s.rule === 'not-carried-over').map((s) => s.text)).toEqual([]);
  expect(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0)).toBe(i.wordsIn);
};

describe('formulas', () => {
  it.each(CASES)('%s', async (_, formula, line, mathml) => {
    const i = await wordFile([
      new Paragraph(prose(40, 1)),
      new Paragraph({
        children: [
          new TextRun('It follows that '),
          new Formula({ children: formula }),
          new TextRun(' holds.'),
        ],
      }),
      new Paragraph(prose(40, 2)),
    ]);
    const [found, ...more] = formulasOf(i);
    expect(more).toEqual([]);
    expect(found?.line).toBe(line);
    expect(found?.mathml).toMatch(mathml);
    expect(found?.around).toMatch(/^It follows that .* holds\.$/);
    balanced(i);
  });

  it.each(CASES)('%s, in Rich Text', async (_, formula, line, mathml) => {
    const wide = (text: string): string =>
      text.replace(/[^\0-~]/gu, (c) => [...c].map((u) => `\\u${u.charCodeAt(0)}?`).join(''));
    /** Groups of the specification, written from the OMML of the docx library: an `m` before each element, values as text. */
    const rtf = (n: XmlNode): string => {
      if (typeof n === 'string') return wide(n);
      const val = Object.entries(n.attrs).find(([k]) => k.endsWith(':val'))?.[1] ?? '';
      if (n.name === 't') return `{\\rtlch\\fcs1 \\af31507 ${n.children.map(rtf).join('')}}`;
      const star = /Pr$/.test(n.name) ? '\\*' : '';
      return `{${star}\\m${n.name} ${wide(val)}${n.children.map(rtf).join('')}}`;
    };
    const { 'word/document.xml': xml } = unzipSync(await packed([formula]));
    const omath = firstOf(parseXml(strFromU8(xml!)).root!, 'oMath')!;
    const file = `{\\rtf1\\ansi{\\mmathPr{\\mmathFont\\f34}}\\pard It follows that {\\mmath{\\*\\moMath${omath.children.map(rtf).join('')}}} holds.\\par ${prose(40, 2)}\\par}`;
    const i = await read(strToU8(file), 'formulas.rtf');
    const [found, ...more] = formulasOf(i);
    expect(more).toEqual([]);
    expect(found?.line).toBe(line);
    expect(found?.mathml).toMatch(mathml);
    expect(found?.around).toMatch(/^It follows that .* holds\.$/);
    balanced(i);
  });

  it('of an OpenDocument text come in from their own parts, with those in tables, notes and on a line to themselves', async () => {
    const frame = (n: number): string =>
      `<draw:frame><draw:object xlink:href="./Object ${n}" xlink:type="simple"/><draw:image xlink:href="./ObjectReplacements/Object ${n}"/></draw:frame>`;
    const body = `<text:p>It follows that ${frame(1)} holds. ${prose(40, 1)}</text:p>
      <text:p>${frame(2)}</text:p>
      <text:p>Noted<text:note text:note-class="footnote"><text:note-citation>1</text:note-citation><text:note-body><text:p>Since ${frame(3)} it is.</text:p></text:note-body></text:note> here. ${prose(40, 2)}</text:p>
      <table:table><table:table-row><table:table-cell><text:p>${frame(4)}</text:p></table:table-cell><table:table-cell><text:p>A cell</text:p></table:table-cell></table:table-row></table:table>
      <text:p>Written in place <draw:frame><draw:object><math:math><math:msup><math:mi>q</math:mi><math:mn>5</math:mn></math:msup></math:math></draw:object></draw:frame> as well. ${prose(40, 3)}</text:p>`;
    const formula = (signs: string): string =>
      `<?xml version="1.0"?><math xmlns="http://www.w3.org/1998/Math/MathML"><semantics><mrow>${signs}</mrow><annotation encoding="StarMath 5.0">{a} over {b}</annotation></semantics></math>`;
    const i = await read(
      zipSync({
        mimetype: strToU8('application/vnd.oasis.opendocument.text'),
        'content.xml': strToU8(
          `<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:math="http://www.w3.org/1998/Math/MathML"><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
        ),
        'Object 1/content.xml': strToU8(formula('<mfrac><mi>a</mi><mi>b</mi></mfrac>')),
        'Object 2/content.xml': strToU8(formula('<mi>E</mi><mo>=</mo><msup><mi>c</mi><mn>2</mn></msup>')),
        'Object 3/content.xml': strToU8(formula('<msqrt><mi>z</mi></msqrt>')),
        'Object 4/content.xml': strToU8(formula('<msub><mi>x</mi><mi>i</mi></msub>')),
      }),
      'formulas.odt',
    );
    expect(formulasOf(i).map((f) => f.line)).toEqual(['a/b', 'E = c^2', 'x_i', 'q^5', '√z']);
    balanced(i);
    expect(await pageWith(i, 'It follows that')).toContain('<mfrac><mi>a</mi><mi>b</mi></mfrac>');
  });

  it('of a line to themselves come in too, each of them, and are displayed in the ebook', async () => {
    const i = await wordFile([
      new Paragraph(`Before it stands this. ${prose(40, 1)}`),
      new Paragraph({ children: [new Formula({ children: CASES[1]![1] })] }),
      new Paragraph(`After it stands this. ${prose(40, 2)}`),
    ]);
    expect(formulasOf(i).map((f) => f.around)).toEqual(['y = (a + b)/(2c)']);
    expect(i.findings.find((f) => f.rule === 'intake/formulas')?.message).toContain(
      '1 formula has fractions',
    );
    balanced(i);
    const page = await pageWith(i, 'Before it stands this');
    expect(page.match(/<math[^>]* display="block"[^>]*>/g)).toHaveLength(1);
  });

  it('stand in ebooks as MathML, declared in the package, and as their signs where somebody changed them', async () => {
    const i = await wordFile([
      new Paragraph({
        children: [
          new TextRun('First '),
          new Formula({ children: CASES[1]![1] }),
          new TextRun(' and then '),
          new Formula({ children: CASES[3]![1] }),
          new TextRun(` again. ${prose(40, 1)}`),
        ],
      }),
    ]);
    const s = i.book.sections.find((x) => x.content.textContent.includes('First'))!;
    const json = JSON.stringify(s.content.toJSON()).replace('"text":"mc"', '"text":"Mc"');
    const changed: Intake = {
      ...i,
      book: {
        ...i.book,
        sections: i.book.sections.map((x) =>
          x === s ? { ...s, content: schema.nodeFromJSON(JSON.parse(json)) } : x,
        ),
      },
    };
    const page = await pageWith(changed, 'First');
    expect(page.match(/<math[ >]/g)).toHaveLength(1);
    expect(page).toContain('alttext="y = (a + b)/(2c)"');
    const opf = strFromU8(Object.entries(await partsOf(changed)).find(([n]) => n.endsWith('.opf'))![1]);
    expect(opf.match(/properties="mathml"/g)).toHaveLength(1);
  });

  it('of any shape lose no sign, and an ebook made of them is well-formed', async () => {
    const token = fc.record({
      tag: fc.constantFrom('mi', 'mn', 'mo', 'mtext', 'ms', 'mspace', 'unknown'),
      kids: fc.constant([] as Tree[]),
    });
    const { tree } = fc.letrec<{ tree: Tree }>((tie) => ({
      tree: fc.oneof(
        { depthSize: 'small', withCrossShrink: true },
        token,
        fc.record({
          tag: fc.constantFrom(
            ...'mrow mfrac msqrt mroot msup msub msubsup munder mover munderover mmultiscripts mfenced mstyle mtable semantics menclose'.split(
              ' ',
            ),
          ),
          kids: fc.array(tie('tree'), { maxLength: 4 }),
        }),
      ),
    }));
    await fc.assert(
      fc.asyncProperty(fc.array(tree, { minLength: 1, maxLength: 3 }), async (trees) => {
        let n = 0;
        const write = ({ tag, kids }: Tree): string =>
          `<${tag}>${kids.length === 0 && tag !== 'mspace' ? `w${n++}` : kids.map(write).join('')}</${tag}>`;
        const markup = trees.map(write).join('');
        const html = `<!doctype html><body><p>It follows that <math>${markup}</math> holds, so they say. ${prose(30, 1)}</p>`;
        const i = await read(strToU8(html), 'a.html');
        const line = formulasOf(i)[0]?.line ?? '';
        const aside = i.setAside.map((x) => x.text).join(' ');
        const seen = `${line} ${aside}`.match(/w\d+/g) ?? [];
        expect([...new Set(seen)].sort(), markup).toEqual(
          Array.from({ length: n }, (_, k) => `w${k}`).sort(),
        );
        const page = await pageWith(i, 'It follows that');
        expect(parseXml(page).fault, page).toBeNull();
      }),
      { numRuns: 150 },
    );
  }, 120_000);

  it.each([
    ['word', 'a.docx', 500],
    ['Rich Text', 'a.rtf', 500],
    ['OpenDocument', 'a.odt', 1_000],
    ['Rich Text', 'a.rtf', 30_000],
  ])(
    'nested far too deep in a %s file go to the account, and the rest is read: %s, %i',
    async (_, name, n) => {
      const i = await read(await nested(name, n), name);
      expect([i.wordsIn, i.wordsOut]).toEqual([6, 5]);
      expect(i.setAside.map((s) => s.text.trim())).toEqual(['x']);
    },
  );
  it.each(['a.docx', 'a.odt'])('nested without any end are no reason to wait: %s', async (name) => {
    const r = await readManuscript(await nested(name, 30_000), name);
    if (!r.ok) expect(r.refusal.message).toMatch(/^The file is damaged: [^.]*\.$/);
  });

  it('nested without end, or of hostile text, harm nothing', async () => {
    const deep = `<p>Deep ${'<math><mrow>'.repeat(1)}${'<mrow>'.repeat(400)}<mi>x</mi>${'</mrow>'.repeat(400)}</mrow></math> it was. ${prose(30, 1)}</p>`;
    const hostile = `<p>Here <math><mi onclick="alert(1)" href="javascript:alert(1)">x</mi><mtext>&lt;script&gt;"'&amp;</mtext><annotation-xml encoding="text/html"><script>alert(1)</script></annotation-xml></math> it is. ${prose(30, 2)}</p>`;
    const i = await read(strToU8(`<!doctype html><body>${deep}${hostile}`), 'a.html');
    const page = await pageWith(i, 'Here');
    expect(page).not.toMatch(/onclick|javascript|<script/);
    expect(page).toContain('&lt;script&gt;');
    expect(parseXml(page).fault).toBeNull();
  });
});

/** A file whose only formula is nested so many times. */
async function nested(name: string, n: number): Promise<Uint8Array> {
  if (name.endsWith('rtf'))
    return strToU8(
      `{\\rtf1 Before it words stand. {\\mmath{\\*\\moMath${'{\\mf{\\mnum '.repeat(n)}{\\mr x}${'}}'.repeat(n)}}} after.\\par}`,
    );
  if (name.endsWith('odt'))
    return zipSync({
      mimetype: strToU8('application/vnd.oasis.opendocument.text'),
      'content.xml': strToU8(
        `<o:document-content xmlns:o="o" xmlns:text="t" xmlns:draw="d" xmlns:xlink="x"><o:body><o:text><text:p>Before it words stand. <draw:frame><draw:object xlink:href="./O"/></draw:frame> after.</text:p></o:text></o:body></o:document-content>`,
      ),
      'O/content.xml': strToU8(
        `<math xmlns="http://www.w3.org/1998/Math/MathML">${'<mrow>'.repeat(n)}<mi>x</mi>${'</mrow>'.repeat(n)}</math>`,
      ),
    });
  const parts = unzipSync(await packed([[run('x')]]));
  parts['word/document.xml'] = strToU8(
    `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math"><w:body><w:p><w:r><w:t>Before it words stand. </w:t></w:r><m:oMath>${'<m:f><m:num>'.repeat(n)}<m:r><m:t>x</m:t></m:r>${'</m:num></m:f>'.repeat(n)}</m:oMath><w:r><w:t> after.</w:t></w:r></w:p></w:body></w:document>`,
  );
  return zipSync(parts);
}

interface Tree {
  tag: string;
  kids: Tree[];
}
async function partsOf(i: Intake): Promise<Record<string, Uint8Array>> {
  const ebook = i.book.editions.find((e) => e.form === 'reflow')!;
  const titled = { ...i.book, record: { ...i.book.record, title: 'On Sums' } };
  const made = await makeEbook(titled, ebook.id, { pictures: () => null, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  return unzipSync(made.value.bytes);
}
async function pageWith(i: Intake, words: string): Promise<string> {
  const pages = Object.values(await partsOf(i)).map((x) => strFromU8(x));
  return pages.find((x) => x.includes(words) && x.includes('<body'))!;
}
