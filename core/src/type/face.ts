/** A face: one font file, opened by HarfBuzz. Shaping answers glyphs in font units; nothing here knows a size. */
import { tag, type HarfBuzz } from './harfbuzz';

export interface FaceFile {
  /** Unique name, such as "EB Garamond Italic". */
  name: string;
  bytes: Uint8Array;
}

/** What a file needs to know of a face; can be sent to another thread. Lengths are font units. */
export interface FaceCard {
  name: string;
  bytes: Uint8Array;
  upem: number;
  ascender: number;
  descender: number;
  capHeight: number;
  /** By glyph. */
  advances: Int32Array;
}

/**
 * Glyphs of a shaped word, in font units; only the first `count` of each array. `chars[i]` is the number of UTF-16 units
 * that glyph i stands for. The arrays are the engine's own room: they hold until the next word is shaped.
 */
export interface ShapedGlyphs {
  count: number;
  ids: Int32Array;
  advances: Int32Array;
  dx: Int32Array;
  dy: Int32Array;
  chars: Int32Array;
}

/** Callbacks and a text buffer of one engine, shared by its faces. */
interface Tools {
  buffer: number;
  text: number;
  extents: number;
  draw: number;
  pen: string[];
  shaped: ShapedGlyphs;
}
const TEXT_ROOM = 4096;
/** A character becomes at most so many glyphs in the scripts that are set here. */
const GLYPHS_EACH = 4;
const glyphRoom = (): Int32Array => new Int32Array(TEXT_ROOM * GLYPHS_EACH);
const toolsOf = new WeakMap<HarfBuzz, Tools>();

function tools(hb: HarfBuzz): Tools {
  const known = toolsOf.get(hb);
  if (known) return known;
  const c = hb.call as Record<string, (...a: number[]) => number>;
  const pen: string[] = [];
  const draw = c.hb_draw_funcs_create!();
  const on = (name: string, letter: string, points: number): void => {
    const signature = `iii${'f'.repeat(points * 2)}i`;
    const fn = (...a: number[]): void => void pen.push(letter + a.slice(3, 3 + points * 2).join(' '));
    c[`hb_draw_funcs_set_${name}_func`]!(draw, hb.callback(fn, signature), 0, 0);
  };
  on('move_to', 'M', 1);
  on('line_to', 'L', 1);
  on('quadratic_to', 'Q', 2);
  on('cubic_to', 'C', 3);
  on('close_path', 'Z', 0);
  const made = {
    buffer: c.hb_buffer_create!(),
    text: c.malloc!(TEXT_ROOM * 2),
    extents: c.malloc!(64),
    draw,
    pen,
    shaped: {
      count: 0,
      ids: glyphRoom(),
      advances: glyphRoom(),
      dx: glyphRoom(),
      dy: glyphRoom(),
      chars: glyphRoom(),
    },
  };
  toolsOf.set(hb, made);
  return made;
}

export class Face {
  readonly upem: number;
  readonly capHeight: number;
  readonly xHeight: number;
  readonly ascender: number;
  readonly descender: number;
  private readonly face: number;
  private readonly font: number;
  private readonly c: Record<string, (...a: number[]) => number>;
  private readonly tools: Tools;
  private readonly nominal = new Map<number, number>();
  private readonly featureLists = new Map<string, { at: number; count: number }>();
  private readonly languages = new Map<string, number>();
  private readonly paths = new Map<number, string>();

  constructor(
    readonly name: string,
    readonly bytes: Uint8Array,
    private readonly hb: HarfBuzz,
  ) {
    this.c = hb.call as Record<string, (...a: number[]) => number>;
    this.tools = tools(hb);
    const blob = this.c.hb_blob_create!(hb.keep(bytes), bytes.length, 1, 0, 0);
    this.face = this.c.hb_face_create!(blob, 0);
    this.font = this.c.hb_font_create!(this.face);
    this.upem = this.c.hb_face_get_upem!(this.face);
    this.c.hb_font_get_h_extents!(this.font, this.tools.extents);
    const e = new Int32Array(hb.memory.buffer, this.tools.extents, 2);
    this.ascender = e[0] ?? 0;
    this.descender = e[1] ?? 0;
    this.capHeight = this.metric('cpht', 0.65);
    this.xHeight = this.metric('xhgt', 0.4);
  }

  has(codePoint: number): boolean {
    return this.glyphOf(codePoint) !== 0;
  }

  /** Glyph of a code point by the face's character map; 0 when there is none. */
  glyphOf(codePoint: number): number {
    let glyph = this.nominal.get(codePoint);
    if (glyph === undefined) {
      const found = this.c.hb_font_get_nominal_glyph!(this.font, codePoint, this.tools.extents);
      glyph = found ? (new Uint32Array(this.hb.memory.buffer, this.tools.extents, 1)[0] ?? 0) : 0;
      this.nominal.set(codePoint, glyph);
    }
    return glyph;
  }

  advanceOfGlyph(glyph: number): number {
    return this.c.hb_font_get_glyph_h_advance!(this.font, glyph);
  }
  advanceOf(codePoint: number): number {
    return this.advanceOfGlyph(this.glyphOf(codePoint));
  }

  /** Whether a feature such as "smcp" gives letters another shape. */
  changesBy(feature: string): boolean {
    const plain = this.shape('a', '', 'en').ids[0];
    return this.shape('a', feature, 'en').ids[0] !== plain;
  }

