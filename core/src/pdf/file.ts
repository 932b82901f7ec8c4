/**
 * A book's PDF. The printer's: version 1.4 with a classic cross-reference table, faces embedded, one black, all boxes
 * equal to the trim, nothing a printer refuses (no links, no encryption, no transparency). The screen's: bookmarks, links,
 * the structure of the text, pictures in colour, the cover first. The same book gives the same bytes.
 */
import {
  PDFContext,
  PDFHexString,
  PDFName,
  PDFString,
  PDFWriter,
  type PDFArray,
  type PDFDict,
  type PDFRef,
} from 'pdf-lib';
import { digestOf, ptString, type Mp } from '../base';
import {
  DisplayIndex,
  displayList,
  positionsOf,
  type DrawnPage,
  type PagePositions,
  type ScreenFacts,
} from '../compose';
import { authorsLine, type BookRecord } from '../record';
import { WordCopy, type FaceCard, type WordsPart } from '../type';
import { Bytes, pageContent, taggedContent } from './content';
import { FontUse, writeFont, type FontTools } from './font';
import { annotations, outlines, structure, type PlaceOf, type Run, type ScreenPage } from './screen';
import { mark, VERSION, type PdfKind } from './standards';
import { literal } from './strings';

/** A picture in the form in which the file carries it. */
export interface PdfPicture {
  width: number;
  height: number;
  space: 'DeviceGray' | 'DeviceRGB' | 'DeviceCMYK';
  filter: 'DCTDecode' | 'FlateDecode';
  bytes: Uint8Array;
  /** Full ink is written as nothing, as in a JPEG of four inks with an Adobe marker. */
  inverted?: boolean;
}

/** What closes a file once all its pages have been written. */
export interface PrintPdfEnd {
  record: BookRecord;
  /** What the file is of: the title's own id, the edition, the kind of file. */
  identity: string;
  /** ISO date that the file carries; '' for none. */
  date: string;
  /** The pages by the numbers under which they were written, in the order of the book. */
  order: readonly number[];
  /** Index of the page that is called 1; those before it are roman. */
  firstArabic: number;
  /** By the picture's id. */
  pictures: ReadonlyMap<string, PdfPicture>;
  /** Section of each page in the order of the book. */
  sections: readonly string[];
  /** Drawn beyond each edge of the pages, for the printer to cut off; 0 for none. */
  bleed: Mp;
  /** Shown before the first page of a file for the screen. */
  cover: PdfPicture | null;
  /** The ICC profile of the four inks in which its pictures are; null where they are grey. */
  profile: Uint8Array | null;
}

interface PageContent {
  bytes: Uint8Array;
  runs: readonly Run[];
  positions: PagePositions | null;
}

/**
 * A file in the making. Pages may come as soon as they are set, from another thread and before all the words of the book
 * are known; a page that a later one replaces is left out of the order at the end.
 */
export class PrintFile {
  private readonly words = new WordCopy();
  private readonly cards: FaceCard[] = [];
  private readonly index = new DisplayIndex();
  private readonly fonts: FontUse[] = [];
  private readonly contents = new Map<number, PageContent>();
  private readonly out = new Bytes();
  private size = { width: 0, height: 0 };

  constructor(
    private readonly tools: FontTools,
    private readonly kind: PdfKind,
    /** What a file for the screen tells of the book; null for a printer's. */
    private readonly screen: ScreenFacts | null = null,
    /** Operators that set the colours of its pages, by colour as 0xrrggbb; black needs none. */
    private readonly inks: ReadonlyMap<number, string> = new Map(),
  ) {}

  /** Words and faces that coming pages name. */
  know(words: WordsPart, cards: readonly FaceCard[]): void {
    this.words.add(words);
    this.cards.push(...cards);
  }

  page(number: number, page: DrawnPage): void {
    const list = displayList(page, this.words, this.index);
    for (let i = this.fonts.length; i < this.index.faces.length; i++)
      this.fonts.push(new FontUse(this.cards[this.index.faces[i] as number] as FaceCard));
    const inks = (colour: number): string => this.inks.get(colour) ?? '0 g';
    const { content, runs } = this.screen
      ? taggedContent(
          list,
          this.fonts,
          this.index.pictures,
          this.index.faces.map((f) => this.words.spaces[f] as number),
          this.out,
          inks,
        )
      : { content: pageContent(list, this.fonts, this.out, { inks }), runs: [] };
    const positions = this.screen && positionsOf(page, this.words, this.screen.links);
    this.contents.set(number, { bytes: this.tools.deflate(content), runs, positions });
    this.size = { width: page.width, height: page.height };
  }

