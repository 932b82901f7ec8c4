/** Rules of the container and the package (EPUB 3.3 §4, §5). */
import type { ManifestItem } from '../package';
import { isbnFault } from '../record';
import { XHTML, type EpubSubject } from './epub-subject';
import type { Rule } from './rules';

/** Core media types (EPUB 3.3 §3.2) that a book of text and pictures holds. */
const CORE = new Set([
  'image/gif',
  'image/jpeg',
  'image/png',
  'image/svg+xml',
  'image/webp',
  XHTML,
  'text/css',
  'font/ttf',
  'font/otf',
  'font/woff',
  'font/woff2',
  'application/font-sfnt',
  'application/vnd.ms-opentype',
  'application/font-woff',
  'application/x-dtbncx+xml',
  'text/javascript',
  'application/javascript',
  'application/ecmascript',
  'application/smil+xml',
  'audio/mpeg',
  'audio/mp4',
  'audio/ogg',
]);

/** Whether the item, or one that its chain of fallbacks leads to, is shown by every reading system (EPUB 3.3 §3.5.1). */
function isShown(
  item: ManifestItem,
  ids: Map<string, ManifestItem>,
  shown: (type: string) => boolean,
): boolean {
  const seen = new Set<ManifestItem>();
  for (let i: ManifestItem | undefined = item; i && !seen.has(i); i = ids.get(i.fallback)) {
    if (shown(i.type)) return true;
    seen.add(i);
  }
  return false;
}

function isLanguage(tag: string): boolean {
  try {
    return Intl.getCanonicalLocales(tag).length > 0;
  } catch {
    return false;
  }
}

