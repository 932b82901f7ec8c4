/** A small ebook written by hand here, so that the shops aren't tested with our own maker alone. */
import { createHash } from 'node:crypto';
import { strToU8, zipSync } from 'fflate';

export interface EbookOptions {
  title?: string;
  cover?: boolean;
  isbn?: string;
  body?: string;
  version?: string;
}
export const PAGE = (words: string): string =>
  `<html xmlns="http://www.w3.org/1999/xhtml"><body><p>${words}</p></body></html>`;

export function ebook({
  title = 'The Ferry',
  cover = true,
  isbn,
  body,
  version = '3.0',
}: EbookOptions = {}): Uint8Array {
  const front = cover ? '<item id="c" href="c.png" media-type="image/png" properties="cover-image"/>' : '';
  return zipSync({
    mimetype: [strToU8('application/epub+zip'), { level: 0 }],
    'META-INF/container.xml': strToU8(
      '<container xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="x/p.opf" media-type="application/oebps-package+xml"/></rootfiles></container>',
    ),
    'x/p.opf': strToU8(
      `<package xmlns="http://www.idpf.org/2007/opf" version="${version}"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier>urn:isbn:${isbn ?? '9789295055124'}</dc:identifier><dc:title>${title}</dc:title><dc:creator>Ada Marsh</dc:creator><dc:language>en-GB</dc:language><meta property="schema:accessMode">textual</meta></metadata><manifest><item id="n" href="n.xhtml" media-type="application/xhtml+xml" properties="nav"/><item id="a" href="a.xhtml" media-type="application/xhtml+xml"/>${front}</manifest><spine><itemref idref="a"/></spine></package>`,
    ),
    'x/n.xhtml': strToU8(
      '<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"><body><nav epub:type="toc"><ol><li><a href="a.xhtml">The Landing</a></li></ol></nav></body></html>',
    ),
    'x/a.xhtml': strToU8(body ?? PAGE('Text.')),
    'x/c.png': new Uint8Array([1]),
  });
}

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
