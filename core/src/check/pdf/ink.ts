/**
 * What the pages of a PDF draw, as far as a printer minds: pictures at their size, colours, transparency, paint. The content
 * is followed by the graphics state (ISO 32000-1 §8.4) into forms (§8.10); nothing is painted.
 */
import {
  decodePDFRawStream,
  PDFArray,
  PDFBool,
  PDFDict,
  PDFName,
  PDFNumber,
  PDFRawStream,
  PDFRef,
  PDFStream,
  type PDFContext,
  type PDFObject,
  type PDFPage,
} from 'pdf-lib';
import { operations, type Operand } from './tokens';

export type Colour = 'grey' | 'rgb' | 'cmyk' | 'spot' | 'lab' | 'other';
/** As PDF has it: a b c d e f. */
type Matrix = readonly [number, number, number, number, number, number];

export interface DrawnImage {
  /** Pixels. */
  width: number;
  height: number;
  /** Pixels an inch at its size on the page: the lower of the two directions. */
  density: number;
  colour: Colour | 'mask';
  bits: number;
  /** Left, bottom, right, top in points. */
  box: readonly [number, number, number, number];
}
export interface PageInk {
  images: DrawnImage[];
  colours: Set<Colour>;
  transparent: boolean;
  /** Whether anything is painted. */
  paints: boolean;
}

/** Forms within forms; a form that draws itself ends here. */
const DEEPEST = 12;
const PAINTS = new Set(['f', 'F', 'f*', 'B', 'B*', 'b', 'b*', 'S', 's', 'sh', 'Tj', 'TJ', "'", '"', 'EI']);
const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[1] * n[2],
  m[0] * n[1] + m[1] * n[3],
  m[2] * n[0] + m[3] * n[2],
  m[2] * n[1] + m[3] * n[3],
  m[4] * n[0] + m[5] * n[2] + n[4],
  m[4] * n[1] + m[5] * n[3] + n[5],
];

export class InkReader {
  private readonly decoded = new Map<PDFObject, Uint8Array>();

  constructor(private readonly context: PDFContext) {}

  of(page: PDFPage): PageInk {
    const ink: PageInk = { images: [], colours: new Set(), transparent: false, paints: false };
    const resources = this.dict(page.node.Resources());
    const contents = this.look(page.node.get(PDFName.of('Contents')));
    const streams = contents instanceof PDFArray ? contents.asArray().map((r) => this.look(r)) : [contents];
    const bytes = streams.flatMap((s) => (s instanceof PDFStream ? [this.bytesOf(s), NEWLINE] : []));
    if (
      this.name(this.dict(page.node.get(PDFName.of('Group'))), 'S') === 'Transparency' &&
      this.blends(resources)
    )
      ink.transparent = true;
    this.follow(joined(bytes), resources, [1, 0, 0, 1, 0, 0], ink, 0);
    return ink;
  }

  private look(o: PDFObject | undefined): PDFObject | undefined {
    return o instanceof PDFRef ? this.context.lookup(o) : o;
  }
  private dict(o: PDFObject | undefined): PDFDict | undefined {
    const found = this.look(o);
    return found instanceof PDFDict ? found : found instanceof PDFStream ? found.dict : undefined;
  }
  private name(d: PDFDict | undefined, key: string): string {
    const v = this.look(d?.get(PDFName.of(key)));
    return v instanceof PDFName ? v.decodeText() : '';
  }
  private number(d: PDFDict, key: string): number {
    const v = this.look(d.get(PDFName.of(key)));
    return v instanceof PDFNumber ? v.asNumber() : 0;
  }
  private bytesOf(s: PDFStream): Uint8Array {
    let bytes = this.decoded.get(s);
    if (!bytes) {
      try {
        bytes = s instanceof PDFRawStream ? decodePDFRawStream(s).decode() : s.getContents();
      } catch {
        // A stream that can't be unpacked draws nothing that could be judged.
        bytes = new Uint8Array(0);
      }
      this.decoded.set(s, bytes);
    }
    return bytes;
  }

  private follow(
    data: Uint8Array,
    resources: PDFDict | undefined,
    start: Matrix,
    ink: PageInk,
    depth: number,
  ): void {
    let ctm = start;
    const saved: Matrix[] = [];
    const resource = (kind: string, o: Operand | undefined): PDFObject | undefined =>
      typeof o === 'object' && 'name' in o
        ? this.look(this.dict(resources?.get(PDFName.of(kind)))?.get(PDFName.of(o.name)))
        : undefined;
    for (const { operator, operands } of operations(data)) {
      if (PAINTS.has(operator)) ink.paints = true;
      switch (operator) {
        case 'q':
          if (saved.length < 500) saved.push(ctm);
          break;
        case 'Q':
          ctm = saved.pop() ?? ctm;
          break;
        case 'cm':
          if (operands.length >= 6 && operands.every((n) => typeof n === 'number'))
            ctm = times(operands.slice(-6) as unknown as Matrix, ctm);
          break;
        case 'g':
        case 'G':
          ink.colours.add('grey');
          break;
        case 'rg':
        case 'RG':
          // Black and the greys between are told as greys: many programs write all their colours so.
          ink.colours.add(isGrey(operands) ? 'grey' : 'rgb');
          break;
        case 'k':
        case 'K':
          ink.colours.add('cmyk');
          break;
        case 'cs':
        case 'CS':
          ink.colours.add(
            this.colourOf(resource('ColorSpace', operands[0]) ?? nameOf(operands[0]), resources),
          );
          break;
        case 'gs':
          if (this.isTransparent(this.dict(resource('ExtGState', operands[0])))) ink.transparent = true;
          break;
        case 'sh':
          ink.colours.add(
            this.colourOf(
              this.dict(resource('Shading', operands[0]))?.get(PDFName.of('ColorSpace')),
              resources,
            ),
          );
          break;
        case 'Do':
          this.draw(resource('XObject', operands[0]), resources, ctm, ink, depth);
          break;
      }
    }
  }

