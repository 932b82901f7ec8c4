/** A drawing as a PDF of one page: boxes by the trim, inks as the press wants them. */
import { literal } from './strings';
import { PDFContext, PDFHexString, PDFString, PDFWriter, type PDFDict, type PDFRef } from 'pdf-lib';
import { ptString, type Mp } from '../base';
import { Bytes, pageContent } from './content';
import type { Box, Colour, Drawing } from './drawing';
import { asVersion, fileIds, image, type PdfPicture } from './file';
import { FontUse, writeFont, type FontTools } from './font';
import { mark, VERSION } from './standards';

export interface DrawingFile {
  kind: 'x-1a' | 'plain';
  /** What the file is of: the title's own id, the edition, the kind of file. */
  identity: string;
  title: string;
  author: string;
  language: string;
  /** ISO date; '' for none. */
  date: string;
  /** Prepared pictures by id. */
  pictures: ReadonlyMap<string, PdfPicture>;
  /** Shares of cyan, magenta, yellow and black of a colour, 0 to 1. */
  inks: (colour: Colour) => readonly [number, number, number, number];
}

export async function drawingFile(d: Drawing, tools: FontTools, file: DrawingFile): Promise<Uint8Array> {
  const context = PDFContext.create();
  const fonts = d.faces.map((f) => new FontUse(f.card()));
  const names = new Map<string, string>();
  const content = streamOf(d, fonts, names, file.inks);
  const pagesRef = context.nextRef();
  const xobjects: Record<string, PDFRef> = {};
  for (const [id, name] of names) {
    const picture = file.pictures.get(id);
    if (picture) xobjects[name] = image(context, picture);
  }
  const fontDict: Record<string, PDFRef> = {};
  for (const [i, f] of fonts.entries()) fontDict[`F${i}`] = writeFont(context, f, tools);
  const points = (b: Box): number[] =>
    [b.x, d.height - b.y - b.height, b.x + b.width, d.height - b.y].map((n) => Number(ptString(n)));
  const sheet = points({ x: 0, y: 0, width: d.width, height: d.height });
  const page = context.register(
    context.obj({
      Type: 'Page',
      Parent: pagesRef,
      MediaBox: sheet,
      CropBox: sheet,
      BleedBox: sheet,
      TrimBox: points(d.trim),
      Resources: { ProcSet: ['PDF', 'Text', 'ImageB', 'ImageC'], Font: fontDict, XObject: xobjects },
      Contents: context.register(context.stream(tools.deflate(content), { Filter: 'FlateDecode' })),
    } as never),
  );
  context.assign(pagesRef, context.obj({ Type: 'Pages', Kids: [page], Count: 1 }));
  const catalog = context.obj({
    Type: 'Catalog',
    Pages: pagesRef,
    Lang: literal(file.language),
    ViewerPreferences: { DisplayDocTitle: true },
  } as never) as unknown as PDFDict;
  const info = context.obj({
    Producer: PDFString.of('Pagina'),
    Creator: PDFString.of('Pagina'),
    Trapped: 'False',
  });
  const ids = fileIds(file.identity, context.largestObjectNumber, file.title, file.date, d.width, d.height);
  mark(context, catalog, info, { ...file, id: ids.own, profile: null });
  context.trailerInfo.Root = context.register(catalog);
  context.trailerInfo.Info = context.register(info);
  context.trailerInfo.ID = context.obj([PDFHexString.of(ids.lasting), PDFHexString.of(ids.own)]);
  return asVersion(VERSION[file.kind], await PDFWriter.forContext(context, Infinity).serializeToBuffer());
}

/** Quarter turns as matrices (ISO 32000-1 §8.3.3); y runs upwards there. */
const TURNS = { none: '1 0 0 1', down: '0 -1 1 0', up: '0 1 -1 0' } as const;

/** `names` collects the pictures' names in the resources. */
function streamOf(
  d: Drawing,
  fonts: readonly FontUse[],
  names: Map<string, string>,
  inksOf: DrawingFile['inks'],
): Uint8Array {
  const out = new Bytes();
  const words = new Bytes();
  const y = (v: Mp): string => ptString(d.height - v);
  const rect = (b: Box): string =>
    `${ptString(b.x)} ${y(b.y + b.height)} ${ptString(b.width)} ${ptString(b.height)} re`;
  const inks = (colour: Colour): string => inksOf(colour).map(shareString).join(' ');
  for (const mark of d.drawn) {
    switch (mark.kind) {
      case 'fill':
        out.ascii(`${inks(mark.colour)} k ${rect(mark)} f\n`);
        break;
      case 'frame': {
        const half = mark.thickness / 2;
        const within = {
          x: mark.x + half,
          y: mark.y + half,
          width: mark.width - mark.thickness,
          height: mark.height - mark.thickness,
        };
        const dash = mark.dashed ? '[4 3] 0 d' : '[] 0 d';
        out.ascii(`${inks(mark.colour)} K ${ptString(mark.thickness)} w ${dash} ${rect(within)} S\n`);
        break;
      }
      case 'picture': {
        const name = names.get(mark.picture) ?? `P${names.size}`;
        names.set(mark.picture, name);
        const { x, y: top, width, height } = mark.box;
        out.ascii(
          `q ${rect(mark.clip)} W n ${ptString(width)} 0 0 ${ptString(height)} ${ptString(x)} ${y(top + height)} cm /${name} Do Q\n`,
        );
        break;
      }
      case 'words':
        out.ascii(`q ${TURNS[mark.turn]} ${ptString(mark.x)} ${y(mark.y)} cm\n`);
        // Lengths of the list run from its origin, whatever the sheet's height.
        out.bytes(pageContent({ ...mark.list, height: 0 }, fonts, words, { ink: `${inks(mark.colour)} k` }));
        out.ascii('Q\n');
    }
  }
  return out.done();
}

const shareString = (n: number): string => String(Math.round(n * 1000) / 1000);
