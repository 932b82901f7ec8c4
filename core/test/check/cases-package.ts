/**
 * The least that breaks each rule of container, package, metadata, manifest, spine and navigation, and a file next to it
 * that doesn’t. Written from the words of the section that the rule cites.
 */

import { add, all, body, item, meta, nav, opf, property, put, withNcx, without, type Patch } from './minimal';

export interface Case {
  rule: string;
  bad: Patch;
  /** Next to the bad one, and right. */
  good: Patch;
  /** Where the fault begins: file, line, column. */
  at?: string;
  /** In the older form. */
  older?: true;
}
export const same: Patch = (p) => p;
export const c = (rule: string, bad: Patch, good: Patch = same, at?: string): Case => ({
  rule,
  bad,
  good,
  ...(at ? { at } : {}),
});
export const old = (rule: string, bad: Patch, good: Patch = same): Case => ({ rule, bad, good, older: true });

const container = (from: string | RegExp, to: string): Patch => put('META-INF/container.xml', from, to);
const encryption = (inner: string): Patch =>
  add({
    'META-INF/encryption.xml': `<encryption xmlns="urn:oasis:names:tc:opendocument:xmlns:container" xmlns:enc="http://www.w3.org/2001/04/xmlenc#">${inner}</encryption>`,
  });
const locked = (uri: string, algorithm: string): Patch =>
  encryption(
    `<enc:EncryptedData><enc:EncryptionMethod Algorithm="${algorithm}"/><enc:CipherData><enc:CipherReference URI="${uri}"/></enc:CipherData></enc:EncryptedData>`,
  );
const AES = 'http://www.w3.org/2001/04/xmlenc#aes256-cbc';
const SCRAMBLED = 'http://www.idpf.org/2008/embedding';
const UID = 'urn:uuid:5a7a1c0e-0d4c-4a9e-8a54-6f2f4f3b1c11';

const CONTAINER_CASES: Case[] = [
  c('container/missing', without('META-INF/container.xml')),
  c(
    'container/namespace',
    container('urn:oasis:names:tc:opendocument:xmlns:container', 'urn:x'),
    same,
    'META-INF/container.xml:2:1',
  ),
  c('container/version', container(' version="1.0" xmlns', ' xmlns'), same, 'META-INF/container.xml:2:1'),
  c('container/no-package', container(' full-path="book.opf"', '')),
  c('container/package-gone', container('full-path="book.opf"', 'full-path="books.opf"')),
  c('container/package-type', container('application/oebps-package+xml', 'text/xml')),
  c(
    'container/several-packages',
    container(
      '</rootfiles>',
      '<rootfile full-path="book.opf" media-type="application/oebps-package+xml"/></rootfiles>',
    ),
  ),
  c(
    'container/stray-file',
    add({ 'META-INF/device.xml': '<x/>' }),
    add({ 'META-INF/licence.txt': 'All may.' }),
  ),
  c('container/system-file', add({ '__MACOSX/._a': 'x' })),
  c('container/encryption-form', encryption('<other/>'), encryption('')),
  c(
    'container/locked-part',
    locked('a.xhtml', AES),
    all(locked('f.otf', SCRAMBLED), add({ 'f.otf': 'OTTO' }), item('f', 'f.otf', 'font/otf')),
  ),
  c('container/must-stay-open', locked('book.opf', AES)),
  c('container/encrypted-gone', locked('gone.otf', SCRAMBLED)),
  c('container/scrambled', locked('pic.png', SCRAMBLED)),
];

