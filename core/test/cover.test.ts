import { describe, expect, it } from 'vitest';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  BarcodeFormat,
  BinaryBitmap,
  DecodeHintType,
  HybridBinarizer,
  MultiFormatReader,
  RGBLuminanceSource,
} from '@zxing/library';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { PDFDocument, PDFName } from 'pdf-lib';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import sharp from 'sharp';
import { makeEbook, typeSource } from '@pagina/make';
import { frontPicture, makeCover } from '@pagina/make/cover';
import { inches, mm, type Money } from '../src/base';
import {
  apply,
  bookFromJson,
  bookToJson,
  coverSchema,
  FRONTS,
  setsFront,
  spineTurn,
  type Book,
  type CoverPlan,
} from '../src/book';
import { checkEpub } from '../src/check';
import { coverGeometry, coverSheet, priceAddOn, LEAST_SPINE } from '../src/cover';
import { TRIMS } from '../src/design';
import { paperOf } from '../src/trade';
import { threeChapters } from './fixtures/books';
import { png } from './fixtures/manuscript';

// The Users' Manual's own ISBN, from memory.
const ISBN = '978-92-95055-12-4';
const PICTURE = png(1600, 2400);

function covered(plan: Partial<CoverPlan> = {}, more: Partial<Book['record']> = {}): Book {
  const b = threeChapters();
  return {
    ...b,
    record: {
      ...b.record,
      description: 'Mud, carts, and a causeway that was not there the day before.',
      contributors: b.record.contributors.map((c) => ({ ...c, life: 'Ines Calloway keeps tide tables.' })),
      ...more,
    },
    cover: { ...coverSchema.parse({}), ...plan },
    pictures: [{ id: 'p', name: 'front', type: 'image/png', width: 1600, height: 2400 }],
    editions: b.editions.map((e) => (e.form === 'print' ? { ...e, isbn: ISBN } : e)),
  };
}
const pictures = (): Uint8Array => PICTURE;
async function pdfOf(book: Book, pages = 320, empty = false): Promise<Uint8Array> {
  const made = await makeCover(book, 'paperback', pages, { pictures, empty });
  if (!made.ok) throw new Error(made.refusal.message);
  return made.value.bytes;
}
async function wordsOf(bytes: Uint8Array) {
  const page = await (await getDocument({ data: bytes.slice() }).promise).getPage(1);
  const { items } = await page.getTextContent();
  return items.flatMap((i) =>
    'str' in i && i.str.trim()
      ? [{ text: i.str, x: i.transform[4] as number, y: i.transform[5] as number, along: i.transform }]
      : [],
  );
}
function rendered(bytes: Uint8Array, dpi: number): string {
  const folder = mkdtempSync(join(tmpdir(), 'cover-'));
  writeFileSync(join(folder, 'c.pdf'), bytes);
  execFileSync('qpdf', ['--check', join(folder, 'c.pdf')]);
  execFileSync('pdftoppm', [
    '-r',
    String(dpi),
    '-png',
    '-singlefile',
    join(folder, 'c.pdf'),
    join(folder, 'c'),
  ]);
  return join(folder, 'c.png');
}

