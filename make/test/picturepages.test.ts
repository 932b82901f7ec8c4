/**
 * Picture pages as files. Where a picture is cropped, and where it bleeds, is read from pixels that poppler draws (pdftoppm);
 * words are poppler's too (pdftotext). The ebooks go through the W3C's Nu HTML checker by way of our own checks' oracle in
 * other tests; here their words are counted from the files.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import fc from 'fast-check';
import JSZip from 'jszip';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { freshSection, schema, type Book, type PicturePageAttrs, type PrintEdition } from '@pagina/core/book';
import { checkEpub, checkPdf } from '@pagina/core/check';
import { editionAdded } from '@pagina/core/design';
import { partSizes, readPackage, sizeAdvice } from '@pagina/core/package';
import { apply } from '@pagina/core/book';
import { book, section } from '../../core/test/fixtures/books';
import { makeEbook, makeFixed, makePrint } from '../src';
import { makeWordFile } from '../src/word-file';
import { faultsOf } from '../../core/test/fixtures/checked';

const dir = mkdtempSync(join(tmpdir(), 'picture-pages-'));
/** Red, yellow, blue and white in the four quarters. */
async function quarters(): Promise<Uint8Array> {
  const part = (background: string, left: number, top: number) => ({
    input: { create: { width: 300, height: 300, channels: 3 as const, background } },
    left,
    top,
  });
  const whole = sharp({ create: { width: 600, height: 600, channels: 3, background: '#ffffff' } });
  return new Uint8Array(
    await whole
      .composite([part('#ff0000', 0, 0), part('#ffff00', 300, 0), part('#0000ff', 0, 300)])
      .png()
      .toBuffer(),
  );
}
const STORY = [
  ['One crow came.', { picture: 'art', alt: 'Four quarters', frame: [0, 0, 1000, 1000] }],
  [
    'Two crows spoke: “Caw & caw.”',
    {
      picture: 'art',
      alt: '',
      decorative: true,
      frame: [250, 250, 500, 500],
      crop: { x: 0, y: 0, zoom: 200 },
    },
  ],
  [
    'Three crows flew.',
    { picture: 'art', alt: 'The same again', across: true, ground: '#33aa66', frame: [0, 250, 1000, 500] },
  ],
  ['Home.', { ground: '#800080' }],
] as const satisfies readonly (readonly [string, Partial<PicturePageAttrs>])[];

function story(fields: Partial<PrintEdition>): Book {
  const pages = STORY.map(([words, attrs], i) =>
    schema.node('picturePage', { id: `p${i}`, ...attrs }, [
      schema.node(
        'textBox',
        { id: `b${i}`, frame: [60, 820, 380, 100], size: 140, colour: i === 3 ? '#ffffff' : '#000000' },
        [schema.node('paragraph', { id: `b${i}p` }, [schema.text(words)])],
      ),
    ]),
  );
  const b = book(
    [
      section('t', 'title-page', []),
      freshSection('s', 'picture-pages', { title: 'Crows', content: schema.node('doc', null, pages) }),
    ],
    { pictures: [{ id: 'art', name: 'art.png', type: 'image/png', width: 600, height: 600 }] },
  );
  const square = {
    ...b,
    editions: b.editions.map((e) => (e.form === 'print' ? { ...e, trim: '8.5 × 8.5 in', ...fields } : e)),
  };
  const added = editionAdded(square, 'fixed', 'fixed');
  const applied = added.ok ? apply(square, added.value) : null;
  if (!applied?.ok) throw new Error('no fixed edition');
  return applied.value.book;
}