const PACKAGE_CASES: Case[] = [
  c('package/root', opf('xmlns="http://www.idpf.org/2007/opf"', 'xmlns="http://www.idpf.org/2007/opg"')),
  c('package/version', opf('version="3.0" unique', 'version="3.1" unique'), same, 'book.opf:2:1'),
  c('package/identifier-named', opf(' unique-identifier="uid"', '')),
  c(
    'package/identifier-there',
    opf('unique-identifier="uid"', 'unique-identifier="t"'),
    same,
    'book.opf:2:61',
  ),
  c('package/lacks', opf(/<spine>[^]*<\/spine>/, '')),
  c('package/twice', opf('<spine>', '<manifest/><spine>')),
  c(
    'package/order',
    all(
      opf(/<spine>[^]*<\/spine>\n/, ''),
      opf('<manifest>', '<spine><itemref idref="a"/><itemref idref="b"/></spine><manifest>'),
    ),
  ),
  c('package/foreign-element', opf('</spine>', '<chapter/></spine>')),
  c(
    'package/foreign-attribute',
    opf('<itemref idref="a"/>', '<itemref idref="a" page="1"/>'),
    opf('<itemref idref="a"/>', '<itemref id="i1" idref="a"/>'),
    'book.opf:18:20',
  ),
  c('package/ids', opf('<itemref idref="a"/>', '<itemref id="t" idref="a"/>')),
  c('package/id-form', opf('id="t"', 'id="1 t"'), opf('id="t"', 'id="_t-1.x"')),
  c(
    'package/direction',
    opf('xml:lang="en">', 'xml:lang="en" dir="left">'),
    opf('xml:lang="en">', 'xml:lang="en" dir="ltr">'),
  ),
  c(
    'package/language-tag',
    opf('xml:lang="en">', 'xml:lang="english language">'),
    opf('xml:lang="en">', 'xml:lang="en-GB">'),
  ),
  c(
    'package/prefix-form',
    opf('xml:lang="en">', 'xml:lang="en" prefix="foo http://x/">'),
    opf('xml:lang="en">', 'xml:lang="en" prefix="foo: http://x/ bar: http://y/">'),
  ),
  c(
    'package/prefix-reserved',
    opf('xml:lang="en">', 'xml:lang="en" prefix="schema: http://x/">'),
    opf('xml:lang="en">', 'xml:lang="en" prefix="schema: http://schema.org/">'),
  ),
  c('package/prefix-default', opf('xml:lang="en">', 'xml:lang="en" prefix="_: http://x/">')),
  c(
    'package/collection-role',
    opf('</package>', '<collection><link href="a.xhtml"/></collection></package>'),
    opf('</package>', '<collection role="index"><link href="a.xhtml"/></collection></package>'),
  ),
  c(
    'package/collection-holds',
    opf('</package>', '<collection role="index"></collection></package>'),
    opf('</package>', '<collection role="index"><link href="a.xhtml"/></collection></package>'),
  ),
  c(
    'package/bindings',
    opf('</package>', '<bindings><mediaType media-type="x/y" handler="a"/></bindings></package>'),
  ),
  old('package/tours', opf('<guide>', '<tours/><guide>')),
];

