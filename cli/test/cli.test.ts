import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { PDFDocument, StandardFonts } from 'pdf-lib';
import { beforeAll, describe, expect, it } from 'vitest';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { styledManuscript } from '../../core/test/fixtures/manuscript';

const dir = mkdtempSync(join(tmpdir(), 'cli-'));
const at = (name: string): string => join(dir, name);
const pagina = (...args: string[]) => {
  const r = spawnSync(resolve('bin/pagina'), args, { encoding: 'utf8' });
  return { code: r.status, out: r.stdout, err: r.stderr };
};

beforeAll(async () => {
  writeFileSync(at('book.docx'), await styledManuscript());
  writeFileSync(at('text.docx'), 'no docx');
});

describe('bin/pagina', () => {
  it('imports a manuscript and accounts for every word', () => {
    const { code, out } = pagina('import', at('book.docx'), '--out', at('BOOK.json'), '--json');
    const told = JSON.parse(out) as {
      sections: { kind: string; title: string; depth: number }[];
      wordsIn: number;
      wordsOut: number;
      setAside: Record<string, number>;
    };
    expect(code).toBe(0);
    expect(told.sections.find((s) => s.kind === 'chapter')).toMatchObject({ title: 'The Carts', depth: 1 });
    expect(told.wordsOut + Object.values(told.setAside).reduce((a, b) => a + b, 0)).toBe(told.wordsIn);
  });
  it('builds from rich text, which begins with a brace as a book file does', () => {
    writeFileSync(at('book.rtf'), String.raw`{\rtf1\ansi {\b Chapter One}\par The boat came in.\par}`);
    const r = pagina(
      'build',
      at('book.rtf'),
      '--edition',
      'reflow',
      '--title',
      'Boats',
      '--out',
      at('boats.epub'),
    );
    expect([r.code, r.err]).toEqual([0, '']);
  });
  it('builds print and reflow, which pass its own check', () => {
    expect(
      pagina(
        'build',
        at('BOOK.json'),
        '--edition',
        'print',
        '--out',
        at('the-causeway.pdf'),
        '--trim',
        '6x9in',
        '--report',
        at('report.json'),
      ).code,
    ).toBe(0);
    expect(
      pagina(
        'build',
        at('book.docx'),
        '--edition',
        'reflow',
        '--out',
        at('the-causeway.epub'),
        '--isbn',
        '978-92-95055-12-4',
        '--date',
        '2026-03-01',
      ).code,
    ).toBe(0);
    const report = JSON.parse(readFileSync(at('report.json'), 'utf8')) as Record<string, unknown>;
    expect(Object.keys(report)).toEqual([
      'pages',
      'lines',
      'hyphenatedLines',
      'longestHyphenLadder',
      'overfullLines',
      'looseLines',
      'widows',
      'orphans',
      'strandedHeadings',
      'shortLastPages',
      'unlevelSpreads',
      'underfullLines',
      'missingGlyphs',
      'lostNotes',
      'milliseconds',
    ]);
    const { code, out } = pagina('check', at('the-causeway.pdf'), at('the-causeway.epub'), '--json');
    expect([
      code,
      (JSON.parse(out) as { files: { findings: { severity: string }[] }[] }).files.map((f) =>
        f.findings.filter((x) => x.severity !== 'note'),
      ),
    ]).toEqual([0, [[], []]]);
  });
  it('builds a fixed layout of the printed pages, which passes its own check and bears its own ISBN', () => {
    const [isbn, out] = ['978-92-95055-12-4', at('fixed.epub')];
    const built = pagina('build', at('book.docx'), '--edition', 'fixed', '--isbn', isbn, '--out', out);
    expect([built.code, built.err]).toEqual([0, '']);
    expect(pagina('check', out).out).not.toMatch(/blocker|caution/);
    const opf = strFromU8(unzipSync(readFileSync(out))['EPUB/package.opf']!);
    expect(opf).toContain('urn:isbn:9789295055124');
    expect(opf).toContain('<meta property="pageBreakSource">none</meta>');
  });
  it('says which pictures are missing, and leaves gaps that every reader of the file understands', async () => {
    type WithPictures = { pictures: { base64?: string }[] };
    const whole = JSON.parse(readFileSync(at('BOOK.json'), 'utf8')) as WithPictures;
    expect(whole.pictures).toHaveLength(1);
    writeFileSync(
      at('gaps.json'),
      JSON.stringify({ ...whole, pictures: whole.pictures.map((p) => ({ ...p, base64: undefined })) }),
    );
    const r = pagina('build', at('gaps.json'), '--edition', 'print', '--title', 'T', '--out', at('gaps.pdf'));
    expect(r.code).toBe(0);
    expect(r.err).toMatch(/^1 picture is missing from .*gaps\.json\. Its place is left empty\.\n$/);
    const drawn = spawnSync('pdftoppm', ['-r', '20', at('gaps.pdf'), at('gaps')], { encoding: 'utf8' });
    expect([drawn.status, drawn.stderr]).toEqual([0, '']);
  });
  it('builds the sheet of a cover, and says what is wrong with it', () => {
    const args = ['build', at('BOOK.json'), '--edition', 'cover', '--out', at('cover.pdf')];
    const { code, err } = pagina(...args, '--isbn', '978-92-95055-12-4');
    expect([code, existsSync(at('cover.pdf'))]).toEqual([0, true]);
    expect(err).toMatch(/^caution: The spine is .* mm wide, too narrow for words/);
    expect(spawnSync('qpdf', ['--check', at('cover.pdf')]).status).toBe(0);
    expect(pagina(...args).err).toMatch(/has no ISBN/);
  });
  it('lists every rule a line: name, severity, profile, source', () => {
    const { code, out } = pagina('check', '--rules');
    const lines = out.trim().split('\n');
    expect([code, lines.length > 180]).toEqual([0, true]);
    for (const line of lines)
      expect(line).toMatch(
        /^[a-z]+\/[a-z0-9-]+\t(blocker|caution|note)\t(book|agreement|EPUB|accessibility|outlets|print)[^\t]*\t[^\t]+/,
      );
  });
  it('mends an EPUB into another file, and leaves the one that it was given as it is', () => {
    const parts = unzipSync(readFileSync(at('the-causeway.epub')));
    const page = Object.keys(parts).find((n) => /s\d+\.xhtml$/.test(n)) as string;
    const text = strFromU8(parts[page]!)
      .replace('</p>', ' Salt & sand</p>')
      .replace('<p', '<p align="center"');
    const broken = zipSync({ ...parts, [page]: strToU8(text) });
    writeFileSync(at('broken.epub'), broken);
    const { code, out } = pagina('check', at('broken.epub'), '--mend', at('mended.epub'));
    expect(out).toContain('mended: Escape special characters');
    expect(out).toContain('every word and every picture is as it was');
    expect(code).toBe(0);
    expect(readFileSync(at('broken.epub'))).toEqual(Buffer.from(broken));
    // Another program reads it, and sees the type first.
    expect(readFileSync(at('mended.epub')).subarray(30, 58).toString()).toBe('mimetypeapplication/epub+zip');
    expect(pagina('check', at('mended.epub')).out).not.toMatch(/blocker|caution/);
    expect(pagina('check', at('book.docx'), '--mend', at('x.epub'))).toMatchObject({ code: 2 });
  });
  it('checks an ebook by the further rules of an outlet that is named', () => {
    const args = ['check', at('the-causeway.epub')];
    expect(pagina(...args).code).toBe(0);
    const refused = pagina(...args, '--outlet', 'Plover');
    expect([refused.code, refused.out]).toEqual([
      1,
      expect.stringMatching(/caution outlet\/version \S+ Plover takes EPUB 2 only/) as string,
    ]);
    expect(pagina(...args, '--outlet', 'nowhere').err).toMatch(/doesn’t know the outlet “nowhere”/);
  });
  it('mends an ebook whose end is missing: what is whole is packed again', () => {
    const whole = readFileSync(at('the-causeway.epub'));
    const sound = unzipSync(whole);
    writeFileSync(at('half.epub'), whole.subarray(0, whole.length - 400));
    const checked = pagina('check', at('half.epub'));
    expect([checked.code, checked.out]).toEqual([
      1,
      expect.stringContaining('blocker zip/incomplete-container') as string,
    ]);
    expect(pagina('check', at('half.epub'), '--mend', at('packed.epub')).out).toContain(
      'mended: Repack the intact files',
    );
    // Info-ZIP reads it; every file in it is one of the sound ebook’s, to the byte.
    expect(spawnSync('unzip', ['-tq', at('packed.epub')]).status).toBe(0);
    const packed = unzipSync(readFileSync(at('packed.epub')));
    for (const name of Object.keys(packed))
      expect(Buffer.from(packed[name]!), name).toEqual(Buffer.from(sound[name]!));
    expect(Object.keys(packed).length).toBeGreaterThan(Object.keys(sound).length - 3);
  });
  it('measures how near ink comes to the edges of a PDF, and with a binding what the printer takes', async () => {
    const doc = await PDFDocument.create();
    const face = await doc.embedFont(StandardFonts.Helvetica);
    // Trims of 360 × 540 points; the first pages of each side with their words 20 points from the fold.
    for (let i = 0; i < 10; i++) {
      const inside = i < 2 ? 20 : 50;
      doc
        .addPage([360, 540])
        .drawText('Words', { x: i % 2 === 0 ? inside : 360 - inside - 40, y: 300, size: 14, font: face });
    }
    writeFileSync(at('near.pdf'), await doc.save());
    const plain = pagina('check', at('near.pdf')).out;
    // 20 points are 7.06 mm; a letter stands a little right of its origin. On the left-hand page “Words” ends short of 40.
    expect(plain).toMatch(
      /caution pdf\/inside-margin On page[s]? 1.* the ink is 7\.[0-4] mm from the gutter/,
    );
    expect(plain).not.toMatch(/page-count/);
    expect(pagina('check', at('near.pdf'), '--binding', 'hardback').out).toMatch(
      /pdf\/page-count The file has 10 pages; Quayhead binds 72 to 560 in hardback/,
    );
    expect(pagina('check', at('near.pdf'), '--binding', 'string')).toMatchObject({ code: 2 });
  });
  it('answers 1 where a check finds a blocker', () => {
    writeFileSync(at('empty.json'), JSON.stringify({ version: 1, record: {}, sections: [], editions: [] }));
    expect(pagina('check', at('empty.json')).code).toBe(1);
  });
  it.each([
    [['import', 'nowhere.docx'], /There is no file/],
    [['build', 'x.docx'], /Say which edition/],
    [['fly', 'x'], /no command/],
    [['import'], /Name a file/],
    [['import', 'x', '--wings'], /wings/],
  ])('says in one line what is wrong with %j, and answers 2', (args, words) => {
    const { code, err } = pagina(...args);
    expect(code).toBe(2);
    expect(err.trim().split('\n').length).toBe(1);
    expect(err).toMatch(words);
  });
  it('leaves no half-made file behind', () => {
    const { code, err } = pagina('build', at('text.docx'), '--edition', 'print', '--out', at('none.pdf'));
    expect([code, existsSync(at('none.pdf'))]).toEqual([2, false]);
    expect(err).toMatch(/not a \.docx/);
    expect(
      pagina(
        'build',
        at('book.docx'),
        '--edition',
        'print',
        '--out',
        at('none.pdf'),
        '--isbn',
        '978-92-95055-12-5',
      ).err,
    ).toMatch(/mistyped/);
  });
  it('reads a damaged PDF or says in one line why not, whatever its library lets go of', () => {
    expect(pagina('build', at('book.docx'), '--edition', 'print', '--out', at('whole.pdf')).code).toBe(0);
    const whole = readFileSync(at('whole.pdf'));
    let seed = 7;
    const next = (n: number): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) % n;
    for (let round = 0; round < 10; round++) {
      let bytes = Buffer.from(whole);
      for (let i = 0; i < 8; i++) bytes[next(bytes.length)] = next(256);
      if (round > 6) bytes = bytes.subarray(0, Math.floor((bytes.length * (round - 5)) / 5));
      writeFileSync(at('damaged.pdf'), bytes);
      const { code, err } = pagina('import', at('damaged.pdf'), '--json');
      expect([0, 2]).toContain(code);
      if (code === 2) expect(err.trim().split('\n')).toHaveLength(1);
    }
  }, 60_000);
});
