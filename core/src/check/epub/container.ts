/** Rules of META-INF: which package the container holds, and what of it is encrypted (EPUB 3.3 §4.2.6, §4.4). */
import { descendants, type XmlElement } from '../../base';
import { percentDecoded } from '../../package';
import type { Rule } from '../rules';
import { at, elementsIn, type EpubSubject, type XmlPart } from './subject';

const CONTAINER = 'META-INF/container.xml';
const CONTAINER_NS = 'urn:oasis:names:tc:opendocument:xmlns:container';
const PACKAGE = 'application/oebps-package+xml';
const OBFUSCATION = 'http://www.idpf.org/2008/embedding';
const ENCRYPTION = 'META-INF/encryption.xml';
const FINDS = 'Reading systems find the book through this file.';

/** Files of META-INF that have a meaning (EPUB 3.3 §4.2.6.3). */
const KNOWN = new Set([
  'container.xml',
  'encryption.xml',
  'manifest.xml',
  'metadata.xml',
  'rights.xml',
  'signatures.xml',
]);
/** What must be readable without a key (EPUB 3.3 §4.2.6.3.2). */
const OPEN = new Set(['mimetype', ...[...KNOWN].map((name) => `META-INF/${name}`)]);

const container = (s: EpubSubject): XmlPart | null => s.xml(CONTAINER);
const rootfiles = (s: EpubSubject): XmlElement[] => {
  const root = container(s)?.root;
  return root ? descendants(root, 'rootfile') : [];
};
/** What the container says is encrypted, and how. */
function* encrypted(s: EpubSubject): Generator<{ data: XmlElement; uri: string; algorithm: string }> {
  const root = s.xml(ENCRYPTION)?.root;
  for (const data of root ? descendants(root, 'EncryptedData') : []) {
    const uri = descendants(data, 'CipherReference')[0]?.attrs.URI ?? '';
    yield {
      data,
      uri: percentDecoded(uri.trim()),
      algorithm: descendants(data, 'EncryptionMethod')[0]?.attrs.Algorithm ?? '',
    };
  }
}