  private draw(
    o: PDFObject | undefined,
    resources: PDFDict | undefined,
    ctm: Matrix,
    ink: PageInk,
    depth: number,
  ): void {
    if (!(o instanceof PDFStream)) return;
    const { dict } = o;
    if (this.name(dict, 'Subtype') === 'Image') {
      ink.paints = true;
      ink.images.push(this.image(dict, ctm, resources));
      const colour = ink.images.at(-1)?.colour;
      if (colour && colour !== 'mask') ink.colours.add(colour);
      if (dict.has(PDFName.of('SMask'))) ink.transparent = true;
      return;
    }
    if (this.name(dict, 'Subtype') !== 'Form' || depth >= DEEPEST) return;
    const m = this.look(dict.get(PDFName.of('Matrix')));
    const own = m instanceof PDFArray ? m.asArray().map((n) => Number(this.look(n)?.toString())) : [];
    const matrix = own.length === 6 && own.every((n) => !Number.isNaN(n)) ? (own as unknown as Matrix) : null;
    const inner = this.dict(dict.get(PDFName.of('Resources'))) ?? resources;
    this.follow(this.bytesOf(o), inner, matrix ? times(matrix, ctm) : ctm, ink, depth + 1);
  }

  private image(dict: PDFDict, ctm: Matrix, resources: PDFDict | undefined): DrawnImage {
    const [width, height] = [this.number(dict, 'Width'), this.number(dict, 'Height')];
    const [a, b, c, d, e, f] = ctm;
    const across = Math.hypot(a, b) / 72;
    const up = Math.hypot(c, d) / 72;
    const xs = [e, e + a, e + c, e + a + c];
    const ys = [f, f + b, f + d, f + b + d];
    const mask = this.look(dict.get(PDFName.of('ImageMask')));
    return {
      width,
      height,
      density: Math.min(across > 0 ? width / across : Infinity, up > 0 ? height / up : Infinity),
      colour:
        mask instanceof PDFBool && mask.asBoolean()
          ? 'mask'
          : this.colourOf(dict.get(PDFName.of('ColorSpace')), resources),
      bits: this.number(dict, 'BitsPerComponent') || 1,
      box: [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)],
    };
  }

  /** The kind of a colour space (§8.6); those that stand on another are told by it. */
  private colourOf(o: PDFObject | undefined, resources: PDFDict | undefined, depth = 0): Colour {
    const space = this.look(o);
    if (depth > 6) return 'other';
    if (space instanceof PDFName) {
      const plain = PLAIN[space.decodeText()];
      if (plain) return plain;
      const named = this.dict(resources?.get(PDFName.of('ColorSpace')))?.get(space);
      return named ? this.colourOf(named, resources, depth + 1) : 'other';
    }
    if (!(space instanceof PDFArray)) return 'other';
    const kind = this.look(space.get(0));
    const name = kind instanceof PDFName ? kind.decodeText() : '';
    if (name === 'ICCBased') {
      const n = this.number(this.dict(space.get(1)) ?? this.context.obj({}), 'N');
      return n === 1 ? 'grey' : n === 3 ? 'rgb' : n === 4 ? 'cmyk' : 'other';
    }
    if (name === 'Indexed' || name === 'Pattern' || name === 'I')
      return space.size() > 1 ? this.colourOf(space.get(1), resources, depth + 1) : 'other';
    return PLAIN[name] ?? 'other';
  }

  private isTransparent(gs: PDFDict | undefined): boolean {
    if (!gs) return false;
    for (const key of ['ca', 'CA']) if (gs.has(PDFName.of(key)) && this.number(gs, key) < 1) return true;
    const mask = this.look(gs.get(PDFName.of('SMask')));
    if (mask && !(mask instanceof PDFName && mask.decodeText() === 'None')) return true;
    const blend = this.name(gs, 'BM');
    return blend !== '' && blend !== 'Normal' && blend !== 'Compatible';
  }
  /** Whether any state among the resources is transparent. */
  private blends(resources: PDFDict | undefined): boolean {
    const states = this.dict(resources?.get(PDFName.of('ExtGState')));
    return states?.values().some((o) => this.isTransparent(this.dict(o))) ?? false;
  }
}

const PLAIN: Record<string, Colour> = {
  DeviceGray: 'grey',
  G: 'grey',
  CalGray: 'grey',
  DeviceRGB: 'rgb',
  RGB: 'rgb',
  CalRGB: 'rgb',
  DeviceCMYK: 'cmyk',
  CMYK: 'cmyk',
  Lab: 'lab',
  Separation: 'spot',
  DeviceN: 'spot',
};
const NEWLINE = new Uint8Array([10]);
const nameOf = (o: Operand | undefined): PDFName | undefined =>
  typeof o === 'object' && 'name' in o ? PDFName.of(o.name) : undefined;
const isGrey = (operands: readonly Operand[]): boolean =>
  operands.length === 3 && operands.every((n) => n === operands[0]);

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    all.set(p, at);
    at += p.length;
  }
  return all;
}
