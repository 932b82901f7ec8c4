/**
 * The printer's PDF: version 1.4 with a classic cross-reference table, faces embedded, one black, all boxes equal to the
 * trim, nothing a printer refuses (no links, no encryption, no transparency). The same book gives the same bytes.
 */
import { PDFContext, PDFHexString, PDFName, PDFString, PDFWriter, type PDFRef } from 'pdf-lib';
import { ptString } from '../base';
import { displayList, indexOfFile, type Composition } from '../compose';
import { authorsLine, type BookRecord } from '../record';
import { Bytes, pageContent } from './content';
import { FontUse, writeFont, type FontTools } from './font';

/** A picture in the form in which the file carries it. */
export interface PdfPicture {
  width: number;
  height: number;
  space: 'DeviceGray' | 'DeviceRGB' | 'DeviceCMYK';
  filter: 'DCTDecode' | 'FlateDecode';
  bytes: Uint8Array;
}

export interface PrintPdfInput {
  composition: Composition;
  record: BookRecord;
  /** ISO date that the file carries; '' for none. */
  date: string;
  pictures: ReadonlyMap<string, PdfPicture>;
  tools: FontTools;
  progress?: (share: number) => boolean;
}

/** "2026-03-01" → D:20260301000000Z (ISO 32000-1 §7.9.4). */
const pdfDate = (iso: string): string => `D:${iso.replace(/\D/g, '').padEnd(14, '0').slice(0, 14)}Z`;

/** Null when `progress` asked to stop. */
export async function printPdf({
  composition,
  record,
  date,
  pictures,
  tools,
  progress,
}: PrintPdfInput): Promise<Uint8Array | null> {
  const context = PDFContext.create();
  const index = indexOfFile();
  const fonts: FontUse[] = [];
  const out = new Bytes();
  const pagesRef = context.nextRef();
  const resources = context.nextRef();
  const { width, height } = composition.interior.page;
  const box = [0, 0, Number(ptString(width)), Number(ptString(height))];
  const kids: PDFRef[] = [];
  const contents: { ref: PDFRef; bytes: Promise<Uint8Array> }[] = [];
  for (const page of composition.pages) {
    if (kids.length % 64 === 0 && progress?.(kids.length / composition.pages.length) === false) return null;
    const list = displayList(composition, page, index);
    for (let i = fonts.length; i < index.faces.length; i++) fonts.push(new FontUse(index.faces[i]!));
    const content = context.nextRef();
    contents.push({ ref: content, bytes: tools.deflate(pageContent(list, fonts, out)) });
    kids.push(
      context.register(
        context.obj({
          Type: 'Page',
          Parent: pagesRef,
          MediaBox: box,
          CropBox: box,
          BleedBox: box,
          TrimBox: box,
          Resources: resources,
          Contents: content,
        }),
      ),
    );
  }
  for (const { ref, bytes } of contents)
    context.assign(ref, context.stream(await bytes, { Filter: 'FlateDecode' }));
  const xobjects: Record<string, PDFRef> = {};
  index.pictures.forEach((id, i) => {
    const p = pictures.get(id);
    if (!p) return;
    xobjects[`P${i}`] = context.register(
      context.stream(p.bytes, {
        Type: 'XObject',
        Subtype: 'Image',
        Width: p.width,
        Height: p.height,
        ColorSpace: p.space,
        BitsPerComponent: 8,
        Filter: p.filter,
      }),
    );
  });
  const fontDict: Record<string, PDFRef> = {};
  for (const [i, f] of fonts.entries()) fontDict[`F${i}`] = await writeFont(context, f, tools);
  context.assign(
    resources,
    context.obj({ ProcSet: ['PDF', 'Text', 'ImageB', 'ImageC'], Font: fontDict, XObject: xobjects }),
  );
  context.assign(pagesRef, context.obj({ Type: 'Pages', Kids: kids, Count: kids.length }));
  const catalog = context.register(
    context.obj({
      Type: 'Catalog',
      Pages: pagesRef,
      PageLabels: { Nums: pageLabels(composition) },
      Lang: PDFString.of(record.language),
      ViewerPreferences: { DisplayDocTitle: true },
      PageLayout: 'TwoPageRight',
    } as never),
  );
  const info = context.obj({
    Producer: PDFString.of('Pagina'),
    Creator: PDFString.of('Pagina'),
    Trapped: 'False',
  });
  if (record.title) info.set(PDFName.of('Title'), PDFHexString.fromText(fullTitle(record)));
  if (authorsLine(record)) info.set(PDFName.of('Author'), PDFHexString.fromText(authorsLine(record)));
  if (date) {
    info.set(PDFName.of('CreationDate'), PDFString.of(pdfDate(date)));
    info.set(PDFName.of('ModDate'), PDFString.of(pdfDate(date)));
  }
  context.trailerInfo.Root = catalog;
  context.trailerInfo.Info = context.register(info);
  const id = PDFHexString.of(fileId(context.largestObjectNumber, kids.length, fullTitle(record), date));
  context.trailerInfo.ID = context.obj([id, id]);
  return asVersion14(await PDFWriter.forContext(context, Infinity).serializeToBuffer());
}

/** The writer always says 1.7; nothing in the file needs more than 1.4, which old printers' systems read. */
function asVersion14(bytes: Uint8Array): Uint8Array {
  bytes[7] = 0x34;
  return bytes;
}

const fullTitle = (r: BookRecord): string => (r.subtitle ? `${r.title}: ${r.subtitle}` : r.title);

/** A file identifier that depends on the book alone (§14.4 asks for one; it need not be random). */
function fileId(...parts: (string | number)[]): string {
  const text = parts.join('|');
  return [1, 2, 3, 4]
    .map((seed) => {
      let h = (2166136261 ^ seed) >>> 0;
      for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 16777619) >>> 0;
      return h.toString(16).padStart(8, '0');
    })
    .join('');
}

/** Roman front matter and arabic body as page labels (§12.4.2). */
function pageLabels(c: Composition): unknown[] {
  const firstArabic = c.pages.findIndex((p) => p.label === '1');
  if (firstArabic <= 0) return [0, { S: 'D', St: 1 }];
  return [0, { S: 'r', St: 1 }, firstArabic, { S: 'D', St: 1 }];
}