export const CONTAINER_RULES: Rule<EpubSubject>[] = [
  {
    name: 'container/missing',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.2: META-INF/container.xml is required',
    why: FINDS,
    remedy: 'Add it. Pagina can, where there is just one package document.',
    mend: 'container',
    *look({ names }) {
      if (!names.has(CONTAINER)) yield { message: 'META-INF/container.xml is missing.', file: CONTAINER };
    },
  },
  {
    name: 'container/namespace',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.1.1: the element container of its own namespace',
    why: FINDS,
    remedy: 'Write <container xmlns="urn:oasis:names:tc:opendocument:xmlns:container" version="1.0">.',
    mend: 'container',
    *look(s) {
      const part = container(s);
      if (part?.root && (part.root.name !== 'container' || part.root.ns !== CONTAINER_NS))
        yield { message: 'META-INF/container.xml is not a container description.', ...at(part, part.root) };
    },
  },
  {
    name: 'container/version',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.1.2: version must be 1.0',
    remedy: 'Write version="1.0".',
    mend: 'container',
    *look(s) {
      const part = container(s);
      if (part?.root?.name === 'container' && part.root.attrs.version !== '1.0')
        yield {
          message:
            part.root.attrs.version === undefined
              ? 'The container names no version.'
              : `The container’s version is “${part.root.attrs.version}”.`,
          ...at(part, part.root),
        };
    },
  },
  {
    name: 'container/no-package',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.1.4: at least one rootfile',
    why: FINDS,
    remedy: 'Name the package document in a rootfile element.',
    mend: 'container',
    *look(s) {
      const part = container(s);
      if (part?.root && !rootfiles(s).some((r) => r.attrs['full-path']))
        yield { message: 'META-INF/container.xml names no package document.', ...at(part, part.root) };
    },
  },
  {
    name: 'container/package-gone',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.1.4: full-path references a package document in the container',
    why: FINDS,
    remedy: 'Correct the path.',
    mend: 'container',
    *look(s) {
      const part = container(s);
      if (!part) return;
      for (const r of rootfiles(s)) {
        const path = r.attrs['full-path'];
        if (path && !s.names.has(path))
          yield {
            message: `The package document “${path}” isn’t in the container.`,
            ...at(part, r),
            // Which it should be can be told where there is one alone.
            ...([...s.names].filter((n) => /\.opf$/i.test(n)).length === 1 ? {} : { mend: false as const }),
          };
      }
    },
  },
  {
    name: 'container/package-type',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.1.4: media-type must be application/oebps-package+xml',
    remedy: 'Write media-type="application/oebps-package+xml".',
    mend: 'container',
    *look(s) {
      const part = container(s);
      if (!part) return;
      for (const r of rootfiles(s))
        if (r.attrs['media-type'] !== PACKAGE)
          yield {
            message: `The package document is declared as “${r.attrs['media-type'] ?? ''}”.`,
            ...at(part, r),
          };
    },
  },
  {
    name: 'container/several-packages',
    severity: 'note',
    source: 'EPUB 3.3 §4.2.6.3.1.3: reading systems render the first package document',
    why: 'Most reading systems and shops show only the first.',
    remedy: 'Keep one package document unless you know that a shop wants several.',
    *look(s) {
      const part = container(s);
      const [, second] = rootfiles(s);
      if (part && second)
        yield {
          message: `The container names ${rootfiles(s).length} package documents.`,
          ...at(part, second),
        };
    },
  },
  {
    name: 'container/stray-file',
    severity: 'note',
    source: 'EPUB 3.3 §4.2.6.2: files of META-INF that have a meaning',
    why: 'Some shops refuse ebooks with files left over from a device or another shop.',
    remedy: 'Remove it unless you know what needs it.',
    mend: 'stray-file',
    *look({ zip }) {
      for (const e of zip.entries)
        // Licences travel with what they are of.
        if (
          e.name.startsWith('META-INF/') &&
          !e.name.endsWith('/') &&
          !KNOWN.has(e.name.slice(9)) &&
          !/licen[cs]e|copying|ofl|readme/i.test(e.name)
        )
          yield { message: `“${e.name}” has no meaning in an ebook.`, file: e.name };
    },
  },
  {
    name: 'container/system-file',
    severity: 'caution',
    source: 'common practice: files that operating systems leave in folders',
    why: 'Readers don’t need it, and some shops refuse it.',
    remedy: 'Remove it.',
    mend: 'stray-file',
    *look({ zip }) {
      for (const e of zip.entries)
        if (/(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\._[^/]*$)/i.test(e.name))
          yield { message: `“${e.name}” was left by an operating system.`, file: e.name };
    },
  },
  {
    name: 'container/encryption-form',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.2: encryption.xml holds EncryptedKey and EncryptedData',
    remedy: 'Remove META-INF/encryption.xml if nothing is encrypted.',
    *look(s) {
      const part = s.xml(ENCRYPTION);
      if (!part?.root) return;
      if (part.root.name !== 'encryption' || part.root.ns !== CONTAINER_NS)
        yield {
          message: 'META-INF/encryption.xml is not an encryption description.',
          ...at(part, part.root),
        };
      else
        for (const e of elementsIn(part.root))
          if (e.name !== 'EncryptedData' && e.name !== 'EncryptedKey')
            yield { message: `“${e.name}” isn’t allowed in META-INF/encryption.xml.`, ...at(part, e) };
    },
  },
  {
    name: 'container/locked-part',
    severity: 'blocker',
    source: 'common practice: shops put on their own protection, and take no file that is protected already',
    why: 'Shops can neither check it nor sell it.',
    remedy: 'Use the ebook as it was before it was protected.',
    *look(s) {
      const part = s.xml(ENCRYPTION);
      if (!part) return;
      for (const { data, uri, algorithm } of encrypted(s))
        if (algorithm !== OBFUSCATION && !/adobe\.com\/pdf\/enc#RC/.test(algorithm))
          yield { message: `“${uri}” is encrypted.`, ...at(part, data) };
    },
  },
  {
    name: 'container/must-stay-open',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.2: files that must not be encrypted',
    why: 'Without them no reading system can open the book.',
    remedy: 'Leave it as plain text.',
    *look(s) {
      const part = s.xml(ENCRYPTION);
      if (!part) return;
      for (const { data, uri } of encrypted(s))
        if (OPEN.has(uri) || uri === s.path)
          yield { message: `“${uri}” must not be encrypted.`, ...at(part, data) };
    },
  },
  {
    name: 'container/encrypted-gone',
    severity: 'caution',
    source: 'EPUB 3.3 §4.2.6.3.2: CipherReference identifies an encrypted resource of the container',
    remedy: 'Remove the entry.',
    *look(s) {
      const part = s.xml(ENCRYPTION);
      if (!part) return;
      for (const { data, uri } of encrypted(s))
        if (!s.names.has(uri))
          yield {
            message: `“${uri}” is said to be encrypted, but isn’t in the container.`,
            ...at(part, data),
          };
    },
  },
  {
    name: 'container/scrambled',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.4.1: only fonts may be obfuscated',
    why: 'Readers expect a typeface there, and can’t show anything else.',
    remedy: 'Obfuscate typefaces only.',
    *look(s) {
      const part = s.xml(ENCRYPTION);
      if (!part) return;
      for (const { data, uri, algorithm } of encrypted(s)) {
        const type = s.items.get(uri)?.type;
        if (algorithm === OBFUSCATION && type !== undefined && !/font|opentype/.test(type))
          yield { message: `“${uri}” is obfuscated, but isn’t a typeface.`, ...at(part, data) };
      }
    },
  },
];