describe('the sheet', () => {
  it('lies as a printer cuts and folds it', () => {
    // Worked by hand: 300 pages are 150 leaves; at 127 µm each that is 19.05 mm (common practice for cream paper).
    const g = coverGeometry({ width: inches(6), height: inches(9) }, 300, paperOf('cream-80'));
    expect(g.spine.width).toBe(mm(19.05));
    expect(g.width).toBe(2 * inches(0.125) + 2 * inches(6) + mm(19.05));
    expect(g.height).toBe(inches(9.25));
    expect([g.back.x, g.spine.x, g.front.x]).toEqual([
      inches(0.125),
      inches(6.125),
      inches(6.125) + mm(19.05),
    ]);
    expect(g.front.x + g.front.width + g.bleed).toBe(g.width);
    expect(g.trim).toEqual({ x: g.bleed, y: g.bleed, width: g.width - 2 * g.bleed, height: inches(9) });
  });
  it('of a hardback covers its boards, with hinges, and is folded in around them', async () => {
    // Worked by hand: 19.05 mm of paper and two boards of 3 mm; boards 1/8 in past the pages at three edges (common practice).
    const g = coverGeometry({ width: inches(6), height: inches(9) }, 300, paperOf('cream-80'), 'hardback');
    expect(g.spine.width).toBe(mm(25.05));
    expect(g.trim.width).toBe(2 * inches(6.125) + mm(25.05));
    expect(g.trim.height).toBe(inches(9.25));
    expect([g.width - g.trim.width, g.height - g.trim.height]).toEqual([2 * mm(16), 2 * mm(16)]);
    const paperback = covered({ spine: { ...coverSchema.parse({}).spine, words: true } }, { cover: 'p' });
    const hard = {
      ...paperback,
      editions: paperback.editions.map((e) =>
        e.form === 'print' ? { ...e, binding: 'hardback' as const } : e,
      ),
    };
    const bytes = await pdfOf(hard);
    const own = coverGeometry(
      { width: inches(5.5), height: inches(8.5) },
      320,
      paperOf('cream-80'),
      'hardback',
    );
    const page = (await PDFDocument.load(bytes, { updateMetadata: false })).getPage(0);
    expect(page.getMediaBox().width).toBeCloseTo(own.width / 1000, 2);
    expect(page.getTrimBox()).toMatchObject({ height: 630 });
    // Read back by PDF.js: no word stands on a hinge.
    const hinge = mm(9) / 1000;
    for (const w of await wordsOf(bytes)) {
      const spine = { from: own.spine.x / 1000, to: (own.spine.x + own.spine.width) / 1000 };
      const onHinge =
        (w.x > spine.from - hinge && w.x < spine.from) || (w.x > spine.to && w.x < spine.to + hinge);
      expect([w.text, onHinge]).toEqual([w.text, false]);
    }
    const folder = mkdtempSync(join(tmpdir(), 'cover-'));
    writeFileSync(join(folder, 'c.pdf'), bytes);
    expect(execFileSync('qpdf', ['--check', join(folder, 'c.pdf')], { encoding: 'utf8' })).toContain(
      'No syntax',
    );
    const template = await wordsOf(await pdfOf(hard, 320, true));
    expect(template.map((w) => w.text).join(' ')).toContain('folded in around the boards');
  });
  it('has boxes that say so, in a file of the standard for presses', async () => {
    const bytes = await pdfOf(covered());
    const doc = await PDFDocument.load(bytes, { updateMetadata: false });
    const page = doc.getPage(0);
    const g = coverGeometry({ width: inches(5.5), height: inches(8.5) }, 320, paperOf('cream-80'));
    expect(page.getMediaBox().width).toBeCloseTo(g.width / 1000, 2);
    expect(page.getBleedBox()).toEqual(page.getMediaBox());
    expect(page.getTrimBox()).toMatchObject({ x: 9, y: 9, height: 612 });
    expect(page.getTrimBox().width).toBeCloseTo(g.trim.width / 1000, 2);
    expect(String(doc.context.lookup(doc.context.trailerInfo.Info))).toContain('PDF/X-1a:2003');
    expect(doc.catalog.get(PDFName.of('OutputIntents'))).toBeDefined();
    expect(new TextDecoder('latin1').decode(bytes.slice(0, 8))).toBe('%PDF-1.4');
    expect(await pdfOf(covered())).toEqual(bytes);
  });
  it('is drawn in the four inks of the press, and in no other colours', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'cover-'));
    writeFileSync(join(folder, 'c.pdf'), await pdfOf(covered({}, { cover: 'p' })));
    execFileSync('qpdf', ['--qdf', '--object-streams=disable', join(folder, 'c.pdf'), join(folder, 'q.pdf')]);
    const text = readFileSync(join(folder, 'q.pdf'), 'latin1');
    expect(text).toMatch(/\/DeviceCMYK/);
    expect(text).not.toMatch(/\/DeviceRGB|\/DeviceGray/);
    expect(text).not.toMatch(/\n[\d. ]+ (rg|RG|g|G)\n/);
    expect(execFileSync('pdfimages', ['-list', join(folder, 'c.pdf')], { encoding: 'utf8' })).toMatch(/cmyk/);
  });
  it('shows a picture in its own colours', async () => {
    const blue = await sharp({ create: { width: 900, height: 1400, channels: 3, background: '#3d6f9e' } })
      .png()
      .toBuffer();
    const made = await makeCover(covered({}, { cover: 'p' }), 'paperback', 320, { pictures: () => blue });
    if (!made.ok) throw new Error(made.refusal.message);
    const page = sharp(rendered(made.value.bytes, 40));
    const { width = 0, height = 0 } = await page.metadata();
    const [r = 0, g = 0, b = 0] = await page
      .extract({ left: Math.round(width * 0.75), top: height >> 1, width: 1, height: 1 })
      .removeAlpha()
      .raw()
      .toBuffer();
    // Not measured: the way to ink and back is the viewer's own. It is the same blue, and no negative.
    expect(b - r).toBeGreaterThan(40);
    expect(Math.abs(g - 0x6f)).toBeLessThan(40);
  });
});

