/**
 * XML read with all its faults, each where it begins. What is well-formed is judged by another parser (saxes) and, in
 * e2e/checks, by Chromium's; where a fault begins is told by hand in each case, as an editor would point at it.
 */
import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { parseXml, readXml, textOf, type XmlElement } from '../src/base';

const faults = (text: string): string[] => readXml(text).faults.map((f) => `${f.kind} ${f.line}:${f.column}`);

describe('a fault is told where it begins', () => {
  it.each([
    ['<a>\n <p>one\n <p>two</p>\n</a>', ['unclosed 2:2']],
    ['<a>\n<p>one<br>two</p>\n</a>', ['unclosed 2:7']],
    ['<a><b>x<i>y</b>z</i></a>', ['crossed 1:4']],
    ['<a>\n<p>x</p></p>\n</a>', ['stray-end 2:9']],
    ['<div><section><p>t</div></p></section></div>', ['stray-end 1:19']],
    ['<a>\n<p>one\n', ['cut-short 2:1']],
    ['<a>Salt & sand</a>', ['ampersand 1:9']],
    ['<a>Salt &nbsp sand &amp sand</a>', ['ampersand 1:9', 'ampersand 1:20']],
    ['<a>\n&nbsp;</a>', ['entity 2:1']],
    ['<a>3 < 4</a>', ['less-than 1:6']],
    ['<a>\n<b c=d>x</b></a>', ['attribute-quotes 2:4']],
    ['<a><b c="d>x</b><b e="f">y</b></a>', ['attribute-quotes 1:7']],
    ['<a><b c>x</b></a>', ['attribute-value 1:7']],
    ['<a><b c="1"d="2"/></a>', ['attribute-gap 1:12']],
    ['<a><b c="1" c="2"/></a>', ['attribute-twice 1:13']],
    ['<a><b c="1<2"/></a>', ['less-than 1:11']],
    ['<a><!-- x -- y --></a>', ['comment 1:11']],
    ['<a><!-- x</a>', ['comment 1:4']],
    ['<a>]]></a>', ['cdata 1:4']],
    ['<a>\u0007</a>', ['character 1:4']],
    ['<a>&#7;</a>', ['character 1:4']],
    ['\n<?xml version="1.0"?><a/>', ['declaration 1:1']],
    ['<?xml encoding="utf-8"?><a/>', ['declaration 1:1']],
    ['<a><?xml version="1.0"?></a>', ['declaration 1:4']],
    ['<a/><!DOCTYPE a>', ['doctype 1:5']],
    ['<a><?x', ['instruction 1:4']],
    ['<a><o:b/></a>', ['prefix 1:4']],
    ['<a o:b="1"/>', ['prefix 1:4']],
    ['<a xmlns:x="u" xmlns:y="u" x:b="1" y:b="2"/>', ['attribute-twice 1:36']],
    ['x<a/>', ['before-root 1:1']],
    ['<a/>x', ['after-root 1:5']],
    ['<a/><b/>', ['after-root 1:5']],
    ['', ['no-root 1:1']],
    ['<a <b/></a>', ['tag 1:1']],
    ['<a>\r\n\r\n<p></a>', ['unclosed 3:1']],
  ])('%j', (text, expected) => expect(faults(text)).toEqual(expected));

  it('all of them, and what is right is read all the same', () => {
    const text = '<a>\n<p>one & two</p>\n<p>three<br></p>\n<p c=d>&eacute;</p>\n</a>';
    expect(faults(text)).toEqual(['ampersand 2:8', 'unclosed 3:9', 'attribute-quotes 4:4', 'entity 4:8']);
    expect(textOf(readXml(text).root as XmlElement)).toBe('\none & two\nthree\né\n');
  });
  it('even of nesting that no reader bears', () => {
    const deep = '<a>'.repeat(3_000);
    expect(faults(deep)).toEqual(['depth 1:6001']);
  });
});