const METADATA_CASES: Case[] = [
  c('metadata/no-identifier', opf(/<dc:identifier[^]*<\/dc:identifier>\n/, '')),
  c('metadata/no-title', opf(/<dc:title[^]*<\/dc:title>\n/, '')),
  c('metadata/no-language', opf(/<dc:language[^]*<\/dc:language>\n/, '')),
  c(
    'metadata/empty',
    meta('<dc:publisher> </dc:publisher>'),
    meta('<dc:publisher>Weir Press</dc:publisher>'),
    'book.opf:9:1',
  ),
  c(
    'metadata/unknown-element',
    meta('<dc:author>Ada Quill</dc:author>'),
    meta('<dc:creator>Ada Quill</dc:creator>'),
  ),
  c(
    'metadata/language-tag',
    opf('<dc:language>en<', '<dc:language>english language<'),
    opf('<dc:language>en<', '<dc:language>pt-BR<'),
  ),
  c(
    'metadata/isbn',
    meta('<dc:identifier>urn:isbn:9780000000001</dc:identifier>'),
    meta('<dc:identifier>urn:isbn:9780000000002</dc:identifier>'),
  ),
  c('metadata/uuid', opf(UID, 'urn:uuid:5a7a1c0e'), same),
  c(
    'metadata/identifier-twice',
    meta(`<dc:identifier>${UID}</dc:identifier>`),
    meta('<dc:identifier>x-1</dc:identifier>'),
  ),
  c('metadata/no-modified', opf(/<meta property="dcterms:modified">[^<]*<\/meta>/, '')),
  c(
    'metadata/modified-form',
    opf('2026-01-02T03:04:05Z', '2026-01-02'),
    opf('2026-01-02T03:04:05Z', '2026-12-31T23:59:59Z'),
  ),
  c(
    'metadata/date-twice',
    meta('<dc:date>2026</dc:date><dc:date>2027</dc:date>'),
    meta('<dc:date>2026</dc:date>'),
  ),
  c('metadata/date-form', meta('<dc:date>1 March 2026</dc:date>'), meta('<dc:date>2026-03-01</dc:date>')),
  c(
    'metadata/refines-target',
    meta('<meta refines="#gone" property="file-as">One</meta>'),
    meta('<meta refines="#t" property="file-as">One</meta>'),
    'book.opf:9:7',
  ),
  c(
    'metadata/refines-itself',
    meta(
      '<meta id="m1" refines="#m2" property="file-as">x</meta><meta id="m2" refines="#m1" property="file-as">y</meta>',
    ),
    meta('<meta id="m1" refines="#t" property="file-as">x</meta>'),
  ),
  c('metadata/meta-property', meta('<meta>One</meta>'), meta('<meta name="x" content="y"/>')),
  c(
    'metadata/property-unknown',
    meta('<meta property="author">Ada</meta>'),
    meta('<meta property="dcterms:author">Ada</meta>'),
  ),
  c(
    'metadata/prefix-undeclared',
    meta('<meta property="weir:depth">3</meta>'),
    all(
      meta('<meta property="weir:depth">3</meta>'),
      opf('xml:lang="en">', 'xml:lang="en" prefix="weir: http://x/">'),
    ),
  ),
  c(
    'metadata/refining-alone',
    meta('<meta property="role">aut</meta>'),
    meta(
      '<dc:creator id="c">Ada</dc:creator><meta refines="#c" property="role" scheme="marc:relators">aut</meta>',
    ),
  ),
  c(
    'metadata/role-code',
    meta(
      '<dc:creator id="c">Ada</dc:creator><meta refines="#c" property="role" scheme="marc:relators">author</meta>',
    ),
    meta(
      '<dc:creator id="c">Ada</dc:creator><meta refines="#c" property="role" scheme="marc:relators">aut</meta>',
    ),
  ),
  c(
    'metadata/display-order',
    meta('<meta refines="#t" property="display-seq">first</meta>'),
    meta('<meta refines="#t" property="display-seq">1</meta>'),
  ),
  c(
    'metadata/title-type',
    meta('<meta refines="#t" property="title-type">best</meta>'),
    meta('<meta refines="#t" property="title-type">main</meta>'),
  ),
  c(
    'metadata/series-number',
    meta(
      '<meta id="s" property="belongs-to-collection">Weirs</meta><meta refines="#s" property="group-position">Book 2</meta>',
    ),
    meta(
      '<meta id="s" property="belongs-to-collection">Weirs</meta><meta refines="#s" property="group-position">2</meta>',
    ),
  ),
  c(
    'metadata/collection-type',
    meta(
      '<meta id="s" property="belongs-to-collection">Weirs</meta><meta refines="#s" property="collection-type">saga</meta>',
    ),
    meta(
      '<meta id="s" property="belongs-to-collection">Weirs</meta><meta refines="#s" property="collection-type">series</meta>',
    ),
  ),
  c(
    'metadata/source-of',
    meta('<dc:source id="s">x</dc:source><meta refines="#s" property="source-of">pages</meta>'),
    meta('<dc:source id="s">x</dc:source><meta refines="#s" property="source-of">pagination</meta>'),
  ),
  c(
    'metadata/subject-authority',
    meta('<dc:subject id="s">Rivers</dc:subject><meta refines="#s" property="term">RGBC</meta>'),
    meta(
      '<dc:subject id="s">Rivers</dc:subject><meta refines="#s" property="term">RGBC</meta><meta refines="#s" property="authority">Thema</meta>',
    ),
  ),
  c(
    'metadata/link-parts',
    meta('<link rel="record"/>'),
    meta('<link rel="record" href="https://example.org/r.xml"/>'),
  ),
  c(
    'metadata/link-relation',
    meta('<link rel="friend" href="https://example.org/r.xml"/>'),
    meta('<link rel="record" href="https://example.org/r.xml"/>'),
  ),
  c(
    'metadata/link-gone',
    meta('<link rel="record" href="r.xml" media-type="text/xml"/>'),
    all(meta('<link rel="record" href="r.xml" media-type="text/xml"/>'), add({ 'r.xml': '<r/>' })),
  ),
  c(
    'metadata/link-type',
    all(meta('<link rel="record" href="r.xml"/>'), add({ 'r.xml': '<r/>' })),
    all(meta('<link rel="record" href="r.xml" media-type="text/xml"/>'), add({ 'r.xml': '<r/>' })),
  ),
  c(
    'metadata/older-attribute',
    all(
      opf('xmlns:dc=', 'xmlns:opf="http://www.idpf.org/2007/opf" xmlns:dc='),
      meta('<dc:creator opf:role="aut">Ada</dc:creator>'),
    ),
    meta('<dc:creator>Ada</dc:creator>'),
  ),
  old(
    'metadata/newer-property',
    meta('<meta property="dcterms:modified">2026-01-02T03:04:05Z</meta>'),
    meta('<meta name="x" content="y"/>'),
  ),
  old('metadata/meta-parts', meta('<meta name="x"/>'), meta('<meta name="x" content="y"/>')),
  c(
    'metadata/cover-gone',
    meta('<meta name="cover" content="a"/>'),
    meta('<meta name="cover" content="pic"/>'),
  ),
];

