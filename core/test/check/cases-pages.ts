/** The least that breaks each rule of the pages: XML, elements, attributes, links, styles, media; and a file next to it. */
import { strToU8 } from 'fflate';
import { c, old, same, type Case } from './cases-package';
import {
  add,
  all,
  body,
  css,
  fixedPages,
  head,
  item,
  meta,
  nav,
  opf,
  page,
  put,
  readAloud,
  without,
  type Patch,
} from './minimal';
import { png } from '../fixtures/manuscript';

const a = (from: string | RegExp, to: string): Patch => put('a.xhtml', from, to);
const p = (html: string): Patch => body(`<p>${html}</p>`);

const XML_CASES: Case[] = [
  c('xml/never-closed', body('\n<p>one\n<p>two</p>'), body('<p>one</p>'), 'a.xhtml:6:1'),
  c('xml/crossed', p('<b>x<i>y</b>z</i>'), p('<b>x<i>y</i></b>')),
  c('xml/stray-end', body('<p>one</p></p>'), body('<p>one</p>')),
  c('xml/cut-short', a(/<\/body>[^]*/, ''), same),
  c('xml/tag-form', p('<b %>x</b>'), p('<b>x</b>')),
  c('xml/less-than', p('3 < 4'), p('3 &lt; 4'), 'a.xhtml:5:24'),
  c('xml/ampersand', p('Salt & sand'), p('Salt &amp; sand')),
  c('xml/unknown-entity', p('Salt&nbsp;sand'), p('Salt&#160;sand')),
  c('xml/attribute-without-value', p('<b hidden>x</b>'), p('<b hidden="">x</b>')),
  c('xml/attribute-quotes', p('<b class=x>x</b>'), p("<b class='x'>x</b>")),
  c('xml/attribute-gap', p('<b class="x"id="y">x</b>'), p('<b class="x" id="y">x</b>')),
  c('xml/attribute-twice', p('<b class="x" class="y">x</b>'), p('<b class="x">x</b>')),
  c('xml/comment', p('x<!-- a -- b -->'), p('x<!-- a - b -->')),
  c('xml/cdata', p('x ]]> y'), p('x <![CDATA[y]]>')),
  c('xml/character', p('x\u0007'), p('x\t')),
  c('xml/declaration', a('<?xml', '\n<?xml'), same, 'a.xhtml:1:1'),
  c('xml/document-type', a('<!DOCTYPE html>', '<!DOCTYPE html><!DOCTYPE html>'), same),
  c('xml/instruction', p('x<? y ?>'), p('x<?y z?>')),
  c('xml/prefix-undeclared', p('<o:p>x</o:p>'), p('<b epub:type="z3998:fiction">x</b>')),
  c('xml/text-before', a('<html', 'x<html'), same),
  c('xml/text-after', a('</html>', '</html>x'), same),
  c('xml/nothing', add({ 'a.xhtml': '' }), same),
  c('xml/too-large', p(`<i>${'x'.repeat(6_000_000)}</i>`), p(`<i>${'x'.repeat(600_000)}</i>`)),
  c('xml/too-deep', p('<b>'.repeat(2_100)), p('<b>x</b>')),
  c('xml/version', a('<?xml version="1.0"', '<?xml version="1.1"'), same),
  c(
    'xml/encoding',
    add({ 'a.xhtml': new Uint8Array([...strToU8(page('<h1>One</h1><p>Caf')), 0xe9, ...strToU8('</p>')]) }),
    p('Café'),
  ),
  c('xml/encoding-declared', a('encoding="utf-8"', 'encoding="iso-8859-1"'), same),
  c('xml/utf-16', add({ 'a.xhtml': utf16(page('<h1>One</h1>')) }), same),
  c(
    'xml/external-entity',
    a('<!DOCTYPE html>', '<!DOCTYPE html [<!ENTITY x SYSTEM "x.txt">]>'),
    a('<!DOCTYPE html>', '<!DOCTYPE html [<!ENTITY x "y">]>'),
  ),
  c(
    'xml/external-identifier',
    a(
      '<!DOCTYPE html>',
      '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://www.w3.org/TR/xhtml11/DTD/xhtml11.dtd">',
    ),
    a('<!DOCTYPE html>', '<!DOCTYPE html SYSTEM "about:legacy-compat">'),
  ),
  c('xml/document-type-name', a('<!DOCTYPE html>', '<!DOCTYPE book>'), same),
  c('text/root', add({ 'a.xhtml': '<section xmlns="http://www.w3.org/1999/xhtml"/>' }), same),
  c('text/namespace', a('xmlns="http://www.w3.org/1999/xhtml" ', ''), same, 'a.xhtml:3:1'),
  c(
    'text/svg-root',
    all(item('v', 'v.svg', 'image/svg+xml'), add({ 'v.svg': '<svg viewBox="0 0 1 1"/>' })),
    all(
      item('v', 'v.svg', 'image/svg+xml'),
      add({ 'v.svg': '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>' }),
    ),
  ),
  c(
    'text/foreign-namespace',
    p('<x xmlns="urn:x">y</x>'),
    p('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>y</title></svg>'),
  ),
  c('text/nothing-to-read', all(body(''), a('<h1>One</h1>', '')), all(body('<hr/>'), a('<h1>One</h1>', ''))),
  c('text/very-long', p('weir '.repeat(70_000)), p('weir '.repeat(1_000))),
  c(
    'text/file-ending',
    all(
      (x) => ({ ...x, 'a.page': x['a.xhtml'] as string }),
      without('a.xhtml'),
      opf('href="a.xhtml"', 'href="a.page"'),
      nav('a.xhtml', 'a.page'),
      put('b.xhtml', 'a.xhtml', 'a.page'),
    ),
    same,
  ),
  c('text/base-address', head('<base href="../"/>'), same),
];
function utf16(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length * 2 + 2);
  bytes.set([0xff, 0xfe]);
  for (let i = 0; i < text.length; i++)
    bytes.set([text.charCodeAt(i) & 255, text.charCodeAt(i) >> 8], 2 + i * 2);
  return bytes;
}

