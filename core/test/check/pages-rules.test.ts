/** Every rule of set pages with the least that breaks it; and pages that are really set. */
import { describe, expect, it } from 'vitest';
import type { Node } from 'prosemirror-model';
import { schema, type Book } from '../../src/book';
import type { ReportMark } from '../../src/compose';
import { inches, mm } from '../../src/base';
import { checkPages, pagesFacts, type PagesFacts } from '../../src/check';
import { PAGES_RULES } from '../../src/check/book';
import { leastInside, QUAYHEAD } from '../../src/trade';
import { book, prose, section } from '../fixtures/books';
import { composed } from '../fixtures/composed';

const place = { section: 'one', block: 'one-0' };
const plain: PagesFacts = {
  edition: 'paperback',
  labels: Array.from({ length: 120 }, (_, i) => String(i + 1)),
  interior: {
    trim: { width: inches(5.5), height: inches(8.5) },
    margins: { inside: inches(0.75), outside: inches(0.5), top: inches(0.75), bottom: inches(0.75) },
    size: 11_000,
    leading: 13_200,
  },
  marks: [],
  missing: [],
  pictures: [],
  bare: [],
};
const PICTURE = { id: 'pic', name: 'posts.jpg', type: 'image/jpeg' as const, width: 1200, height: 800 };
const whole = book([section('one', 'chapter', [prose(30)], { title: 'One' })], { pictures: [PICTURE] });
const drawn = (width: number, limited = false): Partial<PagesFacts> => ({
  pictures: [{ picture: 'pic', place, page: 3, width, limited }],
});
const mark = (kind: ReportMark['kind']): Partial<PagesFacts> => ({ marks: [{ kind, page: 3, place }] });
const interior = (more: Partial<PagesFacts['interior']>): Partial<PagesFacts> => ({
  interior: { ...plain.interior, ...more },
});
const pages = (n: number): Partial<PagesFacts> => ({
  labels: Array.from({ length: n }, (_, i) => String(i + 1)),
});
const margins = (more: Partial<PagesFacts['interior']['margins']>): Partial<PagesFacts> =>
  interior({ margins: { ...plain.interior.margins, ...more } });

const CASES: Record<string, { bad: Partial<PagesFacts>[]; good: Partial<PagesFacts>[] }> = {
  'type/missing-glyph': { bad: [{ missing: [{ char: '☃', place }] }], good: [{}] },
  'type/cut-word': { bad: [mark('cut')], good: [mark('loose')] },
  'type/overfull-line': { bad: [mark('overfull')], good: [mark('loose')] },
  'type/overset-box': { bad: [mark('overset')], good: [mark('loose')] },
  'type/near-edge': { bad: [mark('unsafe')], good: [mark('loose')] },
  'type/widow': { bad: [mark('widow')], good: [mark('loose')] },
  'type/orphan': { bad: [mark('orphan')], good: [mark('loose')] },
  'type/stranded-heading': { bad: [mark('stranded')], good: [mark('loose')] },
  'type/short-last-page': { bad: [mark('short-last')], good: [mark('loose')] },
  'type/unlevel-spread': { bad: [mark('unlevel')], good: [mark('loose')] },
  'type/bare-page': { bad: [{ bare: [{ page: 3, rows: 2, place }] }], good: [{}] },
  // 1,200 pixels: 4 in at 300 an inch, 6 in at 200, 8 in at 150.
  'type/picture-soft': { bad: [drawn(inches(5))], good: [drawn(inches(4)), drawn(inches(7))] },
  'type/picture-coarse': {
    bad: [drawn(inches(7)), drawn(inches(9))],
    good: [drawn(inches(5)), drawn(inches(8), true)],
  },
  'type/picture-smaller': { bad: [drawn(inches(8), true)], good: [drawn(inches(7), true), drawn(inches(9))] },
  'design/leading': {
    bad: [interior({ leading: 11_500 }), interior({ leading: 18_000 })],
    good: [interior({ leading: 12_700 })],
  },
  'design/inside-margin': {
    bad: [margins({ inside: mm(9) }), pages(800)],
    good: [margins({ inside: mm(10) }), pages(720)],
  },
  'design/outer-margins': {
    bad: [margins({ outside: mm(5) }), margins({ bottom: mm(6) })],
    good: [margins({ top: mm(6.5) })],
  },
  'design/page-count': { bad: [pages(20), pages(900)], good: [pages(24)] },
  'design/trim': { bad: [interior({ trim: { width: inches(9), height: inches(12) } })], good: [{}] },
};