const foreign = all(
  item('w', 'w.tiff', 'image/tiff'),
  add({ 'w.tiff': 'II*\0' }),
  body('<p>x<img src="w.tiff" alt="A weir in flood"/></p>'),
);
const MANIFEST_CASES: Case[] = [
  c('manifest/no-id', opf('id="css" ', ''), same, 'book.opf:14:1'),
  c('manifest/no-address', opf('href="style.css"', 'href=""')),
  c('manifest/no-type', opf(' media-type="text/css"', '')),
  c('manifest/type-form', opf('media-type="text/css"', 'media-type="css"')),
  c('manifest/fragment', opf('href="b.xhtml"', 'href="b.xhtml#two"')),
  c('manifest/data-address', item('d', 'data:text/css,p%7B%7D', 'text/css')),
  c('manifest/missing-file', without('style.css')),
  c('manifest/other-case', opf('href="style.css"', 'href="Style.css"')),
  c('manifest/unlisted-file', add({ 'notes.txt': 'x' })),
  c('manifest/file-twice', item('css2', 'style.css', 'text/css')),
  c('manifest/lists-package', item('self', 'book.opf', 'application/oebps-package+xml')),
  c(
    'manifest/fallback-gone',
    opf('id="css" ', 'id="css" fallback="gone" '),
    opf('id="css" ', 'id="css" fallback="a" '),
  ),
  c(
    'manifest/fallback-circle',
    all(opf('id="css" ', 'id="css" fallback="pic" '), opf('id="pic" ', 'id="pic" fallback="css" ')),
    opf('id="css" ', 'id="css" fallback="a" '),
  ),
  c('manifest/foreign-resource', foreign, all(foreign, opf('id="w"', 'id="w" fallback="pic"'))),
  c('manifest/unused-foreign', all(item('x', 'x.bin', 'application/x-weir'), add({ 'x.bin': 'x' })), foreign),
  c('manifest/property-unknown', property('chapter'), property('weir:chapter')),
  c('manifest/navigation-count', opf(' properties="nav"', '')),
  c(
    'manifest/navigation-type',
    opf(
      'id="nav" href="nav.xhtml" media-type="application/xhtml+xml"',
      'id="nav" href="nav.xhtml" media-type="application/x-dtbncx+xml"',
    ),
  ),
  c(
    'manifest/cover-twice',
    all(item('pic2', 'pic2.png', 'image/png', ' properties="cover-image"'), (p) => ({
      ...p,
      'pic2.png': p['pic.png'] as Uint8Array,
    })),
  ),
  c('manifest/cover-picture', property('cover-image')),
  c(
    'manifest/scripted-untold',
    body('<script>1</script>'),
    all(body('<script>1</script>'), property('scripted')),
  ),
  c('manifest/scripted-untrue', property('scripted'), all(body('<script>1</script>'), property('scripted'))),
  c(
    'manifest/svg-untold',
    body('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><title>Weir</title></svg>'),
    all(
      body('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><title>Weir</title></svg>'),
      property('svg'),
    ),
  ),
  c('manifest/svg-untrue', property('svg')),
  c(
    'manifest/mathml-untold',
    body('<p><math xmlns="http://www.w3.org/1998/Math/MathML"><mn>1</mn></math></p>'),
    all(
      body('<p><math xmlns="http://www.w3.org/1998/Math/MathML"><mn>1</mn></math></p>'),
      property('mathml'),
    ),
  ),
  c('manifest/mathml-untrue', property('mathml')),
  c(
    'manifest/remote-resources-untold',
    body('<audio controls="" src="https://example.org/a.mp3">A weir.</audio>'),
    all(
      body('<audio controls="" src="https://example.org/a.mp3">A weir.</audio>'),
      property('remote-resources'),
    ),
  ),
  c('manifest/remote-resources-untrue', property('remote-resources')),
  c('manifest/overlay-gone', opf('href="b.xhtml"', 'media-overlay="gone" href="b.xhtml"')),
  c(
    'manifest/remote-kind',
    item('r', 'https://example.org/r.png', 'image/png'),
    item('r', 'https://example.org/r.mp3', 'audio/mpeg'),
  ),
  c('manifest/file-address', item('r', 'file:///home/ada/r.png', 'image/png')),
];