describe('the declaration and the document type', () => {
  it('are told', () => {
    const r = readXml(
      '<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://x/y.dtd" [\n<!ENTITY me "Ada &#x2014; Quill"><!ENTITY far SYSTEM "f.txt"> <!-- ]> -->]>\n<html>&me;&nbsp;&lt;</html>',
    );
    expect(r.faults).toEqual([]);
    expect(r.declared).toEqual({ version: '1.0', encoding: 'UTF-8' });
    expect(r.doctype).toMatchObject({ name: 'html', systemId: 'http://x/y.dtd', external: ['far'] });
    expect(r.root?.children.join('')).toBe('Ada — Quill\u00a0<');
  });
  it('give no file of the machine away', () => {
    const r = readXml('<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>');
    expect(r.faults.map((f) => f.kind)).toEqual(['entity']);
  });
  it('cannot make a text grow without end (“billion laughs”)', () => {
    const laughs = Array.from({ length: 9 }, (_, i) => `<!ENTITY l${i + 1} "${`&l${i};`.repeat(10)}">`);
    const r = readXml(`<!DOCTYPE a [<!ENTITY l0 "ha">${laughs.join('')}]><a>&l9;</a>`);
    expect(textOf(r.root as XmlElement).length).toBeLessThan(100);
  });
});

/** What saxes makes of a text: its elements with their attributes and its text, or null where it finds a fault. */
function bySaxes(text: string): string | null {
  const parser = new SaxesParser({ xmlns: true });
  let out = '';
  let fault = false;
  parser.on('error', () => (fault = true));
  let depth = 0;
  parser.on('opentag', (t) => {
    depth++;
    const attrs = Object.entries(t.attributes).map(([k, a]) => `${k}=${a.value}`);
    out += `<${t.uri}|${t.local}|${attrs.join('|')}>`;
  });
  parser.on('closetag', () => {
    depth--;
    out += '</>';
  });
  parser.on('text', (t) => void (out += depth > 0 ? t : ''));
  parser.on('cdata', (t) => (out += t));
  parser.write(text).close();
  return fault ? null : out;
}
function ours(text: string): string | null {
  const { root } = parseXml(text);
  const said = (e: XmlElement): string =>
    // saxes takes white space off the name of a namespace; by Namespaces in XML §2.3 it is part of it.
    `<${e.ns.trim()}|${e.name}|${Object.entries(e.attrs)
      .map(([k, v]) => `${k}=${v}`)
      .join('|')}>${e.children.map((c) => (typeof c === 'string' ? c : said(c))).join('')}</>`;
  return root && said(root);
}

/** Text of pieces that XML is made of, whole and broken. */
const PIECES = [
  '<a>', '</a>', '<b c="1">', '</b>', '<d/>', "<e f='&lt;'/>", '&amp;', '&#x41;', '&#66;', '&', '<', '>', '"', "'", '=', ' ', '\n',
  '\r\n', 'text', 'é', '\u{1F600}', '<!-- x -->', '<!--', '-->', '--', '<![CDATA[<q>]]>', ']]>', '<?p i?>', '<?', '?>', '<x:y/>',
  '<z xmlns:x="u">', '</z>', '<x:y x:c="2"/>', '<p xmlns="v">', '</p>', '\u0007', '&nbsp;', '&#0;', ' c="1"', '/', '<a c="1" c="2">',
]; // prettier-ignore

describe('another parser (saxes) agrees', () => {
  it('which texts are well-formed, and on every element, attribute and character of them', () => {
    let good = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof({ weight: 5, arbitrary: fc.nat(7) }, { weight: 1, arbitrary: fc.nat(PIECES.length - 1) }),
          {
            maxLength: 12,
          },
        ),
        (picks) => {
          const text = `<r>${picks.map((i) => PIECES[i]).join('')}</r>`;
          const theirs = bySaxes(text);
          if (theirs !== null) good++;
          expect(ours(text), JSON.stringify(text)).toBe(theirs);
        },
      ),
      { numRuns: 20_000 },
    );
    expect(good).toBeGreaterThan(500);
  });
  it('of documents with anything changed in them', () => {
    const whole =
      '<?xml version="1.0" encoding="utf-8"?>\n<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="en">\n<head><title>Salt &amp; Sand</title></head>\n<body class=\'x\'><section epub:type="chapter"><h1 id="h">One</h1><p>Caf\u00e9 &#8212; <em>a</em><br/>\n</p><!-- n --></section></body></html>';
    fc.assert(
      fc.property(fc.nat(whole.length), fc.nat(3), fc.constantFrom(...PIECES, ''), (at, cut, put) => {
        const text = whole.slice(0, at) + put + whole.slice(at + cut);
        const theirs = bySaxes(text);
        expect(ours(text), JSON.stringify(text)).toBe(theirs);
      }),
      { numRuns: 20_000 },
    );
  });
});
