/** The text of a manuscript's file as one string, in the file's order; null for kinds that have none but a reader's. */
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { micromark } from 'micromark';
import { gfmFootnote, gfmFootnoteHtml } from 'micromark-extension-gfm-footnote';
import { gfmStrikethrough, gfmStrikethroughHtml } from 'micromark-extension-gfm-strikethrough';
import { gfmTable, gfmTableHtml } from 'micromark-extension-gfm-table';
import { openZip, parseXml, type Zip } from '../../base';
import { readPackage } from '../../package';
import { formulaWord } from './missing';
import { rtfText } from './rtf-text';

/**
 * Text inside the elements `text`, or all of it where that is null, without what stands in elements of `without`. Elements
 * of `apart` end a word.
 */
interface XmlWords {
  text: ReadonlySet<string> | null;
  without: ReadonlySet<string>;
  apart: (name: string) => boolean;
}
const set = (names: string): ReadonlySet<string> => new Set(names.split(' '));
const has = (names: string): ((name: string) => boolean) => {
  const all = set(names);
  return (name) => all.has(name);
};

/** WordprocessingML (ECMA-376 part 1, §17), with formulas (§22.1) and drawings' text boxes. By local names. */
const DOCX: XmlWords = {
  text: set('t'),
  // A fallback repeats what its choice says (part 3, §10.2.1); what a tracked change deleted or moved away is not text.
  without: set('del moveFrom Fallback instrText delText'),
  apart: has('p tab br cr tc drawing pict oMath oMathPara footnoteReference endnoteReference'),
};
/** OpenDocument 1.3, §5 and §6. */
const ODT: XmlWords = {
  text: set('p h math'),
  without: set(
    'tracked-changes annotation annotation-end annotation-xml mphantom note-citation sequence-decls variable-decls forms ruby-text table-of-content-source title desc',
  ),
  apart: has('p h tab line-break s table-cell frame note'),
};

/** A link within the file that shows no more than a number or a sign: the mark of a note, which the book numbers again. */
const isNoteMark = (href: string | undefined, shown: string): boolean =>
  href !== undefined &&
  href.includes('#') &&
  !/^[a-z]+:/i.test(href) &&
  /^[\s[(]*(\d{1,4}|[^\p{L}\p{N}\s]{0,4}|[a-z])[\s\])]*$/iu.test(shown);