export const PACKAGE_RULES: Rule<EpubSubject>[] = [
  {
    name: 'epub/mimetype',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.2: the first file, stored, without extra field, "application/epub+zip"',
    *look({ zip, bytes }) {
      const first = zip.entries[0];
      const remedy = 'Make the ebook again: the container must begin with the file mimetype.';
      if (first?.name !== 'mimetype' || first.offset !== 0)
        return void (yield { message: 'The first file of the container is not mimetype.', remedy });
      if (first.method !== 0 || first.localExtra !== 0)
        yield { message: 'The file mimetype is compressed or carries extra data.', file: 'mimetype', remedy };
      const text = new TextDecoder().decode(bytes.subarray(38, 38 + first.size));
      if (text !== 'application/epub+zip')
        yield { message: `The file mimetype says “${text.slice(0, 40)}”.`, file: 'mimetype', remedy };
    },
  },
  {
    name: 'epub/container',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.6.3.1',
    *look({ path, root, zip }) {
      if (path === '')
        yield {
          message: 'META-INF/container.xml is missing or names no package document.',
          file: 'META-INF/container.xml',
          why: 'Reading systems need it to find the book.',
        };
      else if (!root && !zip.entries.some((e) => e.name === path))
        yield { message: `The package document ${path} is not in the container.`, file: path };
    },
  },
  {
    name: 'epub/not-well-formed',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.3, §6.1.2: XML must be well-formed',
    *look({ faults, documents }) {
      for (const f of faults)
        yield {
          message: `The file is not well-formed XML: ${f.fault.message}.`,
          file: f.file,
          line: f.fault.line,
          column: f.fault.column,
        };
      for (const d of documents)
        if (d.fault && !faults.some((f) => f.file === d.path))
          yield {
            message: `The file is not well-formed XML: ${d.fault.message}.`,
            file: d.path,
            line: d.fault.line,
            column: d.fault.column,
            why: 'Shops refuse a book with a broken page.',
          };
    },
  },
  {
    name: 'epub/metadata',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.5.3: identifier, title, language',
    *look({ root, metadata, path, uniqueIdentifier }) {
      if (!root) return;
      for (const name of ['identifier', 'title', 'language'])
        if (!metadata.some((m) => m.name === name && m.value))
          yield {
            message: `The package has no ${name}.`,
            file: path,
            remedy: `Give the ${name} in the record and make the ebook again.`,
          };
      if (!uniqueIdentifier)
        yield {
          message: 'The unique identifier that the package names is not there.',
          file: path,
          line: root.line,
        };
      for (const m of metadata)
        if (m.name === 'language' && m.value && !isLanguage(m.value))
          yield { message: `“${m.value}” is not a language tag.`, file: path, line: m.line };
    },
  },
  {
    name: 'epub/modified',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.5.4: exactly one dcterms:modified of the form CCYY-MM-DDThh:mm:ssZ',
    *look({ root, metadata, path, version }) {
      if (!root || !version.startsWith('3')) return;
      const found = metadata.filter((m) => m.name === 'dcterms:modified' && !m.attrs.refines);
      if (found.length !== 1)
        yield {
          message: `The package has ${found.length} modification dates; it must have one.`,
          file: path,
        };
      for (const m of found)
        if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/.test(m.value))
          yield {
            message: `The modification date “${m.value}” is not of the form 2026-03-01T00:00:00Z.`,
            file: path,
            line: m.line,
          };
    },
  },
  {
    name: 'epub/isbn',
    severity: 'blocker',
    source: "ISBN Users' Manual §5",
    *look({ metadata, path }) {
      for (const m of metadata) {
        const isbn = m.name === 'identifier' ? /^urn:isbn:(.*)$/i.exec(m.value)?.[1] : undefined;
        if (isbn !== undefined && isbnFault(isbn))
          yield {
            message: `The ISBN ${isbn} in the package is not valid.`,
            file: path,
            line: m.line,
            why: 'Shops look the book up by its ISBN.',
          };
      }
    },
  },
  {
    name: 'epub/manifest-missing-file',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.6.2',
    *look({ manifest, zip, path }) {
      const names = new Set(zip.entries.map((e) => e.name));
      for (const i of manifest)
        if (i.path && !names.has(i.path))
          yield {
            message: `The manifest lists ${i.href}, which is not in the container.`,
            file: path,
            line: i.line,
            column: i.column,
          };
    },
  },
  {
    name: 'epub/manifest-unlisted-file',
    severity: 'caution',
    source: 'EPUB 3.3 §5.6.2: all publication resources must be listed',
    *look({ manifest, zip, path, root }) {
      if (!root) return;
      const listed = new Set(manifest.map((i) => i.path));
      for (const e of zip.entries)
        if (
          !e.name.endsWith('/') &&
          !e.name.startsWith('META-INF/') &&
          e.name !== 'mimetype' &&
          e.name !== path &&
          !listed.has(e.name)
        )
          yield { message: `${e.name} is in the container but not in the manifest.`, file: e.name };
    },
  },
  {
    name: 'epub/manifest-ids',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.3.1: id unique; §5.6.2: no two items for one resource',
    *look({ manifest, path }) {
      const seen = new Set<string>();
      const files = new Set<string>();
      for (const i of manifest) {
        if (!i.id || seen.has(i.id))
          yield {
            message: i.id ? `The id “${i.id}” is used twice in the manifest.` : 'A manifest item has no id.',
            file: path,
            line: i.line,
          };
        if (files.has(i.path))
          yield { message: `${i.href} is listed twice in the manifest.`, file: path, line: i.line };
        seen.add(i.id);
        files.add(i.path);
      }
    },
  },
  {
    name: 'epub/media-type',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.2, §3.5: a foreign resource needs a fallback',
    *look({ manifest, path }) {
      const ids = new Map(manifest.map((i) => [i.id, i]));
      for (const i of manifest)
        if (!isShown(i, ids, (type) => CORE.has(type) || type.startsWith('video/')))
          yield {
            message: `${i.href} is of the kind “${i.type}”, which reading systems aren’t required to show.`,
            file: path,
            line: i.line,
          };
    },
  },
  {
    name: 'epub/spine',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.7.2',
    *look({ spine, manifest, path, root }) {
      if (!root) return;
      if (spine.length === 0) yield { message: 'The spine is empty: there is nothing to read.', file: path };
      const ids = new Map(manifest.map((i) => [i.id, i]));
      const seen = new Set<string>();
      for (const s of spine) {
        const item = ids.get(s.idref);
        if (!item)
          yield {
            message: `The spine names “${s.idref}”, which is not in the manifest.`,
            file: path,
            line: s.line,
          };
        else if (!isShown(item, ids, (type) => type === XHTML || type === 'image/svg+xml'))
          yield {
            message: `${item.href} is in the spine but isn’t a text page.`,
            file: path,
            line: s.line,
          };
        if (seen.has(s.idref))
          yield { message: `“${s.idref}” is in the spine twice.`, file: path, line: s.line };
        seen.add(s.idref);
      }
    },
  },
];