const ELEMENT_CASES: Case[] = [
  c('element/unknown', p('<para>x</para>'), p('<span>x</span><my-mark>y</my-mark>'), 'a.xhtml:5:22'),
  c('element/obsolete', p('<font>x</font>'), p('<span>x</span>')),
  c('element/in-paragraph', p('x<div>y</div>'), p('x<span>y</span>')),
  c('element/in-heading', body('<h2>x<p>y</p></h2>'), body('<h2>x<em>y</em></h2>')),
  c('element/in-list', body('<ul><p>x</p></ul>'), body('<ul><li><p>x</p></li></ul>')),
  c('element/in-terms', body('<dl><p>x</p></dl>'), body('<dl><dt>x</dt><dd>y</dd></dl>')),
  c('element/in-table', body('<table><p>x</p></table>'), body('<table><tr><td>x</td></tr></table>')),
  c('element/in-row', body('<table><tr><p>x</p></tr></table>'), body('<table><tr><th>x</th></tr></table>')),
  c('element/in-head', head('<p>x</p>'), head('<meta name="x" content="y"/>')),
  c('element/in-preformatted', body('<pre>x<p>y</p></pre>'), body('<pre>x<b>y</b></pre>')),
  c(
    'element/in-form-control',
    body('<p><label>x<div>y</div></label></p>'),
    body('<p><label>x<b>y</b></label></p>'),
  ),
  c('element/in-empty-element', p('x<br>y<b>z</b></br>'), p('x<br/>y')),
  c(
    'element/in-picture',
    p('<picture><p>x</p><img src="pic.png" alt="A weir in flood"/></picture>'),
    p('<picture><source srcset="pic.png"/><img src="pic.png" alt="A weir in flood"/></picture>'),
  ),
  c('element/in-line', p('<em>x<p>y</p></em>'), p('<em>x<b>y</b></em>')),
  c(
    'element/in-block',
    body('<blockquote><li>x</li></blockquote>'),
    body('<blockquote><p>x</p></blockquote>'),
  ),
  c('element/loose-text', body('<ul>x<li>y</li></ul>'), body('<ul>\n<li>y</li>\n</ul>')),
  c('element/text-outside-body', a('<head>', '<head>x'), a('<head>', '<head>\n')),
  c('element/not-empty', p('x<hr>y</hr>'), body('<hr/>')),
  c('element/head-and-body', a(/<head>[^]*<\/head>/, ''), same),
  c('element/title-missing', a('<title>One</title>', ''), same),
  c('element/title-twice', head('<title>Two</title>'), same),
  c('element/base-twice', head('<base href="./"/><base href="./"/>'), head('<base href="./"/>')),
  c(
    'element/link-in-link',
    p('<a href="b.xhtml">x<a href="b.xhtml">y</a></a>'),
    p('<a href="b.xhtml">x</a><a href="b.xhtml">y</a>'),
  ),
  c(
    'element/control-in-control',
    p('<a href="b.xhtml">x<button>y</button></a>'),
    p('<a href="b.xhtml">x</a><button>y</button>'),
  ),
  c('element/within-itself', p('<dfn>x<dfn>y</dfn></dfn>'), p('<dfn>x</dfn><dfn>y</dfn>')),
  c(
    'element/header-in-header',
    body('<header><footer>x</footer></header>'),
    body('<header>x</header><footer>y</footer>'),
  ),
  c(
    'element/heading-in-cell',
    body('<table><tr><th><h2>x</h2></th></tr></table>'),
    body('<table><tr><td><h2>x</h2></td></tr></table>'),
  ),
  c(
    'element/table-in-caption',
    body('<table><caption><table><tr><td>x</td></tr></table></caption><tr><td>x</td></tr></table>'),
    body('<table><caption>y</caption><tr><td>x</td></tr></table>'),
  ),
  c(
    'element/table-order',
    body('<table><tbody><tr><td>x</td></tr></tbody><thead><tr><th>y</th></tr></thead></table>'),
    body('<table><thead><tr><th>y</th></tr></thead><tbody><tr><td>x</td></tr></tbody></table>'),
  ),
  c(
    'element/table-rows-mixed',
    body('<table><tbody><tr><td>x</td></tr></tbody><tr><td>y</td></tr></table>'),
    body('<table><tr><td>x</td></tr><tr><td>y</td></tr></table>'),
  ),
  c(
    'element/figure-caption',
    body('<figure><p>x</p><figcaption>y</figcaption><p>z</p></figure>'),
    body('<figure><p>x</p><figcaption>y</figcaption></figure>'),
  ),
  c('element/terms-order', body('<dl><dd>x</dd><dt>y</dt></dl>'), body('<dl><dt>y</dt><dd>x</dd></dl>')),
  c(
    'element/terms-mixed',
    body('<dl><div><dt>x</dt><dd>y</dd></div><dt>x</dt><dd>y</dd></dl>'),
    body('<dl><div><dt>x</dt><dd>y</dd></div></dl>'),
  ),
  c(
    'element/summary-first',
    body('<details><p>x</p></details>'),
    body('<details><summary>y</summary><p>x</p></details>'),
  ),
  c(
    'element/legend-first',
    body('<fieldset><p>x</p><legend>y</legend></fieldset>'),
    body('<fieldset><legend>y</legend><p>x</p></fieldset>'),
  ),
  c(
    'element/picture-parts',
    p('<picture><source srcset="pic.png"/></picture>'),
    p('<picture><source srcset="pic.png"/><img src="pic.png" alt="A weir in flood"/></picture>'),
  ),
  c('element/ruby-reading', p('<ruby><rt>x</rt>y</ruby>'), p('<ruby>y<rt>x</rt></ruby>')),
  c('element/time-words', p('<time>1 March</time>'), p('<time>2026-03-01</time>')),
  c('element/main-place', body('<article><main>x</main></article>'), body('<div><main>x</main></div>')),
  c(
    'element/main-twice',
    body('<main>x</main><main>y</main>'),
    body('<main>x</main><main hidden="">y</main>'),
  ),
  c(
    'element/area-place',
    p('<area href="b.xhtml" alt="x" shape="default"/>'),
    p('<map name="m"><area href="b.xhtml" alt="x" shape="default"/></map>'),
  ),
  c('element/noscript', p('<noscript>x</noscript>'), p('x')),
  c(
    'element/media-order',
    p('<audio controls=""><track src="t.vtt"/><source src="one.mp3"/></audio>'),
    p('<audio controls=""><source src="one.mp3"/><track src="t.vtt"/></audio>'),
  ),
  c('element/charset', head('<meta charset="iso-8859-1"/>'), head('<meta charset="utf-8"/>')),
  c('element/meta-parts', head('<meta name="x"/>'), head('<meta name="x" content="y"/>')),
  c(
    'element/refresh',
    head('<meta http-equiv="refresh" content="3"/>'),
    head('<meta http-equiv="default-style" content="x"/>'),
  ),
  c('element/switch', p('<epub:switch id="s"><epub:default>x</epub:default></epub:switch>'), p('x')),
  c(
    'svg/unknown-element',
    p('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>x</title><blob/></svg>'),
    p('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>x</title><circle r="1"/></svg>'),
  ),
  c(
    'svg/foreign-object',
    p(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>x</title><foreignObject><body xmlns="http://www.w3.org/1999/xhtml">y</body></foreignObject></svg>',
    ),
    p(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>x</title><foreignObject><div xmlns="http://www.w3.org/1999/xhtml">y</div></foreignObject></svg>',
    ),
  ),
  c(
    'svg/title-words',
    p(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>x<p xmlns="http://www.w3.org/1999/xhtml">y</p></title></svg>',
    ),
    p('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>x</title></svg>'),
  ),
  c(
    'math/content-markup',
    p('<math xmlns="http://www.w3.org/1998/Math/MathML"><apply><plus/><ci>x</ci></apply></math>'),
    p('<math xmlns="http://www.w3.org/1998/Math/MathML"><mi>x</mi></math>'),
  ),
  c(
    'math/annotation',
    p(
      '<math xmlns="http://www.w3.org/1998/Math/MathML"><semantics><mi>x</mi><annotation-xml><ci>x</ci></annotation-xml></semantics></math>',
    ),
    p(
      '<math xmlns="http://www.w3.org/1998/Math/MathML"><semantics><mi>x</mi><annotation-xml encoding="MathML-Content" name="contentequiv"><ci>x</ci></annotation-xml></semantics></math>',
    ),
  ),
];