/** A tag, whose attributes' values may hold anything, or what is no element: comments, instructions, CDATA. */
const MARKUP =
  /<(?:!--[\s\S]*?-->|!\[CDATA\[([\s\S]*?)\]\]>|[?!][^>]*>|(\/?)(?:[\w.-]+:)?([\w.-]+)((?:[^>"']|"[^"]*"|'[^']*')*)>)/g;
const ENTITIES = new Map([
  ['amp', '&'],
  ['lt', '<'],
  ['gt', '>'],
  ['quot', '"'],
  ['apos', "'"],
]);
const unescaped = (t: string): string =>
  t.includes('&')
    ? t.replace(/&(?:#(\d+)|#x([\da-f]+)|(\w+));/gi, (all, dec?: string, hex?: string, name?: string) => {
        const code = dec ? Number(dec) : hex ? parseInt(hex, 16) : 0;
        return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : (ENTITIES.get(name ?? '') ?? all);
      })
    : t;

/** Elements of formulas, in word files and in MathML. */
const FORMULAS = new Set(['oMath', 'math']);
/**
 * In MathML the index of a root stands behind it, and so does what is written before a letter (MathML 3, §3.3.3 and §3.4.7);
 * whoever reads a formula aloud begins with them. The child with which such parts begin; -1 for none.
 */
const firstSaid = (name: string, children: readonly string[]): number =>
  name === 'mroot' && children.length === 2
    ? 1
    : name === 'mmultiscripts'
      ? children.indexOf('mprescripts')
      : -1;

function xmlText(xml: string, { text, without, apart }: XmlWords): string {
  const out: string[] = [];
  /** Elements of the formula that is open, from the outermost, with where they and their children begin in `out`. */
  const formula: { name: string; from: number; children: string[]; starts: number[] }[] = [];
  let inside = 0;
  let hidden = 0;
  const links: { href: string | undefined; from: number }[] = [];
  const add = (t: string): void => {
    if (t !== '' && hidden === 0 && (!text || inside > 0)) out.push(t);
  };
  let at = 0;
  for (const m of xml.matchAll(MARKUP)) {
    add(unescaped(xml.slice(at, m.index)));
    at = m.index + m[0].length;
    const [, cdata, slash, name, attributes = ''] = m;
    if (cdata !== undefined) add(cdata);
    if (name === undefined) continue;
    const closed = attributes.endsWith('/');
    if (apart(name)) out.push(' ');
    if (!slash && formula.length > 0) {
      formula.at(-1)?.children.push(name);
      formula.at(-1)?.starts.push(out.length);
    }
    if (closed) continue;
    if (!slash && (formula.length > 0 || FORMULAS.has(name)))
      formula.push({ name, from: out.length, children: [], starts: [] });
    if (slash && formula.length > 0) {
      const { name: ended, from, children, starts } = formula.pop() as (typeof formula)[number];
      const first = starts[firstSaid(ended, children)];
      if (first !== undefined) out.splice(from, 0, ...out.splice(first));
      if (formula.length === 0) out.push(formulaWord(out.splice(from).join('')));
    }
    const step = slash ? -1 : 1;
    if (without.has(name)) hidden += step;
    if (text?.has(name)) inside += step;
    if (name !== 'a') continue;
    if (step === 1) {
      const href = /\bhref\s*=\s*["']([^"']*)/.exec(attributes)?.[1];
      links.push({ href, from: out.length });
    } else {
      const link = links.pop();
      if (link && isNoteMark(link.href, out.slice(link.from).join(''))) out.length = link.from;
    }
  }
  add(unescaped(xml.slice(at)));
  return out.join('');
}

const partText = (zip: Zip, name: string): string => {
  const bytes = zip.read(name);
  return bytes ? new TextDecoder().decode(bytes).replace(/^\ufeff/, '') : '';
};

function docxText(zip: Zip): string {
  // Parts are named by the file; nearly all have these names, and a file with others is counted by its reader.
  const parts = zip.entries
    .map((e) => e.name)
    .filter((n) => /^word\/(document|footnotes|endnotes)\d*\.xml$/.test(n))
    .sort((a, b) => Number(b.includes('document')) - Number(a.includes('document')));
  return parts.map((n) => xmlText(partText(zip, n), DOCX)).join('\n');
}

/** Elements of HTML that hold no text of a page. */
const NO_TEXT = set('script style head template noscript del rp annotation annotation-xml mphantom');
/** Elements within a line: all others end a word. */
const WITHIN = set(
  'a abbr b bdi bdo big cite code data dfn em font i ins kbd mark q s samp small span strike strong sub sup time tt u var wbr ruby rb math mi mo mn ms mtext mrow msup msub msubsup mfrac msqrt mroot mover munder munderover mstyle mpadded mfenced semantics',
);

function htmlText(document: Tree.Node): string {
  const out: string[] = [];
  // A stack of its own: a hostile file is nested deeper than calls may be.
  const stack: (Tree.Node | string)[] = [document];
  for (let n = stack.pop(); n !== undefined; n = stack.pop()) {
    if (typeof n === 'string') out.push(n);
    else if (n.nodeName === '#text') out.push((n as Tree.TextNode).value);
    else if (n.nodeName === 'math') out.push(formulaWord(textOfFormula(n)));
    else if (!NO_TEXT.has(n.nodeName) && 'childNodes' in n) {
      if (n.nodeName === 'a') {
        const href = (n as Tree.Element).attrs.find((x) => x.name === 'href')?.value;
        if (isNoteMark(href, plainText(n))) continue;
      }
      const apart = !WITHIN.has(n.nodeName);
      if (apart) stack.push(' ');
      for (let i = n.childNodes.length - 1; i >= 0; i--) stack.push(n.childNodes[i] as Tree.Node);
      if (apart) stack.push(' ');
    }
  }
  return out.join('');
}
function textOfFormula(root: Tree.Node): string {
  const out: string[] = [];
  const stack: Tree.Node[] = [root];
  for (let n = stack.pop(); n; n = stack.pop())
    if (n.nodeName === '#text') out.push((n as Tree.TextNode).value);
    else if ('childNodes' in n && !NO_TEXT.has(n.nodeName)) {
      const children = n.childNodes.filter((c) => c.nodeName !== '#text' || n.nodeName !== 'mroot');
      const first = firstSaid(
        n.nodeName,
        children.map((c) => c.nodeName),
      );
      if (first > 0) children.unshift(...children.splice(first));
      stack.push(...children.reverse());
    }
  return out.join('');
}
function plainText(root: Tree.ParentNode): string {
  const stack: Tree.Node[] = [...root.childNodes].reverse();
  let text = '';
  for (let n = stack.pop(); n && text.length < 40; n = stack.pop())
    if (n.nodeName === '#text') text += (n as Tree.TextNode).value;
    else if ('childNodes' in n) stack.push(...[...n.childNodes].reverse());
  return text;
}
const textOfHtml = (html: string): string => htmlText(parse(html));

/** The text of an .odt: its formulas stand in parts of their own, to which their frames point. */
function odtText(zip: Zip): string {
  const xml = partText(zip, 'content.xml').replace(
    /<draw:object\b[^<>]{0,2000}?\bxlink:href="(?:\.\/)?([^"]+?)\/?"[^<>]{0,2000}?>/g,
    (tag, object: string) => {
      const part = partText(zip, `${unescaped(object)}/content.xml`);
      const from = part.search(/<(?:[\w-]+:)?math\b/);
      const formula = from < 0 ? '' : part.slice(from);
      return `${tag.replace(/\/>$/, '>')}${formula}${tag.endsWith('/>') ? '</draw:object>' : ''}`;
    },
  );
  return xmlText(xml, ODT);
}

/** The pages of an EPUB in reading order, without its navigation. Well-formed ones are read as XML, where `<title/>` is empty. */
function epubText(bytes: Uint8Array): string | null {
  const opened = readPackage(bytes);
  if (!opened.ok) return null;
  const { spine, manifest, zip } = opened.value;
  const out: string[] = [];
  for (const { idref } of spine) {
    const item = manifest.find((i) => i.id === idref);
    if (!item || !/html|x-dtbook/.test(item.type) || item.properties.includes('nav')) continue;
    const text = partText(zip, item.path);
    out.push(parseXml(text).root ? xmlText(text, XHTML) : textOfHtml(text));
  }
  return out.join('\n');
}
const XHTML: XmlWords = { text: null, without: NO_TEXT, apart: (name) => !WITHIN.has(name) };

function markdownText(text: string): string {
  const body = text.replace(/^---\r?\n[\s\S]*?\r?\n---\r?\n/, '');
  return textOfHtml(
    micromark(body, {
      extensions: [gfmFootnote(), gfmStrikethrough(), gfmTable()],
      htmlExtensions: [gfmFootnoteHtml(), gfmStrikethroughHtml(), gfmTableHtml()],
    })
      .replace(/<h2 id="footnote-label"[^>]*>.*?<\/h2>/, '')
      .replace(/<(\/?)del>/g, '<$1s>'),
  );
}

/** Null where a reader's library is the only way in: old binary documents and PDFs. `decode` reads bytes of text. */
export function sourceText(
  bytes: Uint8Array,
  format: string,
  decode: (bytes: Uint8Array) => string,
): string | null {
  switch (format) {
    case 'docx': {
      const zip = openZip(bytes);
      return zip.ok ? docxText(zip.value) : null;
    }
    case 'odt': {
      const zip = openZip(bytes);
      return zip.ok ? odtText(zip.value) : null;
    }
    case 'epub':
      return epubText(bytes);
    case 'rtf':
      return rtfText(bytes);
    case 'html':
      return textOfHtml(decode(bytes));
    case 'markdown':
      return markdownText(decode(bytes));
    case 'text':
      return decode(bytes);
    default:
      return null;
  }
}
