/**
 * PDFs that others made for an edition. Where ink is on a page is held against what poppler draws (pdftoppm); barcodes are
 * drawn by bwip-js in the test, or by the cover's own code, and read by @zxing/library.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import bwipjs from 'bwip-js/node';
import { PDFDocument, PDFName, rgb } from 'pdf-lib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { Book, PrintEdition } from '@pagina/core/book';
import {
  checkCoverFile,
  checkFront,
  checkPagesFile,
  checkPrinted,
  cutOf,
  pdfSubject,
  wantedCover,
  type InkMargins,
  type PdfSubject,
} from '@pagina/core/check';
import { fitOf, outgrown } from '@pagina/core/trade';
import { threeChapters } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';
import { otherEbooks, OTHER_EBOOKS } from '../../scripts/setup.mjs';
import { makePrint } from '../src';
import { frontPicture, makeCover } from '../src/cover';
import { wordsOnFront } from '../src/coverwords';
import { coverShows, pagesShow } from '../src/drawn';

// The ISBN Users' Manual's own number, and another with a right check digit, from memory.
const ISBN = '978-92-95055-12-4';
const OTHER = '9780306406157';
const BOOK: Book = (() => {
  const b = threeChapters();
  return { ...b, editions: b.editions.map((e) => (e.form === 'print' ? { ...e, isbn: ISBN } : e)) };
})();
const paperback = BOOK.editions.find((e): e is PrintEdition => e.form === 'print')!;
const subjectOf = async (bytes: Uint8Array): Promise<PdfSubject> => {
  const s = await pdfSubject(bytes);
  if (!s.ok) throw new Error(s.refusal.message);
  return s.value;
};
const inkOf = async (bytes: Uint8Array): Promise<(InkMargins | null)[]> => {
  const r = await pagesShow(bytes, await subjectOf(bytes));
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.ink;
};
async function coverFindings(
  bytes: Uint8Array,
  pages: number,
  edition = paperback,
  record: Book['record'] = BOOK.record,
) {
  const shown = await coverShows(bytes);
  if (!shown.ok) throw new Error(shown.refusal.message);
  return checkCoverFile({
    pdf: await subjectOf(bytes),
    fit: fitOf(edition, pages),
    geometry: wantedCover(edition, pages)!,
    ...shown.value,
    record,
  }).map((f) => [f.rule, f.message] as const);
}
const own = async (pages: number, book = BOOK): Promise<Uint8Array> => {
  const made = await makeCover(book, 'paperback', pages, { pictures: () => png(1600, 2400) });
  if (!made.ok) throw new Error(made.refusal.message);
  return made.value.bytes;
};

/** A designer's sheet for so many pages, with a barcode of bwip-js: `light` points of white around it, at a scale. */
async function designed(
  pages: number,
  {
    isbn = ISBN.replaceAll('-', ''),
    addOn = '',
    light = 14,
    scale = 1,
    bleed = 9,
    turned = false,
    ground = true,
  } = {},
): Promise<Uint8Array> {
  const g = wantedCover(paperback, pages)!;
  const [width, height] = [g.trim.width / 1000, g.trim.height / 1000];
  const doc = await PDFDocument.create();
  const page = doc.addPage([width + 2 * bleed, height + 2 * bleed]);
  page.node.set(PDFName.of('TrimBox'), doc.context.obj([bleed, bleed, width + bleed, height + bleed]));
  page.node.set(PDFName.of('BleedBox'), doc.context.obj([0, 0, width + 2 * bleed, height + 2 * bleed]));
  if (ground)
    page.drawRectangle({
      x: 0,
      y: 0,
      width: width + 2 * bleed,
      height: height + 2 * bleed,
      color: rgb(0.1, 0.2, 0.3),
    });
  if (isbn) {
    const drawn = await bwipjs.toBuffer({
      bcid: 'ean13',
      text: addOn ? `${isbn} ${addOn}` : isbn,
      scale: 6,
      height: 20,
      includetext: false,
    });
    const picture = turned ? await sharp(drawn).rotate(90).png().toBuffer() : drawn;
    const image = await doc.embedPng(picture);
    // 95 modules of 0.33 mm, in points.
    const modules = addOn ? image.width / 6 : 95;
    const w = ((modules * 0.33 * 72) / 25.4) * scale;
    const size = turned
      ? { width: (w * image.width) / image.height, height: w }
      : { width: w, height: (w * image.height) / image.width };
    const at = { x: bleed + 60, y: bleed + 60 };
    page.drawRectangle({
      x: at.x - light,
      y: at.y - light,
      width: size.width + 2 * light,
      height: size.height + 2 * light,
      color: rgb(1, 1, 1),
    });
    page.drawImage(image, { ...at, ...size });
  }
  return doc.save();
}
/** A sheet that the test drew has bars and no words. */
const only = (found: readonly (readonly [string, string])[], start: string): string[] =>
  found.map(([rule]) => rule).filter((r) => r.startsWith(start) && !/title|author/.test(r));

