/** What kind of file a manuscript is, told by its bytes, with its name only where bytes cannot say; and its reader. */
import { openZip, refused, type Outcome } from '../../base';
import { readDocx } from './docx';
import { readHtml } from './html';
import { readMarkdown } from './markdown';
import { isOdt, readOdt } from './odt';
import type { RawManuscript, RawOptions } from '../raw';
import { decodeText, readText } from './text';

export type Format = 'docx' | 'odt' | 'epub' | 'rtf' | 'doc' | 'pdf' | 'html' | 'markdown' | 'text';

const OLE = [0xd0, 0xcf, 0x11, 0xe0];
const starts = (bytes: Uint8Array, text: string): boolean =>
  [...text].every((c, i) => bytes[i] === c.charCodeAt(0));

export function formatOf(bytes: Uint8Array, name = ''): Format {
  if (starts(bytes, 'PK')) {
    const zip = openZip(bytes);
    const type = zip.ok ? zip.value.entries.find((e) => e.name === 'mimetype') : undefined;
    const said = type && zip.ok ? new TextDecoder().decode(zip.value.read('mimetype') ?? undefined) : '';
    if (
      /epub/.test(said) ||
      (zip.ok &&
        zip.value.entries.some((e) => e.name === 'META-INF/container.xml' && !/opendocument/.test(said)))
    )
      return 'epub';
    return /opendocument\.text/.test(said) ? 'odt' : 'docx';
  }
  if (OLE.every((b, i) => bytes[i] === b)) return 'doc';
  if (starts(bytes, '{\\rtf')) return 'rtf';
  if (starts(bytes, '%PDF')) return 'pdf';
  const ending = /\.(\w+)$/.exec(name.toLowerCase())?.[1] ?? '';
  if (/^docx?$|^odt$|^rtf$|^epub$|^pdf$/.test(ending)) return ending as Format;
  const head = decodeText(bytes.subarray(0, 4_000));
  if (
    /^x?html?$/.test(ending) ||
    /^\s*(<!doctype html|<\?xml[^>]*>\s*<html|<html|<body|<!--StartFragment)/i.test(head)
  )
    return 'html';
  if (/^(md|markdown|mdown)$/.test(ending)) return 'markdown';
  // Without a name that says so, rows of "# " at the head of lines do.
  if (ending === '' && /(^|\n)#{1,3} \S/.test(head)) return 'markdown';
  return 'text';
}

const ENCRYPTED = 'E\0n\0c\0r\0y\0p\0t\0e\0d\0P\0a\0c\0k\0a\0g\0e';

/** Errors: those of the readers. */
export async function readRaw(
  bytes: Uint8Array,
  name = '',
  options: RawOptions = {},
): Promise<Outcome<RawManuscript>> {
  if (bytes.length === 0) return refused('intake/empty', 'The file is empty.');
  try {
    return await readAs(bytes, name, options);
  } catch (e) {
    if (e instanceof RangeError && /call stack/.test(e.message))
      return refused(
        'intake/too-deep',
        'The file can’t be read: tables or boxes are nested in it thousands of levels deep.',
      );
    // A part of a container that cannot be unpacked, for one, is found out only when it is wanted.
    const why = (e as Error).message.split('\n')[0]?.replace(/\.$/, '') ?? '';
    return refused('intake/damaged', `The file is damaged and can’t be read: ${why}.`);
  }
}

async function readAs(bytes: Uint8Array, name: string, options: RawOptions): Promise<Outcome<RawManuscript>> {
  switch (formatOf(bytes, name)) {
    case 'docx':
      return readDocx(bytes);
    case 'odt': {
      const zip = isOdt(bytes);
      return zip
        ? readOdt(zip)
        : refused('intake/damaged', 'This is not an OpenDocument text, whatever its name says.');
    }
    case 'epub':
      return (await import('./epub')).readEpub(bytes);
    case 'rtf':
      return starts(bytes, '{\\rtf')
        ? (await import('./rtf')).readRtf(bytes)
        : refused('intake/damaged', 'This is not Rich Text, whatever its name says.');
    case 'doc':
      if (new TextDecoder('latin1').decode(bytes).includes(ENCRYPTED))
        return refused(
          'intake/encrypted',
          'The file is locked with a password. Open it in your word processor, save it without the password, and import it again.',
        );
      return OLE.every((b, i) => bytes[i] === b)
        ? (await import('./doc')).readDoc(bytes)
        : refused('intake/damaged', 'This is not a document in the old binary form, whatever its name says.');
    case 'pdf':
      return starts(bytes, '%PDF')
        ? (await import('./pdf')).readPdf(bytes, options)
        : refused('intake/damaged', 'This is not a PDF, whatever its name says.');
    case 'html':
      return readHtml(decodeText(bytes));
    case 'markdown':
      return readMarkdown(decodeText(bytes));
    case 'text':
      return readText(bytes);
  }
}