it('has a case for every rule, and a rule for every case', () =>
  expect(Object.keys(CASES).sort()).toEqual(PAGES_RULES.map((r) => r.name).sort()));

describe.each(Object.entries(CASES))('%s', (rule, { bad, good }) => {
  const of = (more: Partial<PagesFacts>): string[] =>
    checkPages(whole, { ...plain, ...more }).map((f) => f.rule);
  it('is found, and not seen beside it', () => {
    for (const more of bad) expect(of(more)).toContain(rule);
    for (const more of good) expect(of(more)).not.toContain(rule);
  });
});

it('finds nothing in plain pages', () => expect(checkPages(whole, plain)).toEqual([]));

it('knows the printer’s least margin at both ends of every band', () => {
  const of = (n: number): number => Math.round((leastInside(QUAYHEAD, n) / 72_000) * 25.4);
  expect([24, 160, 161, 320, 321, 520, 521, 720, 721, 2_000].map(of)).toEqual([
    10, 10, 13, 13, 16, 16, 19, 19, 22, 22,
  ]);
});

describe('pages that are set', () => {
  const para = (id: string, words: number): Node =>
    schema.node('paragraph', { id }, [schema.text(prose(words))]);
  const of = async (...blocks: Node[]): Promise<[string, string | undefined][]> => {
    const b: Book = {
      ...whole,
      sections: [section('one', 'chapter', [], { title: 'One', content: schema.node('doc', null, blocks) })],
    };
    return checkPages(b, pagesFacts(await composed(b), b)).map((f) => [f.rule, f.place?.block]);
  };
  const broken = schema.node('pageBreak', { id: 'br' });
  it('are nearly empty where a break is forced too soon, and only there', async () => {
    // As the text before the break grows, its last page is now nearly empty, now well filled.
    let bare = 0;
    for (let words = 300; words < 600; words += 30) {
      const rules = (found: [string, string | undefined][]): string[] =>
        found.map(([r]) => r).filter((r) => r === 'type/bare-page');
      bare += rules(await of(para('a', words), broken, para('c', 600))).length;
      expect(rules(await of(para('a', words), para('c', 600)))).toEqual([]);
    }
    expect(bare).toBeGreaterThan(0);
    expect(bare).toBeLessThan(5);
  });
  it('draw a picture smaller than asked for where its pixels don’t suffice', async () => {
    const figure = (width: number): Node =>
      schema.node('figure', { id: 'f', picture: 'pic', alt: 'Posts', width });
    const small = { ...PICTURE, width: 450, height: 300 };
    const b = (width: number): Book => ({
      ...whole,
      pictures: [small],
      sections: [
        section('one', 'chapter', [], {
          title: 'One',
          content: schema.node('doc', null, [para('a', 30), figure(width)]),
        }),
      ],
    });
    const rules = async (width: number): Promise<string[]> =>
      checkPages(b(width), pagesFacts(await composed(b(width)), b(width))).map((f) => f.rule);
    // The measure is 4.25 in; 450 pixels are enough for 3 in.
    expect(await rules(100)).toContain('type/picture-smaller');
    expect(await rules(60)).not.toContain('type/picture-smaller');
    expect(await rules(60)).toContain('type/picture-coarse');
    expect((await rules(30)).filter((r) => r.startsWith('type/'))).toEqual([]);
  });
});
