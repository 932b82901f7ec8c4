/** The least that an EPUB can be, and ways to change a part of it. */
import { strToU8, zipSync, type Zippable } from 'fflate';
import { png } from '../fixtures/manuscript';

export type Parts = Record<string, string | Uint8Array>;
export type Patch = (parts: Parts) => Parts;

const HTML =
  'xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="en" xml:lang="en"';
export const page = (body: string, head = '<title>One</title>'): string =>
  `<?xml version="1.0" encoding="utf-8"?>\n<!DOCTYPE html>\n<html ${HTML}>\n<head>${head}</head>\n<body>${body}</body>\n</html>\n`;
export const CONTAINER =
  '<?xml version="1.0"?>\n<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="book.opf" media-type="application/oebps-package+xml"/></rootfiles></container>\n';
const access = (property: string, value: string): string =>
  `<meta property="schema:${property}">${value}</meta>`;
export const OPF = `<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="uid" xml:lang="en">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
<dc:identifier id="uid">urn:uuid:5a7a1c0e-0d4c-4a9e-8a54-6f2f4f3b1c11</dc:identifier>
<dc:title id="t">One</dc:title>
<dc:language>en</dc:language>
<meta property="dcterms:modified">2026-01-02T03:04:05Z</meta>
${access('accessMode', 'textual')}${access('accessModeSufficient', 'textual')}${access('accessibilityFeature', 'tableOfContents')}${access('accessibilityHazard', 'none')}
</metadata>
<manifest>
<item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>
<item id="a" href="a.xhtml" media-type="application/xhtml+xml"/>
<item id="b" href="b.xhtml" media-type="application/xhtml+xml"/>
<item id="css" href="style.css" media-type="text/css"/>
<item id="pic" href="pic.png" media-type="image/png" properties="cover-image"/>
</manifest>
<spine>
<itemref idref="a"/>
<itemref idref="b"/>
</spine>
</package>
`;
export const NAV = page(
  '<nav epub:type="toc"><h1>Contents</h1><ol><li><a href="a.xhtml">One</a></li><li><a href="b.xhtml#two">Two</a></li></ol></nav>',
  '<title>Contents</title>',
);
export const NCX_PART = `<?xml version="1.0" encoding="utf-8"?>
<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1">
<head><meta name="dtb:uid" content="urn:uuid:5a7a1c0e-0d4c-4a9e-8a54-6f2f4f3b1c11"/></head>
<docTitle><text>One</text></docTitle>
<navMap>
<navPoint id="n1" playOrder="1"><navLabel><text>One</text></navLabel><content src="a.xhtml"/></navPoint>
<navPoint id="n2" playOrder="2"><navLabel><text>Two</text></navLabel><content src="b.xhtml#two"/></navPoint>
</navMap>
</ncx>
`;
const HEAD = '<title>One</title><link rel="stylesheet" type="text/css" href="style.css"/>';

export const MINIMAL: Parts = {
  mimetype: 'application/epub+zip',
  'META-INF/container.xml': CONTAINER,
  'book.opf': OPF,
  'nav.xhtml': NAV,
  'a.xhtml': page('<h1>One</h1><p>Water went over the weir.</p>', HEAD),
  'b.xhtml': page('<h1 id="two">Two</h1><p>Then it froze. <a href="a.xhtml">The weir</a>.</p>', HEAD),
  'style.css': 'p { margin: 0 }\n',
  'pic.png': png(700, 1_100),
};

/** The same in the older form. */
export const OLDER: Parts = {
  ...MINIMAL,
  'book.opf': `<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="2.0" unique-identifier="uid">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:opf="http://www.idpf.org/2007/opf">
<dc:identifier id="uid">urn:uuid:5a7a1c0e-0d4c-4a9e-8a54-6f2f4f3b1c11</dc:identifier>
<dc:title>One</dc:title>
<dc:language>en</dc:language>
<meta name="cover" content="pic"/>
</metadata>
<manifest>
<item id="ncx" href="toc.ncx" media-type="application/x-dtbncx+xml"/>
<item id="a" href="a.xhtml" media-type="application/xhtml+xml"/>
<item id="b" href="b.xhtml" media-type="application/xhtml+xml"/>
<item id="css" href="style.css" media-type="text/css"/>
<item id="pic" href="pic.png" media-type="image/png"/>
</manifest>
<spine toc="ncx">
<itemref idref="a"/>
<itemref idref="b"/>
</spine>
<guide>
<reference type="text" title="Start" href="a.xhtml"/>
</guide>
</package>
`,
  'toc.ncx': NCX_PART,
};
for (const name of ['a.xhtml', 'b.xhtml'])
  OLDER[name] = String(OLDER[name])
    .replace(
      '<!DOCTYPE html>',
      '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://www.w3.org/TR/xhtml11/DTD/xhtml11.dtd">',
    )
    .replace(/ xmlns:epub="[^"]*"| lang="en"(?= xml)/g, '');