const ATTRIBUTE_CASES: Case[] = [
  c('attribute/unknown', p('<b weir="1">x</b>'), p('<b data-weir="1">x</b>'), 'a.xhtml:5:25'),
  c('attribute/obsolete', body('<p align="center">x</p>'), body('<p style="text-align: center">x</p>')),
  c('attribute/missing', p('<bdo>x</bdo>'), p('<bdo dir="rtl">x</bdo>')),
  c(
    'attribute/empty-source',
    p('<img src="" alt="A weir in flood"/>'),
    p('<img src="pic.png" alt="A weir in flood"/>'),
  ),
  c(
    'attribute/on-off',
    body('<details open="yes"><summary>x</summary></details>'),
    body('<details open="open"><summary>x</summary></details>'),
  ),
  c(
    'attribute/whole-number',
    p('<img src="pic.png" width="50%" alt="A weir in flood"/>'),
    p('<img src="pic.png" width="50" alt="A weir in flood"/>'),
  ),
  c('attribute/keyword', body('<p dir="left">x</p>'), body('<p dir="ltr">x</p>')),
  c(
    'attribute/time',
    p('<time datetime="1 March">x</time>'),
    p('<time datetime="2026-03-01T14:30">x</time>'),
  ),
  c(
    'attribute/language',
    p('<i lang="french language" xml:lang="french language">x</i>'),
    p('<i lang="fr" xml:lang="fr">x</i>'),
  ),
  c(
    'attribute/languages-differ',
    p('<i lang="fr" xml:lang="de">x</i>'),
    p('<i lang="fr" xml:lang="FR">x</i>'),
  ),
  c(
    'attribute/id-twice',
    body('<p id="x">1</p><p id="x">2</p>'),
    body('<p id="x">1</p><p id="y">2</p>'),
    'a.xhtml:5:37',
  ),
  c('attribute/id-form', body('<p id="x y">1</p>'), body('<p id="x-y">1</p>')),
  c(
    'attribute/heads-gone',
    body('<table><tr><th id="h">x</th></tr><tr><td headers="g">y</td></tr></table>'),
    body('<table><tr><th id="h">x</th></tr><tr><td headers="h">y</td></tr></table>'),
  ),
  c('attribute/label-for', p('<label for="x">y</label>'), p('<label for="x">y</label><input id="x"/>')),
  c(
    'attribute/map-gone',
    p('<img src="pic.png" alt="A weir in flood" usemap="#m"/>'),
    p(
      '<img src="pic.png" alt="A weir in flood" usemap="#m"/><map name="m"><area href="b.xhtml" alt="x" shape="default"/></map>',
    ),
  ),
  c(
    'attribute/target-without-link',
    p('<a target="_blank">x</a>'),
    p('<a href="b.xhtml" target="_blank">x</a>'),
  ),
  c('attribute/rdfa-alone', p('<span about="#x">y</span>'), p('<span about="#x" property="z">y</span>')),
  c('attribute/tab-order', body('<p tabindex="3">x</p>'), body('<p tabindex="0">x</p>')),
  c('attribute/handler', body('<p onclick="x()">x</p>'), body('<p>x</p>')),
  c('aria/role-unknown', body('<p role="weir">x</p>'), body('<p role="note">x</p>')),
  c('aria/role-deprecated', body('<p role="doc-endnote">x</p>'), body('<p role="doc-footnote">x</p>')),
  c('aria/attribute-unknown', body('<p aria-weir="1">x</p>'), body('<p aria-label="y">x</p>')),
  c(
    'aria/reference-gone',
    body('<section aria-labelledby="h"><h2>x</h2></section>'),
    body('<section aria-labelledby="h"><h2 id="h">x</h2></section>'),
  ),
  c('aria/level', body('<p role="heading">x</p>'), body('<p role="heading" aria-level="2">x</p>')),
  c('aria/true-false', body('<p aria-hidden="yes">x</p>'), body('<p aria-hidden="true">x</p>')),
  c(
    'semantics/unknown',
    body('<section epub:type="weir"><h2>x</h2></section>'),
    body('<section epub:type="chapter"><h2>x</h2></section>'),
  ),
  c(
    'semantics/deprecated',
    body('<section epub:type="subchapter"><h2>x</h2></section>'),
    body('<section epub:type="chapter"><h2>x</h2></section>'),
  ),
  c(
    'semantics/prefix',
    body('<section epub:type="weir:flood"><h2>x</h2></section>'),
    all(
      body('<section epub:type="weir:flood"><h2>x</h2></section>'),
      a('<html ', '<html epub:prefix="weir: http://x/" '),
    ),
  ),
  c('semantics/place', a('<head>', '<head epub:type="chapter">'), a('<body>', '<body epub:type="chapter">')),
  c('semantics/namespace', a('http://www.idpf.org/2007/ops', 'http://x/'), same),
];