describe('the barcode', () => {
  /** The place of the barcode in the sheet, grey, at 300 dots an inch. */
  const seen = async (bytes: Uint8Array) => {
    const dpi = 300;
    const px = (mp: number): number => Math.round((mp / 72_000) * dpi);
    const { barcode: b } = coverGeometry(
      { width: inches(5.5), height: inches(8.5) },
      320,
      paperOf('cream-80'),
    );
    const image = sharp(rendered(bytes, dpi))
      .extract({ left: px(b.x), top: px(b.y), width: px(b.width), height: px(b.height) })
      .removeAlpha()
      .greyscale();
    return image.raw().toBuffer({ resolveWithObject: true });
  };
  const decoded = async (bytes: Uint8Array): Promise<string> => {
    const { data, info } = await seen(bytes);
    const source = new RGBLuminanceSource(new Uint8ClampedArray(data), info.width, info.height);
    const reader = new MultiFormatReader();
    const hints: [DecodeHintType, unknown][] = [
      [DecodeHintType.POSSIBLE_FORMATS, [BarcodeFormat.EAN_13]],
      [DecodeHintType.TRY_HARDER, true],
    ];
    reader.setHints(new Map(hints));
    return reader.decode(new BinaryBitmap(new HybridBinarizer(source))).getText();
  };
  /**
   * Five digits beside a symbol, read from one row of dots: the decoder above cannot. Sets A and B of ISO/IEC 15420, and
   * the order of the sets that the check value asks for, from memory.
   */
  const addOn = async (bytes: Uint8Array): Promise<string> => {
    const { data, info } = await seen(bytes);
    const row = [...data.subarray(info.width * (info.height >> 1), info.width * ((info.height >> 1) + 1))];
    const runs: number[] = [];
    row.forEach((v, i) => {
      if (i > 0 && v < 128 === (row[i - 1] as number) < 128) runs[runs.length - 1]!++;
      else runs.push(1);
    });
    // Light, then 59 runs of the symbol, light, then the add-on, light.
    const bars = runs.slice(61, -1);
    const module = bars.reduce((a, n) => a + n, 0) / 47;
    const widths = bars.map((n) => Math.round(n / module));
    const A = ['3211', '2221', '2122', '1411', '1132', '1231', '1114', '1312', '1213', '3112'];
    const B = A.map((w) => [...w].reverse().join(''));
    expect(widths.slice(0, 3)).toEqual([1, 1, 2]);
    let sets = '';
    let digits = '';
    for (let i = 0; i < 5; i++) {
      const w = widths.slice(3 + i * 6, 7 + i * 6).join('');
      sets += A.includes(w) ? 'A' : 'B';
      digits += String(A.includes(w) ? A.indexOf(w) : B.indexOf(w));
    }
    const check = [...digits].reduce((n, d, i) => n + Number(d) * (i % 2 === 0 ? 3 : 9), 0) % 10;
    const ORDER = 'BBAAA BABAA BAABA BAAAB ABBAA AABBA AAABB ABABA ABAAB AABAB'.split(' ');
    expect(sets).toBe(ORDER[check]);
    return digits;
  };
  const pricedAt = (price: Money): Book => {
    const b = covered({ priced: true });
    return { ...b, editions: b.editions.map((e) => (e.form === 'print' ? { ...e, price } : e)) };
  };
  it('is read by a decoder as the ISBN, with the printed price', async () => {
    // @zxing/library, a reader of barcodes that shares nothing with the encoder.
    expect(await decoded(await pdfOf(covered()))).toBe('9789295055124');
    const priced = await pdfOf(pricedAt({ minor: 1299, currency: 'USD' }));
    expect([await decoded(priced), await addOn(priced)]).toEqual(['9789295055124', '51299']);
  });
  it('keeps a price that earlier versions had with the cover', () => {
    const json = bookToJson(covered()) as unknown as { cover: object; editions: { form: string }[] };
    const earlier = {
      ...json,
      cover: { ...json.cover, priced: undefined, price: { minor: 1299, currency: 'USD' } },
      editions: json.editions.map((e) => ({ ...e, price: undefined })),
    };
    const read = bookFromJson(JSON.parse(JSON.stringify(earlier)));
    if (!read.ok) throw new Error();
    expect(read.value.cover.priced).toBe(true);
    for (const e of read.value.editions)
      if (e.form === 'print') expect(e.price).toEqual({ minor: 1299, currency: 'USD' });
      else expect(e).not.toHaveProperty('price');
  });
  it('tells a price by the trade’s digits', () => {
    // Common practice of the book trade, from memory.
    expect(priceAddOn({ minor: 1299, currency: 'USD' })).toBe('51299');
    expect(priceAddOn({ minor: 899, currency: 'GBP' })).toBe('00899');
    expect(priceAddOn({ minor: 1299, currency: 'EUR' })).toBe('90000');
    expect(priceAddOn({ minor: 12_000, currency: 'USD' })).toBe('90000');
    expect(priceAddOn(null)).toBeNull();
  });
  it('is left white where there is no ISBN, and that is said', async () => {
    const b = covered();
    const without = { ...b, editions: b.editions.map((e) => ({ ...e, isbn: '' })) };
    const made = await coverSheet(without, 'paperback', 320, await typeSource());
    expect(made.ok && made.value.findings.map((f) => f.rule)).toEqual(['cover/isbn']);
    const off = await coverSheet(
      { ...without, cover: { ...b.cover, barcode: false } },
      'paperback',
      320,
      await typeSource(),
    );
    expect(off.ok && off.value.findings).toEqual([]);
  });
});

