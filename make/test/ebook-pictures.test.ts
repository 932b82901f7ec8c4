/** Pictures and faces of ebooks by the choices of an edition. What a picture measures is asked of sharp, which did not choose its size. */
import { strFromU8, unzipSync } from 'fflate';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { checkEpub } from '@pagina/core/check';
import { schema, type Book, type ReflowEdition } from '@pagina/core/book';
import { book, section } from '../../core/test/fixtures/books';
import { INTERIOR_NAMES } from '@pagina/core/design';
import { contributor } from '@pagina/core/record';
import { makeEbook, makePrint } from '../src';
import { facePath } from '../src/places';

/** A picture with something in every pixel, as a photograph has. */
async function photograph(width: number, height: number): Promise<Uint8Array> {
  const noise = await sharp({
    create: {
      width,
      height,
      channels: 3,
      background: '#888',
      noise: { type: 'gaussian', mean: 128, sigma: 40 },
    },
  })
    .blur(2)
    .jpeg({ quality: 95 })
    .toBuffer();
  return new Uint8Array(noise);
}
const files = new Map<string, Uint8Array>();
const figure = (id: string) => schema.node('figure', { id: `f-${id}`, picture: id, alt: id });
function shown(): Book {
  const b = book([
    {
      ...section('c', 'chapter', [], { title: 'Seen' }),
      content: schema.node('doc', null, [...files.keys()].map(figure)),
    },
  ]);
  const pictures = [
    { id: 'wide', name: 'wide', type: 'image/jpeg', width: 4000, height: 2000 },
    { id: 'little', name: 'little', type: 'image/jpeg', width: 300, height: 200 },
    { id: 'drawn', name: 'drawn', type: 'image/png', width: 3000, height: 3000 },
    { id: 'torn', name: 'torn', type: 'image/jpeg', width: 10, height: 10 },
  ] as Book['pictures'];
  return { ...b, pictures };
}
async function made(fields: Partial<ReflowEdition>): Promise<Record<string, Uint8Array>> {
  const b = shown();
  const r = await makeEbook(
    { ...b, editions: b.editions.map((e) => (e.form === 'reflow' ? { ...e, ...fields } : e)) },
    'ebook',
    { pictures: (id) => files.get(id) ?? null, print: null },
  );
  if (!r.ok) throw new Error(r.refusal.message);
  const checked = checkEpub(r.value.bytes);
  expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker')).toEqual([]);
  return unzipSync(r.value.bytes);
}
const measured = async (b: Uint8Array | undefined): Promise<string> => {
  const { width, height, format } = await sharp(b).metadata();
  return `${format} ${width} × ${height}`;
};

beforeAll(async () => {
  files.set('wide', await photograph(4_000, 2_000));
  files.set('little', await photograph(300, 200));
  files.set(
    'drawn',
    new Uint8Array(
      await sharp({ create: { width: 3_000, height: 3_000, channels: 4, background: '#1c5a52' } })
        .png({ compressionLevel: 1 })
        .toBuffer(),
    ),
  );
  files.set('torn', files.get('little')!.slice(0, 400));
});

/** Characters that a font maps to glyphs: its cmap table, formats 4 and 12 (OpenType 1.9, "cmap"), read here on its own. */
function charactersOf(font: Uint8Array): Set<number> {
  const view = new DataView(font.buffer, font.byteOffset, font.byteLength);
  const found = new Set<number>();
  for (let t = 0; t < view.getUint16(4); t++) {
    const record = 12 + t * 16;
    if (view.getUint32(record) !== 0x636d6170) continue;
    const cmap = view.getUint32(record + 8);
    for (let i = 0; i < view.getUint16(cmap + 2); i++) {
      const at = cmap + view.getUint32(cmap + 4 + i * 8 + 4);
      const format = view.getUint16(at);
      if (format === 12)
        for (let g = 0; g < view.getUint32(at + 12); g++)
          for (let c = view.getUint32(at + 16 + g * 12); c <= view.getUint32(at + 20 + g * 12); c++)
            found.add(c);
      if (format !== 4) continue;
      const segments = view.getUint16(at + 6) / 2;
      for (let s = 0; s < segments; s++) {
        const end = view.getUint16(at + 14 + s * 2);
        const start = view.getUint16(at + 16 + segments * 2 + s * 2);
        const delta = view.getUint16(at + 16 + segments * 4 + s * 2);
        const rangeAt = at + 16 + segments * 6 + s * 2;
        const range = view.getUint16(rangeAt);
        for (let c = start; c <= end && c !== 0xffff; c++) {
          const raw = range === 0 ? c : view.getUint16(rangeAt + range + (c - start) * 2);
          if (range === 0 ? (raw + delta) & 0xffff : raw) found.add(c);
        }
      }
    }
  }
  return found;
}