describe('the cover of a designer', () => {
  it('fits the edition for which it was made, its barcode read', async () => {
    const bytes = await own(320);
    expect(await coverFindings(bytes, 320)).toEqual([]);
    const read = await coverShows(bytes);
    expect(read.ok && read.value.barcodes.map((b) => b.digits)).toEqual([ISBN.replaceAll('-', '')]);
    expect(read.ok && read.value.barcodes[0]!.module / (72 / 25.4)).toBeCloseTo(0.33, 2);
    expect(only(await coverFindings(await designed(320), 320), 'cover')).toEqual([]);
    expect(only(await coverFindings(await designed(320, { turned: true }), 320), 'cover')).toEqual([]);
  });
  it('that was made for another number of pages is told which its spine fits', async () => {
    for (const [made, now] of [
      [280, 420],
      [600, 320],
    ] as const) {
      const found = (await coverFindings(await own(made), now)).find(([rule]) => rule === 'cover/spine');
      const guessed = Number(/fits about (\d+) pages; this book has (\d+)/.exec(found![1])![1]);
      expect(Math.abs(guessed - made)).toBeLessThanOrEqual(4);
    }
    // Within what a printer lets pass.
    expect(await coverFindings(await own(318), 320)).toEqual([]);
  });
  it('is refused for its height, its bleed, and more than one page', async () => {
    const tall = { ...paperback, trim: '6 × 9 in' };
    expect(only(await coverFindings(await own(320), 320, tall), 'cover/height')).toHaveLength(1);
    expect(only(await coverFindings(await designed(320, { bleed: 3 }), 320), 'cover')).toEqual([
      'cover/bleed',
    ]);
    const pages = await makePrint(BOOK, 'paperback', { pictures: () => null });
    if (!pages.ok) throw new Error();
    expect(only(await coverFindings(pages.value.bytes, 320), 'cover/one-sheet')).toHaveLength(1);
  });
  it('is held against the ISBN, wherever on the sheet its barcode is', async () => {
    expect(await coverFindings(await designed(320, { isbn: OTHER }), 320)).toContainEqual([
      'cover/other-isbn',
      `The barcode says ${OTHER}; this edition’s ISBN is 9789295055124.`,
    ]);
    expect(only(await coverFindings(await designed(320, { isbn: '' }), 320), 'cover')).toEqual([
      'cover/no-barcode',
    ]);
    const none = { ...paperback, isbn: '' };
    expect(only(await coverFindings(await designed(320, { isbn: '' }), 320, none), 'cover')).toEqual([]);
  });
  it('is held against the list price, where its barcode tells one', async () => {
    const priced = { ...paperback, price: { minor: 1299, currency: 'USD' } };
    const found = async (addOn: string, edition = paperback): Promise<string[]> =>
      (await coverFindings(await designed(320, { addOn }), 320, edition))
        .filter(([rule]) => rule === 'cover/other-price')
        .map(([, message]) => message);
    // Common practice of the book trade, from memory: 5 for US dollars, then the cents; 90000 tells no price.
    expect(await found('51299', priced)).toEqual([]);
    expect(await found('90000', priced)).toEqual([]);
    expect(await found('51399', priced)).toEqual([
      'The barcode tells the price US$13.99; the list price of this edition is US$12.99.',
    ]);
    expect(await found('00999', priced)).toEqual([
      'The barcode tells the price £9.99; the list price of this edition is US$12.99.',
    ]);
    expect(await found('51299')).toEqual([
      'The barcode tells the price US$12.99; this edition has no list price yet.',
    ]);
  });
  it('needs light around its barcode, and bars that are not too narrow', async () => {
    expect(only(await coverFindings(await designed(320, { light: 4 }), 320), 'cover')).toEqual([
      'cover/barcode-quiet-zone',
    ]);
    expect(only(await coverFindings(await designed(320, { scale: 0.7 }), 320), 'cover')).toEqual([
      'cover/barcode-small',
    ]);
    expect(only(await coverFindings(await designed(320, { scale: 0.82 }), 320), 'cover')).toEqual([]);
  });
  it('has its words read, wherever and however large they are, and compared with the record', async () => {
    const other = { ...BOOK.record, title: 'The Causeways' };
    expect(await coverFindings(await own(320), 320, paperback, other)).toEqual([
      ['cover/title', 'The cover shows “The Causeway” where the title is “The Causeways”.'],
    ]);
    const someone = {
      ...BOOK.record,
      contributors: BOOK.record.contributors.map((c) => ({ ...c, name: 'Tobias Ferncastle' })),
    };
    expect(await coverFindings(await own(320), 320, paperback, someone)).toEqual([
      ['cover/author', 'The author, “Tobias Ferncastle”, could not be read on the cover.'],
    ]);
    const greek = { ...BOOK.record, title: 'Η Θάλασσα' };
    expect((await coverFindings(await own(320), 320, paperback, greek)).map(([, m]) => m)).toEqual([
      'Pagina can’t read this script on a cover. Compare the title, “Η Θάλασσα”, yourself.',
    ]);
  });
  it('of the author’s own picture is read as well, and a front that is set here is not', async () => {
    const drawn = await frontPicture(BOOK, paperback, () => null);
    const picture = {
      id: 'c',
      name: 'c.jpg',
      type: 'image/jpeg' as const,
      width: drawn.width,
      height: drawn.height,
    };
    const own = { ...BOOK, pictures: [picture], record: { ...BOOK.record, cover: 'c' } };
    const words = await wordsOnFront(own, () => drawn.bytes);
    expect(checkFront(words ?? [], BOOK.record)).toEqual([]);
    expect(checkFront(words ?? [], { ...BOOK.record, title: 'The Causeways' })).toMatchObject([
      { rule: 'cover/title', about: 'front: The Causeways', differs: { wanted: 'The Causeways' } },
    ]);
    expect(await wordsOnFront(BOOK, () => null)).toBeNull();
    // A picture that nobody can open stops nothing.
    expect(await wordsOnFront(own, () => new Uint8Array([1, 2, 3]))).toEqual([]);
    expect(
      await wordsOnFront({ ...own, cover: { ...own.cover, front: 'band' } }, () => drawn.bytes),
    ).toBeNull();
  });
  it('is outgrown when pages, trim, paper or ISBN change, and pages by the trim alone', () => {
    const then = fitOf(paperback, 320);
    expect(outgrown(then, then, 'cover')).toBeNull();
    expect(outgrown(then, fitOf(paperback, 332), 'cover')).toContain('pages (332, then 320)');
    expect(outgrown(then, fitOf(paperback, 332), 'interior')).toBeNull();
    expect(outgrown(then, fitOf({ ...paperback, isbn: '' }, 320), 'cover')).toContain('ISBN (now none)');
    const priced = { ...paperback, price: { minor: 999, currency: 'GBP' } };
    expect(outgrown(then, fitOf(priced, 320), 'cover')).toContain('list price (now £9.99)');
    expect(outgrown(then, fitOf({ ...paperback, trim: '6 × 9 in' }, 320), 'interior')).toContain('6 × 9 in');
  });
});

