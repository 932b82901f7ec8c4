/**
 * Recognition by the whole. The makers of bench/makers know what their manuscripts hold and share no code with what reads
 * them; the small cases below say by hand what a careful reader finds.
 */
import { AlignmentType, Document, Packer, Paragraph } from 'docx';
import { describe, expect, it } from 'vitest';
import { MAKERS, score } from '../../bench/recognition';
import { labelOf } from '../src/base';
import { readManuscript, type Intake } from '../src/intake';
import { headingsOf } from '../src/order';
import { prose } from './fixtures/books';
import { png } from './fixtures/manuscript';

const read = async (text: string, name = 'a.html'): Promise<Intake> => {
  const whole = name.endsWith('.html') ? `<html><body>${text}</body></html>` : text;
  const r = await readManuscript(new TextEncoder().encode(whole), name);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
};
/** Kind, number and title of every section. */
const told = (i: Intake): string[] => {
  const headings = headingsOf(i.book.sections, i.book);
  return i.book.sections.map((s) =>
    [s.kind, headings.get(s.id)!.number, s.title].filter(Boolean).join(' | '),
  );
};
const blocks = (i: Intake, at: number): string[] => {
  const out: string[] = [];
  i.book.sections[at]!.content.forEach((n) => void out.push(n.type.name));
  return out;
};
const p = (text: string, css = ''): string => `<p style="${css}">${text}</p>`;
const paragraphs = (seed: number, n = 5): string =>
  Array.from({ length: n }, (_, i) => p(prose(80, seed * 10 + i))).join('');
const NEW = 'page-break-before:always;';
const CENTRE = 'text-align:center;';
const BOLD = 'font-weight:bold;';

describe('six makers with known truth', () => {
  // `npm run bench` reads twenty of each.
  for (const [name, make] of Object.entries(MAKERS))
    it.each([1, 7, 13])(`${name}, manuscript %i: all is found and nothing else`, async (seed) => {
      const s = await score(await make(seed));
      expect(s.told).toEqual([]);
      expect([s.right, s.false, s.unaccounted]).toEqual([s.of, 0, 0]);
    });
});

describe('numbers through the whole manuscript', () => {
  it('pull in weak members and keep out what breaks them', async () => {
    const heads = [
      p('1', BOLD),
      p('2.', CENTRE),
      p('Three'),
      p('4 - The Well', BOLD),
      p('V: Ashes', CENTRE),
      p('Chapter Sxi: Salt', BOLD),
    ];
    const i = await read(
      heads
        .map(
          (h, k) => p('&nbsp;') + h + paragraphs(k) + p('MIND THE STEP', CENTRE + BOLD) + paragraphs(k + 20),
        )
        .join(''),
    );
    expect(told(i)).toEqual([
      'chapter | Chapter One',
      'chapter | Chapter Two',
      'chapter | Chapter Three',
      'chapter | Chapter Four | The Well',
      'chapter | Chapter Five | Ashes',
      'chapter | Chapter Six | Salt',
    ]);
  });
  it.each([
    [
      [1, 2, 4, 5],
      ['Chapter One', 'Chapter Two', 'Chapter Four', 'Chapter Five'],
      'intake/number-missing',
      'Chapter 4 follows chapter 2: chapter 3 may be missing.',
    ],
    [
      [1, 2, 2, 3],
      ['Chapter One', 'Chapter Two', 'Chapter Two', 'Chapter Three'],
      'intake/number-twice',
      'Chapter 2 appears twice.',
    ],
  ])('%j are kept as they are and told', async (numbers, shown, rule, message) => {
    const i = await read(numbers.map((n, k) => p(`Chapter ${n}`, NEW + CENTRE) + paragraphs(k)).join(''));
    expect(told(i)).toEqual(shown.map((s) => `chapter | ${s}`));
    expect(i.findings.map((f) => [f.rule, f.message])).toEqual([[rule, message]]);
  });
  it('begin again in every part where they do so in the file', async () => {
    const part = (n: number): string =>
      p(`Part ${n}`, NEW + CENTRE + BOLD) +
      [1, 2].map((c) => p(`Chapter ${c}`, NEW) + paragraphs(n * 3 + c)).join('');
    const i = await read(part(1) + part(2));
    expect(told(i)).toEqual([
      'part | Part I',
      'chapter | Chapter One',
      'chapter | Chapter Two',
      'part | Part II',
      'chapter | Chapter One',
      'chapter | Chapter Two',
    ]);
    expect(i.findings).toEqual([]);
  });
  it('inside chapters that bear numbers of their own count their sections', async () => {
    const i = await read(
      ['One', 'Two', 'Three']
        .map(
          (t, k) =>
            p(`Chapter ${t}`, NEW + CENTRE + BOLD) +
            [1, 2, 3].map((n) => p(String(n), CENTRE) + paragraphs(k + n)).join(''),
        )
        .join(''),
    );
    expect(told(i)).toEqual(['chapter | Chapter One', 'chapter | Chapter Two', 'chapter | Chapter Three']);
    expect(blocks(i, 0).filter((b) => b === 'subhead').length).toBe(3);
  });
  it('are not those of a list', async () => {
    const list = ['1. gravel', '2. a gate', '3. hay'].map((t) => p(t)).join('');
    const i = await read(
      [1, 2, 3]
        .map((n) => p(`${n}. Of Roads`, NEW + BOLD) + paragraphs(n) + list + paragraphs(n + 9))
        .join(''),
    );
    expect(told(i).length).toBe(3);
    expect(blocks(i, 0)).toContain('list');
  });
});