const SPINE_CASES: Case[] = [
  c('spine/empty', opf(/<itemref[^]*(?=<\/spine>)/, ''), same, 'book.opf:17:1'),
  c('spine/no-reference', opf('<itemref idref="b"/>', '<itemref/>')),
  c(
    'spine/reference-gone',
    opf('<itemref idref="b"/>', '<itemref idref="b"/><itemref idref="c"/>'),
    same,
    'book.opf:19:21',
  ),
  c('spine/twice', opf('<itemref idref="b"/>', '<itemref idref="b"/><itemref idref="a"/>')),
  c(
    'spine/no-page',
    opf('<itemref idref="b"/>', '<itemref idref="b"/><itemref idref="pic"/>'),
    all(
      opf('<itemref idref="b"/>', '<itemref idref="b"/><itemref idref="pic"/>'),
      opf('id="pic"', 'fallback="a" id="pic"'),
    ),
  ),
  c(
    'spine/nothing-in-line',
    all(opf('idref="a"', 'idref="a" linear="no"'), opf('idref="b"', 'idref="b" linear="no"')),
    opf('idref="a"', 'idref="a" linear="no"'),
  ),
  c(
    'spine/linear-value',
    opf('idref="a"', 'idref="a" linear="true"'),
    opf('idref="a"', 'idref="a" linear="yes"'),
  ),
  c(
    'spine/out-of-reach',
    all(opf('idref="b"', 'idref="b" linear="no"'), nav('<li><a href="b.xhtml#two">Two</a></li>', '')),
    opf('idref="a"', 'idref="a" linear="no"'),
  ),
  c(
    'spine/page-missing',
    all(opf('<itemref idref="a"/>', ''), nav('<li><a href="a.xhtml">One</a></li>', '')),
  ),
  c(
    'spine/page-left-out',
    all(opf('<itemref idref="b"/>', ''), nav('<li><a href="b.xhtml#two">Two</a></li>', '')),
  ),
  c(
    'spine/property-unknown',
    opf('idref="a"', 'idref="a" properties="left"'),
    opf('idref="a"', 'idref="a" properties="page-spread-left"'),
  ),
  c(
    'spine/properties-clash',
    opf('idref="a"', 'idref="a" properties="page-spread-left page-spread-right"'),
    opf('idref="a"', 'idref="a" properties="page-spread-left rendition:layout-reflowable"'),
  ),
  c(
    'spine/direction',
    opf('<spine>', '<spine page-progression-direction="left">'),
    opf('<spine>', '<spine page-progression-direction="ltr">'),
  ),
  old('spine/older-contents', opf('<spine toc="ncx">', '<spine>')),
  c('spine/older-contents-gone', opf('<spine>', '<spine toc="ncx">'), withNcx),
];

