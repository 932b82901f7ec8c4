import { schema } from '../src/book';
/** Whatever a word file holds besides its words: kept, or told once. Files are made by the docx library, or by hand by ECMA-376. */
import {
  Bookmark,
  CommentRangeEnd,
  CommentRangeStart,
  CommentReference,
  DeletedTextRun,
  Document,
  ExternalHyperlink,
  HeadingLevel,
  InsertedTextRun,
  Packer,
  Paragraph,
  PageReference,
  TextRun,
  type ISectionOptions,
} from 'docx';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { readManuscript, type Intake, type ReadOptions } from '../src/intake';
import { indexedAt } from '../src/intake/raw';

type Children = ISectionOptions['children'];
const made = async (children: Children, more: object = {}): Promise<Uint8Array> =>
  new Uint8Array(await Packer.toBuffer(new Document({ sections: [{ children }], ...more })));
/** A document of one heading and these paragraphs, as XML put into a file that the library made. */
async function byHand(body: string): Promise<Uint8Array> {
  const parts = unzipSync(await made([new Paragraph('x')]));
  const w = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
  parts['word/document.xml'] = strToU8(`<w:document xmlns:w="${w}"><w:body>${body}</w:body></w:document>`);
  const styles = strFromU8(parts['word/styles.xml']!);
  parts['word/styles.xml'] = strToU8(
    styles.replace(
      /<w:rPrDefault\s*\/>|<w:rPrDefault>.*?<\/w:rPrDefault>/s,
      '<w:rPrDefault><w:rPr><w:lang w:val="en-GB"/></w:rPr></w:rPrDefault>',
    ),
  );
  return zipSync(parts);
}
async function read(bytes: Uint8Array, options: ReadOptions = {}): Promise<Intake> {
  const r = await readManuscript(bytes, 'a.docx', options);
  if (!r.ok) throw new Error(r.refusal.message);
  const { wordsIn, wordsOut, setAside } = r.value;
  expect(wordsIn).toBe(wordsOut + setAside.reduce((n, s) => n + s.words, 0));
  return r.value;
}
const text = (i: Intake): string =>
  i.book.sections.map((s) => s.content.textBetween(0, s.content.content.size, '|', ' ')).join('||');
/** Stretches of text with that mark, and what the mark says. */
const marked = (i: Intake, mark: string): [string, unknown][] => {
  const found: [string, unknown][] = [];
  for (const s of i.book.sections)
    s.content.descendants((n) => {
      const m = n.marks.find((x) => x.type.name === mark);
      if (m) found.push([n.text ?? '', m.attrs.target ?? m.attrs.tag]);
    });
  return found;
};
const rules = (i: Intake): string[] => i.findings.map((f) => f.rule);
const head = (title: string): Paragraph =>
  new Paragraph({ heading: HeadingLevel.HEADING_1, children: [new TextRun(title)] });

describe('underlining, colour and highlighting', () => {
  it('are kept or told once, and a link is no underlined word', async () => {
    const i = await read(
      await made([
        head('The Boat'),
        new Paragraph({
          children: [
            new TextRun('She said '),
            new TextRun({ text: 'never', underline: {} }),
            new TextRun(' and went '),
            new TextRun({ text: 'home', color: 'FF0000' }),
            new TextRun({ text: ' at last.', highlight: 'yellow' }),
            new ExternalHyperlink({
              link: 'https://example.org',
              children: [new TextRun({ text: 'There', underline: {} })],
            }),
          ],
        }),
      ]),
    );
    expect(marked(i, 'underline')).toEqual([['never', undefined]]);
    expect(rules(i).filter((r) => r === 'intake/underlined')).toHaveLength(1);
    expect(i.findings.find((f) => f.rule === 'intake/colours')?.message).toBe(
      'Coloured text (1 place) and highlighting (1 place) became plain text.',
    );
  });
});

