/**
 * Impressions of PDFs that others made. Which pages look different is judged by poppler's drawing (pdftoppm), their words by
 * pdftotext, and files are written anew by qpdf and pdf-lib: other bytes, the same pages.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument, rgb, StandardFonts } from 'pdf-lib';
import { beforeAll, expect, it } from 'vitest';
import { pdfSubject } from '@pagina/core/check';
import { matchViews, type Impression } from '@pagina/core/proof';
import { threeChapters } from '../../core/test/fixtures/books';
import { makePrint } from '../src';
import { pagesShow, sheetShows } from '../src/drawn';

const dir = mkdtempSync(join(tmpdir(), 'shown-'));
const at = (name: string): string => join(dir, name);
let whole: Uint8Array;
let first: Impression;

async function shown(bytes: Uint8Array): Promise<Impression> {
  const subject = await pdfSubject(bytes);
  const r = subject.ok ? await pagesShow(bytes, subject.value) : subject;
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.impression;
}
/** Pages as poppler draws them. */
function drawn(bytes: Uint8Array, name: string): Buffer[] {
  writeFileSync(at(`${name}.pdf`), bytes);
  execFileSync('pdftoppm', ['-r', '90', at(`${name}.pdf`), at(name)]);
  return readdirSync(dir)
    .filter((f) => f.startsWith(`${name}-`))
    .sort()
    .map((f) => readFileSync(at(f)));
}
const edited = async (edit: (doc: PDFDocument) => Promise<void> | void): Promise<Uint8Array> => {
  const doc = await PDFDocument.load(whole);
  await edit(doc);
  return doc.save();
};

beforeAll(async () => {
  const made = await makePrint(threeChapters(), 'paperback', { pictures: () => null });
  if (!made.ok) throw new Error(made.refusal.message);
  whole = made.value.bytes;
  first = await shown(whole);
});

it('has the words of every page, as another reader finds them', () => {
  writeFileSync(at('whole.pdf'), whole);
  // Hyphens at the ends of lines are taken out by that reader.
  const bare = (s: string): string => s.replace(/[\s\u00ad-]+/g, '');
  for (const [i, v] of first.views.entries()) {
    const text = execFileSync(
      'pdftotext',
      ['-raw', '-f', `${i + 1}`, '-l', `${i + 1}`, at('whole.pdf'), '-'],
      {
        encoding: 'utf8',
      },
    );
    expect(bare(v.words.join('')), `page ${i + 1}`).toBe(bare(text));
    for (const [x, y, width] of v.places) {
      expect(x >= 0 && x + width <= first.width + 1 && y > 0 && y < first.height).toBe(true);
    }
  }
});

it('is the same for the same pages, however the file was written', async () => {
  writeFileSync(at('in.pdf'), whole);
  execFileSync('qpdf', [
    '--linearize',
    '--object-streams=generate',
    '--recompress-flate',
    at('in.pdf'),
    at('out.pdf'),
  ]);
  const again = [await edited(() => undefined), new Uint8Array(readFileSync(at('out.pdf')))];
  for (const bytes of again) {
    expect(Buffer.from(bytes).equals(Buffer.from(whole))).toBe(false);
    expect((await shown(bytes)).views.map((v) => v.mark)).toEqual(first.views.map((v) => v.mark));
  }
});

it.each([
  ['a letter', async (doc: PDFDocument) => void doc.getPage(4).drawText('x', { x: 150, y: 300, size: 9, font: await doc.embedFont(StandardFonts.TimesRoman) })],
  ['a dot', (doc: PDFDocument) => doc.getPage(2).drawCircle({ x: 100, y: 200, size: 1.5 })],
  ['a colour of the same lightness', (doc: PDFDocument) => doc.getPage(3).drawRectangle({ x: 50, y: 50, width: 20, height: 20, color: rgb(0.9, 0.4, 0.4) })],
])('tells the pages that look different: %s', async (_, edit) => {
  const bytes = await edited(edit as (doc: PDFDocument) => void);
  const now = await shown(bytes);
  const [a, b] = [drawn(whole, 'a'), drawn(bytes, 'b')];
  const differ = a.flatMap((page, i) => (page.equals(b[i]!) ? [] : [i]));
  expect(differ).toHaveLength(1);
  expect(first.views.flatMap((v, i) => (v.mark === now.views[i]?.mark ? [] : [i]))).toEqual(differ);
}); // prettier-ignore

it('finds a page that came in between, and nothing else', async () => {
  const now = await shown(
    await edited(
      (doc) => void doc.insertPage(5, [first.width, first.height]).drawCircle({ x: 90, y: 90, size: 9 }),
    ),
  );
  expect(matchViews(first.views, now.views).filter((m) => m.how !== 'same')).toEqual([
    { how: 'added', before: null, now: 5 },
  ]);
});

it('a sheet is one view; what is no PDF is refused in words', async () => {
  const doc = await PDFDocument.create();
  doc
    .addPage([700, 500])
    .drawText('THE WEIR', { x: 500, y: 400, font: await doc.embedFont(StandardFonts.Helvetica) });
  const r = await sheetShows(await doc.save());
  expect(r.ok && [r.value.width, r.value.height, r.value.views.map((v) => v.words)]).toEqual([
    700,
    500,
    [['THE WEIR']],
  ]);
  expect((await sheetShows(new TextEncoder().encode('%PDF-1.7 nothing'))).ok).toBe(false);
});
