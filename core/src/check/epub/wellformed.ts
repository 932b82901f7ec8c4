/** Rules of XML as text: well-formedness, encoding, document type (XML 1.0; EPUB 3.3 §3.9). */
import type { XmlFaultKind } from '../../base';
import type { Rule } from '../rules';
import { encodingOf, isUtf8 } from './encoding';
import { lineAt, MATHML_NS, NCX, SVG_NS, XHTML, type EpubSubject, type XmlPart } from './subject';

export const BROKEN = 'Reading systems show an error instead of the page, and shops refuse the book.';

/** What each constraint of XML 1.0 is called, where it is written, and what to do. */
const CONSTRAINTS: Record<XmlFaultKind, [name: string, source: string, remedy: string, mend?: string]> = {
  unclosed: ['never-closed', 'XML 1.0 §3, WFC: Element Type Match', 'Close it where it ends.', 'close-tags'],
  crossed: ['crossed', 'XML 1.0 §3.1: elements nest within each other', 'Close the inner one first.'],
  'stray-end': [
    'stray-end',
    'XML 1.0 §3.1: an end tag belongs to a start tag',
    'Remove it, or add the start tag.',
    'close-tags',
  ],
  'cut-short': [
    'cut-short',
    'XML 1.0 §2.1: one root element that holds all others',
    'The end of the file is missing. Get the file again, or close what is open.',
    'close-tags',
  ],
  tag: ['tag-form', 'XML 1.0 §3.1, productions 40 and 42', 'Write the tag as <name attribute="value">.'],
  'less-than': [
    'less-than',
    'XML 1.0 §2.4, and §3.1, WFC: No < in Attribute Values',
    'Write &lt;.',
    'characters',
  ],
  ampersand: ['ampersand', 'XML 1.0 §2.4: & begins a reference', 'Write &amp;.', 'characters'],
  entity: [
    'unknown-entity',
    'XML 1.0 §4.1, WFC: Entity Declared; HTML §13.5 (names are for HTML alone)',
    'Write the character itself.',
    'characters',
  ],
  'attribute-value': [
    'attribute-without-value',
    'XML 1.0 §3.1, production 41',
    'Write attribute="value".',
    'attributes',
  ],
  'attribute-quotes': [
    'attribute-quotes',
    'XML 1.0 §2.3, production 10',
    'Put the value in quotation marks.',
    'attributes',
  ],
  'attribute-gap': [
    'attribute-gap',
    'XML 1.0 §3.1, production 40',
    'Put a space between the attributes.',
    'attributes',
  ],
  'attribute-twice': [
    'attribute-twice',
    'XML 1.0 §3.1, WFC: Unique Att Spec; Namespaces in XML 1.0 §6.3',
    'Remove one of them.',
  ],
  comment: [
    'comment',
    'XML 1.0 §2.5: no two hyphens within a comment',
    'Close the comment, and remove double hyphens from it.',
    'comments',
  ],
  cdata: [
    'cdata',
    'XML 1.0 §2.7, §2.4: “]]>” ends a CDATA section alone',
    'Write ]]&gt;, or close the section.',
  ],
  character: ['character', 'XML 1.0 §2.2, production 2; WFC: Legal Character', 'Remove it.', 'characters'],
  declaration: [
    'declaration',
    'XML 1.0 §2.8: the declaration is the first thing in the file',
    'Move it to the top, or remove it.',
    'declaration',
  ],
  doctype: [
    'document-type',
    'XML 1.0 §2.8, production 28: once, before the first element',
    'Write <!DOCTYPE html> before the first element.',
  ],
  instruction: ['instruction', 'XML 1.0 §2.6, production 16', 'Close it with ?>, or remove it.'],
  prefix: [
    'prefix-undeclared',
    'Namespaces in XML 1.0 §5, NSC: Prefix Declared',
    'Declare the prefix on the first element.',
    'namespace',
  ],
  'before-root': [
    'text-before',
    'XML 1.0 §2.1, production 1',
    'Remove whatever comes before the first element.',
  ],
  'after-root': [
    'text-after',
    'XML 1.0 §2.1, production 1',
    'Remove whatever comes after the last end tag, or move it into the document.',
  ],
  'no-root': [
    'nothing',
    'XML 1.0 §2.1, production 1: at least one element',
    'Write the page, or remove the file.',
  ],
  depth: [
    'too-deep',
    'common practice: no reading system bears elements nested thousands deep',
    'Remove elements that only wrap each other.',
  ],
};

const XML_FILES = /\+xml$|\/xml$/;

/** Prefixes that stand for one thing wherever they are used (common practice). */
export const PREFIXES: Readonly<Record<string, string>> = {
  epub: 'http://www.idpf.org/2007/ops',
  xlink: 'http://www.w3.org/1999/xlink',
  svg: SVG_NS,
  m: MATHML_NS,
  mml: MATHML_NS,
  dc: 'http://purl.org/dc/elements/1.1/',
  dcterms: 'http://purl.org/dc/terms/',
  opf: 'http://www.idpf.org/2007/opf',
  xsi: 'http://www.w3.org/2001/XMLSchema-instance',
};

/** All parts that are XML, by what the container, the package or the manifest says. */
function* xmlParts(s: EpubSubject): Generator<XmlPart> {
  const seen = new Set<string>();
  const paths = [
    'META-INF/container.xml',
    'META-INF/encryption.xml',
    s.path,
    ...s.manifest.filter((i) => XML_FILES.test(i.type)).map((i) => i.path),
  ];
  for (const path of paths) {
    const part = path && !seen.has(path) ? s.xml(path) : null;
    seen.add(path);
    if (part) yield part;
  }
}

