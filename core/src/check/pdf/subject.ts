/** What a PDF says of itself: pages and boxes, faces, what it claims to be, and what its pages draw. */
import {
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFRawStream,
  PDFRef,
  PDFString,
  PDFHexString,
  type PDFPage,
} from 'pdf-lib';
import { done, refused, type Outcome } from '../../base';
import { InkReader, type PageInk } from './ink';

export interface PdfSubject {
  pages: {
    width: number;
    height: number;
    boxes: Record<string, readonly number[]>;
    annotations: number;
    ink: PageInk;
  }[];
  fonts: { name: string; embedded: boolean }[];
  title: string;
  author: string;
  encrypted: boolean;
  version: string;
  /** The standard that it claims, as "PDF/X-1a:2003"; '' for none. */
  claims: string;
  /** Descriptions of the printing condition that it is meant for. */
  intents: number;
}

const BOXES = ['MediaBox', 'CropBox', 'BleedBox', 'TrimBox', 'ArtBox'];

const box = (page: PDFPage, name: string): readonly number[] | undefined => {
  const a = page.node.getInheritableAttribute(PDFName.of(name));
  const resolved = a instanceof PDFRef ? page.node.context.lookup(a) : a;
  return resolved instanceof PDFArray ? resolved.asArray().map((n) => Number(n.toString())) : undefined;
};

/** Errors: `pdf/unreadable`. */
export async function pdfSubject(bytes: Uint8Array): Promise<Outcome<PdfSubject>> {
  if (new TextDecoder('latin1').decode(bytes.subarray(0, 5)) !== '%PDF-')
    return refused('pdf/unreadable', 'This is not a PDF.');
  let doc: PDFDocument;
  try {
    doc = await PDFDocument.load(bytes, { ignoreEncryption: true, updateMetadata: false });
    const reader = new InkReader(doc.context);
    const nothing: PageInk = { images: [], colours: new Set(), transparent: false, paints: true };
    const pages = doc.getPages().map((page) => {
      const boxes: Record<string, readonly number[]> = {};
      for (const name of BOXES) {
        const b = box(page, name);
        if (b) boxes[name] = b;
      }
      const size = page.getSize();
      // What is encrypted can't be followed, and is a fault by itself.
      const ink = doc.isEncrypted ? nothing : reader.of(page);
      return { ...size, boxes, annotations: page.node.Annots()?.size() ?? 0, ink };
    });
    return done({
      pages,
      fonts: fontsOf(doc),
      title: doc.getTitle() ?? '',
      author: doc.getAuthor() ?? '',
      encrypted: doc.isEncrypted,
      version: new TextDecoder('latin1').decode(bytes.subarray(5, 8)),
      claims: claimsOf(doc),
      intents: doc.catalog.lookupMaybe(PDFName.of('OutputIntents'), PDFArray)?.size() ?? 0,
    });
  } catch (e) {
    return refused('pdf/unreadable', `The PDF is damaged: ${(e as Error).message}.`);
  }
}

function fontsOf(doc: PDFDocument): PdfSubject['fonts'] {
  const fonts: PdfSubject['fonts'] = [];
  const { context } = doc;
  for (const [, object] of context.enumerateIndirectObjects()) {
    const dict = object instanceof PDFRawStream ? object.dict : object;
    if (!(dict instanceof PDFDict) || dict.get(PDFName.of('Type')) !== PDFName.of('Font')) continue;
    const subtype = dict.get(PDFName.of('Subtype'));
    if (subtype === PDFName.of('Type0') || subtype === PDFName.of('Type3')) continue;
    const descriptor = dict.lookupMaybe(PDFName.of('FontDescriptor'), PDFDict);
    const embedded = ['FontFile', 'FontFile2', 'FontFile3'].some((k) => descriptor?.has(PDFName.of(k)));
    fonts.push({ name: String(dict.get(PDFName.of('BaseFont')) ?? 'unnamed').replace(/^\//, ''), embedded });
  }
  return fonts;
}

function claimsOf(doc: PDFDocument): string {
  const info = doc.context.lookup(doc.context.trailerInfo.Info);
  const said = info instanceof PDFDict ? info.lookup(PDFName.of('GTS_PDFXVersion')) : undefined;
  return said instanceof PDFString || said instanceof PDFHexString ? said.decodeText() : '';
}