const LINK_CASES: Case[] = [
  c('link/dead-file', p('<a href="c.xhtml">x</a>'), p('<a href="b.xhtml">x</a>'), 'a.xhtml:5:25'),
  c(
    'link/missing-resource',
    p('<img src="gone.png" alt="A weir in flood"/>'),
    p('<img src="pic.png" alt="A weir in flood"/>'),
  ),
  c(
    'link/other-case',
    p('<img src="Pic.png" alt="A weir in flood"/>'),
    p('<img src="pic.png" alt="A weir in flood"/>'),
  ),
  c('link/dead-place', p('<a href="b.xhtml#three">x</a>'), p('<a href="b.xhtml#two">x</a>')),
  c(
    'link/unlisted',
    all(p('<img src="new.png" alt="A weir in flood"/>'), add({ 'new.png': png(9, 9) })),
    p('<img src="pic.png" alt="A weir in flood"/>'),
  ),
  c('link/out-of-the-book', p('<a href="../b.xhtml">x</a>'), p('<a href="x/../b.xhtml">x</a>')),
  c('link/from-the-root', p('<a href="/b.xhtml">x</a>'), p('<a href="./b.xhtml">x</a>')),
  c(
    'link/remote-resource',
    p('<img src="https://example.org/x.png" alt="A weir in flood"/>'),
    p('<a href="https://example.org/x.png">x</a>'),
  ),
  c(
    'link/address-form',
    p('<a href="https://example.org/a b">x</a>'),
    p('<a href="https://example.org/a%20b">x</a>'),
  ),
  c(
    'link/percent',
    p('<a href="https://example.org/100%">x</a>'),
    p('<a href="https://example.org/100%25">x</a>'),
  ),
  c('link/web-address', p('<a href="https://example/">x</a>'), p('<a href="https://example.org/">x</a>')),
  c('link/unfinished', p('<a href="http://">x</a>'), p('<a href="http://example.org">x</a>')),
  c('link/no-scheme', p('<a href="www.example.org">x</a>'), p('<a href="https://www.example.org">x</a>')),
  c('link/script-address', p('<a href="javascript:x()">x</a>'), p('<a href="b.xhtml">x</a>')),
  c(
    'link/data-address',
    p('<a href="data:text/html,x">x</a>'),
    p('<img src="data:image/png;base64,AA" alt="A weir in flood"/>'),
  ),
  c('link/unknown-scheme', p('<a href="weir:x">x</a>'), p('<a href="mailto:ada@example.org">x</a>')),
  c('link/to-no-page', p('<a href="pic.png">x</a>'), p('<a href="b.xhtml">x</a>')),
  c('link/query', p('<a href="b.xhtml?x=1">x</a>'), p('<a href="https://example.org/?x=1">x</a>')),
];