describe('parts', () => {
  it('may say anything: a page of their own over chapters, more than once', async () => {
    const i = await read(
      p('The Sea Wall', CENTRE + 'font-size:24pt') +
        p('Ada Marsh', CENTRE) +
        ['The River', 'The Sea']
          .map(
            (t, k) =>
              p(t, NEW + CENTRE + BOLD + 'font-size:20pt') +
              [1, 2, 3].map((n) => p(String(k * 3 + n), NEW + CENTRE) + paragraphs(n + k)).join(''),
          )
          .join(''),
    );
    expect(told(i)).toEqual([
      'title-page',
      'part | Part I | The River',
      'chapter | Chapter One',
      'chapter | Chapter Two',
      'chapter | Chapter Three',
      'part | Part II | The Sea',
      'chapter | Chapter Four',
      'chapter | Chapter Five',
      'chapter | Chapter Six',
    ]);
  });
  it('are not made of chapters with subheads', async () => {
    const i = await read(
      ['North', 'South', 'East']
        .map((t, k) => `<h1>${t}</h1>${paragraphs(k, 2)}<h2>Of ${t}</h2>${paragraphs(k + 5)}`)
        .join(''),
    );
    expect(told(i)).toEqual(['chapter | North', 'chapter | South', 'chapter | East']);
  });
});

describe('a heading of the first level over all others', () => {
  it('is the title, also where the back matter has its level', async () => {
    const i = await read(
      `<h1>The Salt Ledger</h1><p>by Ada Marsh</p>${['One', 'Two', 'Three'].map((t, k) => `<h2>${t}</h2>${paragraphs(k)}`).join('')}<h1>Acknowledgements</h1><p>Thanks.</p>`,
    );
    expect(told(i)).toEqual([
      'title-page',
      'chapter | Chapter One',
      'chapter | Chapter Two',
      'chapter | Chapter Three',
      'acknowledgements | Acknowledgements',
    ]);
    expect(i.book.record.title).toBe('The Salt Ledger');
  });
});