describe('the spine', () => {
  it('carries author and title downwards in English and upwards in French', async () => {
    expect([spineTurn('by-language', 'en-GB'), spineTurn('by-language', 'fr')]).toEqual(['down', 'up']);
    expect([spineTurn('by-language', 'de'), spineTurn('up', 'en')]).toEqual(['down', 'up']);
    const g = coverGeometry({ width: inches(5.5), height: inches(8.5) }, 320, paperOf('cream-80'));
    for (const [language, sign] of [
      ['en-GB', -1],
      ['fr', 1],
    ] as const) {
      const words = (await wordsOf(await pdfOf(covered({}, { language })))).filter((w) => w.along[0] === 0);
      expect(words.map((w) => w.text).join(' ')).toMatch(/INES CALLOWAY.*The Causeway/);
      for (const w of words) {
        expect(Math.sign(w.along[1] as number)).toBe(sign);
        expect(w.x * 1000).toBeGreaterThan(g.spine.x + inches(0.0625));
        expect(w.x * 1000).toBeLessThan(g.front.x - inches(0.0625));
      }
    }
  });
  it('bears no words where it is narrower than the folds may move', async () => {
    const thin = await coverSheet(covered(), 'paperback', 60, await typeSource());
    if (!thin.ok) throw new Error(thin.refusal.message);
    expect(thin.value.geometry.spine.width).toBeLessThan(LEAST_SPINE);
    expect(thin.value.findings.map((f) => f.rule)).toEqual(['cover/spine-narrow']);
    const words = await wordsOf(await pdfOf(covered(), 60));
    expect(words.filter((w) => w.along[0] === 0)).toEqual([]);
    const without = covered({ spine: { words: false, direction: 'by-language' } });
    const off = await coverSheet(without, 'paperback', 60, await typeSource());
    expect(off.ok && off.value.findings).toEqual([]);
  });
});

