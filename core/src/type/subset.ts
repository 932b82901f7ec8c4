/** Subsets a face to the glyphs that a file uses, by hb-subset, glyph ids kept so that the pages need no renumbering. */
import { startHarfBuzz, tag } from './harfbuzz';

export interface Subsetter {
  /** Font program with only those glyphs (and what they are built of). Throws when the face cannot be subset. */
  subset(bytes: Uint8Array, glyphs: Iterable<number>): Uint8Array;
  /** Font program for text that is yet to be laid out, with what its signs may be shaped to. Throws as `subset` does. */
  subsetFor(bytes: Uint8Array, text: string): Uint8Array;
}

const RETAIN_GIDS = 2;
const NO_HINTING = 1;
/** hb_subset_sets_t. */
const GLYPH_INDEX = 0;
const UNICODE = 1;
const DROP_TABLE_TAG = 3;
const LAYOUT_FEATURE_TAG = 6;
/** Layout has been done by the time a glyph is drawn: no substitution or positioning table is needed in the file. */
const DROPPED = ['GSUB', 'GPOS', 'GDEF', 'DSIG', 'STAT', 'MVAR', 'meta'];
const UNSHOWN = ['DSIG', 'STAT', 'MVAR', 'meta'];
/** Beside those that hb-subset keeps by itself: the capitals and figures that style sheets ask for. */
const FEATURES = ['smcp', 'onum', 'lnum'];

export async function startSubsetter(wasm: Uint8Array): Promise<Subsetter> {
  const hb = await startHarfBuzz(wasm);
  const c = hb.call as Record<string, (...a: number[]) => number>;
  /** `ask` says what is wanted of the face. */
  const cut = (bytes: Uint8Array, ask: (input: number) => void): Uint8Array => {
    const at = hb.keep(bytes);
    const blob = c.hb_blob_create!(at, bytes.length, 1, 0, 0);
    const face = c.hb_face_create!(blob, 0);
    const input = c.hb_subset_input_create_or_fail!();
    ask(input);
    const result = c.hb_subset_or_fail!(face, input);
    if (!result) throw new Error('the face cannot be subset');
    const out = c.hb_face_reference_blob!(result);
    const start = c.hb_blob_get_data!(out, 0);
    const copy = new Uint8Array(hb.memory.buffer).slice(start, start + c.hb_blob_get_length!(out));
    for (const [free, what] of [
      ['hb_blob_destroy', out],
      ['hb_face_destroy', result],
      ['hb_subset_input_destroy', input],
      ['hb_face_destroy', face],
      ['hb_blob_destroy', blob],
      ['free', at],
    ] as const)
      c[free]!(what);
    return copy;
  };
  const add = (input: number, set: number, values: Iterable<number>): void => {
    const to = c.hb_subset_input_set!(input, set);
    for (const v of values) c.hb_set_add!(to, v);
  };
  return {
    subset: (bytes, glyphs) =>
      cut(bytes, (input) => {
        c.hb_subset_input_set_flags!(input, RETAIN_GIDS | NO_HINTING);
        add(input, GLYPH_INDEX, glyphs);
        add(input, DROP_TABLE_TAG, DROPPED.map(tag));
      }),
    subsetFor: (bytes, text) =>
      cut(bytes, (input) => {
        c.hb_subset_input_set_flags!(input, NO_HINTING);
        add(
          input,
          UNICODE,
          [...text].map((sign) => sign.codePointAt(0) as number),
        );
        add(input, LAYOUT_FEATURE_TAG, FEATURES.map(tag));
        add(input, DROP_TABLE_TAG, UNSHOWN.map(tag));
      }),
  };
}
