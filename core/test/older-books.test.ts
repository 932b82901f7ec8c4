/** EPUB 2 as Open Packaging Format 2.0.1 and NCX (ANSI/NISO Z39.86-2005) lay it down, zipped by fflate, not by our writer. */
import { zipSync } from 'fflate';
import { expect, it } from 'vitest';
import { readManuscript } from '../src/intake';
import { png } from './fixtures/manuscript';

const utf8 = (t: string): Uint8Array => new TextEncoder().encode(t);
const page = (title: string, body: string): Uint8Array =>
  utf8(`<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://www.w3.org/TR/xhtml11/DTD/xhtml11.dtd">
<html xmlns="http://www.w3.org/1999/xhtml" xml:lang="en"><head><title>${title}</title></head><body>${body}</body></html>`);

const older = (): Uint8Array =>
  zipSync({
    mimetype: [utf8('application/epub+zip'), { level: 0 }],
    'META-INF/container.xml': utf8(
      '<?xml version="1.0"?><container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="OPS/book.opf" media-type="application/oebps-package+xml"/></rootfiles></container>',
    ),
    'OPS/book.opf': utf8(`<?xml version="1.0"?>
<package xmlns="http://www.idpf.org/2007/opf" version="2.0" unique-identifier="id">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:opf="http://www.idpf.org/2007/opf">
<dc:title>The Weir</dc:title><dc:creator opf:role="aut" opf:file-as="Calloway, Ines">Ines Calloway</dc:creator>
<dc:language>en-GB</dc:language><dc:identifier id="id" opf:scheme="UUID">urn:uuid:0</dc:identifier></metadata>
<manifest><item id="ncx" href="toc.ncx" media-type="application/x-dtbncx+xml"/>
<item id="one" href="one.html" media-type="application/xhtml+xml"/>
<item id="two" href="two.html" media-type="application/xhtml+xml"/>
<item id="notes" href="notes.html" media-type="application/xhtml+xml"/>
<item id="map" href="map.png" media-type="image/png"/></manifest>
<spine toc="ncx"><itemref idref="one"/><itemref idref="two"/><itemref idref="notes" linear="no"/></spine>
<guide><reference type="text" title="Start" href="one.html"/></guide></package>`),
    'OPS/toc.ncx': utf8(`<?xml version="1.0"?>
<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1"><head/><docTitle><text>The Weir</text></docTitle><navMap>
<navPoint id="a" playOrder="1"><navLabel><text>The Gate</text></navLabel><content src="one.html"/></navPoint>
<navPoint id="b" playOrder="2"><navLabel><text>The Fall</text></navLabel><content src="two.html#head"/></navPoint></navMap></ncx>`),
    'OPS/one.html': page(
      'The Gate',
      '<div><p class="big"><b>The Gate</b></p><p>It was <i>shut</i>.<a href="notes.html#n1" id="c1"><sup>1</sup></a> See <a href="two.html#later">later</a>.</p></div>',
    ),
    'OPS/two.html': page(
      'The Fall',
      '<h2 id="head">The Fall</h2><p><img src="map.png" alt="A map of the weir"/></p><p>It opened.</p><p id="later">Much later.</p>',
    ),
    'OPS/notes.html': page('Notes', '<p id="n1"><a href="one.html#c1">1</a> For the winter.</p>'),
    'OPS/map.png': png(8, 8),
  });

it('an EPUB 2 comes in by its NCX, with marks, notes, links and pictures, and no word is lost', async () => {
  const r = await readManuscript(older(), 'weir.epub');
  if (!r.ok) throw new Error(r.refusal.message);
  const { book, wordsIn, wordsOut, setAside } = r.value;
  expect(book.record).toMatchObject({ title: 'The Weir', language: 'en-GB' });
  expect(book.record.contributors[0]?.name).toBe('Ines Calloway');
  expect(book.sections.map((s) => s.title)).toEqual(['The Gate', 'The Fall']);
  expect(wordsOut + setAside.reduce((n, s) => n + s.words, 0)).toBe(wordsIn);
  const [gate, fall] = book.sections;
  const kinds: string[] = [];
  gate!.content.descendants((n) => void kinds.push(n.type.name));
  expect(kinds).toContain('note');
  expect(gate!.content.lastChild?.textContent).toBe('For the winter.');
  const target = fall!.content.lastChild!;
  const links: string[] = [];
  gate!.content.descendants((n) => {
    for (const m of n.marks) if (m.type.name === 'link') links.push(m.attrs.target as string);
  });
  expect(links).toEqual([`${fall!.id}#${target.attrs.id as string}`]);
  expect(fall!.content.child(0).attrs).toMatchObject({ alt: 'A map of the weir' });
});