describe('chapters that nothing marks but their looks', () => {
  it.each([
    ['bold', BOLD],
    ['centred capitals', CENTRE],
  ])('%s', async (_, css) => {
    const titles = ['THE BOAT', 'EELS', 'WHAT ANSEL SAID', 'HOME'];
    const i = await read(
      titles.map((t, k) => p('&nbsp;') + p(t, css) + p('&nbsp;') + paragraphs(k)).join(''),
    );
    expect(told(i)).toEqual(titles.map((t) => `chapter | ${t}`));
  });
  it.each(['Acknowledgements', 'Epilogue'])('are found before a known heading too: %s', async (last) => {
    const title = p('SALT', CENTRE + 'font-size:24pt') + p('Ada Marsh', CENTRE);
    const rights = p(`Copyright © 2031 Ada Marsh. All rights reserved. ${prose(220, 3)}`, NEW);
    const titles = ['MARA', 'ANSEL', 'MARA'];
    const i = await read(
      title +
        rights +
        titles.map((t, k) => p(t, NEW + CENTRE) + paragraphs(k)).join('') +
        p(last, NEW + BOLD) +
        paragraphs(7, 2),
    );
    expect(told(i)).toEqual([
      'title-page',
      'copyright-page',
      ...titles.map((t) => `chapter | ${t}`),
      `${last.toLowerCase()} | ${last}`,
    ]);
  });
  it('two of them are found over an end that is known', async () => {
    const head = (t: string): string => p('&nbsp;').repeat(3) + p(t, CENTRE + BOLD);
    const i = await read(
      head('The Boat') +
        paragraphs(1) +
        head('Eels') +
        paragraphs(2) +
        p('Acknowledgements', NEW + BOLD) +
        p('Thanks.'),
    );
    expect(told(i)).toEqual(['chapter | The Boat', 'chapter | Eels', 'acknowledgements | Acknowledgements']);
  });
  it('among numbered ones look as they do', async () => {
    const numbered = (n: number): string => p(String(n), NEW + CENTRE + BOLD) + paragraphs(n);
    const i = await read(
      [1, 2, 3].map(numbered).join('') +
        p('The Gull’s Account', NEW + CENTRE + BOLD) +
        paragraphs(9) +
        [4, 5].map(numbered).join(''),
    );
    expect(told(i)[3]).toBe('chapter | The Gull’s Account');
    expect(told(i)[4]).toBe('chapter | Chapter Four');
  });
});

describe('a typed contents list', () => {
  it('without page numbers makes no sections either', async () => {
    const heads = ['1. The Cut', '2. Locks', '3. Frost'];
    const i = await read(
      p('Contents', NEW + BOLD) +
        p('Preface') +
        heads.map((t) => p(t)).join('') +
        p('Preface', NEW + BOLD) +
        paragraphs(1) +
        heads.map((t, k) => p(t, NEW + BOLD) + paragraphs(k + 3)).join(''),
    );
    expect(told(i)).toEqual([
      'contents',
      'preface | Preface',
      'chapter | Chapter One | The Cut',
      'chapter | Chapter Two | Locks',
      'chapter | Chapter Three | Frost',
    ]);
    expect(i.setAside.filter((s) => s.rule === 'typed-contents').map((s) => s.text)).toEqual([
      'Contents',
      'Preface',
      ...heads,
    ]);
  });
});

it.each([
  ['styled', (t: string) => `<h1>${t}</h1>`],
  ['bare', (t: string) => p(t)],
])('a chapter whose title ends in a number is no entry of an empty contents page (%s)', async (_, head) => {
  const i = await read(
    head('Contents') +
      [1913, 1914, 1915].map((year, n) => head(`Chapter ${n + 1}: Summer ${year}`) + paragraphs(n)).join(''),
  );
  expect(told(i)).toEqual([
    'contents',
    'chapter | Chapter One | Summer 1913',
    'chapter | Chapter Two | Summer 1914',
    'chapter | Chapter Three | Summer 1915',
  ]);
});

it('a contents page with no list on it is the contents, and no part', async () => {
  const i = await read(
    `<h1>Contents</h1><h1>Prologue</h1>${paragraphs(1)}${[1, 2].map((n) => `<h1>Part ${n}</h1><h2>Chapter ${n}</h2>${paragraphs(n)}`).join('')}`,
  );
  expect(told(i).slice(0, 3)).toEqual(['contents', 'prologue | Prologue', 'part | Part I']);
  expect(i.findings).toEqual([]);
});