describe('tracked changes (ECMA-376 §17.13.5)', () => {
  const change = { author: 'Kit', date: '2026-01-01T00:00:00Z' };
  const file = () =>
    made([
      head('The Boat'),
      new Paragraph({
        children: [
          new TextRun('The boat was '),
          new DeletedTextRun({ text: 'red', id: 1, ...change }),
          new InsertedTextRun({ text: 'green and white', id: 2, ...change }),
          new TextRun(' that year.'),
        ],
      }),
    ]);
  it('are accepted, and counted', async () => {
    const i = await read(await file());
    expect(text(i)).toContain('The boat was green and white that year.');
    expect(i.findings.find((f) => f.rule === 'intake/tracked-changes')?.message).toBe(
      '2 tracked changes were accepted.',
    );
  });
  it('are rejected where the author wants that', async () => {
    const i = await read(await file(), { changes: 'reject' });
    expect(text(i)).toContain('The boat was red that year.');
    expect(rules(i)).toContain('intake/changes-taken-back');
    expect(rules(i)).not.toContain('intake/tracked-changes');
  });
  it('that move words lose none, whichever is chosen', async () => {
    const body = (s: string): string => `<w:p><w:r><w:t xml:space="preserve">${s}</w:t></w:r></w:p>`;
    const bytes = await byHand(
      `${body('First.')}<w:p><w:moveFrom w:id="1" w:author="K"><w:r><w:t>Moved words.</w:t></w:r></w:moveFrom><w:r><w:t>Second.</w:t></w:r></w:p>` +
        `<w:p><w:r><w:t>Third.</w:t></w:r><w:moveTo w:id="2" w:author="K"><w:r><w:t>Moved words.</w:t></w:r></w:moveTo></w:p>` +
        `<w:p><w:ins w:id="3"><w:r><w:t>In.</w:t></w:r><w:del w:id="4"><w:r><w:delText>In and out.</w:delText></w:r></w:del></w:ins><w:r><w:t>Last.</w:t></w:r></w:p>`,
    );
    expect(text(await read(bytes))).toBe('First.|Second.|Third.Moved words.|In.Last.');
    expect(text(await read(bytes, { changes: 'reject' }))).toBe('First.|Moved words.Second.|Third.|Last.');
  });
  it('taken back from a file without any leave it as it is', async () => {
    const bytes = await made([head('The Boat'), new Paragraph('He waited.')]);
    expect(text(await read(bytes, { changes: 'reject' }))).toBe(text(await read(bytes)));
    const torn = await readManuscript(bytes.subarray(0, 300), 'a.docx', { changes: 'reject' });
    expect(torn.ok).toBe(false);
  });
});

describe('comments', () => {
  it('are listed with who wrote them and where, and are no text of the book', async () => {
    const i = await read(
      await made(
        [
          head('The Boat'),
          new Paragraph({
            children: [
              new CommentRangeStart(0),
              new TextRun('He waited for the boat.'),
              new CommentRangeEnd(0),
              new TextRun({ children: [new CommentReference(0)] }),
            ],
          }),
        ],
        {
          comments: {
            children: [
              { id: 0, author: 'Mara', date: new Date(0), children: [new Paragraph('Which boat?')] },
            ],
          },
        },
      ),
    );
    expect(i.comments).toEqual([{ by: 'Mara', text: 'Which boat?', at: 'He waited for the boat.' }]);
    expect(text(i)).not.toContain('Which');
    expect(i.findings.find((f) => f.rule === 'intake/comments')?.message).toMatch(/^1 comment was left out/);
  });
});

describe('references of the file to its own places (ECMA-376 §17.16.5)', () => {
  const field = (code: string, shown: string): string =>
    `<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText xml:space="preserve"> ${code} </w:instrText></w:r><w:r><w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t>${shown}</w:t></w:r><w:r><w:fldChar w:fldCharType="end"/></w:r>`;
  const p = (inner: string): string => `<w:p>${inner}</w:p>`;
  const run = (s: string): string => `<w:r><w:t xml:space="preserve">${s}</w:t></w:r>`;
  const place = p(
    `<w:bookmarkStart w:id="5" w:name="_Ref99"/>${run('The harbour lies north of the town.')}<w:bookmarkEnd w:id="5"/>`,
  );
  it.each([
    ['REF', field('REF _Ref99 \\h', 'above')],
    ['PAGEREF', field('PAGEREF _Ref99 \\h', 'above')],
    ['a simple field', `<w:fldSimple w:instr=" REF _Ref99 \\h ">${run('above')}</w:fldSimple>`],
  ])('are links to them: %s', async (_, see) => {
    const i = await read(await byHand(place + p(run('As was said ') + see + run('.'))));
    const [section] = i.book.sections;
    expect(marked(i, 'link')).toEqual([
      ['above', `${section!.id}#${section!.content.firstChild!.attrs.id as string}`],
    ]);
    expect(text(i)).toContain('As was said above.');
  });
  it('to what is not there, and other fields, are their words', async () => {
    const i = await read(
      await byHand(
        place + p(run('On ') + field('DATE \\@ "d MMMM"', '3 May') + field('REF gone \\h', ' there')),
      ),
    );
    expect(marked(i, 'link')).toEqual([]);
    expect(text(i)).toContain('On 3 May there');
  });
  it('made by the docx library are links too', async () => {
    const i = await read(
      await made([
        new Paragraph({
          children: [new Bookmark({ id: 'harbour', children: [new TextRun('The harbour.')] })],
        }),
        new Paragraph({ children: [new TextRun('See page '), new PageReference('harbour')] }),
      ]),
    );
    expect(text(i)).toContain('See page');
  });
});

