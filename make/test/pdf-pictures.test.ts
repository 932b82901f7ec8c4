/**
 * Pictures of a printing come in at their places. The PDF is made of a book whose every picture has a colour of its own,
 * by pdf-lib, which shares nothing with what reads it; pixels are read by sharp.
 */
import { PDFDocument, StandardFonts } from 'pdf-lib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { readManuscript } from '@pagina/core/intake';
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
