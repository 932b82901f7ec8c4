import { beforeAll, describe, expect, it } from 'vitest';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { checkPdf, checkFileAgreement, pdfFacts, pdfSubject } from '@pagina/core/check';
import { printOf, schema, type Book } from '@pagina/core/book';
import { sheetLines } from '@pagina/core/compose';
import { INTERIOR_NAMES } from '@pagina/core/design';
import { makePrint, readBookFile, writeBookFile, type PrintMade } from '../src';
import { openNovel, openNovelChapters, paragraphsOf } from '../../bench/open-novel';
import { book, everyBlock, section, threeChapters } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';

const dir = mkdtempSync(join(tmpdir(), 'print-'));
async function make(
  b: Book,
  name: string,
  pictures = new Map<string, Uint8Array>(),
): Promise<PrintMade & { path: string }> {
  const made = await makePrint(b, 'paperback', { pictures: (id) => pictures.get(id) ?? null });
  if (!made.ok) throw new Error(made.refusal.message);
  const path = join(dir, name);
  writeFileSync(path, made.value.bytes);
  return { ...made.value, path };
}
const run = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 28 });

describe('the open novel as a printer’s PDF', () => {
  let novel: PrintMade & { path: string };
  beforeAll(async () => {
    novel = await make(openNovel(), 'novel.pdf');
  });
  it('is sound to qpdf, version 1.4 with a classic cross-reference table', () => {
    expect(run('qpdf', '--check', novel.path)).toContain('No syntax or stream encoding errors');
    expect(Buffer.from(novel.bytes.subarray(0, 8)).toString()).toBe('%PDF-1.4');
    expect(run('qpdf', '--show-xref', novel.path)).not.toMatch(/: compressed/);
  });
  it('embeds every face, subset, with a way back to text (pdffonts)', () => {
    const rows = run('pdffonts', novel.path).trim().split('\n').slice(2);
    expect(rows.length).toBeGreaterThan(0);
    for (const r of rows) expect(r).toMatch(/CID TrueType\s+Identity-H\s+yes yes yes/);
  });
  it('gives the novel’s words back, all of them and in order (pdftotext)', () => {
    // Cropped to the type area, so that heads and folios are left out: y from 48 to 562 pt.
    const shown = run(
      'pdftotext',
      '-raw',
      '-enc',
      'UTF-8',
      '-x',
      '0',
      '-y',
      '48',
      '-W',
      '396',
      '-H',
      '514',
      novel.path,
      '-',
    );
    const letters = (t: string): string =>
      t
        .normalize('NFKC')
        .replace(/\u00ad/g, '')
        .replace(/\s+/g, '')
        .toLowerCase();
    const whole = letters(shown);
    let at = 0;
    let found = 0;
    const paragraphs = openNovelChapters().flatMap((c) => paragraphsOf(c.text));
    for (const p of paragraphs) {
      const wanted = letters(p);
      const next = whole.indexOf(wanted, at);
      if (next >= 0) {
        at = next + wanted.length;
        found++;
      }
    }
    expect(found).toBe(paragraphs.length);
    // Besides the paragraphs only the chapter headings stand there.
    const count = (t: string): number => letters(t).length;
    expect(count(shown) - paragraphs.reduce((n, p) => n + count(p), 0)).toBe(headingLetters(novel));
  }, 120_000);
  it('stands on the grid when its baselines are read back (pdfjs-dist)', async () => {
    const doc = await getDocument({ data: novel.bytes.slice(), useSystemFonts: false }).promise;
    const { margins, text, trim } = novel.composition.interior;
    for (const n of [4, 5, 40, 41, 200, 201]) {
      const content = await (await doc.getPage(n)).getTextContent();
      const side = n % 2 === 1 ? 'recto' : 'verso';
      const left = (side === 'recto' ? margins.inside : margins.outside) / 1000;
      const right = trim.width / 1000 - (side === 'recto' ? margins.outside : margins.inside) / 1000;
      for (const item of content.items) {
        if (!('str' in item) || item.str.trim() === '' || item.height > 12 || item.height < 10.5) continue;
        const y = trim.height / 1000 - (item.transform[5] as number);
        const row = (y - margins.top / 1000 - (text.leading / 1000) * 0.76) / (text.leading / 1000);
        expect(Math.abs(row - Math.round(row))).toBeLessThan(0.01);
        expect(item.transform[4]).toBeGreaterThan(left - 6);
        expect((item.transform[4] as number) + item.width).toBeLessThan(right + 6);
      }
    }
    await doc.destroy();
  });
  it('passes the checks, and has one size throughout', async () => {
    expect(await checkPdf(novel.bytes)).toEqual({ ok: true, value: [] });
    expect(run('pdfinfo', novel.path)).toMatch(/Page size:\s+396 x 612 pts/);
  });
});
/** Letters of lines that no block holds: the chapters' headings. */
const headingLetters = ({ composition: c }: PrintMade): number =>
  c.pages
    .flatMap((p) => [...sheetLines(p.body)])
    .filter((l) => l.block === '')
    .flatMap((l) => l.words)
    .reduce<number>((n, w) => n + (w === null ? 0 : (c.words.texts[w] as string).length), 0);

