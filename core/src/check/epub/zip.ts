/** Rules of the container as a zip file (EPUB 3.3 §4.2, OCF 2.0.1 §3; PKWARE APPNOTE 6.3). */
import crc32 from 'crc-32';
import type { ZipEntry } from '../../base';
import type { Rule } from '../rules';
import { isUtf8 } from './encoding';
import type { EpubSubject } from './subject';

const u16 = (b: Uint8Array, i: number): number => (b[i] ?? 0) | ((b[i + 1] ?? 0) << 8);
const u32 = (b: Uint8Array, i: number): number => (u16(b, i) | (u16(b, i + 2) << 16)) >>> 0;

const MIMETYPE = 'application/epub+zip';
const OPENS = 'Shops and reading systems recognise an ebook by its first bytes.';
const REWRITE = 'Have Pagina write the container again.';

const isFolder = (e: ZipEntry): boolean => e.name.endsWith('/');
const contentOf = (s: EpubSubject, name: string): string =>
  new TextDecoder().decode(s.part(name) ?? new Uint8Array());

/** Characters that a name in the container must not have (EPUB 3.3 §4.2.3). */
const FORBIDDEN = /["*:<>?\\|\u0000-\u001f\u007f-\u009f\ue000-\uf8ff\ufdd0-\ufdef\ufff0-\uffff]/;

export const ZIP_RULES: Rule<EpubSubject>[] = [
  {
    name: 'zip/mimetype-missing',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.3 (OCF ZIP container media type identification)',
    why: OPENS,
    remedy: REWRITE,
    mend: 'mimetype',
    *look({ names }) {
      if (!names.has('mimetype')) yield { message: 'The container has no “mimetype” file.' };
    },
  },
  {
    name: 'zip/mimetype-first',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.3: the mimetype file must be the first file',
    why: OPENS,
    remedy: REWRITE,
    mend: 'mimetype',
    *look({ zip, names }) {
      const first = [...zip.entries].sort((a, b) => a.offset - b.offset)[0];
      if (names.has('mimetype') && first && first.name !== 'mimetype')
        yield {
          message: `The container begins with “${first.name}” instead of “mimetype”.`,
          file: 'mimetype',
        };
    },
  },
  {
    name: 'zip/mimetype-at-start',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.3, note: "mimetype" at byte 30 of the file',
    why: OPENS,
    remedy: REWRITE,
    mend: 'mimetype',
    *look({ zip }) {
      const first = [...zip.entries].sort((a, b) => a.offset - b.offset)[0];
      if (first?.name === 'mimetype' && first.offset > 0)
        yield { message: `${first.offset} bytes stand before the container begins.`, file: 'mimetype' };
    },
  },
  {
    name: 'zip/mimetype-compressed',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.3: the mimetype file must not be compressed',
    why: OPENS,
    remedy: REWRITE,
    mend: 'mimetype',
    *look({ zip }) {
      const e = zip.entries.find((x) => x.name === 'mimetype');
      if (e && e.method !== 0) yield { message: 'The file “mimetype” is compressed.', file: 'mimetype' };
    },
  },
  {
    name: 'zip/mimetype-extra-field',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.3: no extra field in the ZIP header of the mimetype file',
    why: OPENS,
    remedy: REWRITE,
    mend: 'mimetype',
    *look({ zip }) {
      const e = zip.entries.find((x) => x.name === 'mimetype');
      if (e && e.localExtra !== 0)
        yield { message: 'The file “mimetype” carries an extra field in its header.', file: 'mimetype' };
    },
  },
  {
    name: 'zip/mimetype-words',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.3: the file contains the string application/epub+zip and nothing else',
    why: OPENS,
    remedy: REWRITE,
    mend: 'mimetype',
    *look(s) {
      if (!s.names.has('mimetype')) return;
      const text = contentOf(s, 'mimetype');
      if (text !== MIMETYPE)
        yield {
          message:
            text.trim() === MIMETYPE
              ? 'The file “mimetype” contains extra white space.'
              : `The file “mimetype” says “${text.slice(0, 40)}”.`,
          file: 'mimetype',
        };
    },
  },
  {
    name: 'zip/incomplete-container',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.2: a container is a ZIP archive; APPNOTE 6.3 §4.3.6 (it ends with its directory)',
    why: 'A download or upload stopped too soon, and other programs can’t open the file.',
    remedy: 'Get the whole file again. If you can’t, mend this one: its intact files are kept.',
    mend: 'pack-again',
    *look({ zip }) {
      if (!zip.salvaged) return;
      const { lost } = zip.salvaged;
      const { length } = zip.entries;
      const cut = lost.slice(0, 3).map((name) => `“${name}”`);
      const more = lost.length > 3 ? ` and ${lost.length - 3} more` : '';
      yield {
        message:
          lost.length === 0
            ? `The container’s directory is missing or damaged; ${length === 1 ? 'its one file is' : `all ${length} files are`} intact.`
            : `The container is incomplete: ${length === 1 ? '1 file is' : `${length} files are`} intact; ${cut.join(', ')}${more} ${lost.length === 1 ? 'is' : 'are'} damaged or cut short.`,
      };
    },
  },
  {
    name: 'zip/encrypted-entry',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.2: containers must not use the encryption of ZIP',
    why: 'No reading system can open a part that is locked in this way.',
    remedy: 'Make the container again without a password.',
    *look({ zip }) {
      for (const e of zip.entries)
        if (e.encrypted)
          yield { message: `“${e.name}” is locked by a password of the container.`, file: e.name };
    },
  },
  {
    name: 'zip/method',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.2: only stored (0) and deflated (8) entries',
    why: 'Reading systems can’t unpack it.',
    remedy: 'Pack the ebook again with deflate, the usual method.',
    *look({ zip }) {
      for (const e of zip.entries)
        if (e.method !== 0 && e.method !== 8)
          yield { message: `“${e.name}” is packed by method ${e.method}.`, file: e.name };
    },
  },
  {
    name: 'zip/split',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.3.2: containers must not be split into several files',
    why: 'Shops take a single file.',
    remedy: 'Pack the ebook again as one file.',
    *look({ bytes, zip }) {
      const split = zip.entries.find((e) => u16(bytes, e.record + 34) !== 0);
      if (split) yield { message: 'The container is one part of several.', file: split.name };
    },
  },
  {
    name: 'zip/same-name-twice',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3: file names within a folder must be unique',
    why: 'Which of the two a reader sees depends on the reading system.',
    remedy: 'Remove one of them.',
    *look({ zip }) {
      const seen = new Set<string>();
      for (const e of zip.entries) {
        if (seen.has(e.name)) yield { message: `“${e.name}” is in the container twice.`, file: e.name };
        seen.add(e.name);
      }
    },
  },
  {
    name: 'zip/names-alike',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3: unique after canonical caseless matching (Unicode, full case folding)',
    why: 'Many devices treat the two names as one, so one file replaces the other.',
    remedy: 'Rename one of them.',
    *look({ zip }) {
      const seen = new Map<string, string>();
      for (const { name } of zip.entries) {
        const folded = name.normalize('NFC').toLowerCase().toUpperCase();
        const other = seen.get(folded);
        if (other !== undefined && other !== name)
          yield { message: `“${name}” and “${other}” differ only in capitals or accents.`, file: name };
        seen.set(folded, name);
      }
    },
  },
  {
    name: 'zip/name-characters',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3: characters that file names must not contain',
    why: 'Some devices can’t store a file of that name.',
    remedy: 'Rename it, using letters, figures, hyphens and full stops.',
    *look({ zip }) {
      for (const e of zip.entries)
        if (FORBIDDEN.test(e.name))
          yield { message: `The name “${e.name}” has a character that isn’t allowed.`, file: e.name };
    },
  },
  {
    name: 'zip/name-end',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3: names must not end with a full stop',
    why: 'Some devices drop the full stop and can’t find the file.',
    remedy: 'Rename it.',
    *look({ zip }) {
      for (const e of zip.entries)
        if (e.name.split('/').some((part) => part.endsWith('.') && !/^\.\.?$/.test(part)))
          yield { message: `The name “${e.name}” ends with a full stop.`, file: e.name };
    },
  },
  {
    name: 'zip/name-length',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3: a name must not exceed 255 bytes, nor a path 65,535',
    why: 'Devices can’t store a longer name.',
    remedy: 'Shorten it.',
    *look({ zip }) {
      for (const e of zip.entries)
        if (e.name.split('/').some((part) => new TextEncoder().encode(part).length > 255))
          yield { message: `The name “${e.name.slice(0, 60)}…” is longer than 255 bytes.`, file: e.name };
    },
  },
  {
    name: 'zip/name-encoding',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3: file names must be UTF-8',
    why: 'Reading systems look for the file under another name.',
    remedy: 'Pack the ebook again with a tool that writes names in UTF-8.',
    *look({ bytes, zip }) {
      for (const e of zip.entries)
        if (
          e.name.includes('\ufffd') &&
          !isUtf8(bytes.subarray(e.record + 46, e.record + 46 + u16(bytes, e.record + 28)))
        )
          yield { message: `The name “${e.name}” is not in UTF-8.`, file: e.name };
    },
  },
  {
    name: 'zip/path',
    severity: 'blocker',
    source: 'EPUB 3.3 §4.2.3 (file paths are below the root of the container)',
    why: 'Such a path points outside the book, and reading systems refuse it.',
    remedy: 'Pack the ebook again from within its own folder.',
    *look({ zip }) {
      for (const e of zip.entries)
        if (e.name.startsWith('/') || e.name.split('/').some((part) => part === '..' || part === '.'))
          yield { message: `The path “${e.name}” points outside the container.`, file: e.name };
    },
  },
  {
    name: 'zip/name-differs',
    severity: 'caution',
    source: 'APPNOTE 6.3 §4.3.12: the directory repeats the name in the local header',
    why: 'Programs find different files depending on which name they read.',
    remedy: REWRITE,
    mend: 'mimetype',
    *look({ bytes, zip }) {
      for (const e of zip.entries) {
        const local = bytes.subarray(e.offset + 30, e.offset + 30 + u16(bytes, e.offset + 26));
        if (new TextDecoder().decode(local) !== e.name)
          yield { message: `“${e.name}” has a different name in its own header.`, file: e.name };
      }
    },
  },
  {
    name: 'zip/damaged',
    severity: 'blocker',
    source: 'APPNOTE 6.3 §4.4.7: the CRC-32 of the data',
    why: 'The file can’t be read correctly.',
    remedy: 'Get the ebook again: this copy is damaged.',
    *look(s) {
      for (const e of s.zip.entries) {
        if (isFolder(e) || e.encrypted || (e.method !== 0 && e.method !== 8)) continue;
        const data = s.part(e.name);
        const crc = u32(s.bytes, e.record + 16);
        if (!data || data.length !== e.size || crc32.buf(data) >>> 0 !== crc)
          yield { message: `The data of “${e.name}” is damaged.`, file: e.name };
      }
    },
  },
  {
    name: 'zip/empty-file',
    severity: 'caution',
    source: 'common practice: a resource without content is a mistake of packing',
    why: 'Readers find nothing there.',
    remedy: 'Add the file again, or remove it.',
    *look({ zip, items, path }) {
      for (const e of zip.entries)
        if (e.size === 0 && (items.has(e.name) || e.name === path))
          yield { message: `“${e.name}” is empty.`, file: e.name };
    },
  },
  {
    name: 'zip/plain-names',
    severity: 'note',
    source: 'EPUB 3.3 §4.2.3, note on interoperability: names of ASCII characters are the safest',
    why: 'A few older devices can’t open files with other characters in their names.',
    remedy: 'If a shop complains, rename it.',
    *look({ zip }) {
      const odd = zip.entries.filter((e) => /[^!-~]/.test(e.name));
      const [first] = odd;
      if (first)
        yield {
          message: `${odd.length === 1 ? 'One name has' : `${odd.length} names have`} spaces or letters beyond basic Latin: “${first.name}”${odd.length > 1 ? ' is the first' : ''}.`,
          file: first.name,
        };
    },
  },
];