  async end(end: PrintPdfEnd): Promise<Uint8Array> {
    const { index, fonts, contents, size, tools, kind, screen } = this;
    return writeFile({ ...end, index, fonts, contents, size, tools, kind, screen });
  }
}

interface WholeFile extends PrintPdfEnd {
  index: DisplayIndex;
  fonts: readonly FontUse[];
  contents: ReadonlyMap<number, PageContent>;
  kind: PdfKind;
  screen: ScreenFacts | null;
  size: { width: Mp; height: Mp };
  tools: FontTools;
}

async function writeFile(file: WholeFile): Promise<Uint8Array> {
  const { record, date, order, pictures, index, fonts, tools } = file;
  const context = PDFContext.create();
  const pagesRef = context.nextRef();
  const resources = context.nextRef();
  const { bleed, size } = file;
  const points = (n: Mp): number => Number(ptString(n));
  // Boxes begin at 0: with a bleed the page's own corner is moved in by it. All pages share them.
  const box = context.obj([0, 0, points(size.width + 2 * bleed), points(size.height + 2 * bleed)]);
  const cut = context.obj([
    points(bleed),
    points(bleed),
    points(bleed + size.width),
    points(bleed + size.height),
  ]);
  const moved = bleed
    ? context.register(context.stream(`1 0 0 1 ${ptString(bleed)} ${ptString(bleed)} cm\n`))
    : null;
  const pages: ScreenPage[] = order.map((number, i) => {
    const { bytes, runs } = file.contents.get(number) as PageContent;
    const content = context.register(context.stream(bytes, { Filter: 'FlateDecode' }));
    const dict = context.obj({
      Type: 'Page',
      Parent: pagesRef,
      MediaBox: box,
      CropBox: box,
      BleedBox: box,
      TrimBox: cut,
      Resources: resources,
      Contents: moved ? [moved, content] : content,
    });
    return { ref: context.register(dict), dict, section: file.sections[i] ?? '', runs };
  });
  const kids = pages.map((p) => p.ref);
  const xobjects: Record<string, PDFRef> = {};
  index.pictures.forEach((id, i) => {
    const p = pictures.get(id);
    // The page draws one by its name whether there is one or not.
    xobjects[`P${i}`] = p ? image(context, p) : blank(context);
  });
  const fontDict: Record<string, PDFRef> = {};
  for (const [i, f] of fonts.entries()) fontDict[`F${i}`] = writeFont(context, f, tools);
  context.assign(
    resources,
    context.obj({ ProcSet: ['PDF', 'Text', 'ImageB', 'ImageC'], Font: fontDict, XObject: xobjects }),
  );
  if (file.cover) kids.unshift(coverPage(context, pagesRef, box, file.cover, record.title));
  context.assign(pagesRef, context.obj({ Type: 'Pages', Kids: kids, Count: kids.length }));
  const catalog = context.obj({
    Type: 'Catalog',
    Pages: pagesRef,
    PageLabels: { Nums: pageLabels(file.firstArabic, file.cover !== null) },
    Lang: literal(record.language),
    ViewerPreferences: { DisplayDocTitle: true },
    PageLayout: 'TwoPageRight',
  } as never) as unknown as PDFDict;
  const info = context.obj({
    Producer: PDFString.of('Pagina'),
    Creator: PDFString.of('Pagina'),
    Trapped: 'False',
  });
  const title = fullTitle(record);
  const ids = fileIds(file.identity, context.largestObjectNumber, kids.length, title, date);
  mark(context, catalog, info, {
    kind: file.kind,
    title,
    author: authorsLine(record),
    language: record.language,
    date,
    id: ids.own,
    profile: file.profile,
  });
  if (file.screen) lead(context, catalog, pages, file, file.screen);
  context.trailerInfo.Root = context.register(catalog);
  context.trailerInfo.Info = context.register(info);
  context.trailerInfo.ID = context.obj([PDFHexString.of(ids.lasting), PDFHexString.of(ids.own)]);
  return asVersion(VERSION[file.kind], await PDFWriter.forContext(context, Infinity).serializeToBuffer());
}