describe('the printer’s PDF in each interior', () => {
  const every = book([section('t', 'title-page', []), section('toc', 'contents', []), everyBlock()], {
    pictures: [{ id: 'p1', name: 'p1', type: 'image/png', width: 900, height: 500 }],
  });
  it.each(INTERIOR_NAMES)(
    '%s is sound, embeds its faces, and stands on its grid inside its margins',
    async (name) => {
      const b = { ...every, editions: every.editions.map((e) => ({ ...e, interior: name })) };
      const made = await make(b, `${name}.pdf`, new Map([['p1', png(900, 500)]]));
      expect(run('qpdf', '--check', made.path)).toContain('No syntax or stream encoding errors');
      for (const row of run('pdffonts', made.path).trim().split('\n').slice(2))
        expect(row).toMatch(/CID TrueType\s+Identity-H\s+yes yes yes/);
      const checked = await checkPdf(made.bytes);
      expect(checked.ok && checked.value.filter((f) => f.severity !== 'note')).toEqual([]);
      // Read back by pdfjs-dist: lines of the text's own size.
      const { margins, text, trim } = made.composition.interior;
      const doc = await getDocument({ data: made.bytes.slice(), useSystemFonts: false }).promise;
      const first = made.composition.starts.get('every') as number;
      let lines = 0;
      for (let n = first + 2; n <= doc.numPages; n++) {
        const content = await (await doc.getPage(n)).getTextContent();
        const left = (n % 2 === 1 ? margins.inside : margins.outside) / 1000;
        const right = (trim.width - (n % 2 === 1 ? margins.outside : margins.inside)) / 1000;
        for (const item of content.items) {
          if (!('str' in item) || item.str.trim() === '' || Math.abs(item.height - text.size / 1000) > 0.01)
            continue;
          lines++;
          const y = trim.height / 1000 - (item.transform[5] as number);
          const row = (y - margins.top / 1000 - (text.leading / 1000) * 0.76) / (text.leading / 1000);
          expect(Math.abs(row - Math.round(row))).toBeLessThan(0.01);
          expect(item.transform[4]).toBeGreaterThan(left - 6);
          expect((item.transform[4] as number) + item.width).toBeLessThan(right + 6);
        }
      }
      expect(lines).toBeGreaterThan(20);
    },
  );
});

describe('the printer’s PDF', () => {
  const withPicture = (): Book => {
    const content = schema.node('doc', null, [
      schema.node('paragraph', { id: 'a' }, [schema.text('Before the map.')]),
      schema.node('figure', { id: 'f', picture: 'map', alt: 'Map', width: 50 }, [schema.text('The flats')]),
      schema.node('paragraph', { id: 'b' }, [schema.text('After.')]),
    ]);
    return book([{ ...section('c', 'chapter', []), content }], {
      pictures: [{ id: 'map', name: '', type: 'image/png', width: 900, height: 600 }],
    });
  };
  it('is the same to the byte each time', async () => {
    const [a, b] = [await make(threeChapters(), 'a.pdf'), await make(threeChapters(), 'b.pdf')];
    expect(Buffer.from(a.bytes).equals(Buffer.from(b.bytes))).toBe(true);
  });
  it.each(['5 × 8 in', '5.5 × 8.5 in', '6 × 9 in'])('has the trim %s', async (trim) => {
    const b = threeChapters();
    printOf(b, 'paperback')!.trim = trim;
    const { path } = await make(b, 'trim.pdf');
    const [w, h] = trim
      .replace(' in', '')
      .split(' × ')
      .map((n) => Number(n) * 72);
    expect(run('pdfinfo', '-box', path)).toMatch(
      new RegExp(`TrimBox:\\s+0.00\\s+0.00\\s+${w!.toFixed(2)}\\s+${h!.toFixed(2)}`),
    );
  });
  it('prints pictures grey and fine enough (pdfimages)', async () => {
    const { path } = await make(withPicture(), 'picture.pdf', new Map([['map', png(900, 600)]]));
    const [, , row] = run('pdfimages', '-list', path).trim().split('\n');
    expect(row).toMatch(/image\s+900\s+600\s+gray\s+1\s+8\s+jpeg/);
    expect(Number(row!.trim().split(/\s+/)[12])).toBeGreaterThanOrEqual(300);
  });
  it('agrees with the record in its own metadata', async () => {
    const b = threeChapters();
    const { bytes } = await make(b, 'meta.pdf');
    const subject = await pdfSubject(bytes);
    if (!subject.ok) throw new Error(subject.refusal.message);
    expect(
      checkFileAgreement(b, b.editions[0]!, pdfFacts(subject.value, 'the-causeway-paperback.pdf')),
    ).toEqual([]);
  });
  it('labels front matter in roman and body in arabic', async () => {
    const { bytes } = await make(threeChapters(), 'labels.pdf');
    const doc = await getDocument({ data: bytes.slice() }).promise;
    expect((await doc.getPageLabels())?.slice(0, 6)).toEqual(['i', 'ii', 'iii', 'iv', '1', '2']);
    await doc.destroy();
  });
  it('that is damaged or no PDF is refused in a sentence', async () => {
    for (const bad of [new Uint8Array(0), new TextEncoder().encode('%PDF-1.4 nothing')]) {
      const r = await checkPdf(bad);
      expect(r.ok ? r.value.length : r.refusal.message.length).toBeGreaterThan(0);
    }
  });
  it('stops when asked to', async () => {
    const r = await makePrint(threeChapters(), 'paperback', { pictures: () => null, progress: () => false });
    expect(r.ok ? '' : r.refusal.code).toBe('compose/stopped');
  });
});

it('a book file keeps pictures and text', () => {
  const b = book([section('a', 'chapter', ['Text.'])], {
    pictures: [{ id: 'p', name: 'x', type: 'image/png', width: 2, height: 2 }],
  });
  const again = readBookFile(writeBookFile({ book: b, files: new Map([['p', png(2, 2)]]) }));
  expect(again.ok && Buffer.from(again.value.files.get('p')!).equals(Buffer.from(png(2, 2)))).toBe(true);
});
