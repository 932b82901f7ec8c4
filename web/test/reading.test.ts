/** The reader's parts that need no browser: where one reads, and what is found. */
import { describe, expect, it } from 'vitest';
import { readingOrder, readPackage } from '@pagina/core/package';
import { zipSync } from 'fflate';
import { placeIn } from '../src/reader/place';
import { matchesOf, MOST_MATCHES } from '../src/reader/search';
import type { DocumentText } from '../src/reader/source';

const enc = (s: string): Uint8Array => new TextEncoder().encode(s);
function ebook(files: Record<string, string>) {
  const read = readPackage(
    zipSync({
      mimetype: enc('application/epub+zip'),
      'META-INF/container.xml': enc(
        '<container xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="o/p.opf"/></rootfiles></container>',
      ),
      ...Object.fromEntries(Object.entries(files).map(([name, text]) => [name, enc(text)])),
    }),
  );
  if (!read.ok) throw new Error(read.refusal.message);
  return readingOrder(read.value);
}
const OPF = (version: string, more: string, spine: string, meta = ''): string =>
  `<package xmlns="http://www.idpf.org/2007/opf" xmlns:dc="http://purl.org/dc/elements/1.1/" version="${version}"><metadata><dc:title>T</dc:title><dc:language>en</dc:language>${meta}</metadata><manifest><item id="a" href="a.xhtml" media-type="application/xhtml+xml"/><item id="b" href="sub/b%20b.xhtml" media-type="application/xhtml+xml"/>${more}</manifest>${spine}</package>`;
const SPINE =
  '<spine toc="n"><itemref idref="a"/><itemref idref="b" linear="no"/><itemref idref="gone"/></spine>';

describe('the order of an ebook', () => {
  it('is read from its spine and its navigation document (EPUB 3.3 §5.7, §7.4)', () => {
    const order = ebook({
      'o/p.opf': OPF(
        '3.0',
        '<item id="v" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>',
        SPINE,
      ),
      'o/nav.xhtml': `<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"><body>
        <nav epub:type="toc"><h1><span>Contents</span></h1><ol><li><a href="a.xhtml">One <b>x</b></a><ol><li><a href="sub/b%20b.xhtml#c">Two</a></li></ol></li><li><span>Group</span></li></ol></nav>
        <nav epub:type="landmarks"><ol><li><a epub:type="bodymatter" href="a.xhtml">Start</a></li></ol></nav>
        <nav epub:type="page-list"><ol><li><a href="a.xhtml#p1">1</a></li></ol></nav></body></html>`,
    });
    expect(order.documents.map((d) => [d.path, d.linear])).toEqual([
      ['o/a.xhtml', true],
      ['o/sub/b b.xhtml', false],
    ]);
    expect(order.contents.map(({ label, path, fragment, depth }) => [label, path, fragment, depth])).toEqual([
      ['One x', 'o/a.xhtml', '', 0],
      ['Two', 'o/sub/b b.xhtml', 'c', 1],
      ['Group', '', '', 0],
    ]);
    expect([order.landmarks[0]?.label, order.pages[0]?.fragment]).toEqual(['Start', 'p1']);
  });
  it('is read from the NCX and the guide where there is nothing newer (OPF 2.0.1 §2.4.1, §2.6)', () => {
    const order = ebook({
      'o/p.opf': OPF(
        '2.0',
        '<item id="n" href="t.ncx" media-type="application/x-dtbncx+xml"/>',
        `${SPINE}<guide><reference type="cover" title="Cover" href="a.xhtml"/></guide>`,
      ),
      'o/t.ncx': `<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/"><docTitle><text>T</text></docTitle><navMap><navPoint><navLabel><text>One</text></navLabel><content src="a.xhtml"/><navPoint><navLabel><text>Two</text></navLabel><content src="a.xhtml#x"/></navPoint></navPoint></navMap><pageList><pageTarget><navLabel><text>iv</text></navLabel><content src="a.xhtml#p"/></pageTarget></pageList></ncx>`,
    });
    expect(order.contents.map((e) => [e.label, e.fragment, e.depth])).toEqual([
      ['One', '', 0],
      ['Two', 'x', 1],
    ]);
    expect(order.pages.map((e) => e.label)).toEqual(['iv']);
    expect(order.landmarks.map((e) => [e.label, e.path])).toEqual([['Cover', 'o/a.xhtml']]);
  });
  it('tells pages of a fixed size, their sides and which way they are turned (EPUB 3.3 §8.2)', () => {
    const order = ebook({
      'o/p.opf': OPF(
        '3.0',
        '',
        '<spine page-progression-direction="rtl"><itemref idref="a" properties="rendition:page-spread-left"/><itemref idref="b" properties="rendition:layout-reflowable"/></spine>',
        '<meta property="rendition:layout">pre-paginated</meta>',
      ),
    });
    expect(order.direction).toBe('rtl');
    expect(order.documents.map((d) => [d.fixed, d.side])).toEqual([
      [true, 'left'],
      [false, null],
    ]);
  });
});