describe('pictures of an ebook', () => {
  it('are as they came unless an edition says otherwise', async () => {
    const parts = await made({});
    for (const [id, bytes] of files)
      expect(Buffer.from(parts[`EPUB/pictures/${id}.${id === 'drawn' ? 'png' : 'jpg'}`]!).equals(bytes)).toBe(
        true,
      );
  });
  it.each([
    ['large', 'jpeg 2560 × 1280', 'png 2560 × 2560'],
    ['small', 'jpeg 1280 × 640', 'png 1280 × 1280'],
  ] as const)('for %s screens are no larger than those want, and lighter', async (pictures, wide, drawn) => {
    const parts = await made({ pictures });
    expect(await measured(parts['EPUB/pictures/wide.jpg'])).toBe(wide);
    expect(await measured(parts['EPUB/pictures/drawn.png'])).toBe(drawn);
    expect(parts['EPUB/pictures/wide.jpg']!.length).toBeLessThan(files.get('wide')!.length / 2);
    const page = strFromU8(parts['EPUB/text/s001.xhtml']!);
    const [, w, h] = /(\d+) × (\d+)/.exec(wide)!;
    expect(page).toContain(`width="${w}" height="${h}"`);
  });
  it('are never enlarged, and those that can’t be decoded stay as they are', async () => {
    const parts = await made({ pictures: 'large' });
    expect(await measured(parts['EPUB/pictures/little.jpg'])).toBe('jpeg 300 × 200');
    expect(Buffer.from(parts['EPUB/pictures/torn.jpg']!).equals(files.get('torn')!)).toBe(true);
  });
  it('are the same to the byte each time', async () => {
    const [a, b] = [await made({ pictures: 'small' }), await made({ pictures: 'small' })];
    expect(Object.keys(a).every((n) => Buffer.from(a[n]!).equals(b[n]!))).toBe(true);
  });
});

