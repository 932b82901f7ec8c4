import { describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { zipSync } from 'fflate';
import * as isbn3 from 'isbn3';
import { readDelivery, readManuscript } from '../src/intake';
import { copyrightFacts, particularsIn } from '../src/intake/particulars';
import { authorsLine } from '../src/record';
import { familiarPicture } from '@pagina/make';

const text = (s: string): Uint8Array => new TextEncoder().encode(s);
const NOVEL = [
  'The Ropewalk',
  '',
  'by Ines Calder',
  ...[1, 2, 3].flatMap((n) => [
    '',
    '',
    `Chapter ${n}`,
    '',
    ...Array.from(
      { length: 12 },
      (_, i) =>
        `The yarn ran out along the walk on day ${i} and nobody spoke of the boat that had not come home.`,
    ),
  ]),
].join('\n');
const picture = (
  width: number,
  height: number,
  kind: 'png' | 'jpeg' | 'webp' | 'tiff' = 'png',
): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: '#347' } })
    .toFormat(kind)
    .toBuffer();

describe('a copyright page (its lines by common practice; ISBNs judged by the isbn3 library)', () => {
  const cases: [string, { year: string; holder: string; imprint?: string; isbns: [string, string][] }][] = [
    [
      'Copyright © 2026 by Ines Calder\nAll rights reserved.\nPublished by Stone Quay Press\nISBN 978-0-306-40615-7 (paperback)\nISBN 978-3-16-148410-0 (ebook)',
      {
        year: '2026',
        holder: 'Ines Calder',
        imprint: 'Stone Quay Press',
        isbns: [
          ['9780306406157', 'print'],
          ['9783161484100', 'reflow'],
        ],
      },
    ],
    ['© Ines Calder, 2025. All rights reserved', { year: '2025', holder: 'Ines Calder', isbns: [] }],
    ['Copyright 2019, 2024 Ines Calder', { year: '2024', holder: 'Ines Calder', isbns: [] }],
    ['Paperback ISBN: 0-306-40615-2', { year: '', holder: '', isbns: [['9780306406157', 'print']] }],
    ['ISBN\n9780306406157', { year: '', holder: '', isbns: [['9780306406157', '']] }],
    [
      'E-Book\nISBN: 978 3 16 148410 0\nTaschenbuch\nISBN: 978 0 306 40615 7',
      {
        year: '',
        holder: '',
        isbns: [
          ['9783161484100', 'reflow'],
          ['9780306406157', 'print'],
        ],
      },
    ],
    ['No part of this book may be copied. Telephone 0044 1632 960 961.', { year: '', holder: '', isbns: [] }],
  ];
  it.each(cases)('%s', (page, { year, holder, imprint = '', isbns }) => {
    const facts = copyrightFacts(page);
    expect([facts.year, facts.holder, facts.imprint]).toEqual([year, holder, imprint]);
    expect(facts.isbns.map((i) => [i.isbn, i.form])).toEqual(isbns);
    for (const { isbn } of facts.isbns) expect(isbn3.parse(isbn)?.isValid).toBe(true);
  });
  it('says which number is mistyped and takes none of it', () => {
    const facts = copyrightFacts('ISBN 978-0-306-40615-8');
    expect(facts.isbns).toEqual([]);
    expect(facts.wrong).toEqual(['978-0-306-40615-8']);
  });
  it('goes into the record and the editions when the manuscript is read', async () => {
    const page =
      'Copyright © 2026 Ines Calder\nISBN 978-0-306-40615-7 (paperback)\nISBN 978-3-16-148410-1 (ebook)';
    const [title, , author, ...rest] = NOVEL.split('\n');
    const read = await readManuscript(
      text(
        [title, '', author, ...Array<string>(6).fill(''), page, ...Array<string>(6).fill(''), ...rest].join(
          '\n',
        ),
      ),
      'a.txt',
    );
    if (!read.ok) throw new Error(read.refusal.message);
    const { book, findings } = read.value;
    expect(book.record.year).toBe('2026');
    expect(book.record.copyrightHolder).toBe('');
    expect(book.editions.map((e) => e.isbn)).toEqual(['9780306406157', '']);
    expect(findings.map((f) => f.rule)).toEqual(
      expect.arrayContaining(['intake/taken-in', 'intake/isbn-mistyped']),
    );
  });
});