const texts: DocumentText[] = [
  { path: 'a', text: 'One tide. '.repeat(10), ids: new Map([['p2', 50]]), before: 0 },
  { path: 'b', text: 'Two  tides’\n end. '.repeat(10), ids: new Map([['s', 90]]), before: 100 },
];
const entry = (label: string, path: string, fragment = '') => ({ label, path, fragment, depth: 0, line: 1 });
const ORDER = {
  title: 'T',
  language: 'en',
  version: '3.0',
  direction: 'ltr' as const,
  documents: ['a', 'b'].map((path) => ({ path, linear: true, fixed: false, side: null })),
  contents: [entry('One', 'a'), entry('Two', 'b'), entry('Two and a half', 'b', 's')],
  landmarks: [],
  pages: [entry('1', 'a'), entry('2', 'a', 'p2')],
};
const at = (path: string, offset: number, screen = 0, screens = 3) => ({
  path,
  offset,
  screen,
  screens,
  broken: false,
});

describe('where one reads', () => {
  it('is the last entry and the last folio that were passed', () => {
    expect(placeIn(ORDER, texts, at('a', 10)).words).toBe('One · screen 1 of 3 · folio 1');
    expect(placeIn(ORDER, texts, at('a', 50)).words).toBe('One · screen 1 of 3 · folio 2');
    expect(placeIn(ORDER, texts, at('b', 89)).words).toBe('Two · screen 1 of 3 · folio 2');
    expect(placeIn(ORDER, texts, at('b', 90)).words).toBe('Two and a half · screen 1 of 3 · folio 2');
    // Before the texts are read, no folio is guessed.
    expect(placeIn(ORDER, null, at('a', 50)).words).toBe('One · screen 1 of 3 · folio 1');
    expect(placeIn(ORDER, null, at('a', 50)).share).toBeNull();
  });
  it('is a share of the text, and all of it on the last screen', () => {
    expect(placeIn(ORDER, texts, at('a', 0)).share).toBe(0);
    expect(placeIn(ORDER, texts, at('b', 40, 1)).share).toBeCloseTo(140 / (100 + texts[1]!.text.length), 10);
    expect(placeIn(ORDER, texts, at('b', 150, 2)).share).toBe(1);
  });
});

describe('what is found', () => {
  it('whatever the capitals, the white space and the quotation marks', () => {
    expect(matchesOf("TWO TIDES' END", texts)).toHaveLength(10);
    const [first] = matchesOf('tide. One', texts);
    expect(texts[0]!.text.slice(first!.from, first!.to)).toBe('tide. One');
    expect([first!.before, first!.shown]).toEqual(['One ', 'tide. One']);
  });
  it('is taken word for word, and never too much of it', () => {
    expect(matchesOf('.*', texts)).toEqual([]);
    expect(matchesOf('  ', texts)).toEqual([]);
    expect(matchesOf('e', [{ ...texts[0]!, text: 'e'.repeat(5_000) }])).toHaveLength(MOST_MATCHES);
  });
});