describe('front and back', () => {
  it('say what the record says, and the back what was written for it', async () => {
    const words = (await wordsOf(await pdfOf(covered({ line: 'A novel' })))).map((w) => w.text).join(' ');
    for (const said of [
      'A novel',
      'The',
      'Causeway',
      'INES CALLOWAY',
      'Mud, carts, and a causeway',
      'keeps tide tables',
      'ISBN',
    ])
      expect(words).toContain(said);
    const own = (await wordsOf(await pdfOf(covered({ back: 'Other words.', life: false }))))
      .map((w) => w.text)
      .join(' ');
    expect(own).toContain('Other words.');
    expect(own).not.toMatch(/Mud, carts|tide tables/);
  });
  it('leave a picture its own words', async () => {
    const g = coverGeometry({ width: inches(5.5), height: inches(8.5) }, 320, paperOf('cream-80'));
    const onFront = async (plan: Partial<CoverPlan>) =>
      (await wordsOf(await pdfOf(covered(plan, { cover: 'p' })))).filter((w) => w.x * 1000 > g.front.x);
    expect(await onFront({})).toEqual([]);
    for (const front of FRONTS.filter((f) => f !== 'bare')) {
      const found = await onFront({ front });
      expect(found.map((w) => w.text).join(' ')).toMatch(/The Causeway|The.*Causeway/);
    }
  });
  it('say so where the words of the front have no room', async () => {
    const found = async (plan: Partial<CoverPlan>, title: string): Promise<string[]> => {
      const made = await coverSheet(
        covered(plan, { title, cover: 'p' }),
        'paperback',
        320,
        await typeSource(),
      );
      return made.ok ? made.value.findings.map((f) => f.rule) : ['refused'];
    };
    for (const front of FRONTS.filter((f) => f !== 'bare')) {
      expect(await found({ front }, 'The Causeway')).not.toContain('cover/front-crowded');
      expect(await found({ front, titleSize: 144_000 }, 'The Causeway and the Carts'), front).toContain(
        'cover/front-crowded',
      );
    }
    expect(await found({ front: 'bare', titleSize: 144_000 }, 'The Causeway and the Carts')).not.toContain(
      'cover/front-crowded',
    );
  });
  it('refuse a back text that runs into the barcode', async () => {
    const long = await coverSheet(
      covered({ back: 'Mud and carts. '.repeat(400) }),
      'paperback',
      320,
      await typeSource(),
    );
    expect(long.ok && long.value.findings.map((f) => [f.rule, f.severity])).toEqual([
      ['cover/back-long', 'blocker'],
    ]);
  });
  it('keep all words within the safe areas, whatever the words, the trim and the pages', async () => {
    const source = await typeSource();
    const word = fc.stringMatching(/^[A-Za-zÀ-ÿ'’-]{1,14}$/);
    const text = (most: number) => fc.array(word, { minLength: 1, maxLength: most }).map((w) => w.join(' '));
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          title: text(9),
          subtitle: fc.oneof(fc.constant(''), text(12)),
          author: text(4),
          back: text(120),
          trim: fc.constantFrom(...TRIMS.map((t) => t.name)),
          pages: fc.integer({ min: 24, max: 800 }),
          front: fc.constantFrom(...FRONTS),
          letters: fc.constantFrom('as-written' as const, 'capitals' as const, 'small-capitals' as const),
          picture: fc.boolean(),
        }),
        async (r) => {
          const b = covered(
            { back: r.back, front: r.front, letters: r.letters },
            {
              title: r.title,
              subtitle: r.subtitle,
              contributors: [{ name: r.author, role: 'author', sortName: '', life: '', portrait: null }],
              cover: r.picture ? 'p' : null,
            },
          );
          const book = { ...b, editions: b.editions.map((e) => ({ ...e, trim: r.trim })) };
          const made = await coverSheet(book, 'paperback', r.pages, source);
          if (!made.ok) throw new Error(made.refusal.message);
          const { drawing, geometry: g, findings } = made.value;
          if (findings.some((f) => f.rule === 'cover/back-long')) return;
          for (const d of drawing.drawn) {
            if (d.kind !== 'words') continue;
            for (const [x, y] of [...inkOf(d)]) {
              const safe = [g.safe.back, g.safe.front, ...(g.safe.spine ? [g.safe.spine] : [])].some(
                (s) =>
                  x >= s.x - 500 && x <= s.x + s.width + 500 && y >= s.y - 500 && y <= s.y + s.height + 500,
              );
              expect(safe, `${r.title} at ${x}, ${y}`).toBe(true);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  }, 120_000);
});

/** Ends of the runs of a list of words, on the sheet. TEXT commands as display.ts describes them. */
function* inkOf(d: {
  list: { ops: Int32Array };
  x: number;
  y: number;
  turn: string;
}): Generator<[number, number]> {
  const { ops } = d.list;
  for (let at = 0; at < ops.length;) {
    const count = ops[at + 5] as number;
    let width = 0;
    for (let g = 0; g < count; g++) width += ops[at + 10 + g * 5 + 1] as number;
    for (const lx of [ops[at + 3] as number, (ops[at + 3] as number) + width]) {
      const ly = ops[at + 4] as number;
      if (d.turn === 'none') yield [d.x + lx, d.y + ly];
      else if (d.turn === 'down') yield [d.x - ly, d.y + lx];
      else yield [d.x + ly, d.y - lx];
    }
    at += 10 + count * 5;
  }
}

it('a book without title, author or words has a cover all the same', async () => {
  const bare = covered({}, { title: '', subtitle: '', contributors: [], description: '', imprint: '' });
  for (const front of FRONTS) {
    const made = await coverSheet(
      { ...bare, cover: { ...bare.cover, front, family: 'No such face' } },
      'paperback',
      320,
      await typeSource(),
    );
    expect(made.ok && made.value.findings).toEqual([]);
  }
  expect((await wordsOf(await pdfOf(bare))).map((w) => w.text).join('')).toMatch(/ISBN 978-92-95055-12-4$/);
});

describe('an empty sheet', () => {
  it('tells a designer its measures', async () => {
    const words = (await wordsOf(await pdfOf(covered(), 320, true))).map((w) => w.text).join(' ');
    expect(words).toContain('139.7 mm (5.500 in) wide');
    expect(words).toMatch(/Spine 20\.3 mm \(0\.800 in\) for 320 pages/);
    expect(words).toContain('Barcode, on white');
  });
});

describe('the ebook’s cover', () => {
  it('is a JPEG of the front that is set, and the picture itself where it carries the words', async () => {
    const b = covered({ front: 'plate' }, { cover: 'p' });
    expect(setsFront(b)).toBe(true);
    const front = await frontPicture(b, b.editions[1]!, pictures);
    const seen = await sharp(Buffer.from(front.bytes)).metadata();
    expect([seen.format, seen.width, seen.height]).toEqual(['jpeg', 1600, 2560]);
    expect(setsFront(covered({}, { cover: 'p' }))).toBe(false);
  });
  it('is in the ebook, which stays sound', async () => {
    const b = covered({ front: 'open' });
    const made = await makeEbook(b, 'ebook', { pictures: () => null, print: null });
    if (!made.ok) throw new Error(made.refusal.message);
    const files = unzipSync(made.value.bytes);
    const cover = files['EPUB/pictures/cover-front.jpg'] as Uint8Array;
    expect((await sharp(Buffer.from(cover)).metadata()).height).toBe(2560);
    expect(new TextDecoder().decode(files['EPUB/package.opf'])).toMatch(/properties="cover-image"/);
    const checked = checkEpub(made.value.bytes);
    expect(checked.ok && checked.value.filter((f) => f.severity !== 'note')).toEqual([]);
  });
});

it('is changed and put back like everything else of a book', () => {
  const b = covered();
  const r = apply(b, { type: 'set-cover', fields: { ground: '#102030', line: 'A novel' } });
  if (!r.ok) throw new Error(r.refusal.message);
  expect(r.value.book.cover).toMatchObject({ ground: '#102030', line: 'A novel', ink: b.cover.ink });
  const back = apply(r.value.book, r.value.inverse);
  expect(back.ok && back.value.book.cover).toEqual(b.cover);
});
