/**
 * The printer's PDF: version 1.4 with a classic cross-reference table, faces embedded, one black, all boxes equal to the
 * trim, nothing a printer refuses (no links, no encryption, no transparency). The same book gives the same bytes.
 */
import { PDFContext, PDFHexString, PDFName, PDFString, PDFWriter, type PDFRef } from 'pdf-lib';
import { ptString, type Mp } from '../base';
import { DisplayIndex, displayList, type DrawnPage } from '../compose';
import { authorsLine, type BookRecord } from '../record';
import { WordCopy, type FaceCard, type WordsPart } from '../type';
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

/** What closes a file once all its pages have been written. */
export interface PrintPdfEnd {
  record: BookRecord;
  /** ISO date that the file carries; '' for none. */
  date: string;
  /** The pages by the numbers under which they were written, in the order of the book. */
  order: readonly number[];
  /** Index of the page that is called 1; those before it are roman. */
  firstArabic: number;
  /** By the picture's id. */
  pictures: ReadonlyMap<string, PdfPicture>;
}

/** "2026-03-01" → D:20260301000000Z (ISO 32000-1 §7.9.4). */
const pdfDate = (iso: string): string => `D:${iso.replace(/\D/g, '').padEnd(14, '0').slice(0, 14)}Z`;

/**
 * A file in the making. Pages may come as soon as they are set, from another thread and before all the words of the book
 * are known; a page that a later one replaces is left out of the order at the end.
 */
export class PrintFile {
  private readonly words = new WordCopy();
  private readonly cards: FaceCard[] = [];
  private readonly index = new DisplayIndex();
  private readonly fonts: FontUse[] = [];
  private readonly contents = new Map<number, Uint8Array>();
  private readonly out = new Bytes();
  private size = { width: 0, height: 0 };

  constructor(private readonly tools: FontTools) {}

  /** Words and faces that coming pages name. */
  know(words: WordsPart, cards: readonly FaceCard[]): void {
    this.words.add(words);
    this.cards.push(...cards);
  }

  page(number: number, page: DrawnPage): void {
    const list = displayList(page, this.words, this.index);
    for (let i = this.fonts.length; i < this.index.faces.length; i++)
      this.fonts.push(new FontUse(this.cards[this.index.faces[i] as number] as FaceCard));
    this.contents.set(number, this.tools.deflate(pageContent(list, this.fonts, this.out)));
    this.size = { width: page.width, height: page.height };
  }

  async end(end: PrintPdfEnd): Promise<Uint8Array> {
    const { index, fonts, contents, size, tools } = this;
    return writeFile({ ...end, index, fonts, contents, size, tools });
  }
}

interface WholeFile extends PrintPdfEnd {
  index: DisplayIndex;
  fonts: readonly FontUse[];
  contents: ReadonlyMap<number, Uint8Array>;
  size: { width: Mp; height: Mp };
  tools: FontTools;
}

async function writeFile(file: WholeFile): Promise<Uint8Array> {
  const { record, date, order, pictures, index, fonts, tools } = file;
  const context = PDFContext.create();
  const pagesRef = context.nextRef();
  const resources = context.nextRef();
  const box = [0, 0, Number(ptString(file.size.width)), Number(ptString(file.size.height))];
  const kids = order.map((number) => {
    const content = context.register(
      context.stream(file.contents.get(number) as Uint8Array, { Filter: 'FlateDecode' }),
    );
    return context.register(
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
    );
  });
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
  for (const [i, f] of fonts.entries()) fontDict[`F${i}`] = writeFont(context, f, tools);
  context.assign(
    resources,
    context.obj({ ProcSet: ['PDF', 'Text', 'ImageB', 'ImageC'], Font: fontDict, XObject: xobjects }),
  );
  context.assign(pagesRef, context.obj({ Type: 'Pages', Kids: kids, Count: kids.length }));
  const catalog = context.register(
    context.obj({
      Type: 'Catalog',
      Pages: pagesRef,
      PageLabels: { Nums: pageLabels(file.firstArabic) },
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
function pageLabels(firstArabic: number): unknown[] {
  if (firstArabic <= 0) return [0, { S: 'D', St: 1 }];
  return [0, { S: 'r', St: 1 }, firstArabic, { S: 'D', St: 1 }];
}
