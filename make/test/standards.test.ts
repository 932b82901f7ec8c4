/** PDF/X files and files for the screen, read back by programs that share no code with ours. */
import { beforeAll, describe, expect, it } from 'vitest';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { getDocument, type PDFDocumentProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { decodePDFRawStream, PDFDocument, PDFName, PDFRawStream } from 'pdf-lib';
import type { PDFDict } from 'pdf-lib';
import sharp from 'sharp';
import { schema, type Book, type PrintEdition } from '@pagina/core/book';
import { checkPdf } from '@pagina/core/check';
import { makePrint } from '../src';
import { book, everyBlock, prose, section } from '../../core/test/fixtures/books';
import { png } from '../../core/test/fixtures/manuscript';

const dir = mkdtempSync(join(tmpdir(), 'standards-'));
const linked = (text: string, kind: string, target: string) =>
  schema.text(text, [schema.mark('link', { kind, target })]);
const rope = {
  ...section('rope', 'chapter', [], { title: 'Rope' }),
  content: schema.node('doc', null, [
    schema.node('paragraph', { id: 'r1' }, [
      schema.text('See '),
      linked('the harbour at low tide', 'place', 'every#every-z'),
      schema.text(' and '),
      linked('a page of ours', 'web', 'https://example.org/the carts'),
      schema.text(', or '),
      linked('a shop', 'shop', '9780000000002'),
      schema.text(`. ${prose(200)}`),
    ]),
  ]),
};
const picture = (id: string, width: number, height: number) =>
  ({ id, name: id, type: 'image/png', width, height }) as const;
function whole(fields: Partial<PrintEdition> = {}): Book {
  const b = book([section('t', 'title-page', []), section('toc', 'contents', []), everyBlock(), rope], {
    pictures: [picture('p1', 900, 500), picture('front', 600, 900)],
  });
  return {
    ...b,
    record: { ...b.record, cover: 'front' },
    editions: b.editions.map((e) => (e.form === 'print' ? { ...e, ...fields } : e)),
  };
}
async function make(
  fields: Partial<PrintEdition>,
  screen = false,
): Promise<{ bytes: Uint8Array; path: string }> {
  const made = await makePrint(whole(fields), 'paperback', {
    pictures: (id) => (id === 'p1' ? png(900, 500) : png(600, 900)),
    screen,
  });
  if (!made.ok) throw new Error(made.refusal.message);
  const path = join(dir, `${screen ? 'screen' : (fields.standard ?? 'x')}.pdf`);
  writeFileSync(path, made.value.bytes);
  return { bytes: made.value.bytes, path };
}
const run = (command: string, ...args: string[]): string => execFileSync(command, args, { encoding: 'utf8' });

describe('a printer’s PDF that claims a standard', () => {
  it('is PDF/X-1a:2003: marks, boxes, an output intent, one black, no annotation (ISO 15930-4, from memory)', async () => {
    const { bytes, path } = await make({ standard: 'x-1a', date: '2026-03-01' });
    expect(run('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
    expect(run('pdfinfo', path)).toMatch(/PDF subtype:\s+PDF\/X-1a:2003/);
    expect(run('pdfinfo', path)).toMatch(/PDF version:\s+1\.4/);
    const doc = await PDFDocument.load(bytes, { updateMetadata: false });
    const info = doc.context.lookup(doc.context.trailerInfo.Info) as PDFDict;
    const said = (key: string): string => info.get(PDFName.of(key))?.toString() ?? '';
    expect([said('GTS_PDFXVersion'), said('Trapped')]).toEqual(['(PDF/X-1a:2003)', '/False']);
    for (const key of ['Title', 'CreationDate', 'ModDate', 'Producer', 'Creator'])
      expect(said(key)).not.toBe('');
    expect(said('ModDate')).toBe('(D:20260301000000Z)');
    expect(doc.context.trailerInfo.ID).toBeDefined();
    const [intent] = intents(doc);
    expect(intent!.get(PDFName.of('S'))?.toString()).toBe('/GTS_PDFX');
    expect(intent!.get(PDFName.of('RegistryName'))?.toString()).toBe('(http://www.color.org)');
    for (const p of doc.getPages()) {
      expect(p.node.get(PDFName.of('TrimBox'))).toBeDefined();
      expect(p.node.Annots()).toBeUndefined();
    }
    for (const [, o] of doc.context.enumerateIndirectObjects())
      if (o instanceof PDFRawStream && o.dict.get(PDFName.of('Subtype'))?.toString() === '/Image')
        expect(o.dict.get(PDFName.of('ColorSpace'))?.toString()).toBe('/DeviceGray');
    expect(await checkPdf(bytes)).toMatchObject({ ok: true, value: [] });
  });
  it('is PDF/X-4 with a profile that a colour engine reads (ISO 15930-7, from memory; Little CMS by way of sharp)', async () => {
    const { bytes, path } = await make({ standard: 'x-4', date: '2026-03-01' });
    expect(run('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
    const doc = await PDFDocument.load(bytes, { updateMetadata: false });
    const metadata = doc.context.lookup(doc.catalog.get(PDFName.of('Metadata'))) as PDFRawStream;
    const xmp = new TextDecoder().decode(metadata.contents);
    expect(xmp).toContain('<pdfxid:GTS_PDFXVersion>PDF/X-4</pdfxid:GTS_PDFXVersion>');
    expect(xmp).toContain('<xmp:ModifyDate>2026-03-01T00:00:00Z</xmp:ModifyDate>');
    const profile = doc.context.lookup(intents(doc)[0]!.get(PDFName.of('DestOutputProfile'))) as PDFRawStream;
    const icc = join(dir, 'grey.icc');
    writeFileSync(icc, profile.contents);
    // Little CMS turns sRGB greys into this grey. What it makes is turned back by the dot gain's own formula: a tone of
    // reflectance R wants the dot d for which the grown dot d + 0.8 d (1 - d) leaves R of the light.
    const greys = [0, 64, 128, 192, 255];
    const source = sharp(Buffer.from(greys.flatMap((g) => [g, g, g])), {
      raw: { width: greys.length, height: 1, channels: 3 },
    });
    const tiff = await source.withIccProfile(icc).tiff().toBuffer();
    expect((await sharp(tiff).metadata()).icc?.byteLength).toBe(profile.contents.length);
    const linear = (g: number): number => (g <= 10 ? g / 255 / 12.92 : ((g / 255 + 0.055) / 1.055) ** 2.4);
    const made = [
      ...(await sharp(tiff, { ignoreIcc: true }).raw().toBuffer({ resolveWithObject: true })).data,
    ];
    const channels = made.length / greys.length;
    for (const [n, g] of greys.entries()) {
      if (g < 64) continue;
      const dot = 1 - (made[n * channels] as number) / 255;
      const left = 1 - Math.min(1, dot + 0.8 * dot * (1 - dot)) * 0.98;
      expect(Math.abs(left - linear(g))).toBeLessThan(0.02);
    }
  });
  it.each(['x-1a', 'x-4'] as const)(
    'in colour has its pictures in four inks, its text in black alone, and an intent of four inks (%s)',
    async (standard) => {
      const { bytes, path } = await make({ standard, inks: 'colour', date: '2026-03-01' });
      expect(run('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
      expect(await checkPdf(bytes)).toMatchObject({ ok: true, value: [] });
      const doc = await PDFDocument.load(bytes, { updateMetadata: false });
      const spaces = doc.context
        .enumerateIndirectObjects()
        .flatMap(([, o]) =>
          o instanceof PDFRawStream && o.dict.get(PDFName.of('Subtype'))?.toString() === '/Image'
            ? [o.dict.get(PDFName.of('ColorSpace'))?.toString()]
            : [],
        );
      expect(new Set(spaces)).toEqual(new Set(['/DeviceCMYK']));
      // Nothing but pictures has a colour: of the operators that set one, grey alone is used (ISO 32000-1, table 74).
      const plain = execFileSync('qpdf', ['--qdf', '--object-streams=disable', path, '-'], {
        maxBuffer: 1 << 28,
      });
      expect(plain.toString('latin1').match(/^(?:[\d.]+ ){3,4}(?:rg|RG|k|K)$/gm)).toBeNull();
      const [intent] = intents(doc);
      const profile = intent!.get(PDFName.of('DestOutputProfile'));
      if (standard === 'x-1a') expect(profile).toBeUndefined();
      else {
        const stream = doc.context.lookup(profile) as PDFRawStream;
        expect(stream.dict.get(PDFName.of('N'))?.toString()).toBe('4');
        const icc = join(dir, 'inks.icc');
        writeFileSync(icc, decodePDFRawStream(stream).decode());
        // Little CMS turns a colour into four inks by it.
        const turned = await sharp({ create: { width: 2, height: 2, channels: 3, background: '#d02020' } })
          .withIccProfile(icc)
          .toColourspace('cmyk')
          .tiff()
          .toBuffer();
        expect((await sharp(turned).metadata()).channels).toBe(4);
      }
    },
  );
  it('that has no date of its own carries one all the same, and is the same each time', async () => {
    const [one, two] = [await make({ standard: 'x-1a' }), await make({ standard: 'x-1a' })];
    expect(Buffer.from(one.bytes).equals(Buffer.from(two.bytes))).toBe(true);
    expect(run('pdfinfo', one.path)).toMatch(/CreationDate:.*2000/);
  });
  it('that is plain claims nothing', async () => {
    const { bytes } = await make({ standard: 'plain' });
    const doc = await PDFDocument.load(bytes, { updateMetadata: false });
    expect(doc.catalog.get(PDFName.of('OutputIntents'))).toBeUndefined();
  });
});

function intents(doc: PDFDocument): PDFDict[] {
  const list = doc.context.lookup(doc.catalog.get(PDFName.of('OutputIntents'))) as unknown as {
    asArray(): unknown[];
  };
  return list.asArray().map((r) => doc.context.lookup(r as never) as unknown as PDFDict);
}

interface Structure {
  role?: string;
  alt?: string;
  type?: string;
  id?: string;
  children?: Structure[];
}
describe('a PDF for the screen, read back by pdfjs-dist', () => {
  let path: string;
  let doc: PDFDocumentProxy;
  beforeAll(async () => {
    const made = await make({}, true);
    path = made.path;
    doc = await getDocument({ data: made.bytes.slice(), useSystemFonts: false }).promise;
  });
  const pageOf = async (dest: unknown): Promise<number> => (await doc.getPageIndex((dest as [never])[0])) + 1;

  it('begins with the cover, says its language and title, and is tagged', async () => {
    expect(run('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
    expect(await doc.getPageLabels()).toEqual(
      expect.arrayContaining(['Cover', 'i', 'ii', '1', '2']) as unknown as string[],
    );
    expect(run('pdfimages', '-list', path)).toMatch(/^\s*1\s+0 image\s+600\s+900\s+rgb/m);
    expect((await doc.getMetadata()).metadata?.get('dc:title')).toBe('The Causeway');
    expect((await doc.getMarkInfo())?.Marked).toBe(true);
    expect(run('pdfinfo', path)).toMatch(/Tagged:\s+yes/);
  });
  it('has the contents as bookmarks that lead to the pages they name', async () => {
    const outline = await doc.getOutline();
    expect(outline.map((o) => o.title)).toEqual([
      'Chapter One: The Harbour at Low Tide',
      'Chapter Two: Rope',
    ]);
    expect(outline[0]!.items.map((o) => o.title)).toEqual(['Of water and of paths']);
    const labels = (await doc.getPageLabels()) as string[];
    for (const o of outline) {
      const n = await pageOf(o.dest);
      const { items } = await (await doc.getPage(n)).getTextContent();
      const shown = items.map((i) => ('str' in i ? i.str : '')).join(' ');
      expect(shown).toContain(o.title.split(': ')[1]);
      expect(labels[n - 1]).toMatch(/^\d+$/);
    }
  });
  it('links the contents, places in the text and the web, and leaves shops to the shops', async () => {
    const found: { page: number; url?: string; to?: number }[] = [];
    for (let n = 1; n <= doc.numPages; n++)
      for (const a of await (await doc.getPage(n)).getAnnotations())
        found.push({ page: n, url: a.url as string, to: a.dest ? await pageOf(a.dest) : undefined });
    const outline = await doc.getOutline();
    const starts = await Promise.all(outline.map((o) => pageOf(o.dest)));
    // Words and folio of both entries.
    expect(found.filter((f) => f.page === 4).map((f) => f.to)).toEqual([
      starts[0],
      starts[0],
      starts[1],
      starts[1],
    ]);
    const text = found.filter((f) => f.page === starts[1]);
    expect(text.length).toBe(2);
    expect(text[0]!.to).toBeGreaterThan(starts[0]!);
    expect(text[1]!.url).toBe('https://example.org/the%20carts');
    // A call leads to its note, at the foot of the same page.
    expect(found.filter((f) => f.page !== 4 && f.to === f.page).length).toBeGreaterThan(0);
  });
  it('tells headings, paragraphs, lists, quotations, notes and pictures, and every word of them in order', async () => {
    const roles = new Map<string, number>();
    let alt = '';
    const parts: string[] = [];
    for (let n = 1; n <= doc.numPages; n++) {
      const page = await doc.getPage(n);
      const words = new Map<string, string>();
      let open: string[] = [];
      for (const item of (await page.getTextContent({ includeMarkedContent: true })).items) {
        if ('str' in item) {
          const at = open.findLast((id) => id !== '');
          if (at) words.set(at, (words.get(at) ?? '') + item.str + (item.hasEOL ? '\n' : ''));
        } else if (item.type === 'endMarkedContent') open = open.slice(0, -1);
        else open.push(item.id ?? '');
      }
      const walk = (s: Structure): void => {
        if (s.role) roles.set(s.role, (roles.get(s.role) ?? 0) + 1);
        if (s.role === 'Figure') alt = s.alt ?? '';
        if (s.type === 'content') parts.push(words.get(s.id ?? '') ?? '');
        for (const c of s.children ?? []) walk(c);
      };
      const tree = (await page.getStructTree()) as Structure | null;
      if (tree) walk(tree);
    }
    for (const role of [
      'Sect',
      'H1',
      'H2',
      'H3',
      'H4',
      'P',
      'L',
      'LI',
      'LBody',
      'BlockQuote',
      'Table',
      'TR',
      'TD',
      'Note',
      'Figure',
      'Caption',
      'TOC',
      'TOCI',
    ])
      expect([role, roles.has(role)]).toEqual([role, true]);
    expect(alt).toBe('A map');
    // A divided word ends its line in a hyphen that this reader shows although it is none of the text's.
    const spoken = parts.join(' ').replace(/-\n/g, '').replace(/\s+/g, ' ');
    const stretches = [prose(140, 2), prose(160, 3), prose(50, 4), prose(20, 6), prose(200)].flatMap(
      (p) => p.match(/(?:\S+ ){5}\S+/g) ?? [],
    );
    // Read page by page, words on both sides of a page's turn do not meet.
    expect(stretches.length).toBeGreaterThan(80);
    expect(stretches.filter((w) => !spoken.includes(w)).length).toBeLessThanOrEqual(doc.numPages - 5);
    expect(spoken).not.toContain('❦');
    // Poppler reads the structure too, and keeps the lines of a paragraph apart only by the spaces that the file has.
    const read = run('pdfinfo', '-struct-text', path);
    for (const stretch of prose(140, 2)
      .split(' ')
      .slice(0, 40)
      .join(' ')
      .match(/(?:\S+ ){5}\S+/g) ?? [])
      expect(read).toContain(stretch);
    // A drop capital is one word with what follows it.
    expect(read).toContain(`\u201c${prose(3, 1).replace('.', '')}`);
  });
});