export const XML_RULES: Rule<EpubSubject>[] = [
  {
    name: 'xml/too-large',
    severity: 'blocker',
    source: 'common practice: reading systems keep a document in memory as a whole',
    why: 'Readers’ devices run out of memory. Nothing in the file was checked.',
    remedy: 'Split it into several files.',
    *look({ unread }) {
      for (const { path, size } of unread)
        yield {
          message: `The file has ${(size / 1_000_000).toFixed(1)} MB of text or markup, more than can be read at once.`,
          file: path,
        };
    },
  },
  ...Object.entries(CONSTRAINTS).map(([kind, [name, source, remedy, mend]]): Rule<EpubSubject> => ({
    name: `xml/${name}`,
    severity: 'blocker',
    source,
    why: BROKEN,
    remedy,
    ...(mend ? { mend } : {}),
    *look(s) {
      for (const part of xmlParts(s))
        for (const f of part.reading.faults)
          if (f.kind === kind)
            yield {
              message: `The file is not well-formed: ${f.message}.`,
              file: part.path,
              line: f.line,
              column: f.column,
              ...(f.about === undefined ? {} : { about: f.about }),
              ...(f.about !== undefined && !PREFIXES[f.about] ? { mend: false as const } : {}),
            };
    },
  })),
  {
    name: 'xml/version',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.9: XML 1.0',
    remedy: 'Write <?xml version="1.0" encoding="utf-8"?>.',
    mend: 'declaration',
    *look(s) {
      for (const part of xmlParts(s)) {
        const version = part.reading.declared?.version;
        if (version && version !== '1.0')
          yield { message: `The file is XML ${version}.`, file: part.path, line: 1, column: 1 };
      }
    },
  },
  {
    name: 'xml/encoding',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.9: UTF-8 or UTF-16',
    why: 'Readers see the wrong characters.',
    remedy: 'Save the file as UTF-8.',
    mend: 'encoding',
    *look(s) {
      for (const part of xmlParts(s)) {
        const bytes = s.part(part.path);
        if (bytes && encodingOf(bytes) === 'utf-8' && !isUtf8(bytes))
          yield { message: 'The file isn’t in UTF-8.', file: part.path, line: 1, column: 1 };
        else if (bytes && encodingOf(bytes) === 'utf-32')
          yield { message: 'The file is in UTF-32.', file: part.path, line: 1, column: 1 };
      }
    },
  },
  {
    name: 'xml/encoding-declared',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.9; XML 1.0 §4.3.3: an encoding other than UTF-8 or UTF-16',
    why: 'Reading systems trust the declaration, and show the wrong characters.',
    remedy: 'Declare utf-8.',
    mend: 'encoding',
    *look(s) {
      for (const part of xmlParts(s)) {
        const said = part.reading.declared?.encoding;
        if (said && !/^utf-?(8|16(be|le)?)$/i.test(said))
          yield { message: `The file declares the encoding “${said}”.`, file: part.path, line: 1, column: 1 };
      }
    },
  },
  {
    name: 'xml/utf-16',
    severity: 'caution',
    source: 'EPUB 3.3 §3.9: UTF-8 is recommended',
    why: 'Some reading systems and shops open only UTF-8.',
    remedy: 'Save the file as UTF-8.',
    *look(s) {
      for (const part of xmlParts(s)) {
        const bytes = s.part(part.path);
        if (bytes && encodingOf(bytes) !== 'utf-8' && encodingOf(bytes) !== 'utf-32')
          yield { message: 'The file is in UTF-16.', file: part.path, line: 1, column: 1 };
      }
    },
  },
  {
    name: 'xml/external-entity',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.9: no external entities in the internal subset',
    why: 'Reading systems don’t fetch it.',
    remedy: 'Write its content in its place.',
    *look(s) {
      for (const part of xmlParts(s)) {
        const type = part.reading.doctype;
        if (type && type.external.length > 0)
          yield {
            message: `The entity “${type.external[0] ?? ''}” is stored outside the file.`,
            file: part.path,
            ...lineAt(part.text, type.at),
          };
      }
    },
  },
  {
    name: 'xml/external-identifier',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §3.9: only the external identifiers listed there; HTML §14.2',
    why: 'Some reading systems try to fetch it, or refuse the file.',
    remedy: 'Write <!DOCTYPE html>.',
    mend: 'doctype',
    *look(s) {
      for (const part of xmlParts(s)) {
        const type = part.reading.doctype;
        const of = s.items.get(part.path)?.type;
        if (!type || (!type.publicId && !type.systemId)) continue;
        const fits =
          (of === NCX && type.publicId === '-//NISO//DTD ncx 2005-1//EN') ||
          (of === 'image/svg+xml' && type.publicId === '-//W3C//DTD SVG 1.1//EN') ||
          (of === 'application/mathml+xml' && type.publicId.startsWith('-//W3C//DTD MathML 3.0')) ||
          (of === XHTML && !type.publicId && type.systemId === 'about:legacy-compat');
        if (!fits)
          yield {
            message: `The document type “${type.publicId || type.systemId}” isn’t one of EPUB 3.`,
            file: part.path,
            ...lineAt(part.text, type.at),
          };
      }
    },
  },
  {
    name: 'xml/document-type-name',
    severity: 'blocker',
    source: 'XML 1.0 §2.8, VC: Root Element Type',
    remedy: 'Write <!DOCTYPE html>.',
    mend: 'doctype',
    *look(s) {
      for (const d of s.documents) {
        const type = d.reading.doctype;
        if (type && d.root && d.item.type === XHTML && type.name !== 'html')
          yield {
            message: `The document type is “${type.name}”, the document “${d.root.name}”.`,
            file: d.path,
            ...lineAt(d.text, type.at),
          };
      }
    },
  },
];