  card(): FaceCard {
    const { name, bytes, upem, ascender, descender, capHeight } = this;
    const advances = Int32Array.from({ length: this.glyphCount() }, (_, g) => this.advanceOfGlyph(g));
    return { name, bytes, upem, ascender, descender, capHeight, advances };
  }

  /** The field numGlyphs of the table maxp (ISO/IEC 14496-22 §5.2.6). */
  private glyphCount(): number {
    const blob = this.c.hb_face_reference_table!(this.face, tag('maxp'));
    const at = this.c.hb_blob_get_data!(blob, 0);
    const view = new DataView(this.hb.memory.buffer, at, 6);
    const count = view.getUint16(4);
    this.c.hb_blob_destroy!(blob);
    return count;
  }

  /** Ink of a glyph: left bearing, top, width and height (height positive), in font units. */
  inkOf(glyph: number): { left: number; top: number; width: number; height: number } {
    this.c.hb_font_get_glyph_extents!(this.font, glyph, this.tools.extents);
    const e = new Int32Array(this.hb.memory.buffer, this.tools.extents, 4);
    return { left: e[0] ?? 0, top: e[1] ?? 0, width: e[2] ?? 0, height: -(e[3] ?? 0) };
  }

  /** Shapes one word left to right. `features` is a list such as "smcp,onum"; empty for the face's defaults. */
  shape(text: string, features: string, language: string): ShapedGlyphs {
    const { c, hb, tools: t } = this;
    const length = Math.min(text.length, TEXT_ROOM);
    const { u16 } = hb.views();
    const at = t.text >> 1;
    for (let i = 0; i < length; i++) u16[at + i] = text.charCodeAt(i);
    c.hb_buffer_reset!(t.buffer);
    // HB_BUFFER_CLUSTER_LEVEL_MONOTONE_CHARACTERS: a mark stands for itself and not with its letter for both.
    c.hb_buffer_set_cluster_level!(t.buffer, 1);
    c.hb_buffer_add_utf16!(t.buffer, t.text, length, 0, length);
    c.hb_buffer_set_direction!(t.buffer, 4);
    c.hb_buffer_set_language!(t.buffer, this.language(language));
    c.hb_buffer_guess_segment_properties!(t.buffer);
    const list = this.featureList(features);
    c.hb_shape!(this.font, t.buffer, list.at, list.count);
    const out = t.shaped;
    const count = Math.min(c.hb_buffer_get_length!(t.buffer), out.ids.length);
    const info = c.hb_buffer_get_glyph_infos!(t.buffer, 0) >> 2;
    const position = c.hb_buffer_get_glyph_positions!(t.buffer, 0) >> 2;
    // hb_glyph_info_t: id, mask, cluster and two more; hb_glyph_position_t: advances, offsets and one more; 20 bytes each.
    const { i32 } = hb.views();
    out.count = count;
    let before = -1;
    for (let i = 0; i < count; i++) {
      const cluster = i32[info + i * 5 + 2] as number;
      let end = length;
      for (let k = i + 1; k < count; k++) {
        const next = i32[info + k * 5 + 2] as number;
        if (next === cluster) continue;
        end = next;
        break;
      }
      out.ids[i] = i32[info + i * 5] as number;
      out.advances[i] = i32[position + i * 5] as number;
      out.dx[i] = i32[position + i * 5 + 2] as number;
      out.dy[i] = i32[position + i * 5 + 3] as number;
      out.chars[i] = cluster === before ? 0 : end - cluster;
      before = cluster;
    }
    return out;
  }

  /** Outline as SVG path data in font units, y upwards. */
  path(glyph: number): string {
    let d = this.paths.get(glyph);
    if (d === undefined) {
      this.tools.pen.length = 0;
      this.c.hb_font_draw_glyph!(this.font, glyph, this.tools.draw, 0);
      d = this.tools.pen.join('');
      this.paths.set(glyph, d);
    }
    return d;
  }

  /** A metric by its OpenType MVAR-style tag, or that share of the em where the face lacks it. */
  private metric(name: string, share: number): number {
    const found = this.c.hb_ot_metrics_get_position!(this.font, tag(name), this.tools.extents);
    const value = new Int32Array(this.hb.memory.buffer, this.tools.extents, 1)[0] ?? 0;
    return found && value > 0 ? value : Math.round(this.upem * share);
  }

  private featureList(features: string): { at: number; count: number } {
    let list = this.featureLists.get(features);
    if (!list) {
      const tags = features === '' ? [] : features.split(',');
      // hb_feature_t: tag, value, start, end.
      const words = new Uint32Array(
        tags.flatMap((t) => [tag(t.replace('-', '')), t.startsWith('-') ? 0 : 1, 0, 0xffffffff]),
      );
      list = { at: tags.length ? this.hb.keep(new Uint8Array(words.buffer)) : 0, count: tags.length };
      this.featureLists.set(features, list);
    }
    return list;
  }

  private language(tagText: string): number {
    let at = this.languages.get(tagText);
    if (at === undefined) {
      at = this.c.hb_language_from_string!(this.hb.keep(new TextEncoder().encode(`${tagText}\0`)), -1);
      this.languages.set(tagText, at);
    }
    return at;
  }
}