let art: Uint8Array;
const pictures = (): Uint8Array => art;
async function printed(
  fields: Partial<PrintEdition>,
  screen = false,
): Promise<{ path: string; bytes: Uint8Array }> {
  const made = await makePrint(story(fields), 'paperback', { pictures, screen });
  if (!made.ok) throw new Error(made.refusal.message);
  const path = join(dir, `${JSON.stringify(fields).length}-${String(screen)}.pdf`);
  writeFileSync(path, made.value.bytes);
  return { path, bytes: made.value.bytes };
}
/** Colours at points of a page, in inches from the corner of the trimmed page; `bleed` inches of paper are around it. */
async function seen(
  path: string,
  page: number,
  points: [number, number][],
  bleed = 0.125,
): Promise<string[]> {
  const out = join(dir, `page-${page}`);
  execFileSync('pdftoppm', ['-r', '72', '-png', '-f', `${page}`, '-l', `${page}`, '-singlefile', path, out]);
  const { data, info } = await sharp(readFileSync(`${out}.png`))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const names: [string, number[]][] = [
    ['red', [255, 0, 0]],
    ['yellow', [255, 255, 0]],
    ['blue', [0, 0, 255]],
    ['white', [255, 255, 255]],
    ['ground', [0x33, 0xaa, 0x66]],
    ['violet', [0x80, 0, 0x80]],
  ];
  return points.map(([x, y]) => {
    const at = (Math.round((y + bleed) * 72) * info.width + Math.round((x + bleed) * 72)) * 3;
    const [r = 0, g = 0, b = 0] = data.subarray(at, at + 3);
    // Inks are duller than a screen, and the same hue.
    const hue = (c: readonly number[]): number[] => {
      const mean = (c[0]! + c[1]! + c[2]!) / 3;
      const from = c.map((v) => v - mean);
      const length = Math.hypot(...from);
      return from.map((v) => (length < 40 ? 0 : v / length));
    };
    const own = hue([r, g, b]);
    const far = (c: readonly number[]): number => Math.hypot(...hue(c).map((v, k) => v - own[k]!));
    return [...names].sort((a, c) => far(a[1]) - far(c[1]))[0]![0];
  });
}
const words = (text: string): string[] => text.match(/[\p{L}\p{N}]+/gu) ?? [];
const WORDS = STORY.flatMap(([w]) => words(w));

beforeAll(async () => {
  art = await quarters();
});

describe('the printer’s PDF of a picture book', () => {
  it('draws each picture where its page has it, cropped as asked, over the edges and across the fold', async () => {
    for (const fields of [{ inks: 'colour' }, { inks: 'colour', standard: 'x-4' }] as const) {
      const { path } = await printed(fields);
      const [w, m] = [8.5, 4.25];
      // The whole page, and the paper beyond it.
      expect(
        await seen(path, 3, [
          [-0.1, -0.1],
          [m - 0.2, m - 0.2],
          [m + 0.2, m - 0.2],
          [m - 0.2, m + 0.2],
          [w + 0.1, w + 0.1],
        ]),
      ).toEqual(['red', 'red', 'yellow', 'blue', 'white']);
      // Twice as large, of which the head at the left shows: all red, in the middle of a white page.
      expect(
        await seen(path, 4, [
          [1, 1],
          [m, m],
          [6.3, 6.3],
          [6.5, 6.5],
        ]),
      ).toEqual(['white', 'red', 'red', 'white']);
      // Page 3 is a recto, so the spread begins after a blank, on page 4.
      expect(
        await seen(path, 5, [
          [m, m],
          [-0.1, 4],
        ]),
      ).toEqual(['white', 'white']);
      // On its left half the left of the picture, on a ground; on its right half the right.
      expect(
        await seen(path, 6, [
          [m, 1],
          [-0.1, 4],
          [m, 3],
          [m, 5],
        ]),
      ).toEqual(['ground', 'red', 'red', 'blue']);
      expect(
        await seen(path, 7, [
          [m, 1],
          [w + 0.1, 3],
          [m, 3],
          [m, 5],
        ]),
      ).toEqual(['ground', 'yellow', 'yellow', 'white']);
      expect(
        await seen(path, 8, [
          [m, m],
          [-0.1, w + 0.1],
        ]),
      ).toEqual(['violet', 'violet']);
    }
  });
  it('is sound, has the words in their order, and claims its standard; in black it has no other ink', async () => {
    for (const fields of [{}, { inks: 'colour' }, { inks: 'colour', standard: 'x-4' }] as const) {
      const { path, bytes } = await printed(fields);
      expect(execFileSync('qpdf', ['--check', path], { encoding: 'utf8' })).toContain(
        'No syntax or stream encoding errors',
      );
      const text = execFileSync('pdftotext', ['-f', '3', '-raw', path, '-'], { encoding: 'utf8' });
      expect(words(text)).toEqual(WORDS);
      expect(execFileSync('pdfinfo', ['-box', path], { encoding: 'utf8' })).toMatch(
        /TrimBox:\s+9\.00\s+9\.00\s+621\.00\s+621\.00/,
      );
      const checked = await checkPdf(bytes);
      expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker')).toEqual([]);
      const inks = execFileSync('pdfimages', ['-list', path], { encoding: 'utf8' });
      expect(inks).toContain('inks' in fields ? 'cmyk' : 'gray');
    }
  });
  it('is one page a page on a screen, in its own colours, with what its pictures show', async () => {
    const { path, bytes } = await printed({}, true);
    expect(
      await seen(
        path,
        3,
        [
          [1, 1],
          [7.5, 1],
          [1, 6],
          [7.5, 7.5],
        ],
        0,
      ),
    ).toEqual(['red', 'yellow', 'blue', 'white']);
    expect(await seen(path, 8, [[1, 1]], 0)).toEqual(['violet']);
    const struct = execFileSync('pdfinfo', ['-struct-text', path], { encoding: 'utf8' });
    expect(struct).toContain('One crow came.');
    const checked = await checkPdf(bytes);
    expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker')).toEqual([]);
  });
});