const list = (type: string, entries: string, more = ''): string =>
  `<nav epub:type="${type}"${more}><h2>List</h2><ol>${entries}</ol></nav>`;
const also = (html: string): Patch => nav('</body>', `${html}</body>`);
const CONTENTS_CASES: Case[] = [
  c('contents/none', nav('epub:type="toc"', 'epub:type="lot"')),
  c('contents/empty', nav(/<li>[^]*<\/li>/, '')),
  c('contents/two-of-toc', also(list('toc', '<li><a href="a.xhtml">One</a></li>'))),
  c(
    'contents/two-of-page-list',
    also(list('page-list', '<li><a href="a.xhtml">1</a></li>').repeat(2)),
    also(list('page-list', '<li><a href="a.xhtml">1</a></li>')),
  ),
  c(
    'contents/two-of-landmarks',
    also(list('landmarks', '<li><a epub:type="bodymatter" href="a.xhtml">Start</a></li>').repeat(2)),
    also(list('landmarks', '<li><a epub:type="bodymatter" href="a.xhtml">Start</a></li>')),
  ),
  c('contents/dead-target', nav('b.xhtml#two', 'b.xhtml#three'), same, 'nav.xhtml:5:90'),
  c('contents/leads-away', nav('href="a.xhtml"', 'href="https://example.org/"')),
  c('contents/not-in-spine', opf('<itemref idref="b"/>', '')),
  c('contents/no-words', nav('>Two</a>', '></a>'), nav('>Two</a>', '><img src="pic.png" alt="Two"/></a>')),
  c('contents/list-shape', nav('</nav>', '<p>More</p></nav>')),
  c(
    'contents/entry-shape',
    nav(
      '<li><a href="a.xhtml">One</a></li>',
      '<li><a href="a.xhtml">One</a><a href="a.xhtml">One more</a></li>',
    ),
    nav(
      '<a href="a.xhtml">One</a>',
      '<a href="a.xhtml">One</a><ol><li><a href="a.xhtml">One again</a></li></ol>',
    ),
  ),
  c(
    'contents/heading-without-entries',
    nav('<li><a href="a.xhtml">One</a></li>', '<li><span>Part</span></li><li><a href="a.xhtml">One</a></li>'),
    nav(
      '<li><a href="a.xhtml">One</a></li>',
      '<li><span>Part</span><ol><li><a href="a.xhtml">One</a></li></ol></li>',
    ),
  ),
  c('contents/loose-words', nav('<li><a href="a.xhtml">', '<li>1. <a href="a.xhtml">')),
  c(
    'contents/pages-nested',
    also(list('page-list', '<li><a href="a.xhtml">1</a><ol><li><a href="b.xhtml">2</a></li></ol></li>')),
    also(list('page-list', '<li><a href="a.xhtml">1</a></li>')),
  ),
  c(
    'contents/other-list-unnamed',
    also('<nav epub:type="lot"><ol><li><a href="a.xhtml">A table</a></li></ol></nav>'),
    also(list('lot', '<li><a href="a.xhtml">A table</a></li>')),
  ),
  c(
    'contents/landmark-kind',
    also(list('landmarks', '<li><a href="a.xhtml">Start</a></li>')),
    also(list('landmarks', '<li><a epub:type="bodymatter" href="a.xhtml">Start</a></li>')),
  ),
  c(
    'contents/landmark-twice',
    also(list('landmarks', '<li><a epub:type="bodymatter" href="a.xhtml">Start</a></li>'.repeat(2))),
    also(
      list(
        'landmarks',
        '<li><a epub:type="bodymatter" href="a.xhtml">Start</a></li><li><a epub:type="backmatter" href="b.xhtml">End</a></li>',
      ),
    ),
  ),
  c(
    'contents/order',
    nav(
      /<li><a href="a.xhtml">One<\/a><\/li>(<li>.*<\/li>)(?=<\/ol>)/,
      '<li><a href="b.xhtml#two">Two</a></li><li><a href="a.xhtml">One</a></li>',
    ),
    same,
    'nav.xhtml:5:91',
  ),
  c(
    'contents/page-order',
    also(list('page-list', '<li><a href="b.xhtml">1</a></li><li><a href="a.xhtml">2</a></li>')),
    also(list('page-list', '<li><a href="a.xhtml">1</a></li><li><a href="b.xhtml">2</a></li>')),
  ),
  c(
    'contents/page-twice',
    also(list('page-list', '<li><a href="a.xhtml">1</a></li><li><a href="b.xhtml">1</a></li>')),
    also(list('page-list', '<li><a href="a.xhtml">1</a></li>')),
  ),
  c(
    'contents/hidden-contents',
    all(
      nav('<nav epub:type="toc"', '<nav hidden="" epub:type="toc"'),
      opf('<itemref idref="a"/>', '<itemref idref="nav"/><itemref idref="a"/>'),
    ),
    nav('<nav epub:type="toc"', '<nav hidden="" epub:type="toc"'),
  ),
  c(
    'contents/lacks-documents',
    nav('<li><a href="b.xhtml#two">Two</a></li>', ''),
    all(
      nav('<li><a href="b.xhtml#two">Two</a></li>', ''),
      put('b.xhtml', '<body>', '<body epub:type="dedication">'),
    ),
  ),
];

