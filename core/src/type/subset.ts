/** Subsets a face to the glyphs that a file uses, by hb-subset, glyph ids kept so that the pages need no renumbering. */
import { startHarfBuzz, tag } from './harfbuzz';

export interface Subsetter {
  /** Font program with only those glyphs (and what they are built of). Throws when the face cannot be subset. */
  subset(bytes: Uint8Array, glyphs: Iterable<number>): Uint8Array;
}

const RETAIN_GIDS = 2;
const NO_HINTING = 1;
/** hb_subset_sets_t: tables to drop. */
const DROP_TABLE_TAG = 3;
const GLYPH_INDEX = 0;
/** Layout has been done by the time a glyph is drawn: no substitution or positioning table is needed in the file. */
const DROPPED = ['GSUB', 'GPOS', 'GDEF', 'DSIG', 'STAT', 'MVAR', 'meta'];

export async function startSubsetter(wasm: Uint8Array): Promise<Subsetter> {
  const hb = await startHarfBuzz(wasm);
  const c = hb.call as Record<string, (...a: number[]) => number>;
  return {
    subset(bytes, glyphs) {
      const at = hb.keep(bytes);
      const blob = c.hb_blob_create!(at, bytes.length, 1, 0, 0);
      const face = c.hb_face_create!(blob, 0);
      const input = c.hb_subset_input_create_or_fail!();
      c.hb_subset_input_set_flags!(input, RETAIN_GIDS | NO_HINTING);
      const wanted = c.hb_subset_input_set!(input, GLYPH_INDEX);
      for (const g of glyphs) c.hb_set_add!(wanted, g);
      const dropped = c.hb_subset_input_set!(input, DROP_TABLE_TAG);
      for (const name of DROPPED) c.hb_set_add!(dropped, tag(name));
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
    },
  };
}