const SHEET = `Particulars
Title: The Ropewalk
Subtitle: A Story of the Harbour
Author: Ines Calder and Tom Pell
ISBN (paperback): 978-0-306-40615-7
ISBN (e-book): 978-3-16-148410-0
Publisher: Stone Quay Press
Year: 2026
Language: English
Keywords: rope, harbour, sea story
Price: £9.99
Description: A boat does not come home.

A walk of rope goes on.
About the author: Ines Calder lives by the water.
Shoe size: 39`;

describe('a sheet of particulars', () => {
  it('fills the record', () => {
    const sheet = particularsIn(SHEET);
    expect(sheet?.record).toMatchObject({
      title: 'The Ropewalk',
      subtitle: 'A Story of the Harbour',
      imprint: 'Stone Quay Press',
      year: '2026',
      language: 'en',
      keywords: ['rope', 'harbour', 'sea story'],
      price: { minor: 999, currency: 'GBP' },
      description: 'A boat does not come home.\n\nA walk of rope goes on.',
    });
    expect(sheet?.record.contributors?.map((c) => [c.name, c.life])).toEqual([
      ['Ines Calder', 'Ines Calder lives by the water. Shoe size: 39'],
      ['Tom Pell', ''],
    ]);
    expect(sheet?.isbns.map((i) => [i.isbn, i.form])).toEqual([
      ['9780306406157', 'print'],
      ['9783161484100', 'reflow'],
    ]);
  });
  it('says which lines it could not use', () => {
    expect(particularsIn('Title: A\nShoe size: 39\nAuthor: B')?.unread).toEqual(['Shoe size: 39']);
  });
  it('is not seen in a manuscript', () => {
    expect(particularsIn(NOVEL)).toBeNull();
    expect(particularsIn(`Title: The Ropewalk\nAuthor: Ines Calder\n\n${NOVEL}`)).toBeNull();
    expect(particularsIn('')).toBeNull();
  });
});