describe('a title page', () => {
  const chapters = [1, 2, 3].map((n) => p(`Chapter ${n}`, NEW) + paragraphs(n)).join('');
  it.each([
    [
      'author first',
      p('Ada Marsh', CENTRE) + p('The Salt Ledger', CENTRE + 'font-size:24pt') + p('A Novel', CENTRE),
      ['The Salt Ledger', 'A Novel', 'Ada Marsh'],
    ],
    [
      'two authors',
      p('SALT', CENTRE + 'font-size:24pt') + p('by Ada Marsh and Kit Lowe', CENTRE),
      ['Salt', '', 'Ada Marsh, Kit Lowe'],
    ],
    [
      'two lines of title',
      p('A HISTORY OF', CENTRE + 'font-size:24pt') +
        p('THE FLATS', CENTRE + 'font-size:24pt') +
        p('Ada Marsh', CENTRE),
      ['A History of the Flats', '', 'Ada Marsh'],
    ],
  ])('%s', async (_, page, [title, subtitle, authors]) => {
    const { record } = (await read(page + chapters)).book;
    expect([record.title, record.subtitle, record.contributors.map((c) => c.name).join(', ')]).toEqual([
      title,
      subtitle,
      authors,
    ]);
  });
  it('with a picture keeps it', async () => {
    const dot = Buffer.from(png(30, 20)).toString('base64');
    const i = await read(
      p('SALT', CENTRE + 'font-size:24pt') +
        p('Ada Marsh', CENTRE) +
        `<p><img src="data:image/png;base64,${dot}"></p>` +
        chapters,
    );
    expect(blocks(i, 0)).toContain('figure');
    expect([i.book.record.title, i.book.record.contributors[0]?.name]).toEqual(['Salt', 'Ada Marsh']);
  });
  it('of a submission leaves address and word count out of the book', async () => {
    const i = await read(
      p('Ada Marsh') +
        p('4 Sluice Lane') +
        p('ada@marsh.invalid') +
        p('About 80,000 words') +
        p('&nbsp;').repeat(8) +
        p('SALT', CENTRE) +
        p('by', CENTRE) +
        p('Ada Marsh', CENTRE) +
        chapters,
    );
    expect([i.book.record.title, i.book.record.contributors[0]?.name]).toEqual(['Salt', 'Ada Marsh']);
    expect(i.setAside.filter((s) => s.rule === 'contact-lines').map((s) => s.text)).toEqual([
      'Ada Marsh',
      '4 Sluice Lane',
      'ada@marsh.invalid',
      'About 80,000 words',
    ]);
  });
});

describe('inside a chapter', () => {
  const IN = 'margin-left:40pt;';
  const chapter = (inner: string): string => p('Chapter 1', BOLD) + paragraphs(1) + inner + paragraphs(2);
  const kinds = async (inner: string): Promise<string[]> =>
    blocks(await read(chapter(inner)), 0).filter((k) => k !== 'paragraph');
  it.each<[string, string, string[]]>([
    [
      'an indented letter with its date',
      p('Quay House, 9 March', IN) +
        p('Dear Kit,', IN) +
        p('The wall holds.', IN) +
        p('Yours ever,', IN) +
        p('Ada', 'text-align:right'),
      ['letter'],
    ],
    [
      'a letter set as the text is',
      p('Dear Kit,') +
        p('The wall holds, and the baker does not.') +
        p('“Row,” he said to me.') +
        p('Yours ever,') +
        p('Ada'),
      ['letter'],
    ],
    [
      'a song, a line a paragraph',
      ['O the sea is wide,', 'and the boat is small,', 'and I shall not row at all.']
        .map((l) => p(l, IN))
        .join(''),
      ['verse'],
    ],
    [
      'a song with line breaks',
      p('O the sea is wide,<br>and the boat is small,<br>and I shall not row at all.', IN),
      ['verse'],
    ],
    [
      'a quotation with its source',
      p('The tide keeps no ledger and owes nobody anything, said the clerk.', IN) +
        p('— Minutes, 1811', `${IN}text-align:right`),
      ['quotation'],
    ],
    ['a lettered list', p('a) gravel') + p('b) a gate') + p('c) hay'), ['list']],
    ['bullets', p('• gravel') + p('• a gate'), ['list']],
    ['a message', p('NO BOATS TODAY', CENTRE), ['passage']],
    ['a break by an odd sign', p('⁂', CENTRE), ['break']],
    ['a break by a blank line', p('&nbsp;'), ['break']],
    ['short speeches', p('“No.”') + p('“Yes.”') + p('“Row.”') + p('“Then row.”'), []],
    ['a greeting that nobody signs', p('Dear Kit,') + paragraphs(5, 14) + p('Nothing at all'), []],
    ['names that are no signature', p('Dear me, it rained.') + p('It rained again.'), []],
  ])('%s', async (_, inner, expected) => expect(await kinds(inner)).toEqual(expected));
  it('blank lines are no breaks where they are the habit', async () => {
    const i = await read(
      p('Chapter 1', BOLD) +
        Array.from({ length: 8 }, (_, k) => p(prose(60, k)) + p('&nbsp;')).join('') +
        p('&nbsp;').repeat(2) +
        p(prose(60, 99)),
    );
    expect(blocks(i, 0).filter((k) => k === 'break').length).toBe(1);
  });
  it('bold lines over text are subheads, and a question may be one', async () => {
    const i = await read(
      chapter(p('Surveyors', BOLD) + paragraphs(3) + p('Who Was a Widow Then?', BOLD) + paragraphs(4)),
    );
    expect(blocks(i, 0).filter((k) => k === 'subhead').length).toBe(2);
  });
  it('an epigraph keeps its source without a dash', async () => {
    const i = await read(
      p('Chapter 1', BOLD) +
        p('A door is a wall that changed its mind.', 'text-align:right;font-style:italic') +
        p('Proverb', 'text-align:right') +
        paragraphs(1),
    );
    const quotation = i.book.sections[0]!.content.firstChild!;
    expect([quotation.type.name, quotation.lastChild!.type.name, quotation.lastChild!.textContent]).toEqual([
      'quotation',
      'attribution',
      'Proverb',
    ]);
  });
});

