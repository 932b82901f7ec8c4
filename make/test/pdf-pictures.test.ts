/**
 * Pictures of a printing come in at their places. The PDF is made of a book whose every picture has a colour of its own,
 * by pdf-lib, which shares nothing with what reads it; pixels are read by sharp.
 */
import { degrees, PDFDocument, PDFRawStream, StandardFonts, type PDFImage, type PDFPage } from 'pdf-lib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { readManuscript, type Intake } from '@pagina/core/intake';
import { familiarPicture } from '@pagina/make';
import { prose } from '../../core/test/fixtures/books';

const COLOURS = [
  { r: 200, g: 30, b: 30 },
  { r: 30, g: 160, b: 60 },
  { r: 30, g: 60, b: 200 },
];

async function printing(): Promise<Uint8Array> {
  const file = await PDFDocument.create();
  const face = await file.embedFont(StandardFonts.TimesRoman);
  for (const [n, background] of COLOURS.entries()) {
    const plain = sharp({ create: { width: 300, height: 200, channels: 3, background } });
    const image =
      n % 2 === 0
        ? await file.embedJpg(await plain.jpeg({ quality: 95 }).toBuffer())
        : await file.embedPng(await plain.png().toBuffer());
    const rule = await file.embedPng(
      await sharp({ create: { width: 60, height: 2, channels: 3, background } })
        .png()
        .toBuffer(),
    );
    const page = file.addPage([396, 612]);
    let y = 540;
    const write = (text: string): void => {
      let line = '';
      for (const word of [...text.split(' '), '']) {
        if (word !== '' && face.widthOfTextAtSize(`${line} ${word}`, 11) < 290)
          line = `${line} ${word}`.trim();
        else {
          page.drawText(line, { x: 54, y, size: 11, font: face });
          y -= 14;
          line = word;
        }
      }
    };
    if (n === 0) {
      page.drawText('Chapter 1', { x: 160, y: 560, size: 18, font: face });
      y = 500;
    }
    write(`Before picture ${n} stands this. ${prose(60, n + 1)}`);
    y -= 10;
    page.drawImage(image, { x: 100, y: y - 120, width: 180, height: 120 });
    page.drawImage(rule, { x: 150, y: y - 128, width: 60, height: 1 });
    y -= 150;
    write(`After picture ${n} stands this. ${prose(60, n + 9)}`);
  }
  return file.save();
}

describe('pictures of a PDF', () => {
  it('stand between the paragraphs where they were printed; rules and ornaments do not come along', async () => {
    const r = await readManuscript(await printing(), 'printing.pdf');
    if (!r.ok) throw new Error(r.refusal.message);
    const { book, files } = r.value;
    const seen: string[] = [];
    const ids: string[] = [];
    for (const s of book.sections)
      s.content.descendants((n) => {
        if (n.type.name === 'figure') {
          seen.push('picture');
          ids.push(n.attrs.picture as string);
        } else if (n.isTextblock) seen.push(/^(?:Before|After) picture \d/.exec(n.textContent)?.[0] ?? '');
        return !n.isTextblock;
      });
    expect(seen.filter(Boolean)).toEqual(
      COLOURS.flatMap((_, n) => [`Before picture ${n}`, 'picture', `After picture ${n}`]),
    );
    for (const [n, id] of ids.entries()) {
      const { data, info } = await sharp(files.get(id)).raw().toBuffer({ resolveWithObject: true });
      expect([info.width, info.height]).toEqual([300, 200]);
      const { r: red, g, b } = COLOURS[n]!;
      for (const [k, want] of [red, g, b].entries())
        expect(Math.abs((data[k] as number) - want)).toBeLessThan(6);
    }
  });
});

type Draw = (page: PDFPage, file: PDFDocument) => Promise<void>;
/** Words, something drawn, and words again, a page for each. */
async function pagesWith(draw: Draw[], words: (n: number) => boolean = () => true): Promise<Uint8Array> {
  const file = await PDFDocument.create();
  const face = await file.embedFont(StandardFonts.TimesRoman);
  for (const [n, d] of draw.entries()) {
    const page = file.addPage([396, 612]);
    if (words(n))
      prose(120, n + 1)
        .match(/.{1,60}(?: |$)/g)
        ?.forEach((line, i) => page.drawText(line, { x: 54, y: 560 - i * 14, size: 11, font: face }));
    await d(page, file);
  }
  return file.save();
}
/** Red at the left of the head, green at its right, blue at the left of the foot, white at its right. */
async function quarters(width: number, height: number): Promise<Buffer> {
  const corner = (background: string): Promise<Buffer> =>
    sharp({ create: { width: width / 2, height: height / 2, channels: 3, background } })
      .png()
      .toBuffer();
  const [red, green, blue] = await Promise.all(['#f00', '#0f0', '#00f'].map(corner));
  return sharp({ create: { width, height, channels: 3, background: '#fff' } })
    .composite([
      { input: red!, left: 0, top: 0 },
      { input: green!, left: width / 2, top: 0 },
      { input: blue!, left: 0, top: height / 2 },
    ])
    .png()
    .toBuffer();
}
/** Letters of the colours at the four corners, row by row. */
async function corners(bytes: Uint8Array | undefined): Promise<string> {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number): string => {
    const [r = 0, g = 0, b = 0] = data.subarray((y * info.width + x) * info.channels);
    return r > 200 && g > 200 ? 'w' : r > 200 ? 'r' : g > 200 ? 'g' : b > 200 ? 'b' : '?';
  };
  const [x, y] = [Math.floor(info.width / 4), Math.floor(info.height / 4)];
  return [at(x, y), at(3 * x, y), at(x, 3 * y), at(3 * x, 3 * y)].join('');
}
async function readWith(bytes: Uint8Array): Promise<Intake> {
  const r = await readManuscript(bytes, 'printing.pdf', { convert: familiarPicture });
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value;
}
const nothing: Draw = async () => {};

