/**
 * Checks of PDFs that others made. Pictures and their pixels an inch are those that poppler's pdfimages lists, faces those
 * that pdffonts lists: nothing of the checks' own reading. The files are those of Debian's documentation packages.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { PDFArray } from 'pdf-lib';
import { degrees, PDFDocument, PDFName, PDFString, rgb, cmyk, type PDFPage } from 'pdf-lib';
import { beforeAll, describe, expect, it } from 'vitest';
import { checkPdf, pdfSubject, type PdfSubject } from '@pagina/core/check';
import { PDF_RULES } from '../../core/src/check/pdf';
import { png } from '../../core/test/fixtures/manuscript';
import { otherEbooks, OTHER_EBOOKS } from '../../scripts/setup.mjs';

const dir = mkdtempSync(join(tmpdir(), 'pdf-checks-'));
const files = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? files(path) : /\.pdf(\.gz)?$/.test(entry.name) ? [path] : [];
  });
const subjectOf = async (bytes: Uint8Array): Promise<PdfSubject> => {
  const s = await pdfSubject(bytes);
  if (!s.ok) throw new Error(s.refusal.message);
  return s.value;
};
const rulesOf = async (bytes: Uint8Array): Promise<string[]> => {
  const checked = await checkPdf(bytes);
  if (!checked.ok) throw new Error(checked.refusal.message);
  return checked.value.map((f) => f.rule);
};
let turn = 0;
const kept = (bytes: Uint8Array): string => {
  const path = join(dir, `${++turn}.pdf`);
  writeFileSync(path, bytes);
  return path;
};
/** Page, pixels and pixels an inch of every picture that poppler finds; masks left out, and inline ones, which it lists otherwise. */
const listed = (path: string): string[] =>
  execFileSync('pdfimages', ['-list', path], { encoding: 'utf8', maxBuffer: 1e9 })
    .split('\n')
    .slice(2)
    .map((l) => l.trim().split(/\s+/))
    .filter((c) => c.length > 13 && c[2] === 'image' && c[9] !== '[inline]')
    .map(
      (c) =>
        `${c[0] ?? ''} ${c[3] ?? ''}x${c[4] ?? ''} ${Math.min(Number(c[c.length - 4]), Number(c[c.length - 3]))}`,
    )
    .sort();
const own = ({ pages }: PdfSubject): string[] =>
  pages
    .flatMap(({ ink }, i) =>
      ink.images
        .filter((x) => x.colour !== 'mask')
        .map((x) => `${i + 1} ${x.width}x${x.height} ${Math.round(x.density)}`),
    )
    .sort();

describe('PDFs of documentation packages', () => {
  let all: { name: string; bytes: Uint8Array }[] = [];
  beforeAll(() => {
    otherEbooks();
    all = files(resolve(OTHER_EBOOKS)).map((path) => {
      const bytes = readFileSync(path);
      return { name: path, bytes: new Uint8Array(/gz$/.test(path) ? gunzipSync(bytes) : bytes) };
    });
    expect(all.length).toBeGreaterThanOrEqual(8);
  });
  it('have the pictures that poppler lists, each with its pixels an inch', async () => {
    let pictures = 0;
    for (const { name, bytes } of all) {
      const theirs = listed(kept(bytes));
      pictures += theirs.length;
      expect(own(await subjectOf(bytes)), name).toEqual(theirs);
    }
    expect(pictures).toBeGreaterThan(10);
  }, 120_000);
  it('have no blocker but faces that poppler says are not embedded, and pages of other sizes', async () => {
    for (const { name, bytes } of all) {
      const checked = await checkPdf(bytes);
      if (!checked.ok) throw new Error(checked.refusal.message);
      const faces = execFileSync('pdffonts', [kept(bytes)], { encoding: 'utf8' })
        .split('\n')
        .slice(2)
        .filter((l) => /\s(?:yes|no)\s+(?:yes|no)\s+(?:yes|no)\s+\d+\s+\d+$/.test(l));
      const loose = faces.filter((l) => /\sno\s+(?:yes|no)\s+(?:yes|no)\s+\d+\s+\d+$/.test(l)).length;
      const blockers = checked.value.filter((f) => f.severity === 'blocker');
      expect(blockers.filter((f) => f.rule === 'pdf/fonts-embedded').length > 0, name).toBe(loose > 0);
      expect(
        blockers.filter((f) => !/fonts-embedded|page-sizes/.test(f.rule)),
        name,
      ).toEqual([]);
    }
  }, 120_000);
});

const made = async (
  draw: (page: PDFPage, doc: PDFDocument) => void | Promise<void>,
  pages = 2,
): Promise<Uint8Array> => {
  const doc = await PDFDocument.create();
  for (let i = 0; i < pages; i++) {
    const page = doc.addPage([360, 540]);
    page.setTrimBox(0, 0, 360, 540);
    page.drawRectangle({ x: 50, y: 50, width: 10, height: 10, color: cmyk(0, 0, 0, 1) });
  }
  await draw(doc.getPage(0), doc);
  return doc.save();
};
const claim = (doc: PDFDocument, as = 'PDF/X-1a:2003'): void => {
  const info = doc.context.lookup(doc.context.trailerInfo.Info);
  (info as unknown as { set(k: PDFName, v: PDFString): void }).set(
    PDFName.of('GTS_PDFXVersion'),
    PDFString.of(as),
  );
  doc.catalog.set(
    PDFName.of('OutputIntents'),
    doc.context.obj([{ Type: 'OutputIntent', S: 'GTS_PDFX' }]) as PDFArray,
  );
};
const picture = async (doc: PDFDocument, width: number, height: number) => doc.embedPng(png(width, height));