delete OLDER['nav.xhtml'];

/** Text of a part in place of other text, which must be there. */
export const put =
  (name: string, from: string | RegExp, to: string): Patch =>
  (parts) => {
    const was = String(parts[name]);
    const now = was.replace(from, () => to);
    if (now === was) throw new Error(`“${String(from)}” is not in ${name}`);
    return { ...parts, [name]: now };
  };
export const opf = (from: string | RegExp, to: string): Patch => put('book.opf', from, to);
export const nav = (from: string | RegExp, to: string): Patch => put('nav.xhtml', from, to);
export const add =
  (more: Parts): Patch =>
  (parts) => ({ ...parts, ...more });
export const without =
  (name: string): Patch =>
  (parts) =>
    Object.fromEntries(Object.entries(parts).filter(([n]) => n !== name));
export const all =
  (...patches: Patch[]): Patch =>
  (parts) =>
    patches.reduce((now, p) => p(now), parts);
/** What the first page holds after its heading. */
export const body = (html: string): Patch => put('a.xhtml', '<p>Water went over the weir.</p>', html);
export const head = (html: string): Patch => put('a.xhtml', '</head>', `${html}</head>`);
export const css = (text: string): Patch => add({ 'style.css': `p { margin: 0 }\n${text}\n` });
/** A line of metadata. */
export const meta = (line: string): Patch => opf('</metadata>', `${line}\n</metadata>`);
export const item = (id: string, href: string, type: string, more = ''): Patch =>
  opf('</manifest>', `<item id="${id}" href="${href}" media-type="${type}"${more}/>\n</manifest>`);
/** A property of the first page’s item. */
export const property = (p: string): Patch =>
  opf(
    'href="a.xhtml" media-type="application/xhtml+xml"',
    `href="a.xhtml" media-type="application/xhtml+xml" properties="${p}"`,
  );
export const withNcx: Patch = all(
  add({ 'toc.ncx': NCX_PART }),
  item('ncx', 'toc.ncx', 'application/x-dtbncx+xml'),
  opf('<spine>', '<spine toc="ncx">'),
);
/** Pages of a fixed size. */
export const fixedPages: Patch = all(
  meta('<meta property="rendition:layout">pre-paginated</meta>'),
  ...['a.xhtml', 'b.xhtml'].map((n) =>
    put(n, '</head>', '<meta name="viewport" content="width=600, height=800"/></head>'),
  ),
);
export const SMIL_PART =
  '<?xml version="1.0"?>\n<smil xmlns="http://www.w3.org/ns/SMIL" xmlns:epub="http://www.idpf.org/2007/ops" version="3.0"><body>\n<par id="p1"><text src="b.xhtml#two"/><audio src="one.mp3" clipBegin="0s" clipEnd="2s"/></par>\n</body></smil>\n';
/** A page that is read aloud. */
export const readAloud: Patch = all(
  add({ 'b.smil': SMIL_PART, 'one.mp3': strToU8('ID3\u0003\u0000\u0000') }),
  item('smil', 'b.smil', 'application/smil+xml'),
  item('mp3', 'one.mp3', 'audio/mpeg'),
  opf('href="b.xhtml"', 'media-overlay="smil" href="b.xhtml"'),
  meta('<meta property="media:duration">2s</meta><meta property="media:duration" refines="#smil">2s</meta>'),
);

export function zipped(parts: Parts): Uint8Array {
  const files: Zippable = {};
  for (const [name, part] of Object.entries(parts))
    files[name] = [
      typeof part === 'string' ? strToU8(part) : part,
      { level: name === 'mimetype' ? 0 : 6, mtime: '2026-01-01T00:00:00' },
    ];
  return zipSync(files);
}