const face = (css_: string, file: Uint8Array | string, type = 'font/otf'): Patch =>
  all(css(css_), add({ 'f.otf': file }), item('f', 'f.otf', type));
const FACE = '@font-face { font-family: W; src: url(f.otf) }';
const STYLE_CASES: Case[] = [
  c('style/syntax', css('b { font-weight bold }'), css('b { color: red }'), 'style.css:2:17'),
  c('style/brackets', css('b { margin: 0'), css('b { margin: 0 }'), 'style.css:2:3'),
  c('style/comment', css('/* b'), css('/* b */')),
  c(
    'style/encoding',
    add({ 'style.css': new Uint8Array([0x62, 0x7b, 0x7d, 0xe9]) }),
    css('b::before { content: "é" }'),
  ),
  c(
    'style/charset',
    add({ 'style.css': '@charset "iso-8859-1"; b { margin: 0 }' }),
    add({ 'style.css': '@charset "utf-8"; b { margin: 0 }' }),
  ),
  c(
    'style/import-late',
    all(css('@import "more.css";'), add({ 'more.css': 'b{}' }), item('m', 'more.css', 'text/css')),
    all(
      add({ 'style.css': '@import "more.css"; p { margin: 0 }', 'more.css': 'b{}' }),
      item('m', 'more.css', 'text/css'),
    ),
  ),
  c(
    'style/dead-address',
    css('b { background: url(gone.png) }'),
    css('b { background: url(pic.png) }'),
    'style.css:2:17',
  ),
  c('style/other-case', css('b { background: url(PIC.png) }'), css('b { background: url(pic.png) }')),
  c(
    'style/unlisted',
    all(css('b { background: url(new.png) }'), add({ 'new.png': png(9, 9) })),
    css('b { background: url(pic.png) }'),
  ),
  c(
    'style/remote',
    css('b { background: url(https://example.org/x.png) }'),
    css('b { background: url(pic.png) }'),
  ),
  c(
    'style/remote-face',
    css('@font-face { font-family: W; src: url(https://example.org/w.otf) }'),
    css('b { font-family: serif }'),
  ),
  c('face/no-source', css('@font-face { font-family: W }'), face(FACE, 'OTTO')),
  c('face/kind', face(FACE, 'OTTO', 'text/css'), face(FACE, 'OTTO')),
  c('style/direction', css('b { direction: rtl }'), css('b { text-align: right }')),
  c('style/fixed-place', css('b { position: fixed }'), css('b { position: relative }')),
  c(
    'style/text-size-fixed',
    css('body { font-size: 12px }'),
    css('h1 { font-size: 12px } body { font-size: 1em }'),
  ),
  c('style/line-height-fixed', css('p { line-height: 14pt }'), css('p { line-height: 1.4 }')),
  c('style/wide', css('div { width: 600px }'), css('div { max-width: 600px }')),
  c('style/screen-units', css('img { height: 100vh }'), css('img { max-height: 100vh }')),
  c('style/text-colour', css('body { color: #000 }'), css('h1 { color: #300 }')),
  c('style/prefixed', css('p { -epub-hyphens: none }'), css('p { hyphens: none }')),
  c('style/nothing-shown', css('body { display: none }'), css('.x { display: none }')),
  c('style/link-kind', opf('media-type="text/css"', 'media-type="text/plain"'), same),
  c('style/unused-sheet', all(add({ 'more.css': 'b{}' }), item('m', 'more.css', 'text/css')), same),
  c(
    'style/alternate-unnamed',
    head('<link rel="alternate stylesheet" href="style.css"/>'),
    head('<link rel="alternate stylesheet" title="Night" href="style.css"/>'),
  ),
];