describe('PDFs made for the test', () => {
  it('have the density that poppler finds, turned, scaled, and within forms', async () => {
    for (const [w, h, turnBy] of [
      [144, 144, 0],
      [100, 200, 0],
      [72, 36, 90],
      [200, 100, 180],
    ] as const) {
      const bytes = await made(async (page, doc) => {
        page.drawImage(await picture(doc, 300, 150), {
          x: 200,
          y: 250,
          width: w,
          height: h,
          rotate: degrees(turnBy),
        });
        const other = await PDFDocument.create();
        const inner = other.addPage([100, 100]);
        inner.drawImage(await picture(other, 120, 120), { x: 0, y: 0, width: 100, height: 50 });
        const [form] = await doc.embedPdf(await other.save());
        if (form) page.drawPage(form, { x: 20, y: 20, width: 50, height: 50 });
      });
      expect(own(await subjectOf(bytes))).toEqual(listed(kept(bytes)));
      expect(own(await subjectOf(bytes)).length).toBe(2);
    }
  });
  it.each<
    [
      string,
      (page: PDFPage, doc: PDFDocument) => void | Promise<void>,
      (page: PDFPage, doc: PDFDocument) => void | Promise<void>,
    ]
  >([
    [
      'pdf/screen-colour',
      (p) => p.drawRectangle({ width: 9, height: 9, color: rgb(1, 0, 0) }),
      (p) => p.drawRectangle({ width: 9, height: 9, color: rgb(0.5, 0.5, 0.5) }),
    ],
    [
      'pdf/colour-not-allowed',
      (p, d) => {
        claim(d);
        p.drawRectangle({ width: 9, height: 9, color: rgb(1, 0, 0) });
      },
      (p, d) => {
        claim(d, 'PDF/X-4');
        p.drawRectangle({ width: 9, height: 9, color: rgb(1, 0, 0) });
      },
    ],
    [
      'pdf/transparency',
      (p, d) => {
        claim(d);
        p.drawRectangle({ width: 9, height: 9, color: cmyk(0, 0, 0, 1), opacity: 0.5 });
      },
      (p, d) => {
        claim(d, 'PDF/X-4');
        p.drawRectangle({ width: 9, height: 9, color: cmyk(0, 0, 0, 1), opacity: 0.5 });
      },
    ],
    [
      'pdf/no-intent',
      (_, d) => {
        claim(d);
        d.catalog.delete(PDFName.of('OutputIntents'));
      },
      (_, d) => claim(d),
    ],
    ['pdf/no-trim-box', (p) => p.node.delete(PDFName.of('TrimBox')), () => undefined],
    [
      'pdf/boxes',
      (p, d) => {
        claim(d);
        p.node.delete(PDFName.of('TrimBox'));
      },
      (p) => p.node.delete(PDFName.of('TrimBox')),
    ],
    [
      'pdf/coarse-picture',
      async (p, d) => p.drawImage(await picture(d, 100, 100), { x: 90, y: 90, width: 72, height: 72 }),
      async (p, d) => p.drawImage(await picture(d, 320, 320), { x: 90, y: 90, width: 72, height: 72 }),
    ],
    [
      'pdf/soft-picture',
      async (p, d) => p.drawImage(await picture(d, 200, 200), { x: 90, y: 90, width: 72, height: 72 }),
      async (p, d) => p.drawImage(await picture(d, 300, 300), { x: 90, y: 90, width: 72, height: 72 }),
    ],
    [
      'pdf/no-bleed',
      async (p, d) => p.drawImage(await picture(d, 2000, 2000), { x: 0, y: 90, width: 200, height: 200 }),
      async (p, d) => {
        p.setMediaBox(-9, -9, 378, 558);
        p.setBleedBox(-9, -9, 378, 558);
        p.drawImage(await picture(d, 2000, 2000), { x: -9, y: 90, width: 200, height: 200 });
      },
    ],
    [
      'pdf/blank-pages',
      (_, d) => {
        d.addPage([360, 540]);
        d.addPage([360, 540]);
      },
      (_, d) => {
        d.addPage([360, 540]);
      },
    ],
    [
      'pdf/page-sizes',
      (_, d) => {
        d.addPage([300, 540]);
      },
      () => undefined,
    ],
  ])('break %s, and not beside it', async (rule, bad, good) => {
    expect(await rulesOf(await made(bad))).toContain(rule);
    expect(await rulesOf(await made(good))).not.toContain(rule);
    expect(PDF_RULES.map((r) => r.name)).toContain(rule);
  });
  it('are read without harm whatever has happened to their bytes', async () => {
    const bytes = await made(async (page, doc) =>
      page.drawImage(await picture(doc, 100, 100), { x: 9, y: 9, width: 50, height: 50 }),
    );
    let state = 7;
    const roll = (n: number): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) % n;
    for (let i = 0; i < 150; i++) {
      const copy = bytes.slice();
      for (let k = roll(8); k >= 0; k--) copy[roll(copy.length)] = roll(256);
      const cut = roll(4) === 0 ? copy.subarray(0, roll(copy.length)) : copy;
      const r = await checkPdf(cut);
      if (!r.ok) expect(r.refusal.message).toMatch(/\.$/);
    }
  }, 60_000);
});
