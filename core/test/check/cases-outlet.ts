/** The least that breaks each rule of outlets, held against an outlet that takes nothing but that. */
import type { EbookDemands } from '../../src/trade';
import { MINIMAL, OLDER, page, withNcx, type Parts } from './minimal';
import { png } from '../fixtures/manuscript';

/** An outlet that takes everything. */
export const LENIENT: EbookDemands = {
  versions: ['3', '2'],
  most: { file: Infinity, page: Infinity },
  pixels: Infinity,
  pictures: ['image/png'],
  cover: 0,
  fixed: true,
  media: true,
  scripts: true,
  contents: 0,
  isbn: false,
  languages: null,
};
export interface OutletCase {
  rule: string;
  demands: Partial<EbookDemands>;
  bad: Parts;
  good?: Parts;
  message: RegExp;
  at?: string;
}
const opf = (from: string | RegExp, to: string): Parts => ({
  ...MINIMAL,
  'book.opf': (MINIMAL['book.opf'] as string).replace(from, to),
});
const body = (html: string): Parts => ({ ...MINIMAL, 'a.xhtml': page(html) });

export const OUTLET_TABLE: OutletCase[] = [
  { rule: 'outlet/version', demands: { versions: ['2'] }, bad: withNcx(MINIMAL), good: OLDER, message: /^Sandbar takes EPUB 2 only; this is EPUB 3\.0\.$/, at: 'book.opf:2:1' },
  { rule: 'outlet/file-size', demands: { most: { file: 1_000_000, page: Infinity } }, bad: { ...MINIMAL, 'pic.png': noise(1_200_000) }, message: /^Sandbar takes up to 1 MB; this ebook has 1\.2 MB\.$/ },
  { rule: 'outlet/page-size', demands: { most: { file: Infinity, page: 3_000 } }, bad: body(`<p>${'word '.repeat(1_000)}</p>`), message: /^Sandbar takes text files up to 3 kB; this one has 5 kB\.$/, at: 'a.xhtml' },
  { rule: 'outlet/picture-size', demands: { pixels: 700 * 1_100 }, bad: { ...MINIMAL, 'pic.png': png(701, 1_100) }, message: /701 × 1100\.$/, at: 'pic.png' },
  { rule: 'outlet/picture-kind', demands: { pictures: ['image/png'] }, bad: opf('</manifest>', '<item id="w" href="w.webp" media-type="image/webp"/></manifest>'), message: /type image\/webp\.$/, at: 'w.webp' },
  { rule: 'outlet/cover', demands: { cover: 1_100 }, bad: { ...MINIMAL, 'pic.png': png(700, 1_099) }, message: /at least 1,100 pixels high; this one has 1,099\.$/, at: 'pic.png' },
  { rule: 'outlet/cover', demands: { cover: 1_100 }, bad: opf(' properties="cover-image"', ''), message: /none is marked as one\.$/ },
  { rule: 'outlet/fixed-layout', demands: { fixed: false }, bad: opf('</metadata>', '<meta property="rendition:layout">pre-paginated</meta></metadata>'), message: /fixed-layout ebooks\.$/ },
  { rule: 'outlet/sound-or-film', demands: { media: false }, bad: opf('</manifest>', '<item id="s" href="s.mp3" media-type="audio/mpeg"/></manifest>'), message: /with audio or video\.$/, at: 's.mp3' },
  { rule: 'outlet/script', demands: { scripts: false }, bad: body('<p>One</p><script>1</script>'), good: body('<p>One</p><script type="text/plain">1</script>'), message: /run scripts\.$/, at: 'a.xhtml:5:17' },
  { rule: 'outlet/other-shop', demands: {}, bad: body('<p><a href="https://www.plover.example/isbn/1">Buy</a></p>'), good: body('<p><a href="https://notplover.example/plover.example">Read</a></p>'), message: /another shop: plover\.example\.$/, at: 'a.xhtml:5:13' },
  { rule: 'outlet/contents', demands: { contents: 3 }, bad: MINIMAL, good: { ...MINIMAL, 'nav.xhtml': (MINIMAL['nav.xhtml'] as string).replace('</ol>', '<li><a href="b.xhtml">Three</a></li></ol>') }, message: /at least 3 entries in the contents; there are 2\.$/ },
  // The number of the ISBN Users’ Manual, from memory; urn:isbn by RFC 3187.
  { rule: 'outlet/isbn', demands: { isbn: true }, bad: MINIMAL, good: opf(/urn:uuid:[0-9a-f-]+/, 'urn:isbn:9789295055124'), message: /^Sandbar requires an ISBN among the identifiers; there is none\.$/ },
  { rule: 'outlet/language', demands: { languages: ['en', 'de'] }, bad: opf('<dc:language>en<', '<dc:language>cy-GB<'), good: opf('<dc:language>en<', '<dc:language>de-AT<'), message: /sells books in English and German; this one is in Welsh\.$/, at: 'book.opf:6' },
]; // prettier-ignore

/** A PNG that can’t be packed smaller. */
function noise(bytes: number): Uint8Array {
  const all = new Uint8Array(bytes);
  all.set(png(700, 1_100).subarray(0, 2_000));
  for (let i = 2_000, x = 7; i < bytes; i++) all[i] = (x = Math.imul(x, 1_103_515_245) + 12_345) >> 16;
  return all;
}