describe('text in another language', () => {
  it('is not marked where most of the book is in it, whatever the file’s default says', async () => {
    const french = (s: string): string =>
      `<w:p><w:r><w:rPr><w:lang w:val="fr-FR"/></w:rPr><w:t xml:space="preserve">${s}</w:t></w:r></w:p>`;
    const i = await read(
      await byHand(['Le bateau attendait.', 'La mer montait.', 'Il partit.'].map(french).join('')),
    );
    expect(i.book.record.language).toBe('fr-FR');
    expect(marked(i, 'language')).toEqual([]);
  });
  it('is marked with it, down to the word; dialects of the book’s own are not', async () => {
    const run = (s: string, lang = ''): string =>
      `<w:r>${lang ? `<w:rPr><w:i/><w:lang w:val="${lang}"/></w:rPr>` : ''}<w:t xml:space="preserve">${s}</w:t></w:r>`;
    const i = await read(
      await byHand(
        `<w:p>${run('He said ')}${run('guten Morgen', 'de-DE')}${run(' and left, ')}${run('colour', 'en-US')}${run('.')}</w:p><w:p>${run('Plain.')}</w:p>`,
      ),
    );
    expect(marked(i, 'language')).toEqual([['guten Morgen', 'de-DE']]);
    expect(
      marked(i, 'emphasis')
        .map(([t]) => t)
        .join(''),
    ).toBe('guten Morgencolour');
  });
});

describe('entries of the index', () => {
  it.each([
    ['a great swarm, ', 'swarm'],
    ['queen cells:', 'cells'],
    ['he said “1871.”', '1871'],
    ['L’été', 'L’été'],
  ])('behind “%s” mark the word without the signs around it', (text, word) => {
    const marked = indexedAt([schema.text(text)], 'entry').filter((n) => n.marks.length > 0);
    expect(marked.map((n) => n.text)).toEqual([word]);
  });
  it('go as far as their bookmark does, where they name one', async () => {
    const t = (words: string): string => `<w:r><w:t xml:space="preserve">${words}</w:t></w:r>`;
    const code = (part: string): string =>
      `<w:r><w:instrText xml:space="preserve">${part}</w:instrText></w:r>`;
    const char = (type: string): string => `<w:r><w:fldChar w:fldCharType="${type}"/></w:r>`;
    const i = await read(
      await byHand(
        `<w:p>${t('Before it. ')}<w:bookmarkStart w:id="5" w:name="Flood_1"/>${t('The water rose')}</w:p>` +
          `<w:p>${t('and rose')}${char('begin')}${code(' XE "fl')}${code('oods" \\r Flood_1 ')}${char('end')}</w:p>` +
          `<w:bookmarkEnd w:id="5"/><w:p>${t('and fell.')}${char('begin')}${code(' XE "ebb" \\r Nowhere ')}${char('end')}</w:p>`,
      ),
    );
    const found: [string, unknown][] = [];
    for (const s of i.book.sections)
      s.content.descendants((n) => {
        for (const m of n.marks) if (m.type.name === 'indexed') found.push([n.text ?? '', m.attrs.term]);
      });
    expect(found).toEqual([
      ['The water rose', 'floods'],
      ['and rose', 'floods'],
      ['fell', 'ebb'],
    ]);
  });
});