const JPEG = (components: number): Uint8Array =>
  new Uint8Array([0xff, 0xd8, 0xff, 0xc0, 0, 11, 8, 0, 9, 0, 9, components, 1, 0x11, 0, 0xff, 0xd9]);
const GIF = (frames: number): Uint8Array =>
  new Uint8Array([
    ...strToU8('GIF89a'),
    1,
    0,
    1,
    0,
    0,
    0,
    0,
    ...Array.from({ length: frames }, () => [0x21, 0xf9, 4, 0, 0, 0, 0, 0]).flat(),
    0x3b,
  ]);
const shown = (name: string, bytes: Uint8Array, type: string): Patch =>
  all(item('x', name, type), add({ [name]: bytes }), p(`<img src="${name}" alt="A weir in flood"/>`));
/** A face of one table, OS/2, which says what may be done with it. */
const sfnt = (fsType: number): Uint8Array => {
  const b = new Uint8Array(12 + 16 + 12);
  b.set([0, 1, 0, 0, 0, 1]);
  b.set([...strToU8('OS/2'), 0, 0, 0, 0, 0, 0, 0, 28, 0, 0, 0, 12], 12);
  b.set([fsType >> 8, fsType & 255], 28 + 8);
  return b;
};
const broken = png(9, 9);
const MEDIA_CASES: Case[] = [
  c(
    'media/other-kind',
    opf('href="pic.png" media-type="image/png"', 'href="pic.png" media-type="image/jpeg"'),
    same,
    'book.opf:15:1',
  ),
  c('media/nameless-kind', shown('x.jpg', JPEG(3), 'image/jpg'), shown('x.jpg', JPEG(3), 'image/jpeg')),
  c('media/ending', shown('x.png', JPEG(3), 'image/jpeg'), shown('x.jpeg', JPEG(3), 'image/jpeg')),
  c(
    'media/film-kind',
    item('v', 'https://example.org/v.avi', 'video/x-msvideo'),
    item('v', 'https://example.org/v.mp4', 'video/mp4'),
  ),
  c(
    'picture/broken',
    shown('x.png', strToU8('nothing'), 'image/png'),
    shown('x.png', png(9, 9), 'image/png'),
  ),
  c(
    'picture/cut-short',
    shown('x.png', broken.slice(0, broken.length - 12), 'image/png'),
    shown('x.png', broken, 'image/png'),
  ),
  c(
    'picture/no-size',
    shown('x.gif', new Uint8Array([...strToU8('GIF89a'), 0, 0, 0, 0, 0, 0, 0, 0x3b]), 'image/gif'),
    shown('x.gif', GIF(1), 'image/gif'),
  ),
  c(
    'picture/very-large',
    shown('x.png', large(png(9, 9), 5_000, 5_000), 'image/png'),
    shown('x.png', png(9, 9), 'image/png'),
  ),
  c(
    'picture/heavy',
    shown('x.png', new Uint8Array([...png(9, 9), ...new Uint8Array(5_100_000)]), 'image/png'),
    shown('x.png', png(9, 9), 'image/png'),
  ),
  c('picture/inks', shown('x.jpg', JPEG(4), 'image/jpeg'), shown('x.jpg', JPEG(3), 'image/jpeg')),
  c('picture/moving', shown('x.gif', GIF(2), 'image/gif'), shown('x.gif', GIF(1), 'image/gif')),
  c('picture/cover-missing', opf(' properties="cover-image"', ''), same),
  c('picture/cover-small', add({ 'pic.png': png(60, 90) }), same),
  c(
    'picture/unused',
    all(item('x', 'x.png', 'image/png'), add({ 'x.png': png(9, 9) })),
    shown('x.png', png(9, 9), 'image/png'),
  ),
  c('face/broken', face(FACE, 'nothing at all'), face(FACE, sfnt(0), 'font/ttf')),
  c('face/embedding', face(FACE, sfnt(2), 'font/ttf'), face(FACE, sfnt(8), 'font/ttf')),
  c(
    'face/unused',
    all(item('f', 'f.ttf', 'font/ttf'), add({ 'f.ttf': sfnt(0) })),
    face(FACE, sfnt(0), 'font/ttf'),
  ),
];
function large(b: Uint8Array, width: number, height: number): Uint8Array {
  const out = b.slice();
  const view = new DataView(out.buffer);
  view.setUint32(16, width);
  view.setUint32(20, height);
  return out;
}

const rendition = (name: string, value: string): Patch =>
  meta(`<meta property="rendition:${name}">${value}</meta>`);