/** The writer always says 1.7; old printers' systems read only what says less. */
export function asVersion(version: string, bytes: Uint8Array): Uint8Array {
  bytes[7] = version.charCodeAt(2);
  return bytes;
}

export const image = (context: PDFContext, p: PdfPicture): PDFRef =>
  context.register(
    context.stream(p.bytes, {
      Type: 'XObject',
      Subtype: 'Image',
      Width: p.width,
      Height: p.height,
      ColorSpace: p.space,
      BitsPerComponent: 8,
      Filter: p.filter,
      ...(p.inverted ? { Decode: [1, 0, 1, 0, 1, 0, 1, 0] } : {}),
    }),
  );

/** What shows in place of a picture that is missing: nothing (a form of one unit, PDF 1.4 §4.9). */
const blank = (context: PDFContext): PDFRef =>
  context.register(context.stream('', { Type: 'XObject', Subtype: 'Form', BBox: [0, 0, 1, 1] }));

/** The cover on a page of the book's size: as large as it can be shown whole. */
function coverPage(
  context: PDFContext,
  parent: PDFRef,
  box: PDFArray,
  cover: PdfPicture,
  title: string,
): PDFRef {
  const { width, height } = box.asRectangle();
  const scale = Math.min(width / cover.width, height / cover.height);
  const [w, h] = [cover.width * scale, cover.height * scale];
  const n = (x: number): string => ptString(Math.round(x * 1000));
  const drawn = `/Figure<</Alt<${PDFHexString.fromText(`Cover of ${title}`).asString()}>>>BDC\nq ${n(w)} 0 0 ${n(h)} ${n((width - w) / 2)} ${n((height - h) / 2)} cm /C Do Q\nEMC\n`;
  return context.register(
    context.obj({
      Type: 'Page',
      Parent: parent,
      MediaBox: box,
      Resources: { XObject: { C: image(context, cover) } },
      Contents: context.register(context.stream(drawn)),
    } as never),
  );
}

/** Bookmarks, links and structure. */
function lead(
  context: PDFContext,
  catalog: PDFDict,
  pages: readonly ScreenPage[],
  { order, contents, size }: WholeFile,
  screen: ScreenFacts,
): void {
  const height = size.height / 1000;
  const blocks = new Map<string, { page: PDFRef; top: number }>();
  const starts = new Map<string, { page: PDFRef; top: number }>();
  const positionsAt = (i: number): PagePositions | null =>
    contents.get(order[i] as number)?.positions ?? null;
  pages.forEach((p, i) => {
    if (p.runs.length > 0 && !starts.has(p.section)) starts.set(p.section, { page: p.ref, top: height });
    for (const [block, y] of positionsAt(i)?.blocks ?? [])
      if (!blocks.has(block)) blocks.set(block, { page: p.ref, top: height - y / 1000 });
  });
  const placeOf: PlaceOf = (section, block) =>
    (block === null ? undefined : blocks.get(block)) ?? starts.get(section) ?? null;
  pages.forEach((p, i) => {
    const refs = annotations(context, positionsAt(i)?.links ?? [], height, placeOf);
    if (refs.length > 0) p.dict.set(PDFName.of('Annots'), context.obj(refs));
  });
  outlines(context, catalog, screen.outline, placeOf);
  structure(context, catalog, pages, screen);
}

const fullTitle = (r: BookRecord): string => (r.subtitle ? `${r.title}: ${r.subtitle}` : r.title);

/**
 * The two identifiers of a file (§14.4): one that stays through all its versions, and one of this version. They come from
 * what the file is of, not from chance, so that the same book gives the same bytes.
 */
export const fileIds = (
  identity: string,
  ...version: (string | number)[]
): { lasting: string; own: string } => ({
  lasting: digestOf(identity),
  own: digestOf([identity, ...version].join('|')),
});

/** Roman front matter and arabic body as page labels (§12.4.2). */
function pageLabels(firstArabic: number, cover: boolean): unknown[] {
  const before = cover ? 1 : 0;
  return [
    ...(cover ? [0, { P: PDFString.of('Cover') }] : []),
    ...(firstArabic > 0 ? [before, { S: 'r', St: 1 }] : []),
    before + Math.max(0, firstArabic),
    { S: 'D', St: 1 },
  ];
}