describe('the ebooks of a picture book', () => {
  it('of a fixed layout has a document a page, its words once and in order, its pictures described once', async () => {
    const made = await makeFixed(story({}), 'fixed', { pictures });
    if (!made.ok) throw new Error(made.refusal.message);
    const parts = unzipSync(made.value.bytes);
    const pages = Object.keys(parts)
      .filter((name) => /text\/p\d+\.xhtml$/.test(name))
      .sort()
      .map((name) => strFromU8(parts[name]!));
    expect(pages).toHaveLength(8);
    expect(words(pages.slice(2).map(bodyOf).join(' '))).toEqual(WORDS);
    expect(pages.join('').match(/<title>Four quarters<\/title>/g)).toHaveLength(1);
    expect(pages.join('').match(/<title>The same again<\/title>/g)).toHaveLength(1);
    expect(pages[7]).toMatch(/<rect [^>]*color="#800080"\/>[^]*<text [^>]*color="#ffffff"/);
    expect(faultsOf(made.value.bytes)).toEqual([]);
  });
  it('of flowing text has every picture and word, in both versions', async () => {
    const b = story({});
    for (const version of ['3.3', '2.0.1'] as const) {
      const editions = b.editions.map((e) => (e.form === 'reflow' ? { ...e, version } : e));
      const made = await makeEbook({ ...b, editions }, 'ebook', { pictures, print: null });
      if (!made.ok) throw new Error(made.refusal.message);
      const parts = unzipSync(made.value.bytes);
      const page = Object.entries(parts).find(([, x]) => strFromU8(x).includes('One crow came'))![1];
      expect(words(bodyOf(strFromU8(page)))).toEqual(WORDS);
      expect(strFromU8(page).match(/<img /g)).toHaveLength(3);
      const checked = checkEpub(made.value.bytes);
      expect(
        checked.ok && checked.value.filter((f) => f.severity !== 'note').map((f) => JSON.stringify(f)),
      ).toEqual([]);
    }
  });
  it('is told by part how large it is, as another zip library counts it', async () => {
    const made = await makeEbook(story({}), 'ebook', { pictures, print: null });
    const read = made.ok ? readPackage(made.value.bytes) : null;
    if (!made.ok || !read?.ok) throw new Error('not made');
    const sizes = partSizes(read.value, made.value.bytes.length);
    const zip = await JSZip.loadAsync(made.value.bytes);
    const counted = (ending: RegExp): number =>
      Object.values(zip.files)
        .filter((f) => ending.test(f.name))
        .reduce(
          (n, f) => n + (f as unknown as { _data: { compressedSize: number } })._data.compressedSize,
          0,
        );
    expect(sizes.parts.pictures).toBe(counted(/\.(png|jpg)$/));
    expect(sizes.parts.text).toBe(counted(/\.(xhtml|css|ncx)$/));
    expect(Object.values(sizes.parts).reduce((n, x) => n + x, 0)).toBe(made.value.bytes.length);
    const large = { ...sizes, whole: 4_000_000, parts: { ...sizes.parts, pictures: 3_900_000, faces: 0 } };
    expect(sizeAdvice(sizes, { pictures: 'as-they-are', faces: 'reader' })).toEqual([]);
    expect(sizeAdvice(large, { pictures: 'as-they-are', faces: 'reader' })[0]).toContain('98 % of it');
  });
  it('of a word processor has the same words', async () => {
    const made = await makeWordFile(story({}), pictures);
    if (!made.ok) throw new Error(made.refusal.message);
    const xml = strFromU8(unzipSync(made.value)['word/document.xml']!);
    const said = words(xml.replace(/&amp;/g, '&').replace(/<[^>]+>/g, ' '));
    expect(said.join(' ')).toContain(WORDS.join(' '));
  });
});

