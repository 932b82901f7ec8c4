/** Pictures with their settings: outlines, a page of their own, a link; in print and in the ebook. */
import { describe, expect, it } from 'vitest';
import { unzipSync } from 'fflate';
import { makePrint, typeSource } from '@pagina/make';
import { schema, type Book } from '../src/book';
import { compose, MASKS, maskCurves, sheetPictures } from '../src/compose';
import { measureOf, rowsOf } from '../src/design';
import { writeEpub } from '../src/epub';
import { png } from './fixtures/manuscript';
import { book, prose, section } from './fixtures/books';

const withFigure = (attrs: object): Book => {
  const content = schema.node('doc', null, [
    schema.node('paragraph', { id: 'a' }, [schema.text(prose(60, 1))]),
    schema.node('figure', { id: 'f', picture: 'map', alt: 'A map', ...attrs }, [schema.text('The flats')]),
    schema.node('paragraph', { id: 'z' }, [schema.text(prose(60, 2))]),
  ]);
  return {
    ...book([{ ...section('c', 'chapter', [], { title: 'The Boat' }), content }]),
    pictures: [{ id: 'map', name: '', type: 'image/png', width: 1200, height: 900 }],
  };
};

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
  const pagesOf = async (attrs: object) => {
    const r = await compose(withFigure(attrs), 'paperback', await typeSource());
    if (!r.ok) throw new Error(r.refusal.message);
    return { pages: r.value.pages.filter((x) => !x.blank), interior: r.value.interior };
  };
  it('on a page of its own shares it with no text, as large as the type area allows', async () => {
    const { pages, interior } = await pagesOf({ place: 'page', width: 20 });
    const at = pages.findIndex((x) => [...sheetPictures(x.body)].length > 0);
    expect(at).toBeGreaterThan(0);
    expect(pages[at]!.body.blocks.filter((id) => id !== 'f' && id !== '')).toEqual([]);
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
  });
});