describe('what pages left behind', () => {
  it('notes at the foot become notes, and the words they cut in two are whole', async () => {
    const page = (n: number, first: string): string =>
      `   ${first} ${prose(90, n).replace(/(.{50,58}) /g, '$1\n')}`;
    const text = [
      'CHAPTER I.',
      '',
      page(1, 'He asked a shilling,* and'),
      '',
      '* It has fourteen pence.',
      '\fTHE ROAD.          2',
      '',
      page(2, 'then'),
      '\fTHE ROAD.          3',
      page(3, 'and'),
      '\fTHE ROAD.          4',
      page(4, 'but'),
      '\fTHE ROAD.          5',
      page(5, 'so'),
    ].join('\n');
    const i = await read(text, 'a.txt');
    const notes: string[] = [];
    i.book.sections.at(-1)!.content.descendants((n) => {
      if (n.type.name === 'noteBody') notes.push(n.textContent);
    });
    expect(notes).toEqual(['It has fourteen pence.']);
    expect(i.book.sections.at(-1)!.content.textContent).not.toMatch(/THE ROAD|shilling,\*/);
  });
  it('THE END is set aside; an end in the text is not', async () => {
    const i = await read(
      p('Chapter 1', BOLD) + paragraphs(1) + p('Fine.') + paragraphs(2) + p('THE END', CENTRE),
    );
    expect(i.setAside.filter((s) => s.rule === 'end-lines').map((s) => s.text)).toEqual(['THE END']);
    expect(i.book.sections[0]!.content.textContent).toContain('Fine.');
  });
  it('a typewriter face all through is no setting', async () => {
    const mono = (t: string): string => `<p><code>${t}</code></p>`;
    const i = await read(
      `<p><b>Chapter 1</b></p>${Array.from({ length: 6 }, (_, k) => mono(prose(50, k))).join('')}`,
    );
    let typed = 0;
    i.book.sections[0]!.content.descendants((n) => {
      if (n.marks.some((m) => m.type.name === 'monospaced')) typed++;
    });
    expect(typed).toBe(0);
  });
});

