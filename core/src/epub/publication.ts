/**
 * A publication: what a renderer hands over, whatever it was rendered from, and all that a package is made of (EPUB 3.3 §3).
 * Everything here has been written: an href leads to a document and an anchor that exist.
 */
import { writeZip, type ZipPart } from '../base';
import type { Picture } from '../book';
import type { BookRecord } from '../record';
import type { NavEntry } from './navigation';
import type { NavigationWords } from './words';

export interface PublicationDocument {
  id: string;
  /** From the package file. */
  href: string;
  xhtml: string;
  /** Where a page of a fixed size stands in a spread. */
  side?: 'left' | 'right' | 'centre';
}
export interface PublicationPicture {
  id: string;
  href: string;
  type: Picture['type'];
  bytes: Uint8Array;
  isCover: boolean;
}
/** A face that comes with the file, cut down to what the book needs of it. */
export interface EmbeddedFace {
  family: string;
  weight: 400 | 700;
  italic: boolean;
  /** A TrueType font program. */
  bytes: Uint8Array;
  /** Name of its file, without the ending. */
  name: string;
  /** The licence under which it may come along. */
  licence: string;
}
export interface Publication {
  identifier: string;
  /** Its documents are pages of a fixed size. */
  fixed: boolean;
  /** Identifier of the ebook of which it is a sample; null for a whole one. */
  sampleOf: string | null;
  record: BookRecord;
  /** The edition's own date and the last change of the book, in ISO form; '' where there is none. */
  date: string;
  modified: string;
  /** ISBN of the print edition whose pages are listed, '' where it has none; null for no page list. */
  pagesOf: string | null;
  /** Accessibility metadata: properties of schema.org and their values. */
  access: readonly (readonly [property: string, value: string])[];
  words: NavigationWords;
  /** In the order of reading; the contents are a document of the dialect's own. */
  spine: readonly (PublicationDocument | 'contents')[];
  contents: { heading: string; entries: readonly NavEntry[] };
  landmarks: readonly { type: 'cover' | 'toc' | 'bodymatter'; label: string; href: string }[];
  /** Pages of the print edition whose marks stand in the documents. */
  pages: readonly { label: string; href: string }[];
  pictures: readonly PublicationPicture[];
  faces: readonly EmbeddedFace[];
  style: string;
}

/** How a version of the standard wants a publication packed. */
export interface Dialect {
  /** Where the contents stand, from the package file. */
  readonly contents: string;
  /** Whether documents may hold MathML. */
  readonly formulas: boolean;
  /** A document, given in the XHTML of EPUB 3.3, in the dialect's own. */
  document(xhtml: string): string;
  /** The style sheet of such documents, from that of EPUB 3.3. */
  style(css: string): string;
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
    { name: 'EPUB/style.css', bytes: encode(dialect.style(p.style)) },
  ];
  for (const d of p.spine) if (isDocument(d)) parts.push({ name: `EPUB/${d.href}`, bytes: encode(d.xhtml) });
  for (const picture of p.pictures)
    parts.push({ name: `EPUB/${picture.href}`, bytes: picture.bytes, stored: true });
  for (const f of p.faces) parts.push({ name: `EPUB/${faceHref(f)}`, bytes: f.bytes });
  // A licence is no part of the publication: it belongs to the container (OCF, EPUB 3.3 §4.2.6).
  // Cuts of a family come under one: it bears the shortest of their names.
  const licences = new Map<string, string>();
  for (const { licence, family } of p.faces) {
    const known = licences.get(licence);
    if (known === undefined || family.length < known.length) licences.set(licence, family);
  }
  for (const [licence, family] of licences)
    parts.push({
      name: `META-INF/licence-${family.toLowerCase().replace(/\W+/g, '-')}.txt`,
      bytes: encode(licence),
    });
  return writeZip(parts);
}

const EXTENSION: Record<Picture['type'], string> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/gif': 'gif',
};
/** Where a picture of the book stands, from the package file. */
export const pictureHref = ({ id, type }: Picture): string => `pictures/${id}.${EXTENSION[type]}`;
/** Where a face stands, from the package file. */
export const faceHref = (f: EmbeddedFace): string => `fonts/${f.name}.ttf`;
/** Manifest items of the faces; `type` is the media type that a version knows fonts by. */
export const faceItems = (p: Publication, type: string): string[] =>
  p.faces.map((f) => `<item id="face-${f.name}" href="${faceHref(f)}" media-type="${type}"/>`);

const CONTAINER = `<?xml version="1.0" encoding="utf-8"?>
<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">
<rootfiles><rootfile full-path="EPUB/package.opf" media-type="application/oebps-package+xml"/></rootfiles>
</container>
`;