const size = (content: string): Patch => all(fixedPages, a('width=600, height=800', content));
const aloud = (from: string | RegExp, to: string): Patch => all(readAloud, put('b.smil', from, to));
const OTHER_CASES: Case[] = [
  c('fixed/layout', rendition('layout', 'fixed'), rendition('layout', 'reflowable')),
  c('fixed/orientation', rendition('orientation', 'upright'), rendition('orientation', 'portrait')),
  c('fixed/spread', rendition('spread', 'yes'), rendition('spread', 'none')),
  c('fixed/flow', rendition('flow', 'scroll'), rendition('flow', 'scrolled-doc')),
  c(
    'fixed/said-twice',
    all(rendition('flow', 'auto'), rendition('flow', 'paginated')),
    rendition('flow', 'auto'),
  ),
  c('fixed/portrait-spread', rendition('spread', 'portrait'), rendition('spread', 'both')),
  c('fixed/no-size', rendition('layout', 'pre-paginated'), fixedPages),
  c('fixed/size-incomplete', size('width=600'), fixedPages),
  c('fixed/size-form', size('width=600pt, height=800pt'), size('width=600.5, height=800')),
  c('fixed/size-of-screen', size('width=device-width, height=device-height'), fixedPages),
  c(
    'fixed/size-twice',
    all(fixedPages, head('<meta name="viewport" content="width=600, height=800"/>')),
    fixedPages,
  ),
  c(
    'fixed/drawing-size',
    all(
      fixedPages,
      item('v', 'v.svg', 'image/svg+xml'),
      add({ 'v.svg': '<svg xmlns="http://www.w3.org/2000/svg"><title>x</title></svg>' }),
      opf('</spine>', '<itemref idref="v"/></spine>'),
    ),
    all(
      fixedPages,
      item('v', 'v.svg', 'image/svg+xml'),
      add({
        'v.svg': '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 800"><title>x</title></svg>',
      }),
      opf('</spine>', '<itemref idref="v"/></spine>'),
    ),
  ),
  c('fixed/sizes-differ', size('width=500, height=800'), fixedPages),
  c(
    'fixed/words-as-picture',
    all(fixedPages, a(/<h1>[^]*<\/p>/, '<img src="pic.png" alt=""/>')),
    all(fixedPages, a(/<h1>[^]*<\/p>/, '<img src="pic.png" alt="The weir by night"/>')),
  ),
  c(
    'fixed/side-twice',
    all(
      opf('idref="a"', 'idref="a" properties="page-spread-left"'),
      opf('idref="b"', 'idref="b" properties="page-spread-left"'),
    ),
    all(
      opf('idref="a"', 'idref="a" properties="page-spread-left"'),
      opf('idref="b"', 'idref="b" properties="page-spread-right"'),
    ),
  ),
  c(
    'script/remote',
    head('<script src="https://example.org/x.js"></script>'),
    head('<script type="application/ld+json">{}</script>'),
  ),
  c('script/present', head('<script>1</script>'), head('<script type="application/ld+json">{}</script>')),
  c('script/form', body('<form action="b.xhtml"><p>x</p></form>'), body('<p>x</p>')),
  c('overlay/root', aloud('version="3.0"', 'version="2.0"'), readAloud),
  c('overlay/shape', aloud('<par ', '<audio src="one.mp3"/><par '), readAloud),
  c('overlay/nothing', aloud('<par ', '<seq epub:textref="b.xhtml"/><par '), readAloud),
  c('overlay/pair', aloud('<text src="b.xhtml#two"/>', ''), readAloud),
  c('overlay/words-gone', aloud('b.xhtml#two', 'b.xhtml#three'), readAloud),
  c('overlay/sound-gone', aloud('one.mp3', 'two.mp3'), readAloud),
  c('overlay/clock', aloud('clipEnd="2s"', 'clipEnd="soon"'), aloud('clipEnd="2s"', 'clipEnd="0:00:02.5"')),
  c('overlay/backwards', aloud('clipBegin="0s"', 'clipBegin="3s"'), readAloud),
  c(
    'overlay/sequence-of',
    aloud(/<par[^]*<\/par>/, '<seq><par id="p1"><text src="b.xhtml#two"/></par></seq>'),
    aloud(
      /<par[^]*<\/par>/,
      '<seq epub:textref="b.xhtml#two"><par id="p1"><text src="b.xhtml#two"/></par></seq>',
    ),
  ),
  c('overlay/untold', all(readAloud, opf('media-overlay="smil" ', '')), readAloud),
  c('overlay/duration', all(readAloud, opf('<meta property="media:duration">2s</meta>', '')), readAloud),
  old('older/element', body('<section><p>x</p></section>'), body('<div><p>x</p></div>')),
  old('older/attribute', body('<p role="note">x</p>'), body('<p title="note">x</p>')),
  old('older/document-type', a(/<!DOCTYPE[^>]*>/, '<!DOCTYPE html>')),
  old('older/loose-text', body('<blockquote>x</blockquote>'), body('<blockquote><p>x</p></blockquote>')),
  old('older/in-paragraph', p('x<div>y</div>'), p('x<span>y</span>')),
];

const stating = (name: string, value: string): Patch =>
  meta(`<meta property="schema:${name}">${value}</meta>`);