const ncx = (from: string | RegExp, to: string): Patch => all(withNcx, put('toc.ncx', from, to));
const PAGES =
  '<pageList><pageTarget id="p1" type="normal" value="1" playOrder="1"><navLabel><text>1</text></navLabel><content src="a.xhtml"/></pageTarget></pageList></ncx>';
const NCX_CASES: Case[] = [
  c(
    'ncx/root',
    ncx('xmlns="http://www.daisy.org/z3986/2005/ncx/"', 'xmlns="http://x/"'),
    withNcx,
    'toc.ncx:2:1',
  ),
  c('ncx/version', ncx(' version="2005-1"', ''), withNcx),
  c('ncx/empty', ncx(/<navPoint[^]*<\/navPoint>/, ''), withNcx),
  c('ncx/title', ncx('<text>One</text></docTitle>', '<text/></docTitle>'), withNcx),
  c('ncx/identifier', ncx(UID, 'urn:uuid:1'), withNcx, 'toc.ncx:3:7'),
  old('ncx/order-number', put('toc.ncx', ' playOrder="2"', '')),
  c('ncx/order-clash', ncx('playOrder="2"', 'playOrder="1"'), withNcx),
  c(
    'ncx/no-words',
    ncx('<navLabel><text>Two</text></navLabel>', '<navLabel><text> </text></navLabel>'),
    withNcx,
  ),
  c('ncx/no-target', ncx('<content src="a.xhtml"/>', '<content src=""/>'), withNcx),
  c('ncx/dead-target', ncx('b.xhtml#two', 'c.xhtml'), withNcx, 'toc.ncx:7:1'),
  c('ncx/ids', ncx('id="n2"', 'id="n1"'), withNcx),
  c('ncx/no-id', ncx('id="n2" ', ''), withNcx),
  c('ncx/page-kind', ncx('</ncx>', PAGES.replace('normal', 'body')), ncx('</ncx>', PAGES)),
  c('ncx/differs', ncx('b.xhtml#two', 'b.xhtml'), withNcx),
  old(
    'guide/dead-target',
    opf(
      '<reference type="text" title="Start" href="a.xhtml"/>',
      '<reference type="text" title="Start" href="c.xhtml"/>',
    ),
  ),
  old(
    'guide/parts',
    opf('<reference type="text" title="Start" href="a.xhtml"/>', '<reference title="Start" href="a.xhtml"/>'),
  ),
  old(
    'guide/kind',
    opf('<reference type="text"', '<reference type="start"'),
    opf('<reference type="text"', '<reference type="other.start"'),
  ),
  old('guide/empty', opf(/<reference[^>]*>/, '')),
];

export const PACKAGE_TABLE: Case[] = [
  ...CONTAINER_CASES,
  ...PACKAGE_CASES,
  ...METADATA_CASES,
  ...MANIFEST_CASES,
  ...SPINE_CASES,
  ...CONTENTS_CASES,
  ...NCX_CASES,
];