describe('pictures as they lie on the page', () => {
  it('are upright as the page shows them, turned by right angles or mirrored', async () => {
    const png = await quarters(120, 80);
    const put =
      (how: (image: PDFImage) => Parameters<PDFPage['drawImage']>[1]): Draw =>
      async (page, file) => {
        const image = await file.embedPng(png);
        page.drawImage(image, how(image));
      };
    const read = await readWith(
      await pagesWith([
        put(() => ({ x: 60, y: 100, width: 180, height: 120 })),
        put(() => ({ x: 240, y: 100, width: 180, height: 120, rotate: degrees(90) })),
        put(() => ({ x: 300, y: 300, width: 180, height: 120, rotate: degrees(180) })),
        put(() => ({ x: 60, y: 300, width: 180, height: 120, rotate: degrees(270) })),
        put(() => ({ x: 300, y: 100, width: -180, height: 120 })),
        put(() => ({ x: 60, y: 100, width: 180, height: 120, rotate: degrees(30) })),
      ]),
    );
    const seen = await Promise.all(read.book.pictures.map((p) => corners(read.files.get(p.id))));
    // Anticlockwise, as the standard turns: what was at the left of the head goes to the left of the foot.
    expect(seen).toEqual(['rgbw', 'gwrb', 'wbgr', 'brwg', 'grwb']);
    expect(read.book.pictures.map((p) => p.width > p.height)).toEqual([true, false, true, false, true]);
  });

  it('fill a page without text as plates do, and are the page itself where text lies over them', async () => {
    const plate: Draw = async (page, file) => {
      page.drawImage(await file.embedPng(await quarters(200, 300)), { x: 0, y: 0, width: 396, height: 612 });
    };
    const plates = await readWith(await pagesWith([nothing, plate, nothing], (n) => n !== 1));
    expect(plates.book.pictures).toHaveLength(1);
    const scans = await readWith(await pagesWith([nothing, ...Array<Draw>(9).fill(plate)]));
    expect(scans.book.pictures).toHaveLength(0);
  });

  it('have no more pixels than a press can use', async () => {
    const large = await sharp(await quarters(400, 300))
      .resize(3000, 2250, { kernel: 'nearest' })
      .jpeg({ quality: 90 })
      .toBuffer();
    const read = await readWith(
      await pagesWith([
        async (page, file) =>
          page.drawImage(await file.embedJpg(large), { x: 60, y: 100, width: 144, height: 108 }),
      ]),
    );
    const [picture] = read.book.pictures;
    // Two inches at 600 are 1,200 pixels; whole pixels are averaged, so the next above them is kept.
    expect([picture?.width, picture?.height]).toEqual([1500, 1125]);
    expect(picture?.type).toBe('image/jpeg');
    expect(await corners(read.files.get(picture!.id))).toBe('rgbw');
  });

  it('are left out with a word where they are damaged, and all else comes in', async () => {
    const jpg = await sharp(await quarters(300, 200))
      .jpeg()
      .toBuffer();
    const whole: Draw = async (page, file) =>
      page.drawImage(await file.embedJpg(jpg), { x: 60, y: 100, width: 180, height: 120 });
    const bytes = await pagesWith([
      whole,
      async (page, file) => {
        const image = await file.embedPng(await quarters(120, 90));
        page.drawImage(image, { x: 60, y: 100, width: 180, height: 120 });
        await image.embed();
        const stream = file.context.lookup(image.ref);
        if (stream instanceof PDFRawStream) stream.contents.fill(7);
        else throw new Error('no stream to spoil');
      },
      whole,
    ]);
    const read = await readWith(bytes);
    expect(read.book.pictures).toHaveLength(1);
    const text = read.book.sections.map((s) => s.content.textContent).join(' ');
    for (const n of [1, 2, 3]) expect(text).toContain(prose(120, n).slice(0, 40));
    expect(read.findings.map((f) => f.message)).toContain(
      'A picture of the PDF is damaged and could not be taken. Add it in the manuscript.',
    );
  });
});
