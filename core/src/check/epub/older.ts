/** Rules of the older version, EPUB 2.0.1: its package (OPF) and its documents (OPS). */
import type { XmlElement } from '../../base';
import type { Rule } from '../rules';
import { XHTML, XHTML_NS, type EpubSubject } from './subject';

/** Elements of the XHTML 1.1 modules that OPS 2.0.1 §2.2 lists, and the vocabularies that may stand in line with them. */
const ELEMENTS = new Set(
  'html head title meta link base style script noscript body abbr acronym address blockquote br cite code dfn div em h1 h2 h3 h4 h5 h6 kbd p pre q samp span strong var a dl dt dd ol ul li object param b big hr i small sub sup tt del ins bdo caption col colgroup table tbody td tfoot th thead tr img area map'.split(
    ' ',
  ),
);
/** What only newer documents say of their elements. */
const NEWER = /^(?:epub:type|role|aria-[a-z]+|data-[\w-]+)$/;

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
  for (const { path: file, root, item } of s.documents) {
    if (item.type !== XHTML) continue;
    const told = new Set<string>();
    for (const e of root ? elementsOf(root) : [])
      for (const found of of(e)) {
        if (!told.has(found)) yield { found, file, line: e.line, column: e.column };
        told.add(found);
      }
  }
}

export const OLDER_RULES: Rule<EpubSubject>[] = [
  {
    name: 'older/element',
    severity: 'blocker',
    profiles: ['EPUB 2.0.1'],
    why: 'Shops that ask for EPUB 2 refuse it.',
    source: 'OPS 2.0.1 §2.2: the elements of XHTML 1.1 in the modules listed',
    *look(s) {
      const newer = (e: XmlElement): string[] => (e.ns === XHTML_NS && !ELEMENTS.has(e.name) ? [e.name] : []);
      for (const { found, ...at } of firstOfEach(s, newer))
        yield { message: `EPUB 2 has no element “${found}”.`, ...at };
    },
  },
  {
    name: 'older/attribute',
    severity: 'blocker',
    profiles: ['EPUB 2.0.1'],
    why: 'Shops that ask for EPUB 2 refuse it.',
    source: 'OPS 2.0.1 §2.2: the attributes of XHTML 1.1',
    *look(s) {
      const newer = (e: XmlElement): string[] => Object.keys(e.attrs).filter((name) => NEWER.test(name));
      for (const { found, ...at } of firstOfEach(s, newer))
        yield { message: `EPUB 2 has no attribute “${found}”.`, ...at };
    },
  },
  {
    name: 'older/document-type',
    severity: 'caution',
    profiles: ['EPUB 2.0.1'],
    source: 'OPS 2.0.1 §2.2: XHTML 1.1; common practice: its document type',
    why: 'Some shops look at it.',
    remedy: 'Use the XHTML 1.1 document type, or none.',
    mend: 'doctype',
    *look(s) {
      for (const d of s.documents) {
        const type = d.reading.doctype;
        if (type && d.item.type === XHTML && !/XHTML 1\.[01]/.test(type.publicId))
          yield { message: 'The document type is not that of EPUB 2.', file: d.path };
      }
    },
  },
  {
    name: 'older/loose-text',
    severity: 'blocker',
    profiles: ['EPUB 2.0.1'],
    source: 'XHTML 1.1 §5 (XHTML Modularization §5.2.1): body holds blocks, no words of its own',
    why: 'Shops that ask for EPUB 2 refuse it.',
    remedy: 'Put the words into a paragraph.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.sound ? d.elements : [])
          if (
            e.ns === XHTML_NS &&
            /^(body|blockquote)$/.test(e.name) &&
            e.children.some((c) => typeof c === 'string' && c.trim() !== '')
          )
            yield {
              message: `There is text in “${e.name}” outside a paragraph.`,
              file: d.path,
              line: e.line,
              column: e.column,
            };
    },
  },
  {
    name: 'older/in-paragraph',
    severity: 'blocker',
    profiles: ['EPUB 2.0.1'],
    source: 'XHTML Modularization §5.2.2: p and headings hold inline elements',
    why: 'Shops that ask for EPUB 2 refuse it.',
    remedy: 'Close the paragraph before it.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.sound ? d.elements : []) {
          const within = d.parents.get(e);
          if (e.ns === XHTML_NS && BLOCKS.has(e.name) && within && /^(p|h[1-6])$/.test(within.name))
            yield {
              message: `“${e.name}” can’t stand in “${within.name}”.`,
              file: d.path,
              line: e.line,
              column: e.column,
            };
        }
    },
  },
];
/** Elements that make a block of their own (XHTML Modularization §5.2). */
const BLOCKS = new Set('address blockquote div dl h1 h2 h3 h4 h5 h6 hr ol p pre table ul'.split(' '));