describe('whatever the pages are', () => {
  const frame = fc
    .tuple(fc.nat(980), fc.nat(980), fc.integer({ min: 20, max: 1000 }), fc.integer({ min: 20, max: 1000 }))
    .map(([x, y, w, h]) => [x, y, Math.max(20, Math.min(w, 1000 - x)), Math.max(20, Math.min(h, 1000 - y))]);
  const colour = fc.constantFrom('', '#a52f1c', '#ffffff', '#123456');
  const words = fc.constantFrom(
    '',
    'Caw.',
    'Ein langes Wort: Donaudampfschifffahrtsgesellschaft & <mehr>',
    'Ὀδυσσεύς і крук 🐦',
    `${'Night came and went. '.repeat(30)}`,
  );
  const box = fc.record({
    frame,
    words,
    ground: colour,
    size: fc.integer({ min: 60, max: 900 }),
    stand: fc.constantFrom('head', 'middle', 'foot'),
    align: fc.constantFrom('left', 'centre', 'right'),
    face: fc.constantFrom('', 'Spectral', 'No Such Face'),
    lang: fc.constantFrom('', 'de', 'xx-bad-tag-too-long'),
  });
  const one = fc.record({
    frame,
    ground: colour,
    across: fc.boolean(),
    picture: fc.constantFrom('', 'art', 'gone'),
    alt: fc.constantFrom('', 'A "quoted" <thing>'),
    fit: fc.constantFrom('fill', 'whole'),
    crop: fc.record({ x: fc.nat(1000), y: fc.nat(1000), zoom: fc.integer({ min: 100, max: 400 }) }),
    boxes: fc.array(box, { maxLength: 3 }),
  });

  it('every word stands in every file once, and no file has a blocker', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(one, { minLength: 1, maxLength: 4 }), async (given) => {
        const pages = given.map(({ boxes, ...attrs }, i) =>
          schema.node(
            'picturePage',
            { ...attrs, id: `p ${i}"` },
            boxes.map(({ words: w, ...b }, k) =>
              schema.node('textBox', { ...b, colour: '#000000', id: `b${i}-${k}` }, [
                schema.node('paragraph', { id: `b${i}-${k}p` }, w === '' ? [] : [schema.text(w)]),
              ]),
            ),
          ),
        );
        const content = schema.node('doc', null, pages);
        content.check();
        const base = story({});
        const b: Book = {
          ...base,
          sections: base.sections.map((s) => (s.id === 's' ? { ...s, content } : s)),
        };
        const own = letters(content.textBetween(0, content.content.size, ' '));
        const fixed = await makeFixed(b, 'fixed', { pictures: (id) => (id === 'art' ? art : null) });
        const flowing = await makeEbook(b, 'ebook', {
          pictures: (id) => (id === 'art' ? art : null),
          print: null,
        });
        const print = await makePrint(b, 'paperback', { pictures: (id) => (id === 'art' ? art : null) });
        if (!fixed.ok || !flowing.ok || !print.ok) throw new Error('not made');
        for (const { bytes } of [fixed.value, flowing.value]) {
          const checked = checkEpub(bytes);
          expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker')).toEqual([]);
          const parts = unzipSync(bytes);
          const said = Object.keys(parts)
            .filter((name) => /text\/[^/]+\.xhtml$/.test(name) && !/cover|title/.test(name))
            .sort()
            .map((name) => bodyOf(strFromU8(parts[name]!)));
          // Of a spread the page on the left is read first, wherever its words stand in the order.
          const read = letters(said.join(' '));
          if (bytes === flowing.value.bytes) expect(read).toContain(own);
          else expect(sorted(read)).toBe(sorted(`${titled}${own}`));
        }
        const path = join(dir, 'random.pdf');
        writeFileSync(path, print.value.bytes);
        execFileSync('qpdf', ['--check', path]);
      }),
      { numRuns: 15, endOnFailure: true },
    );
  }, 120_000);
});
const sorted = (text: string): string => [...text].sort().join('');
/** What the title page says in all editions. */
const titled = 'TheCausewayInesCallowayShingleStreetBooks';
/** Letters alone, in their order: what stands between them differs from file to file. */
const letters = (text: string): string => text.normalize('NFKC').replace(/[^\p{L}\p{N}]/gu, '');
const bodyOf = (xhtml: string): string =>
  xhtml
    .replace(/^[^]*?<body[^>]*>/, '')
    .replace(/<title>[^<]*<\/title>/g, '')
    .replace(/<[^>]+>/g, ' ')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&amp;/g, '&');
