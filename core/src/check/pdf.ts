/** Checks a printer's PDF: boxes, faces, pages, and what printers refuse. */
import { PDFArray, PDFDict, PDFDocument, PDFName, PDFRawStream, PDFRef, type PDFPage } from 'pdf-lib';
import { done, inchString, refused, type Finding, type Outcome } from '../base';
import { runRules, type Rule } from './rules';

export interface PdfSubject {
  pages: { width: number; height: number; boxes: Record<string, readonly number[]>; annotations: number }[];
  fonts: { name: string; embedded: boolean }[];
  title: string;
  author: string;
  encrypted: boolean;
  version: string;
}

const BOXES = ['MediaBox', 'CropBox', 'BleedBox', 'TrimBox', 'ArtBox'];
const pts = (n: number): string => `${inchString(n * 1000)} in`;

export const PDF_RULES: readonly Rule<PdfSubject>[] = [
  {
    name: 'pdf/no-pages',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice',
    *look({ pages }) {
      if (pages.length === 0) yield { message: 'The file has no pages.' };
    },
  },
  {
    name: 'pdf/page-sizes',
    severity: 'blocker',
    profiles: ['print'],
    source: 'common practice: one edition, one trim',
    *look({ pages }) {
      const first = pages[0];
      if (!first) return;
      const odd = pages.findIndex(
        (p) => Math.abs(p.width - first.width) > 0.02 || Math.abs(p.height - first.height) > 0.02,
      );
      if (odd >= 0)
        yield {
          message: `Page ${odd + 1} measures ${pts(pages[odd]!.width)} × ${pts(pages[odd]!.height)}, the first page ${pts(first.width)} × ${pts(first.height)}.`,
          why: 'Printers refuse a file whose pages differ in size.',
        };
    },
  },
  {
    name: 'pdf/boxes',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.6: TrimBox within BleedBox within MediaBox',
    *look({ pages }) {
      for (const [i, p] of pages.entries()) {
        const media = p.boxes.MediaBox;
        const trim = p.boxes.TrimBox;
        if (!trim)
          return void (yield {
            message: `Page ${i + 1} does not say where it is trimmed.`,
            why: 'A printer cuts by the trim box.',
          });
        const bleed = p.boxes.BleedBox ?? media;
        if (!within(trim, bleed) || !within(bleed, media))
          return void (yield { message: `The trim of page ${i + 1} lies outside its sheet.` });
      }
    },
  },
  {
    name: 'pdf/fonts-embedded',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.4',
    *look({ fonts }) {
      for (const f of fonts)
        if (!f.embedded)
          yield {
            message: `The face ${f.name} is not embedded.`,
            why: 'The press would set another face in its place.',
          };
    },
  },
  {
    name: 'pdf/encrypted',
    severity: 'blocker',
    profiles: ['print'],
    source: 'ISO 15930-1 §6.2.2',
    *look({ encrypted }) {
      if (encrypted) yield { message: 'The file is encrypted.', why: 'A printer cannot open it.' };
    },
  },
  {
    name: 'pdf/links',
    severity: 'caution',
    profiles: ['print'],
    source: 'common practice',
    *look({ pages }) {
      const i = pages.findIndex((p) => p.annotations > 0);
      if (i >= 0) yield { message: `Page ${i + 1} holds links or notes, which do not print.` };
    },
  },
  {
    name: 'pdf/even-pages',
    severity: 'note',
    profiles: ['print'],
    source: 'common practice: a leaf has two sides',
    *look({ pages }) {
      if (pages.length % 2 === 1)
        yield { message: `The file has an odd number of pages (${pages.length}); the printer adds a blank.` };
    },
  },
];

const within = (inner: readonly number[] | undefined, outer: readonly number[] | undefined): boolean =>
  !inner ||
  !outer ||
  (inner[0]! >= outer[0]! - 0.01 &&
    inner[1]! >= outer[1]! - 0.01 &&
    inner[2]! <= outer[2]! + 0.01 &&
    inner[3]! <= outer[3]! + 0.01);

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
    const pages = doc.getPages().map((page) => {
      const boxes: Record<string, readonly number[]> = {};
      for (const name of BOXES) {
        const b = box(page, name);
        if (b) boxes[name] = b;
      }
      const size = page.getSize();
      return { ...size, boxes, annotations: page.node.Annots()?.size() ?? 0 };
    });
    return done({
      pages,
      fonts: fontsOf(doc),
      title: doc.getTitle() ?? '',
      author: doc.getAuthor() ?? '',
      encrypted: doc.isEncrypted,
      version: new TextDecoder('latin1').decode(bytes.subarray(5, 8)),
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

export async function checkPdf(bytes: Uint8Array): Promise<Outcome<Finding[]>> {
  const subject = await pdfSubject(bytes);
  return subject.ok ? done(runRules(PDF_RULES, subject.value)) : subject;
}
