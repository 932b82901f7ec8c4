/** Fonts as a file needs them: Type 0 with an embedded TrueType subset, widths, and what each glyph spells. */
import { PDFHexString, PDFName, PDFNumber, type PDFContext, type PDFRef } from 'pdf-lib';
import { fnvOf } from '../base';
import type { FaceCard, Subsetter } from '../type';

/** A TrueType face has no more glyphs than this. */
const GLYPHS = 65_536;

/** Collects the glyphs of a face that a file shows. */
export class FontUse {
  /** What a glyph spells: one UTF-16 unit as its number plus one, anything longer in `longer`. */
  private readonly unit = new Uint16Array(GLYPHS);
  private readonly longer = new Map<number, string>();
  private readonly used = new Uint8Array(GLYPHS);
  private readonly widths = new Float64Array(GLYPHS).fill(-1);
  constructor(readonly face: FaceCard) {
    this.used[0] = 1;
  }

  /** Advance in thousandths of an em, as the file's width table says. */
  width(glyph: number): number {
    let w = this.widths[glyph] as number;
    if (w < 0) {
      w = Math.round(((this.face.advances[glyph] ?? 0) * 1_000_000) / this.face.upem) / 1000;
      this.widths[glyph] = w;
    }
    return w;
  }
  add(glyph: number): void {
    this.used[glyph] = 1;
  }
  /** Whether a glyph is known to stand for one UTF-16 unit. */
  spellsUnit(glyph: number, unit: number): boolean {
    return this.unit[glyph] === unit + 1;
  }
  /** Notes that a glyph stands for `length` characters of `text`; false when it already stands for others. */
  spells(glyph: number, text: string, at: number, length: number): boolean {
    this.used[glyph] = 1;
    const known = this.unit[glyph] as number;
    if (length === 1) {
      const code = text.charCodeAt(at) + 1;
      if (known === code) return true;
      if (known !== 0 || this.longer.has(glyph)) return false;
      this.unit[glyph] = code;
      return true;
    }
    const spelled = text.slice(at, at + length);
    const before = this.longer.get(glyph);
    if (before === undefined && known === 0) this.longer.set(glyph, spelled);
    return known === 0 && (before === undefined || before === spelled);
  }
  glyphs(): number[] {
    const found: number[] = [];
    this.used.forEach((u, g) => u && found.push(g));
    return found;
  }
  spelling(glyph: number): string | undefined {
    const unit = this.unit[glyph] ?? 0;
    return unit === 0 ? this.longer.get(glyph) : String.fromCharCode(unit - 1);
  }
}

export interface FontTools {
  /** zlib (RFC 1950). */
  deflate(bytes: Uint8Array): Uint8Array;
  subsetter: Subsetter;
}

/** Six capitals before a subset's name (ISO 32000-1 §9.6.4); made from its glyphs, so that equal files stay equal. */
function subsetTag(glyphs: readonly number[]): string {
  let h = fnvOf(glyphs);
  let tag = '';
  for (let i = 0; i < 6; i++) {
    tag += String.fromCharCode(65 + (h % 26));
    h = Math.floor(h / 26);
  }
  return tag;
}

const hex4 = (n: number): string => n.toString(16).padStart(4, '0');
const utf16be = (s: string): string => [...Array(s.length).keys()].map((i) => hex4(s.charCodeAt(i))).join('');

function toUnicode(use: FontUse, glyphs: readonly number[]): string {
  const pairs = glyphs.flatMap((g) => {
    const text = use.spelling(g);
    return text ? [`<${hex4(g)}> <${utf16be(text)}>`] : [];
  });
  const blocks: string[] = [];
  for (let i = 0; i < pairs.length; i += 100) {
    const part = pairs.slice(i, i + 100);
    blocks.push(`${part.length} beginbfchar\n${part.join('\n')}\nendbfchar`);
  }
  return `/CIDInit /ProcSet findresource begin
12 dict begin
begincmap
/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def
/CMapName /Adobe-Identity-UCS def
/CMapType 2 def
1 begincodespacerange
<0000> <ffff>
endcodespacerange
${blocks.join('\n')}
endcmap
CMapName currentdict /CMap defineresource pop
end
end`;
}

/** Runs of neighbouring glyphs with their widths (§9.7.4.3). */
function widthArray(context: PDFContext, use: FontUse, glyphs: readonly number[]): unknown[] {
  const out: unknown[] = [];
  for (let i = 0; i < glyphs.length;) {
    const run: number[] = [];
    const first = glyphs[i] as number;
    while (i < glyphs.length && glyphs[i] === first + run.length) run.push(use.width(glyphs[i++] as number));
    out.push(PDFNumber.of(first), context.obj(run));
  }
  return out;
}

export function writeFont(context: PDFContext, use: FontUse, tools: FontTools): PDFRef {
  const { face } = use;
  const glyphs = use.glyphs();
  const name = `${subsetTag(glyphs)}+${face.name.replace(/\s/g, '')}`;
  const em = (u: number): number => Math.round((u * 1000) / face.upem);
  const stream = (bytes: Uint8Array, more: Record<string, number> = {}): PDFRef =>
    context.register(context.stream(tools.deflate(bytes), { Filter: 'FlateDecode', ...more }));
  const program = tools.subsetter.subset(face.bytes, glyphs);
  const descriptor = context.register(
    context.obj({
      Type: 'FontDescriptor',
      FontName: name,
      Flags: 4 | (/Italic/.test(face.name) ? 64 : 0),
      FontBBox: [em(-face.upem), em(face.descender), em(face.upem * 2), em(face.ascender)],
      ItalicAngle: /Italic/.test(face.name) ? -12 : 0,
      Ascent: em(face.ascender),
      Descent: em(face.descender),
      CapHeight: em(face.capHeight),
      StemV: /Bold/.test(face.name) ? 140 : 80,
      FontFile2: stream(program, { Length1: program.length }),
    }),
  );
  const descendant = context.register(
    context.obj({
      Type: 'Font',
      Subtype: 'CIDFontType2',
      BaseFont: name,
      CIDSystemInfo: {
        Registry: PDFHexString.of('41646f6265'),
        Ordering: PDFHexString.of('4964656e74697479'),
        Supplement: 0,
      },
      CIDToGIDMap: 'Identity',
      FontDescriptor: descriptor,
      DW: 1000,
      W: widthArray(context, use, glyphs) as never,
    }),
  );
  return context.register(
    context.obj({
      Type: 'Font',
      Subtype: 'Type0',
      BaseFont: PDFName.of(name),
      Encoding: 'Identity-H',
      DescendantFonts: [descendant],
      ToUnicode: stream(new TextEncoder().encode(toUnicode(use, glyphs))),
    }),
  );
}