const img = (alt: string): Patch => p(`<img src="pic.png" ${alt}/>`);
const mark = (more: string): Patch =>
  all(
    p(`x<span epub:type="pagebreak" role="doc-pagebreak" ${more}></span>`),
    nav(
      '</body>',
      '<nav epub:type="page-list"><h2>Pages</h2><ol><li><a href="a.xhtml">1</a></li></ol></nav></body>',
    ),
    meta('<dc:source>urn:isbn:9780000000002</dc:source>'),
  );
const ACCESS_CASES: Case[] = [
  c('access/alt', img(''), img('alt="A weir in flood"')),
  c('access/language', a(' lang="en" xml:lang="en"', ''), same),
  c('access/page-title', a('<title>One</title>', '<title> </title>'), same),
  c(
    'access/table-head',
    body('<table><tr><td>a</td><td>b</td></tr><tr><td>c</td><td>d</td></tr></table>'),
    body('<table><tr><th scope="col">a</th><th scope="col">b</th></tr><tr><td>c</td><td>d</td></tr></table>'),
  ),
  c('access/heading-level', body('<h4>x</h4>'), body('<h2>x</h2>')),
  c('access/link-words', p('<a href="b.xhtml"> </a>'), p('<a href="b.xhtml">x</a>')),
  c('access/accessibility-metadata', opf(/<meta property="schema:accessMode">[^<]*<\/meta>/, ''), same),
  c(
    'access/untrue-statement',
    stating('accessibilityFeature', 'MathML'),
    stating('accessibilityFeature', 'readingOrder'),
  ),
  c(
    'access/conformance',
    meta('<meta property="dcterms:conformsTo">EPUB Accessibility 1.1 - WCAG 2.2 Level AA</meta>'),
    meta(
      '<meta property="dcterms:conformsTo">EPUB Accessibility 1.1 - WCAG 2.2 Level AA</meta><meta property="a11y:certifiedBy">Weir Press</meta>',
    ),
  ),
  c('access/alt-useless', img('alt="image1"'), img('alt="A weir in flood"')),
  c('access/alt-long', img(`alt="${'A weir in flood. '.repeat(40)}"`), img('alt="A weir in flood"')),
  c(
    'access/drawing-name',
    p('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><circle r="1"/></svg>'),
    p('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><title>A weir</title><circle r="1"/></svg>'),
  ),
  c(
    'access/formula-words',
    p('<math xmlns="http://www.w3.org/1998/Math/MathML"></math>'),
    p('<math xmlns="http://www.w3.org/1998/Math/MathML"><mn>1</mn></math>'),
  ),
  c(
    'access/frame-title',
    body('<iframe src="b.xhtml"></iframe>'),
    body('<iframe src="b.xhtml" title="Two"></iframe>'),
  ),
  c('access/heading-empty', body('<h2> </h2>'), body('<h2>x</h2>')),
  c('access/page-mark-name', mark(''), mark('aria-label="1"')),
  c(
    'access/pages-without-source',
    all(mark('aria-label="1"'), opf('<dc:source>urn:isbn:9780000000002</dc:source>', '')),
    mark('aria-label="1"'),
  ),
  c(
    'access/marks-without-list',
    p('x<span epub:type="pagebreak" role="doc-pagebreak" aria-label="1"></span>'),
    mark('aria-label="1"'),
  ),
  c(
    'access/film-captions',
    body('<video controls="" src="v.mp4"></video>'),
    body('<video controls="" src="v.mp4"><track kind="captions" src="v.vtt"/></video>'),
  ),
  c(
    'access/plays-by-itself',
    body('<audio autoplay="" src="one.mp3"></audio>'),
    body('<audio controls="" src="one.mp3"></audio>'),
  ),
  c(
    'access/hidden-link',
    p('<span aria-hidden="true"><a href="b.xhtml">x</a></span>'),
    p('<span><a href="b.xhtml">x</a></span>'),
  ),
  c('access/control-name', p('<input type="text"/>'), p('<label>x <input type="text"/></label>')),
  c(
    'access/caption-in-table',
    body('<table role="presentation"><tr><th>x</th></tr></table>'),
    body('<table role="presentation"><tr><td>x</td></tr></table>'),
  ),
  c(
    'access/scope',
    body('<table><tr><th>a</th><th>b</th></tr><tr><th>c</th><td>d</td></tr></table>'),
    body(
      '<table><tr><th scope="col">a</th><th scope="col">b</th></tr><tr><th scope="row">c</th><td>d</td></tr></table>',
    ),
  ),
  c(
    'access/certifier-link',
    meta('<meta property="a11y:certifierReport">on request</meta>'),
    meta('<link rel="a11y:certifierReport" href="https://example.org/r"/>'),
  ),
  c('access/mode-value', stating('accessMode', 'sight'), stating('accessMode', 'visual')),
  c(
    'access/hazards-clash',
    stating('accessibilityHazard', 'flashing'),
    opf('schema:accessibilityHazard">none', 'schema:accessibilityHazard">noFlashingHazard'),
  ),
];

export const PAGE_TABLE: Case[] = [
  ...XML_CASES,
  ...ELEMENT_CASES,
  ...ATTRIBUTE_CASES,
  ...LINK_CASES,
  ...STYLE_CASES,
  ...MEDIA_CASES,
  ...OTHER_CASES,
  ...ACCESS_CASES,
];