describe('lists', () => {
  const lists = (i: Intake): unknown[] => {
    const out: unknown[] = [];
    i.book.sections.at(-1)!.content.descendants((n) => {
      if (n.type.name === 'list') out.push([n.attrs.ordered, n.attrs.numbers, n.attrs.start]);
    });
    return out;
  };
  it('keep how they count and where they begin', async () => {
    const i = await read(
      '<p>Text.</p><ol type="a" start="3"><li>x</li></ol><p>(i) one</p><p>(ii) two</p><p>Text.</p><p>4. four</p><p>5. five</p><p>6. six</p>',
    );
    expect(lists(i)).toEqual([
      [true, 'letters', 3],
      [true, 'roman', 1],
      [true, 'figures', 4],
    ]);
  });
  it('of a word file go on where the text between them has ended', async () => {
    const items = (reference: string): Paragraph[] =>
      ['one', 'two'].map((text) => new Paragraph({ text, numbering: { reference, level: 0 } }));
    const level = (format: 'lowerLetter' | 'lowerRoman') => ({
      level: 0,
      format,
      text: '%1)',
      alignment: AlignmentType.LEFT,
    });
    const text = (): Paragraph => new Paragraph('Text between the lists.');
    const file = new Document({
      numbering: {
        config: [
          { reference: 'a', levels: [level('lowerLetter')] },
          { reference: 'r', levels: [level('lowerRoman')] },
        ],
      },
      sections: [{ children: [text(), ...items('a'), text(), ...items('a'), text(), ...items('r')] }],
    });
    const r = await readManuscript(new Uint8Array(await Packer.toBuffer(file)), 'a.docx');
    if (!r.ok) throw new Error(r.refusal.message);
    expect(lists(r.value)).toEqual([
      [true, 'letters', 1],
      [true, 'letters', 3],
      [true, 'roman', 1],
    ]);
  });
});

describe('notes gathered at the end', () => {
  const text = (n: number): string => `${prose(60, n)} As he said`;
  it.each<[string, (n: number) => string, (n: number) => string]>([
    ['raised figures', (n) => `${text(n)}<sup>${n}</sup> at once.`, (n) => `${n}. See folio ${n}.`],
    ['brackets', (n) => `${text(n)}.[${n}] Then.`, (n) => `[${n}] See folio ${n}.`],
  ])('and called by %s become notes, and no word is lost', async (_, call, entry) => {
    const i = await read(
      [1, 2].map((n) => p(`Chapter ${n}`, NEW + BOLD) + p(call(n)) + paragraphs(n)).join('') +
        p('Notes', NEW + BOLD) +
        [1, 2].map((n) => p(entry(n))).join(''),
    );
    const notes: string[] = [];
    for (const s of i.book.sections)
      s.content.descendants((n) => {
        if (n.type.name === 'noteBody') notes.push(n.textContent);
      });
    expect(notes).toEqual(['See folio 1.', 'See folio 2.']);
    expect(i.setAside.some((s) => s.rule === 'not-carried-over')).toBe(false);
    expect(i.wordsIn).toBe(i.wordsOut + i.setAside.reduce((n, s) => n + s.words, 0));
  });
});

describe('labels', () => {
  // From memory of the languages; the misspellings are what scanners and typists do.
  it.each([
    ['CHAPTEE III.', 'chapter', 3, ''],
    ['CHAPTER VIl.', 'chapter', 7, ''],
    ['CHAPTER l.', 'chapter', 1, ''],
    ['CHAPTER lV.', 'chapter', 4, ''],
    ['Chapter 11', 'chapter', 11, ''],
    ['chapter li', 'chapter', 51, ''],
    ['Chaper Seven: Salt', 'chapter', 7, 'Salt'],
    ['Chapter Sevn: Salt', 'chapter', null, 'Salt'],
    ['Chap. IV', 'chapter', 4, ''],
    ['XI', null, 11, ''],
    ['4 - The Well', null, 4, 'The Well'],
    ['Nine: A Net', null, 9, 'A Net'],
    ['SECOND BOOK', 'part', 2, ''],
  ])('%s', (line, level, number, title) => expect(labelOf(line)).toMatchObject({ level, number, title }));
  it.each(['Chapter houses of the north', '3 March', 'The year 1912', 'Civic duty', '2 cups of flour', ''])(
    '%s has none',
    (line) => expect(labelOf(line)).toBe(null),
  );
});
