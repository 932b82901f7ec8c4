/** Pictures with their settings: outlines, a page of their own, a link; in print and in the ebook. */
import { describe, expect, it } from 'vitest';
import { unzipSync } from 'fflate';
import { PDFDocument } from 'pdf-lib';
import { makePrint, typeSource } from '@pagina/make';
import { schema, type Book } from '../src/book';
import { checkPdf } from '../src/check';
import { compose, MASKS, maskCurves, nextOp, PICT, sheetLines, sheetPictures } from '../src/compose';
import { measureOf, rowsOf } from '../src/design';
import { writeEpub } from '../src/epub';
import { png } from './fixtures/manuscript';
import { book, prose, section } from './fixtures/books';

const withFigure = (attrs: object, caption = 'The flats', after = 160): Book => {
  const content = schema.node('doc', null, [
    schema.node('paragraph', { id: 'a' }, [schema.text(prose(60, 1))]),
    schema.node(
      'figure',
      { id: 'f', picture: 'map', alt: 'A map', ...attrs },
      caption ? [schema.text(caption)] : [],
    ),
    schema.node('paragraph', { id: 'z' }, [schema.text(prose(after, 2))]),
  ]);
  return {
    ...book([{ ...section('c', 'chapter', [], { title: 'The Boat' }), content }]),
    pictures: [{ id: 'map', name: '', type: 'image/png', width: 1200, height: 900 }],
  };
};

/** The first picture's command: PICT, number, x, y, width, height, mask (sheet.ts). */
function pictureOf(ops: Int32Array): number[] {
  for (let at = 0; at < ops.length; at = nextOp(ops, at))
    if (ops[at] === PICT) return [...ops.slice(at, at + 7)];
  return [];
}

