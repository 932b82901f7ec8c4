/** Rules of the older version, EPUB 2.0.1: its package (OPF) and its documents (OPS). */
import { descendants, parseXml, type XmlElement } from '../base';
import { textPart } from '../package';
import type { EpubSubject } from './epub-subject';
import type { Rule } from './rules';

/** Elements of the XHTML 1.1 modules that OPS 2.0.1 §2.2 lists, and the vocabularies that may stand in line with them. */
const ELEMENTS = new Set(
  'html head title meta link base style script noscript body abbr acronym address blockquote br cite code dfn div em h1 h2 h3 h4 h5 h6 kbd p pre q samp span strong var a dl dt dd ol ul li object param b big hr i small sub sup tt del ins bdo caption col colgroup table tbody td tfoot th thead tr img area map'.split(
    ' ',
  ),
);
const XHTML_NS = 'http://www.w3.org/1999/xhtml';
const NCX = 'application/x-dtbncx+xml';
/** What only newer documents say of their elements. */
const NEWER = /^(?:epub:type|role|aria-[a-z]+|data-[\w-]+)$/;

const isOlder = (s: EpubSubject): boolean => s.version.startsWith('2');

function* elementsOf(root: XmlElement): Generator<XmlElement> {
  const stack = [root];
  for (let e = stack.pop(); e; e = stack.pop()) {
    yield e;
    // What is of another vocabulary has rules of its own.
    if (e.ns === XHTML_NS) for (const c of e.children) if (typeof c !== 'string') stack.push(c);
  }
}

/** Of everything that elements of an older ebook have, the first place in each document. */
function* firstOfEach(
  s: EpubSubject,
  of: (e: XmlElement) => readonly string[],
): Generator<{ found: string; file: string; line: number; column: number }> {
  if (!isOlder(s)) return;
  for (const { path: file, root } of s.documents) {
    const told = new Set<string>();
    for (const e of root ? elementsOf(root) : [])
      for (const found of of(e)) {
        if (!told.has(found)) yield { found, file, line: e.line, column: e.column };
        told.add(found);
      }
  }
}

/** The NCX that the spine names, read; null where there is none, or none that can be read. */
function ncxOf({ root, manifest, zip }: EpubSubject): { path: string; root: XmlElement } | null {
  const spine = root && descendants(root, 'spine')[0];
  const item = manifest.find((i) => i.id === spine?.attrs.toc && i.type === NCX);
  const read = item && parseXml(textPart(zip, item.path) ?? '').root;
  return read ? { path: item.path, root: read } : null;
}

export const OLDER_RULES: Rule<EpubSubject>[] = [
  {
    name: 'epub2/ncx',
    severity: 'blocker',
    source: 'OPF 2.0.1 §2.4.1: the spine must name an NCX of the manifest',
    *look(s) {
      if (!isOlder(s) || !s.root) return;
      const ncx = ncxOf(s);
      if (!ncx)
        yield {
          message: 'The spine doesn’t name an NCX, which readers of EPUB 2 need for navigation.',
          file: s.path,
        };
      else if (descendants(ncx.root, 'navPoint').length === 0)
        yield { message: 'The NCX is empty.', file: ncx.path };
    },
  },
  {
    name: 'epub2/play-order',
    severity: 'blocker',
    source: 'ANSI/NISO Z39.86-2005 §8.4.1.5, which OPF 2.0.1 §2.4.1 takes over',
    *look(s) {
      const ncx = isOlder(s) ? ncxOf(s) : null;
      if (!ncx) return;
      const all = [...descendants(ncx.root, 'navPoint'), ...descendants(ncx.root, 'pageTarget')];
      const orders = new Map<number, string>();
      for (const e of all) {
        const order = Number(e.attrs.playOrder);
        const src = descendants(e, 'content')[0]?.attrs.src ?? '';
        const at = { file: ncx.path, line: e.line, column: e.column };
        if (!Number.isInteger(order) || order < 1)
          yield { message: 'An entry of the NCX has no place in the reading order.', ...at };
        else if ((orders.get(order) ?? src) !== src)
          yield { message: `Two entries of the NCX are both number ${order}.`, ...at };
        orders.set(order, src);
      }
    },
  },
  {
    name: 'epub2/identifier',
    severity: 'blocker',
    source: 'ANSI/NISO Z39.86-2005 §8.4.2; OPF 2.0.1 §2.4.1: the NCX and the package name one book',
    *look(s) {
      const ncx = isOlder(s) ? ncxOf(s) : null;
      const uid = ncx && descendants(ncx.root, 'meta').find((m) => m.attrs.name === 'dtb:uid');
      const own = s.metadata.find((m) => m.name === 'identifier' && m.value === s.uniqueIdentifier);
      if (ncx && own && uid?.attrs.content !== own.value)
        yield {
          message: `The NCX gives the identifier as “${uid?.attrs.content ?? ''}”, the package as “${own.value}”.`,
          file: ncx.path,
        };
    },
  },
  {
    name: 'epub2/element',
    severity: 'blocker',
    source: 'OPS 2.0.1 §2.2: the elements of XHTML 1.1 in the modules listed',
    *look(s) {
      const newer = (e: XmlElement): string[] => (e.ns === XHTML_NS && !ELEMENTS.has(e.name) ? [e.name] : []);
      for (const { found, ...at } of firstOfEach(s, newer))
        yield { message: `EPUB 2 has no element “${found}”.`, ...at };
    },
  },
  {
    name: 'epub2/attribute',
    severity: 'blocker',
    source: 'OPS 2.0.1 §2.2: the attributes of XHTML 1.1',
    *look(s) {
      const newer = (e: XmlElement): string[] => Object.keys(e.attrs).filter((name) => NEWER.test(name));
      for (const { found, ...at } of firstOfEach(s, newer))
        yield { message: `EPUB 2 has no attribute “${found}”.`, ...at };
    },
  },
];