describe('several files brought in at once', () => {
  const deliver = async (files: Record<string, Uint8Array>) =>
    readDelivery(
      Object.entries(files).map(([name, bytes]) => ({ name, bytes })),
      { convert: familiarPicture },
    );
  it('are put where they belong, whatever their order', async () => {
    const files = {
      'particulars.txt': text(SHEET),
      'ropewalk cover.webp': await picture(1600, 2560, 'webp'),
      'Stone Quay logo.tif': await picture(300, 300, 'tiff'),
      'portrait of Ines.jpg': await picture(600, 700, 'jpeg'),
      'novel.md': text(
        `${NOVEL}\n\n# About the author\n\nInes Calder lives by the water and writes in the mornings.`,
      ),
      'accounts.xlsx': zipSync({ 'xl/workbook.xml': text('<workbook/>') }),
      'beach.png': await picture(900, 300),
    };
    for (const order of [Object.keys(files), Object.keys(files).reverse()]) {
      const read = await deliver(Object.fromEntries(order.map((k) => [k, files[k as keyof typeof files]])));
      if (!read.ok) throw new Error(read.refusal.message);
      const { book, findings, manuscript, files: kept } = read.value;
      expect(manuscript).toBe('novel.md');
      const named = (id: string | null): string | undefined => book.pictures.find((p) => p.id === id)?.name;
      expect(named(book.record.cover)).toBe('ropewalk cover.webp');
      expect(named(book.cover.device)).toBe('Stone Quay logo.tif');
      expect(named(book.cover.portrait)).toBe('portrait of Ines.jpg');
      expect((await sharp(kept.get(book.record.cover as string)).metadata()).height).toBe(2560);
      expect(book.pictures.map((p) => p.type).sort()).toEqual(['image/jpeg', 'image/jpeg', 'image/png']);
      expect(authorsLine(book.record)).toBe('Ines Calder and Tom Pell');
      expect(book.editions.map((e) => e.isbn)).toEqual(['9780306406157', '9783161484100']);
      expect(book.sections.filter((s) => s.kind === 'chapter')).toHaveLength(3);
      const about = book.sections.find((s) => s.kind === 'about-author');
      expect(about?.content.firstChild?.attrs).toMatchObject({
        picture: book.cover.portrait,
        alt: 'Portrait of Ines Calder and Tom Pell',
      });
      const unused = findings.filter((f) => f.rule === 'intake/not-understood').map((f) => f.message);
      expect(unused.some((m) => m.startsWith('accounts.xlsx'))).toBe(true);
      expect(unused.some((m) => m.startsWith('beach.png'))).toBe(true);
      expect(unused).toHaveLength(2);
    }
  });
  it('know a list of particulars of few long lines for one', async () => {
    const list =
      'Title: Names on the Quay\nAuthor: Ines Calder\nISBN (ebook): 978-3-16-148410-0\nISBN (paperback): 978-3-16-148410-1\nShoe size: 39';
    const read = await deliver({ 'novel.txt': text(NOVEL), 'particulars.txt': text(list) });
    if (!read.ok) throw new Error(read.refusal.message);
    expect(read.value.book.record.title).toBe('Names on the Quay');
    expect(read.value.findings.map((f) => f.rule).slice(0, 3)).toEqual([
      'intake/taken-in',
      'intake/isbn-mistyped',
      'intake/unread-particulars',
    ]);
  });
  it('take the longer text for the manuscript, and say what the other one was', async () => {
    const read = await deliver({
      'notes.txt': text('Some thoughts about the next book.'),
      'novel.txt': text(NOVEL),
    });
    if (!read.ok) throw new Error(read.refusal.message);
    expect(read.value.manuscript).toBe('novel.txt');
    expect(read.value.findings.map((f) => f.message).join()).toContain('notes.txt was not used');
  });
  it('without a manuscript are refused in a sentence', async () => {
    const read = await deliver({ 'cover.png': await picture(1600, 2560) });
    expect(read.ok ? '' : read.refusal.code).toBe('intake/no-manuscript');
  });
  it('survive files of nothing, torn pictures and hostile names', async () => {
    const torn = new Uint8Array(await picture(1600, 2560, 'webp')).subarray(0, 60);
    const read = await deliver({
      'novel.txt': text(NOVEL),
      'empty.docx': new Uint8Array(),
      'cover.webp': torn,
      '../../__proto__': text('x'),
      'logo.png': new Uint8Array([0x89, 0x50, 0x4e, 0x47]),
    });
    if (!read.ok) throw new Error(read.refusal.message);
    expect(read.value.book.record.cover).toBeNull();
    expect(
      read.value.findings.filter((f) => f.rule === 'intake/not-understood').length,
    ).toBeGreaterThanOrEqual(3);
  });
});

describe('pictures of kinds that no book carries (made by sharp)', () => {
  it.each(['webp', 'tiff', 'avif'] as const)('%s becomes one that it does', async (kind) => {
    const made = await sharp({ create: { width: 64, height: 48, channels: 3, background: '#347' } })
      .toFormat(kind)
      .toBuffer();
    const html = `<h1>Chapter 1</h1><p>Words.</p><p><img alt="A boat" src="data:image/${kind};base64,${made.toString('base64')}"></p><p>More words.</p>`;
    const read = await readManuscript(text(html), 'a.html', { convert: familiarPicture });
    if (!read.ok) throw new Error(read.refusal.message);
    expect(read.value.book.pictures.map((p) => [p.width, p.height])).toEqual([[64, 48]]);
    const without = await readManuscript(text(html), 'a.html');
    if (!without.ok) throw new Error(without.refusal.message);
    expect(without.value.book.pictures).toEqual([]);
    expect(without.value.findings.map((f) => f.rule)).toContain('intake/picture-kind');
  });
});