/** The box of a page's ink by poppler's drawing, in points from the edges of the sheet. */
function poppler(path: string, page: number): InkMargins | null {
  const pgm = execFileSync('pdftoppm', ['-r', '150', '-gray', '-f', `${page}`, '-l', `${page}`, path], {
    maxBuffer: 1e9,
  });
  const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(pgm.subarray(0, 40).toString('latin1'))!;
  const [w, h] = [Number(head[1]), Number(head[2])];
  const data = pgm.subarray(head[0].length);
  let [x0, x1, y0, y1] = [w, -1, h, -1];
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      if (data[y * w + x]! < 235)
        [x0, x1, y0, y1] = [Math.min(x0, x), Math.max(x1, x), Math.min(y0, y), Math.max(y1, y)];
  const pt = 72 / 150;
  return x1 < 0 ? null : { left: x0 * pt, right: (w - 1 - x1) * pt, top: y0 * pt, bottom: (h - 1 - y1) * pt };
}

describe('a supplied interior', () => {
  it('have their ink where poppler draws it, in the PDFs of documentation packages', async () => {
    otherEbooks();
    const files = (folder: string): string[] =>
      readdirSync(folder, { withFileTypes: true }).flatMap((e) =>
        e.isDirectory()
          ? files(join(folder, e.name))
          : /\.pdf(\.gz)?$/.test(e.name)
            ? [join(folder, e.name)]
            : [],
      );
    const folder = mkdtempSync(join(tmpdir(), 'drawn-'));
    let compared = 0;
    for (const [n, path] of files(resolve(OTHER_EBOOKS)).entries()) {
      const raw = readFileSync(path);
      const bytes = new Uint8Array(/gz$/.test(path) ? gunzipSync(raw) : raw);
      const subject = await subjectOf(bytes);
      // Faces that aren’t embedded are drawn by whatever each program has instead.
      if (subject.pages.length > 60 || bytes.length > 3e6 || subject.fonts.some((f) => !f.embedded)) continue;
      const copy = join(folder, `${n}.pdf`);
      writeFileSync(copy, bytes);
      const ink = await inkOf(bytes);
      for (const i of [0, 1, 4, 9, 20].filter((k) => k < subject.pages.length)) {
        const theirs = poppler(copy, i + 1);
        const page = subject.pages[i]!;
        const media = page.boxes.CropBox ?? page.boxes.MediaBox!;
        const trim = cutOf(page);
        const ours = ink[i];
        expect(ours === null, `${path} ${i}`).toBe(theirs === null);
        if (!ours || !theirs) continue;
        // Theirs are measured from the sheet.
        expect(Math.abs(ours.left + trim.x - media[0]! - theirs.left), `${path} ${i}`).toBeLessThan(1.2);
        expect(
          Math.abs(ours.top + media[3]! - trim.y - trim.height - theirs.top),
          `${path} ${i}`,
        ).toBeLessThan(1.2);
        expect(
          Math.abs(ours.right + media[2]! - trim.x - trim.width - theirs.right),
          `${path} ${i}`,
        ).toBeLessThan(1.2);
        compared++;
      }
    }
    expect(compared).toBeGreaterThan(15);
  }, 180_000);
  it('of ours have the margins of their design, and nothing to say against them', async () => {
    const made = await makePrint(BOOK, 'paperback', { pictures: () => null });
    if (!made.ok) throw new Error(made.refusal.message);
    const ink = await inkOf(made.value.bytes);
    const { margins } = made.value.composition.interior;
    // A full page's words reach both margins, to a serif.
    const full = ink[8]!;
    expect(full.left * 1000).toBeGreaterThan(margins.inside - 1500);
    expect(Math.min(...ink.flatMap((m, i) => (m && i % 2 === 0 ? [m.left] : []))) * 1000).toBeCloseTo(
      margins.inside,
      -4,
    );
    const pdf = await subjectOf(made.value.bytes);
    const found = checkPagesFile({ pdf, fit: fitOf(paperback, pdf.pages.length), inks: 'black', ink });
    expect(found.map((f) => f.rule).filter((r) => r !== 'pdf/page-count' && !/blank/.test(r))).toEqual([]);
  });
  it('are told of ink too near the fold for so many pages, and of ink too near the edge', async () => {
    const doc = await PDFDocument.create();
    for (let n = 0; n < 200; n++) {
      const page = doc.addPage([396, 612]);
      const [fold, edge] = n === 41 ? [30, 40] : n === 60 ? [60, 12] : [60, 40];
      const [left, right] = n % 2 === 0 ? [fold, edge] : [edge, fold];
      page.drawRectangle({ x: left, y: 60, width: 396 - left - right, height: 480 });
    }
    const bytes = await doc.save();
    const found = checkPrinted({
      pdf: await subjectOf(bytes),
      ink: await inkOf(bytes),
      binding: 'paperback',
    });
    expect(found.map((f) => f.message)).toEqual([
      'On page 42 the ink is 10.6 mm from the gutter; Quayhead requires 13.0 mm for 200 pages.',
      'On page 61 the ink is 4.2 mm from the edge; Quayhead requires 6.5 mm.',
    ]);
  });
  it('of another trim, another size than the printer takes, or in colour, are told of', async () => {
    const doc = await PDFDocument.create();
    for (let n = 0; n < 30; n++)
      doc.addPage([700, 900]).drawRectangle({ x: 100, y: 100, width: 400, height: 400, color: rgb(1, 0, 0) });
    const bytes = await doc.save();
    const found = checkPagesFile({
      pdf: await subjectOf(bytes),
      fit: fitOf(paperback, 30),
      inks: 'black',
      ink: await inkOf(bytes),
    }).map((f) => f.rule);
    expect(found).toEqual(expect.arrayContaining(['interior/trim', 'pdf/trim-range', 'interior/colour']));
  });
  it('that are no PDF, or broken, end in a sentence', async () => {
    expect(await coverShows(new TextEncoder().encode('%PDF-1.4 nothing'))).toMatchObject({ ok: false });
    const good = await designed(100);
    for (let n = 0; n < 20; n++) {
      const cut = good.slice(0, Math.floor((good.length * n) / 20));
      const r = await coverShows(cut);
      expect(typeof r.ok).toBe('boolean');
    }
  });
});
