/**
 * A publication: what a renderer hands over, whatever it was rendered from, and all that a package is made of (EPUB 3.3 §3).
 * Everything here has been written: an href leads to a document and an anchor that exist.
 */
import { writeZip, type ZipPart } from '../base';
import type { Picture } from '../book';
import type { NavEntry } from './navigation';

export interface PublicationDocument {
  id: string;
  /** From the package file. */
  href: string;
  xhtml: string;
}
export interface PublicationPicture {
  id: string;
  href: string;
  type: Picture['type'];
  bytes: Uint8Array;
  isCover: boolean;
}
export interface Publication {
  identifier: string;
  title: string;
  language: string;
  /** Children of the package's metadata. */
  metadata: readonly string[];
  /** In the order of reading; the contents are a document of the dialect's own. */
  spine: readonly (PublicationDocument | 'contents')[];
  contents: { heading: string; entries: readonly NavEntry[] };
  landmarks: readonly { type: string; label: string; href: string }[];
  /** Pages of the print edition whose marks stand in the documents. */
  pages: readonly { label: string; href: string }[];
  pictures: readonly PublicationPicture[];
  style: string;
}

/** How a version of the standard wants a publication packed. */
export interface Dialect {
  /** Where the contents stand, from the package file. */
  readonly contents: string;
  packageFile(p: Publication): string;
  /** What readers navigate by: documents beside those of the publication. */
  navigationFiles(p: Publication): { href: string; text: string }[];
}

export const isDocument = (d: Publication['spine'][number]): d is PublicationDocument => d !== 'contents';

const encode = (s: string): Uint8Array => new TextEncoder().encode(s);

/** The container (OCF, EPUB 3.3 §4): the media type first and stored, pictures stored since they are compressed already. */
export function pack(p: Publication, dialect: Dialect): Uint8Array {
  const parts: ZipPart[] = [
    { name: 'mimetype', bytes: encode('application/epub+zip'), stored: true },
    { name: 'META-INF/container.xml', bytes: encode(CONTAINER) },
    { name: 'EPUB/package.opf', bytes: encode(dialect.packageFile(p)) },
    ...dialect.navigationFiles(p).map((f) => ({ name: `EPUB/${f.href}`, bytes: encode(f.text) })),
    { name: 'EPUB/style.css', bytes: encode(p.style) },
  ];
  for (const d of p.spine) if (isDocument(d)) parts.push({ name: `EPUB/${d.href}`, bytes: encode(d.xhtml) });
  for (const picture of p.pictures)
    parts.push({ name: `EPUB/${picture.href}`, bytes: picture.bytes, stored: true });
  return writeZip(parts);
}

const CONTAINER = `<?xml version="1.0" encoding="utf-8"?>
<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">
<rootfiles><rootfile full-path="EPUB/package.opf" media-type="application/oebps-package+xml"/></rootfiles>
</container>
`;