describe('an outline', () => {
  it('touches every side of its box and stays inside it', () => {
    for (const [number, name] of MASKS.entries()) {
      const curves = maskCurves(number, 300, 200);
      if (name === 'none') {
        expect(curves).toBeNull();
        continue;
      }
      const points = curves!.flatMap((c) =>
        c.to === 'curve'
          ? [
              [c.x, c.y],
              [c.x1, c.y1],
              [c.x2, c.y2],
            ]
          : [[c.x, c.y]],
      ) as [number, number][];
      const [xs, ys] = [points.map((q) => q[0]), points.map((q) => q[1])];
      expect([Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]).toEqual([0, 300, 0, 200]);
      expect(curves![0]!.to).toBe('move');
    }
    expect(maskCurves(99, 10, 10)).toBeNull();
  });
  it('is within a thousandth of the ellipse it stands for', () => {
    // Points of the four cubic Bézier curves against x²/a² + y²/b² = 1.
    const [a, b] = [150, 100];
    let [x0, y0] = [0, 0];
    for (const c of maskCurves(1, 2 * a, 2 * b)!) {
      if (c.to === 'curve')
        for (let t = 0; t <= 1; t += 0.1) {
          const u = 1 - t;
          const at = (p0: number, p1: number, p2: number, p3: number): number =>
            u ** 3 * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t ** 3 * p3;
          const [x, y] = [at(x0, c.x1, c.x2, c.x) - a, at(y0, c.y1, c.y2, c.y) - b];
          expect(Math.abs(Math.hypot(x / a, y / b) - 1)).toBeLessThan(0.001);
        }
      [x0, y0] = [c.x, c.y];
    }
  });
  it('clips the picture in the printer’s PDF, and only where it is asked for', async () => {
    const paths = async (mask: string): Promise<number> => {
      const made = await makePrint(withFigure({ mask }), 'paperback', { pictures: () => png(1200, 900) });
      if (!made.ok) throw new Error(made.refusal.message);
      const { getDocument, OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs');
      const file = await getDocument({ data: made.value.bytes.slice(), verbosity: 0 }).promise;
      let clips = 0;
      for (let i = 1; i <= file.numPages; i++) {
        const { fnArray } = await (await file.getPage(i)).getOperatorList();
        clips += fnArray.filter((f) => f === OPS.clip).length;
      }
      return clips;
    };
    expect([await paths('none'), await paths('oval'), await paths('arch')]).toEqual([0, 1, 1]);
  });
});

describe('a picture', () => {
  const pagesOf = async (attrs: object, after?: number) => {
    const r = await compose(withFigure(attrs, 'The flats', after), 'paperback', await typeSource());
    if (!r.ok) throw new Error(r.refusal.message);
    return { pages: r.value.pages.filter((x) => !x.blank), interior: r.value.interior };
  };
  it('on a page of its own shares it with no text, as large as the type area allows', async () => {
    const { pages, interior } = await pagesOf({ place: 'page', width: 20 }, 700);
    const at = pages.findIndex((x) => [...sheetPictures(x.body)].length > 0);
    expect(at).toBeGreaterThan(0);
    expect(pages[at]!.body.blocks.filter((id) => id !== 'f' && id !== '')).toEqual([]);
    // The text flows on before it, so that no page has a hole.
    expect(pages[at - 1]!.body.blocks).toContain('z');
    expect(pages[at + 1]!.body.blocks).toContain('z');
    const { width } = [...sheetPictures(pages[at]!.body)][0]!;
    expect(width).toBeLessThanOrEqual(measureOf(interior));
    expect(width).toBeGreaterThan(measureOf(interior) * 0.9);
    expect(pages[at]!.used).toBeLessThanOrEqual(rowsOf(interior));
  });
  it('in the text takes its share of the measure and stands with the text around it', async () => {
    const { pages, interior } = await pagesOf({ width: 50 });
    const page = pages.find((x) => [...sheetPictures(x.body)].length > 0)!;
    const { width } = [...sheetPictures(page.body)][0]!;
    expect(Math.abs(width - measureOf(interior) / 2)).toBeLessThan(2);
    expect(page.body.blocks).toEqual(expect.arrayContaining(['a', 'f', 'z']));
  });
  it('links to the web in the ebook, and is cut there too', () => {
    const page = (attrs: object): string => {
      const made = writeEpub({
        book: withFigure(attrs),
        edition: 'ebook',
        pictures: new Map([['map', png(1200, 900)]]),
        print: null,
      });
      if (!made.ok) throw new Error(made.refusal.message);
      return new TextDecoder().decode(unzipSync(made.value)['EPUB/text/s001.xhtml']);
    };
    expect(page({ link: 'https://example.org/map', mask: 'oval', width: 40 })).toMatch(
      /<figure id="f" class="w40 oval">\s*<a href="https:\/\/example\.org\/map"><img [^>]*><\/a>/,
    );
    expect(page({ link: 'javascript:alert(1)' })).not.toContain('javascript');
    expect(page({ place: 'page' })).toContain('class="own-page"');
    expect(page({ place: 'spread' })).toContain('class="own-page"');
    expect(page({ beside: 'left', width: 40 })).toContain('class="beside-left w40"');
    expect(page({ beside: 'left', width: 80 })).not.toContain('beside');
  });
  it('at a head or a foot stands there on its page, on the grid, with the text around it', async () => {
    for (const place of ['head', 'foot']) {
      const { pages, interior } = await pagesOf({ place, width: 50 });
      const page = pages.find((x) => [...sheetPictures(x.body)].length > 0)!;
      const { leading } = interior.text;
      const [, , , y = 0, , height = 0] = pictureOf(page.body.ops);
      const foot = interior.margins.top + rowsOf(interior) * leading;
      const lines = [...sheetLines(page.body)]
        .filter((l) => l.block === 'a' || l.block === 'z')
        .map((l) => l.y);
      expect(lines.length).toBeGreaterThan(3);
      if (place === 'head') {
        expect(y).toBe(interior.margins.top);
        expect(Math.min(...lines)).toBeGreaterThan(y + height);
      } else {
        expect(Math.max(...lines)).toBeLessThan(y);
        expect(y + height).toBeLessThanOrEqual(foot);
      }
      for (const l of lines)
        expect((l - interior.margins.top - Math.round(leading * 0.76)) % leading).toBe(0);
    }
  });
  it('over the edges covers page and bleed, without head or folio, and the file says what is cut off', async () => {
    const bare = { place: 'edges' };
    const file = async (attrs: object, screen = false) => {
      const made = await makePrint(withFigure(attrs, ''), 'paperback', {
        pictures: () => png(1200, 900),
        screen,
      });
      if (!made.ok) throw new Error(made.refusal.message);
      return { ...made.value, doc: await PDFDocument.load(made.value.bytes, { updateMetadata: false }) };
    };
    const { composition, doc, bytes } = await file(bare);
    const at = composition.pages.findIndex((x) => [...sheetPictures(x.body)].length > 0);
    const page = composition.pages[at]!;
    expect([composition.bleed, page.furniture.ops.length, page.body.blocks]).toEqual([9000, 0, []]);
    const { trim, margins } = composition.interior;
    const left = page.side === 'recto' ? margins.inside : margins.outside;
    const [, , x = 0, y = 0, width = 0, height = 0] = pictureOf(page.body.ops);
    expect(x + left).toBeLessThanOrEqual(-9000);
    expect(x + left + width).toBeGreaterThanOrEqual(trim.width + 9000 - 1);
    expect(y).toBeLessThanOrEqual(-9000);
    expect(y + height).toBeGreaterThanOrEqual(trim.height + 9000 - 1);
    for (const p of doc.getPages()) {
      expect(p.getMediaBox()).toMatchObject({ x: 0, y: 0, width: 414, height: 630 });
      expect(p.getBleedBox()).toEqual(p.getMediaBox());
      expect(p.getTrimBox()).toMatchObject({ x: 9, y: 9, width: 396, height: 612 });
    }
    const checked = await checkPdf(bytes);
    // Over a whole page the picture of the test has 103 pixels an inch.
    expect(checked.ok && checked.value.map((f) => f.rule)).toEqual(['pdf/coarse-picture']);
    // Text lies where it lay, moved in by the bleed.
    const first = async (b: Uint8Array) => {
      const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
      const p = await (await getDocument({ data: b.slice(), verbosity: 0 }).promise).getPage(1);
      const item = (await p.getTextContent()).items.find((i) => 'str' in i && i.str.trim() !== '');
      return item && 'transform' in item ? (item.transform as number[]).slice(4) : [];
    };
    const plain = await file({ place: 'here' });
    const [bled, flat] = [await first(bytes), await first(plain.bytes)];
    expect(bled.map((n, i) => n - (flat[i] ?? 0))).toEqual([expect.closeTo(9, 3), expect.closeTo(9, 3)]);
    expect(plain.composition.bleed).toBe(0);
    expect((await file(bare, true)).doc.getPage(0).getMediaBox().width).toBe(396);
  });
  it('over two pages shows its halves on a verso and the recto beside it', async () => {
    const r = await compose(withFigure({ place: 'spread' }, '', 900), 'paperback', await typeSource());
    if (!r.ok) throw new Error(r.refusal.message);
    const { pages, interior } = r.value;
    const on = pages.filter((x) => [...sheetPictures(x.body)].length > 0);
    expect(on.map((x) => x.side)).toEqual(['verso', 'recto']);
    const [verso, recto] = on.map((x) => {
      const left = x.side === 'recto' ? interior.margins.inside : interior.margins.outside;
      return (pictureOf(x.body.ops)[2] ?? 0) + left;
    });
    expect(verso! - recto!).toBe(interior.trim.width);
  });
  it('with a caption stays within the margins', async () => {
    const { pages, interior } = await pagesOf({ place: 'edges' });
    const page = pages.find((x) => [...sheetPictures(x.body)].length > 0)!;
    expect([...sheetPictures(page.body)][0]!.width).toBeLessThanOrEqual(measureOf(interior));
    expect(page.body.blocks).toContain('f');
  });
  it('has text beside it in lines as long as it leaves, and whole ones below', async () => {
    for (const beside of ['left', 'right']) {
      const { pages, interior } = await pagesOf({ beside, width: 40 });
      const page = pages.find((x) => [...sheetPictures(x.body)].length > 0)!;
      const [, , x = 0, y = 0, width = 0, height = 0] = pictureOf(page.body.ops);
      const lines = [...sheetLines(page.body)].filter((l) => l.block === 'z');
      const near = lines.filter((l) => l.y < y + height);
      expect(near.length).toBeGreaterThan(4);
      expect(lines.length).toBeGreaterThan(near.length);
      const indent = interior.text.indent;
      for (const l of near)
        if (beside === 'left') {
          expect(x).toBe(0);
          expect(l.x).toBeGreaterThanOrEqual(width + interior.text.size - 2_000);
        } else {
          expect(x + width).toBe(measureOf(interior));
          expect(l.x).toBeLessThanOrEqual(indent);
        }
      expect(Math.abs(lines.at(-1)!.x)).toBeLessThan(2_000);
    }
    // Too wide, it stands alone.
    const { pages } = await pagesOf({ beside: 'left', width: 80 });
    const page = pages.find((x) => [...sheetPictures(x.body)].length > 0)!;
    const [, , , y = 0, , height = 0] = pictureOf(page.body.ops);
    const beside = [...sheetLines(page.body)].filter((l) => l.block === 'z' && l.y < y + height);
    expect(beside).toEqual([]);
  });
  it('of a part page has its place, too', async () => {
    for (const place of ['here', 'head', 'page', 'edges']) {
      const b = withFigure({ place }, '');
      const part = {
        ...b,
        sections: b.sections.map((s) => ({ ...s, kind: 'part' as const, title: 'Water' })),
      };
      const r = await compose(part, 'paperback', await typeSource());
      if (!r.ok) throw new Error(r.refusal.message);
      expect(r.value.pages.filter((x) => [...sheetPictures(x.body)].length > 0).length).toBe(1);
    }
  });
});