describe('faces of an ebook', () => {
  it.each(['3.3', '2.0.1'] as const)(
    'come with it by choice, cut down, with their licence (EPUB %s)',
    async (version) => {
      const parts = await made({ faces: 'own', version });
      const fonts = Object.entries(parts).filter(([n]) => n.endsWith('.ttf'));
      expect(fonts.length % 4).toBe(0);
      expect(fonts.length).toBeGreaterThan(0);
      // EB Garamond has 3,000 glyphs and more; a book in one language needs a few hundred.
      for (const [name, bytes] of fonts) expect(bytes.length, name).toBeLessThan(160_000);
      const licences = Object.entries(parts).filter(([n]) => /^META-INF\/licence-[a-z0-9-]+\.txt$/.test(n));
      expect(licences.length).toBe(fonts.length / 4);
      for (const [, text] of licences) expect(strFromU8(text)).toContain('SIL OPEN FONT LICENSE');
      const css = strFromU8(parts['EPUB/style.css']!);
      expect(css.match(/@font-face/g)).toHaveLength(fonts.length);
      for (const [, src] of css.matchAll(/src: url\("([^"]+)"\)/g))
        expect(parts[`EPUB/${src}`]).toBeDefined();
    },
  );
  it('have every sign that the pages and the ornaments of the design show, in other alphabets too', async () => {
    const words = 'Żółw, ὕδωρ нет и «ёлка»';
    const b = book([section('a', 'chapter', [words], { title: 'Один' })]);
    for (const interior of INTERIOR_NAMES) {
      const r = await makeEbook(
        {
          ...b,
          record: { ...b.record, language: 'ru' },
          editions: b.editions.map((e) => (e.form === 'reflow' ? { ...e, faces: 'own', interior } : e)),
        },
        'ebook',
        { pictures: () => null, print: null },
      );
      if (!r.ok) throw new Error(r.refusal.message);
      const parts = unzipSync(r.value.bytes);
      const css = strFromU8(parts['EPUB/style.css']!);
      const shown = [
        ...Object.entries(parts)
          .filter(([n]) => n.endsWith('.xhtml'))
          .map(([, x]) => strFromU8(x).replace(/<[^>]*>/g, '')),
        ...[...css.matchAll(/content: "([^"]*)"/g)].map(([, c]) =>
          c!.replace(/\\([0-9a-f]+) /g, (_, code: string) => String.fromCodePoint(parseInt(code, 16))),
        ),
      ].join('');
      const family = /body \{ font-family: "([^"]+)"/.exec(css)![1]!;
      const file = /font-weight: 400; font-style: normal; src: url\("([^"]+)"\)/.exec(
        css.slice(css.indexOf(`font-family: "${family}"`)),
      )![1]!;
      const has = charactersOf(parts[`EPUB/${file}`]!);
      const could = charactersOf(readFileSync(facePath(family)));
      const missing = [...new Set(shown)].filter(
        (c) => could.has(c.codePointAt(0)!) && !has.has(c.codePointAt(0)!),
      );
      expect(missing, interior).toEqual([]);
      expect(has.size).toBeGreaterThan(200);
    }
  });
  it('are the reader’s own otherwise', async () => {
    const parts = await made({});
    expect(Object.keys(parts).filter((n) => /fonts/.test(n))).toEqual([]);
    expect(strFromU8(parts['EPUB/style.css']!)).not.toContain('font-family');
  });
});

describe('the page about the author', () => {
  it('made from the record shows the portrait above the life, in the ebook and in print', async () => {
    const portrait = await photograph(600, 800);
    const b = book([
      section('c', 'chapter', ['A chapter.'], { title: 'One' }),
      section('aa', 'about-author', []),
    ]);
    const life = 'Ada Marsh lives by the sea.\n\nShe keeps a lock.';
    const one: Book = {
      ...b,
      pictures: [{ id: 'ada', name: 'ada.jpg', type: 'image/jpeg', width: 600, height: 800 }],
      record: {
        ...b.record,
        contributors: [{ ...contributor('Ada Marsh', 'author'), life, portrait: 'ada' }],
      },
    };
    const pictures = (id: string): Uint8Array | null => (id === 'ada' ? portrait : null);
    const ebook = await makeEbook(one, 'ebook', { pictures, print: null });
    if (!ebook.ok) throw new Error(ebook.refusal.message);
    const checked = checkEpub(ebook.value.bytes);
    expect(checked.ok && checked.value.filter((f) => f.severity === 'blocker')).toEqual([]);
    const parts = unzipSync(ebook.value.bytes);
    const page = Object.values(parts)
      .map((bytes) => strFromU8(bytes))
      .find((text) => text.includes('Ada Marsh lives by the sea.') && text.includes('<img'));
    expect(page).toMatch(/<img[^>]*alt="Portrait of Ada Marsh"[\s\S]*Ada Marsh lives[\s\S]*She keeps a lock/);
    expect(Object.keys(parts).filter((n) => n.endsWith('.jpg'))).toHaveLength(1);
    const print = await makePrint(one, 'paperback', { pictures });
    if (!print.ok) throw new Error(print.refusal.message);
    // Read by poppler: one picture, in the proportions of the file.
    const path = join(mkdtempSync(join(tmpdir(), 'portrait-')), 'a.pdf');
    writeFileSync(path, print.value.bytes);
    const listed = execFileSync('pdfimages', ['-list', path]).toString().trim().split('\n').slice(2);
    expect(listed).toHaveLength(1);
    const [, , kind, width, height] = listed[0]!.trim().split(/\s+/);
    expect([kind, Number(width) / Number(height)]).toEqual(['image', 0.75]);
  });
});
